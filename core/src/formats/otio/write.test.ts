import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Clip, Edit, EditEvent, Timeline } from '../../model/edit.ts';
import { withUsedRanges } from '../../model/uses.ts';
import { buildEvent } from '../../testing/build.ts';
import { readText } from '../../testing/reading.ts';
import { rate, type Rate } from '../../time/rate.ts';
import { scaleFrames } from '../../time/range.ts';
import { edl } from '../edl/index.ts';
import { otio } from './index.ts';

const rates = [rate(25), rate(24), rate(24000, 1001)] as const;
const speeds = [
  { num: 1, den: 1 },
  { num: 1, den: 1 },
  { num: 2, den: 1 },
  { num: -1, den: 1 },
  { num: 0, den: 1 },
];

/** A timeline of cuts, gaps, transitions and speeds with one nest, as its parts say; everything in whole frames. */
const madeEdit = fc
  .record({
    rate: fc.constantFrom(...rates),
    items: fc.array(
      fc.record({
        clip: fc.nat(3),
        from: fc.integer({ min: 500, max: 5000 }),
        length: fc.integer({ min: 20, max: 200 }),
        gap: fc.constantFrom(0, 0, 7),
        over: fc.constantFrom(0, 0, 10),
        speed: fc.constantFrom(...speeds),
        track: fc.constantFrom('V1', 'V1', 'V2', 'A1'),
      }),
      { minLength: 1, maxLength: 20 },
    ),
    nestFrom: fc.nat(20),
    isCalled: fc.boolean(),
  })
  .map(({ rate: r, items, nestFrom, isCalled }): Edit => {
    const clips = ['bowl', 'door', 'ember', 'salt'].map((name, i) => madeClip(name, i, r));
    const ends = new Map<string, EditEvent>();
    const events: EditEvent[] = [];
    for (const item of items) {
      const before = ends.get(item.track);
      const start = (before?.record.end ?? 90_000) + item.gap;
      // A transition needs a neighbour that touches, and both sources run on under it.
      const over = item.over > 0 && before && item.gap === 0 ? item.over : 0;
      if (over > 0 && before) {
        const under = { ...before, tail: over / 2 };
        const grown = { ...under, source: sourceOf(under, under.source!) };
        events[events.indexOf(before)] = grown;
      }
      const event = madeEvent(item, start, over, clips[item.clip]!.key, events.length);
      events.push(event);
      ends.set(item.track, event);
    }
    const nested: Timeline = {
      ...madeTimeline('nest', r, 0, [madeEvent({ ...items[0]!, track: 'V1' }, 0, 0, 'clip-2', 0)]),
      top: false,
    };
    const nestLength = Math.max(1, nested.length - nestFrom);
    const end = events.reduce((most, e) => Math.max(most, e.record.end), 90_000);
    const nest = {
      ...madeEvent({ ...items[0]!, length: nestLength, speed: speeds[0]!, track: 'V1' }, end, 0, null, events.length),
      nestedKey: 'nest',
      source: { start: nestFrom, end: nestFrom + nestLength },
    };
    const called = Object.fromEntries(
      [...new Set(events.map((e) => e.track))].map((track) => [track, `${track} talk`]),
    );
    const timelines = [
      { ...madeTimeline('cut', r, 90_000, [...events, nest]), trackNames: isCalled ? called : {} },
      nested,
    ];
    return { title: 'cut', bins: [], clips: withUsedRanges(clips, timelines), timelines };
  });

const madeClip = (name: string, i: number, r: Rate): Clip => ({
  key: `clip-${i + 1}`,
  name,
  reel: i === 3 ? null : `A00${i}`,
  remembered: i === 2 ? null : `file:///Volumes/KILN_A/${name}.mov`,
  kind: i === 2 ? null : 'picture',
  rate: r,
  counting: 'non-drop',
  available: { start: 0, end: 10_000 },
  raster: i === 0 ? { width: 1920, height: 1080 } : null,
  used: [],
  binKey: null,
  addresses: [],
  metadata: i === 1 ? { scene: '12A' } : {},
});

type Item = { from: number; length: number; speed: EditEvent['speed']; track: string };

function madeEvent(
  { from, length, speed, track }: Item,
  start: number,
  over: number,
  clipKey: string | null,
  n: number,
) {
  const event = buildEvent({
    number: n + 1,
    name: `event ${n + 1}`,
    track,
    trackKind: track === 'A1' ? 'sound' : 'picture',
    clipKey,
    record: { start, end: start + length },
    head: over / 2,
    speed,
    transition: over > 0 ? { kind: 'dissolve', wipe: null, length: over } : null,
  });
  return { ...event, source: sourceOf(event, { start: from }) };
}

/** Frames read from a start: record length and reach at the event's speed. */
function sourceOf({ record, head, tail, speed }: EditEvent, { start }: { start: number }) {
  if (speed.num === 0) return { start, end: start + 1 };
  const length = scaleFrames(
    record.end - record.start + head + tail,
    { num: Math.abs(speed.num), den: speed.den },
    'up',
  );
  return { start, end: start + length };
}

function madeTimeline(key: string, r: Rate, start: number, events: EditEvent[]): Timeline {
  const end = events.reduce((most, e) => Math.max(most, e.record.end), start);
  const markers = events.slice(0, 3).map((event, i) => ({
    ...{ name: `note of ${event.name}`, comment: i === 1 ? 'wider' : '', color: i === 2 ? '' : 'CYAN' },
    ...{ record: { start: event.record.start, end: event.record.start + i + 1 }, track: null, address: '' },
  }));
  return { key, name: key, rate: r, counting: 'non-drop', start, length: end - start, top: true, events, markers };
}

/** All that matters of an edit, without keys, numbers and addresses, which are a document's own. */
function told({ clips, timelines }: Edit) {
  const names = new Map([...clips, ...timelines].map((x) => [x.key, x.name]));
  const usedNames = new Set(timelines.flatMap((t) => t.events.map((e) => e.clipKey)));
  return {
    clips: clips
      .filter((c) => usedNames.has(c.key))
      .map(({ key: _, addresses: __, name: ___, ...c }) => ({
        ...c,
        kind: c.remembered === null ? 'by its track' : c.kind,
      }))
      .sort((a, b) => JSON.stringify(a).localeCompare(JSON.stringify(b))),
    timelines: timelines.map((t) => ({
      ...t,
      key: '',
      trackNames: t.trackNames ?? {},
      markers: t.markers?.map(({ address: _, ...marker }) => marker),
      events: t.events
        .map(({ source, record, head, tail, speed, transition, track, name, nestedKey }) => {
          return {
            source,
            record,
            head,
            tail,
            speed,
            transition,
            track,
            name,
            nest: nestedKey && names.get(nestedKey),
          };
        })
        .sort((a, b) => a.track.localeCompare(b.track) || a.record.start - b.record.start),
    })),
  };
}

describe('OTIO written from a model', () => {
  test('is read back as it was: events, sources, speeds, transitions, markers, names of tracks, nests, reels, rasters and notes', () => {
    fc.assert(
      fc.property(madeEdit, (edit) => {
        const { edit: back, remarks } = readText(otio.write(edit), { name: 'cut.otio' });
        expect(remarks).toEqual([]);
        // Tracks that hold nothing at the end are not written.
        const nested = back.timelines.find((t) => !t.top)!;
        expect(told(back)).toEqual(
          told({ ...edit, timelines: [edit.timelines[0]!, { ...edit.timelines[1]!, name: nested.name }] }),
        );
      }),
      { numRuns: 60 },
    );
  });

  test('a list becomes a timeline that reads the same frames of the same clips', () => {
    const list = [
      '001  A001     V     C        01:00:00:00 01:00:04:00 10:00:00:00 10:00:04:00',
      '* FROM CLIP NAME: bowl.mov',
      '002  A001     V     C        01:00:04:00 01:00:04:00 10:00:04:00 10:00:04:00',
      '002  B002     V     D    025 02:00:00:00 02:00:03:00 10:00:04:00 10:00:07:00',
      '* FROM CLIP NAME: bowl.mov',
      '* TO CLIP NAME: door.mov',
      '003  S003     AA    C        03:00:00:00 03:00:02:00 10:00:00:00 10:00:02:00',
      '* FROM CLIP NAME: song.wav',
    ].join('\n');
    const { edit } = readText(list);
    const back = readText(otio.write(edit), { name: 'x.otio' }).edit;
    const used = ({ clips }: Edit) => clips.map((c) => [c.name, c.reel, c.used]);
    expect(used(back)).toEqual(used(edit));
    expect(back.timelines[0]).toMatchObject({ start: 900_000, length: 175 });
    expect(back.timelines[0]!.events.map((e) => e.track)).toEqual(['V1', 'V1', 'A1', 'A2']);
    // And back again: the dissolve is two lines.
    expect(edl.write(back)).toContain('002  B002     V     D    025 02:00:00:00 02:00:03:00 10:00:04:00 10:00:07:00');
  });

  test('a nest becomes the events that show through its window, the topmost layer first', () => {
    const shown = (over: string) =>
      JSON.stringify({
        OTIO_SCHEMA: 'Timeline.1',
        name: 'cut',
        tracks: {
          OTIO_SCHEMA: 'Stack.1',
          children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [JSON.parse(over)] }],
        },
      });
    const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: 25, value });
    const span = (start: number, length: number) => ({
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: time(start),
      duration: time(length),
    });
    const clip = (name: string, start: number, length: number) => ({
      OTIO_SCHEMA: 'Clip.1',
      name,
      source_range: span(start, length),
      media_reference: {
        OTIO_SCHEMA: 'ExternalReference.1',
        target_url: `${name}.mov`,
        available_range: span(0, 5000),
      },
    });
    const track = (...children: object[]) => ({ OTIO_SCHEMA: 'Track.1', kind: 'Video', children });
    const gap = { OTIO_SCHEMA: 'Gap.1', source_range: span(0, 20) };
    const nest = {
      OTIO_SCHEMA: 'Stack.1',
      name: 'nest',
      source_range: span(10, 40),
      children: [track(clip('below', 1000, 60)), track(gap, clip('above', 2000, 10))],
    };
    const list = edl.write(readText(shown(JSON.stringify(nest)), { name: 'x.otio' }).edit);
    expect(list.split('\r\n').filter((line) => /^\d/.test(line))).toEqual([
      '001  AX       V     C        00:00:40:10 00:00:40:20 00:00:00:00 00:00:00:10',
      '002  AX       V     C        00:01:20:00 00:01:20:10 00:00:00:10 00:00:00:20',
      '003  AX       V     C        00:00:41:05 00:00:42:00 00:00:00:20 00:00:01:15',
    ]);
  });
});
