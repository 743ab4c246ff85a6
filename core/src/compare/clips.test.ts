import { expect, test } from '@jest/globals';
import { seeded } from '../testing/generate.ts';
import { readText } from '../testing/reading.ts';
import type { Clip } from '../model/edit.ts';
import { rate } from '../time/rate.ts';
import { formatTimecode } from '../time/timecode.ts';
import { sameClips } from './clips.ts';

/**
 * Two versions of an edit whose recordings the dice make, out of so few names, reels and starts that many meet. What was
 * recorded is known of every reference, and nothing of it is told but what the document says.
 */
type Recording = {
  readonly name: string;
  readonly reel: string | null;
  readonly folder: string;
  readonly start: number;
  readonly length: number;
};
type Event = { readonly of: Recording; readonly from: number; readonly length: number };
const ways = [
  'reel',
  'name',
  'name-and-reel',
  'file',
  'path',
  'bare',
  'bare-trimmed',
  'path-trimmed',
  'missing',
] as const;
type Way = (typeof ways)[number];

const hour = 90_000;
function world(seed: number) {
  const random = seeded(seed);
  const below = (n: number) => Math.floor(random() * n);
  const pick = <T>(list: readonly T[]): T => list[below(list.length)]!;
  const names = ['C0001', 'C0002', 'door', 'ember', 'C0003'].slice(0, 1 + below(5));
  const reels = [null, 'A001', 'A002', 'B001'].slice(0, 1 + below(4));
  const shot = Array.from({ length: 2 + below(9) }, (_, i): Recording => ({
    name: pick(names),
    reel: pick(reels),
    // A card without a name of its own is at the same path as the one before.
    folder: random() < 0.3 ? 'UNTITLED/DCIM' : `CARD${below(3)}/${i}`,
    start: pick([0, hour, 10 * hour, 10 * hour + 1 + below(5000), below(20 * hour)]),
    length: 60 + below(400),
  }));
  const cut = (of: Recording): Event => {
    const length = 5 + below(of.length - 10);
    return { of, from: of.start + below(of.length - length), length };
  };
  const older = Array.from({ length: 1 + below(10) }, () => cut(pick(shot)));
  const newer = older.flatMap((event) => {
    const fate = random();
    if (fate < 0.3) return [];
    return fate < 0.5 ? [cut(event.of)] : fate < 0.6 ? [event, cut(pick(shot))] : [event];
  });
  const more = Array.from({ length: below(4) }, () => cut(pick(shot)));
  const shuffled = [...newer, ...more]
    .map((event) => ({ event, at: random() }))
    .sort((a, b) => a.at - b.at)
    .map(({ event }) => event);
  const way = pick(ways);
  return { way, older: read(way, older), newer: read(way, shuffled.length > 0 ? shuffled : older) };
}

type Version = { readonly clips: readonly Clip[]; readonly of: (clip: Clip) => ReadonlySet<Recording> };
const read = (way: Way, events: readonly Event[]): Version =>
  way === 'reel' || way === 'name' || way === 'name-and-reel' || way === 'file'
    ? readList(way, events)
    : readTimeline(way, events);

const tc = (frames: number) => formatTimecode(frames, rate(25));
function readList(way: Way, events: readonly Event[]): Version {
  let record = hour;
  const lines: string[] = [];
  const ofLine = new Map<string, Recording>();
  events.forEach(({ of, from, length }, i) => {
    const reel = way === 'name' ? 'AX' : (of.reel ?? 'AX');
    lines.push(
      `${String(i + 1).padStart(3, '0')}  ${reel} V C ${tc(from)} ${tc(from + length)} ${tc(record)} ${tc(record + length)}`,
    );
    ofLine.set(String(lines.length), of);
    if (way !== 'reel') lines.push(`* FROM CLIP NAME: ${of.name}`);
    if (way === 'file') lines.push(`* SOURCE FILE: ${of.name}.MOV`);
    record += length;
  });
  const { clips } = readText(lines.join('\n')).edit;
  return { clips, of: (clip) => new Set(clip.addresses.map((line) => ofLine.get(line)!)) };
}

function readTimeline(way: Way, events: readonly Event[]): Version {
  const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate: 25 });
  const range = (start: number, length: number) => ({
    OTIO_SCHEMA: 'TimeRange.1',
    start_time: time(start),
    duration: time(length),
  });
  const children = events.map(({ of, from, length }) => {
    const isTrimmed = way.endsWith('trimmed');
    const [start, end] = isTrimmed
      ? [Math.max(of.start, from - 10), Math.min(of.start + of.length, from + length + 10)]
      : [of.start, of.start + of.length];
    const reference = {
      OTIO_SCHEMA: way === 'missing' ? 'MissingReference.1' : 'ExternalReference.1',
      available_range: range(start, end - start),
      ...(way === 'missing'
        ? {}
        : { target_url: way.startsWith('path') ? `/Volumes/KILN/${of.folder}/${of.name}.MOV` : `${of.name}.MOV` }),
      metadata: of.reel === null ? {} : { reel: of.reel },
    };
    return { OTIO_SCHEMA: 'Clip.1', name: of.name, source_range: range(from, length), media_reference: reference };
  });
  const track = { OTIO_SCHEMA: 'Track.1', kind: 'Video', children };
  const { clips } = readText(
    JSON.stringify({ OTIO_SCHEMA: 'Timeline.1', name: 'cut', tracks: { OTIO_SCHEMA: 'Stack.1', children: [track] } }),
    { name: 'cut.otio' },
  ).edit;
  const indexOf = (address: string) => Number(/children\/\d+\/children\/(\d+)/.exec(address)![1]);
  return { clips, of: (clip) => new Set(clip.addresses.map((address) => events[indexOf(address)]!.of)) };
}

/** All that a document says of a clip, but for what is used of it: no document tells such recordings apart. */
const said = ({ name, reel, remembered, available }: Clip) => JSON.stringify([name, reel, remembered, available]);

const shareSome = (a: Clip, b: Clip) => a.used.some((r) => b.used.some((s) => r.start < s.end && s.start < r.end));

function outcome(seed: number) {
  const { way, older, newer } = world(seed);
  const same = sameClips(older.clips, newer.clips);
  const byKey = new Map(older.clips.map((c) => [c.key, c]));
  let [kept, missed] = [0, 0];
  const faults: string[] = [];
  for (const clip of newer.clips) {
    const recordings = newer.of(clip);
    const old = byKey.get(same.get(clip.key) ?? '');
    const meets = (other: Clip) => [...older.of(other)].some((r) => recordings.has(r));
    if (old && meets(old)) kept += 1;
    else if (old) {
      if (said(old) === said(clip) && (way !== 'reel' || shareSome(old, clip))) continue;
      faults.push(`${seed} ${way}: ${said(old)} → ${said(clip)}`);
    } else if (older.clips.some((c) => meets(c))) missed += 1;
  }
  return { way, kept, missed, faults };
}

const worlds = Number(process.env.LEGAME_WORLDS ?? 1500);

test('no recording takes what was decided of another, and hardly any loses what was', () => {
  const total = new Map<Way, { kept: number; missed: number }>();
  const faults: string[] = [];
  for (let seed = 1; seed <= worlds; seed += 1) {
    const { way, kept, missed, faults: more } = outcome(seed);
    const sum = total.get(way) ?? { kept: 0, missed: 0 };
    total.set(way, { kept: sum.kept + kept, missed: sum.missed + missed });
    faults.push(...more);
  }
  expect(faults).toEqual([]);
  const share = (way: Way) => total.get(way)!.kept / (total.get(way)!.kept + total.get(way)!.missed);
  // Where a version tells only the part that it uses, another part of a recording is not always known as such.
  const least = (way: Way) => (way.endsWith('trimmed') ? 0.4 : way === 'reel' ? 0.9 : 1);
  for (const way of ways) expect([way, share(way) >= least(way)]).toEqual([way, true]);
}, 60_000);

test('of the same bytes, read by other decisions, all that stands at its address is the same', () => {
  const lines = [
    '001  AX V C 00:00:10:00 00:00:12:00 01:00:00:00 01:00:02:00',
    '002  AX V C 00:00:11:00 00:00:13:00 01:00:02:00 01:00:04:00',
  ];
  const list = ['* FROM CLIP NAME: door', '* FROM CLIP NAME: ember'].flatMap((name, i) => [lines[i]!, name]).join('\n');
  const [at25, at50] = [25, 50].map((frames) => readText(list, { rate: rate(frames) }).edit.clips);
  const renamed = at50!.map((clip) => ({ ...clip, name: `${clip.name}, as a roll says` }));
  expect([...sameClips(at25!, renamed)]).toEqual([]);
  expect([...sameClips(at25!, renamed, { areSameBytes: true })]).toEqual(at25!.map(({ key }) => [key, key]));
});
