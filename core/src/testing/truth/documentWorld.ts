import type { ClipToMatch, MatchInput } from '../../match/match.ts';
import { defaultRules } from '../../match/rules.ts';
import type { ClipId, MediaFileId } from '../../model/ids.ts';
import type { MediaFile } from '../../model/media.ts';
import { rate } from '../../time/rate.ts';
import { buildFile, buildPlace, clipId } from '../build.ts';
import { seeded } from '../generate.ts';
import { readText } from '../reading.ts';
import { chanceOf, type Chance } from './shoot.ts';

/**
 * A small production of which the edit is text: lists with reels of all sorts or none, timelines with bare names and
 * halves of what could be known, logs; read by the readers, so that what they make of it is tried as well.
 */
export type DocumentWorld = {
  readonly input: MatchInput;
  /** What each clip was cut from: more than one where the reader took several for one. */
  readonly cutFrom: ReadonlyMap<ClipId, ReadonlySet<Recording>>;
  readonly recordingOf: ReadonlyMap<MediaFileId, Recording>;
};

type Recording = {
  readonly device: string;
  readonly place: string;
  readonly folder: string;
  readonly name: string;
  readonly reel: string | null;
  readonly start: number;
  readonly length: number;
};
/** A document as text, and from which recording each reference in it was cut, by its address. */
type Written = { readonly name: string; readonly text: string; readonly cutFrom: ReadonlyMap<string, Recording> };

/**
 * What is wrong with a link: it leads to another recording although a file of the clip's own is there whose name says as
 * much; or the clip is several recordings in one, and the file holds not all that is used. Null where nobody could tell.
 */
export function faultInDocuments({ input, cutFrom, recordingOf }: DocumentWorld, id: ClipId, linked: MediaFileId) {
  const [clip, own, found] = [input.clips.find((c) => c.id === id)!, cutFrom.get(id)!, recordingOf.get(linked)!];
  const holdsAll = clip.used.every(({ start, end }) => start >= found.start && end <= found.start + found.length);
  if (own.size > 1) return own.has(found) && holdsAll ? null : 'several recordings are one clip';
  if (own.has(found)) return null;
  const wanted = stemOf(clip.remembered ?? clip.name);
  const names = (name: string) => Number(stemOf(name) === wanted);
  const linkedName = input.files.find((file) => file.id === linked)!.name;
  const isThere = input.files.some((f) => own.has(recordingOf.get(f.id)!) && names(f.name) >= names(linkedName));
  return isThere ? 'its own recording is there, under as good a name' : null;
}

const stemOf = (path: string): string => /([^\\/]*?)(\.\w+)?$/.exec(path)![1]!.toLowerCase();

const pal = rate(25);
const hour = 90_000;

export function documentWorld(seed: number): DocumentWorld {
  const chance = chanceOf(seeded(seed));
  const recordings = record(chance);
  const { files, recordingOf } = lay(recordings, chance);
  const cutFrom = new Map<ClipId, ReadonlySet<Recording>>();
  const write = [writeList, writeList, writeTimeline, writeTimeline, writeLog];
  const clips = Array.from({ length: chance.between(1, 2) }, (_, i) => `document ${i}`).flatMap((title) => {
    const cut = recordings.filter(() => chance.happens(0.6));
    if (cut.length === 0) return [];
    const { name, text, cutFrom: from } = chance.pick(write)(title, cut, chance);
    return readText(text, { name, rate: pal }).edit.clips.map((clip): ClipToMatch => {
      const id = clipId(`${name} ${clip.key}`);
      cutFrom.set(id, new Set(clip.addresses.map((address) => from.get(address)!)));
      return { ...clip, id, declined: [], linkedTo: null };
    });
  });
  const places = ['KILN', 'SHED', 'NEW', 'BACKUP'].map((name) => buildPlace(name));
  return { input: { clips, files, places, rules: defaultRules }, cutFrom, recordingOf };
}

const twoDigits = (n: number): string => String(Math.floor(n)).padStart(2, '0');
const digits = (n: number, count: number): string => String(n).padStart(count, '0');

/** Some days of some devices, each with its way of naming; numbers, starts and reels repeat as the production likes. */
function record({ pick, between, happens }: Chance): Recording[] {
  const reels = pick(['of the card', 'all the same', 'none', 'long', 'of the unit']);
  const starts = pick(['by the clock', 'clocks alike', 'from an hour', 'from zero']);
  const folders = pick(['day and card', 'card', 'one', 'as cameras do']);
  const byPath = new Map<string, Recording>();
  const devices = ['A', 'B', 'SND', 'DRONE', 'ARCH'].filter((name) => name === 'A' || happens(0.6));
  for (let day = between(1, 4); day > 0; day -= 1)
    for (const device of devices) {
      let at = starts === 'by the clock' ? between(7, 10) * hour : starts === 'clocks alike' ? 9 * hour : 0;
      let number = 1;
      for (let roll = between(1, 2); roll > 0; roll -= 1) {
        const card = `${device}${digits(day * 2 + roll, 3)}`;
        if (happens(0.5)) number = 1;
        for (let takes = between(1, 6); takes > 0; takes -= 1, number += 1) {
          const name = nameOf(device, card, day, number, pick);
          const length = between(60, 4000);
          at = starts === 'from an hour' ? hour : starts === 'from zero' ? 0 : at + between(1, 5000);
          const start = device === 'DRONE' && happens(0.7) ? 0 : at;
          at += length;
          const isReelless = device === 'SND' || device === 'DRONE' || reels === 'none';
          const named = { 'of the card': card, 'all the same': 'A001', long: `${card}R0${day}X_LONGREEL` };
          const reel = isReelless ? null : (named[reels as keyof typeof named] ?? `${device}001`);
          const folder = {
            'day and card': `Day ${day}/${device}/${card}`,
            ...{ card, one: 'RUSHES', 'as cameras do': `DAY_0${day}/${device}_CAM/${card}/CLIP` },
          }[folders]!;
          const place = pick(['KILN', 'KILN', 'SHED']);
          const path = `${place}/${folder}/${name}`.toLowerCase();
          if (!byPath.has(path)) byPath.set(path, { device, place, folder, name, reel, start, length });
        }
      }
    }
  return [...byPath.values()];
}

function nameOf(device: string, card: string, day: number, number: number, pick: Chance['pick']): string {
  switch (device) {
    case 'SND':
      return pick([`T${digits(number, 3)}.WAV`, `TAKE ${number}.wav`, `0${day}-${digits(number, 4)}_MIX.wav`]);
    case 'DRONE':
      return `DJ_${digits(number, 4)}.MP4`;
    case 'ARCH':
      return pick([`reel ${number}.mov`, `kiln_v0${number}.mov`, `Furnace ${number} (1).mov`]);
    default:
      return pick([
        `C${digits(number, 4)}.MOV`,
        `${card}C${digits(number, 3)}_0${day}01.mov`,
        `C${digits(number, 4)}.MXF`,
      ]);
  }
}

/** What became of them: put elsewhere by device or by day, put flat, cut down into a set, renamed, or gone. */
function lay(recordings: readonly Recording[], { pick, between, happens }: Chance) {
  const files = new Map<string, MediaFile>();
  const recordingOf = new Map<MediaFileId, Recording>();
  const put = (
    own: Recording,
    place: string,
    folder: string,
    name: string,
    cut = { start: own.start, length: own.length },
  ) => {
    const path = `${place}/${folder}/${name}`;
    if (files.has(path.toLowerCase())) return;
    const bytes = `${recordings.indexOf(own)} ${cut.start} ${cut.length}`;
    const file = buildFile(
      path,
      { reel: own.reel, rate: pal, ...cut },
      { fingerprint: bytes, sizeInBytes: cut.length * 9 },
    );
    files.set(path.toLowerCase(), file);
    recordingOf.set(file.id, own);
  };
  const all = ['by device', 'by day', 'flat', 'a set', 'dated', 'by slate', 'partly gone', 'as it was', 'in capitals'];
  const fate = pick([...all, 'mixed']);
  recordings.forEach((own, i) => {
    if (happens(0.12)) return;
    const { place, folder, name, device, start, length } = own;
    const [stem, extension] = [name.slice(0, name.lastIndexOf('.')), name.slice(name.lastIndexOf('.'))];
    switch (fate === 'mixed' ? pick(all.slice(0, 5)) : fate) {
      case 'by device':
        put(own, 'NEW', `${device}/${folder.split('/').at(-1)!}`, name);
        break;
      case 'by day':
        put(own, 'NEW', folder.split('/').reverse().join('/'), name);
        break;
      case 'flat':
        put(own, 'NEW', 'ALL', happens(0.3) ? `${stem} (1)${extension}` : name);
        break;
      case 'a set':
        put(
          own,
          'NEW',
          `set/${pick(['media', device])}`,
          name,
          happens(0.5) ? { start: start + 20, length: length - 30 } : undefined,
        );
        break;
      case 'dated':
        put(own, place, folder, `2611${twoDigits(between(1, 28))}_${name}`);
        break;
      case 'by slate':
        put(own, place, folder, `SC${700 + i}${extension}`);
        break;
      case 'partly gone':
        if (happens(0.6)) put(own, 'NEW', folder, name);
        break;
      case 'in capitals':
        put(own, place, folder.toUpperCase(), name.toUpperCase());
        break;
      default:
        put(own, place, folder, name);
    }
    if (happens(0.15)) put(own, 'BACKUP', pick([folder, 'x', `old/${folder}`]), name);
    if (happens(0.05)) put(own, 'BACKUP', 'partial', name, { start, length: length - between(1, 40) });
  });
  return { files: [...files.values()], recordingOf };
}

const timecode = (frames: number): string =>
  [frames / hour, (frames / 1500) % 60, (frames / 25) % 60, frames % 25].map(twoDigits).join(':');

/** How a document spells where media lies, one way for all of it. */
function spelling({ pick, happens }: Chance): (r: Recording) => string {
  const other = happens(0.3) ? 'OTHER' : null;
  const style = pick(['url', 'local url', 'path', 'drive', 'name', 'name']);
  return ({ place, folder, name }) => {
    const path = `/Volumes/${other ?? place}/${folder}/${name}`;
    if (style === 'url') return `file://${path.replaceAll(' ', '%20')}`;
    if (style === 'local url') return `file://localhost${path}`;
    if (style === 'drive') return `${place === 'KILN' ? 'E' : 'F'}:\\${folder.replaceAll('/', '\\')}\\${name}`;
    return style === 'path' ? path : name;
  };
}

/** A stretch inside a recording, in its frames. */
function cutOf({ start, length }: Recording, { between }: Chance): { from: number; to: number } {
  const frames = between(5, Math.min(60, length - 2));
  const from = start + between(0, length - frames - 1);
  return { from, to: from + frames };
}

function writeList(name: string, cut: readonly Recording[], chance: Chance): Written {
  const { pick, happens } = chance;
  const [reels, names] = [
    pick(['its own', 'cut', 'the stem', 'none', 'none']),
    pick(['whole', 'whole', 'stem', 'none']),
  ];
  const [hasFiles, spell] = [happens(0.3), spelling(chance)];
  const lines = ['TITLE: A LIST', 'FCM: NON-DROP FRAME'];
  const cutFrom = new Map<string, Recording>();
  let at = hour;
  cut.forEach((own, i) => {
    const { from, to } = cutOf(own, chance);
    const stem = own.name.replace(/\.\w+$/, '');
    const reel =
      { 'its own': own.reel, cut: own.reel?.slice(0, 8), 'the stem': stem.replace(/\W/g, '').slice(0, 32) }[reels] ??
      'AX';
    const track = own.device === 'SND' ? 'A' : 'V';
    const times = [from, to, at, at + to - from].map(timecode).join(' ');
    cutFrom.set(String(lines.push(`${digits(i + 1, 3)}  ${reel.padEnd(8)} ${track}     C        ${times}`)), own);
    if (names !== 'none') lines.push(`* FROM CLIP NAME: ${names === 'stem' ? stem : own.name}`);
    if (hasFiles) lines.push(`* SOURCE FILE: ${spell(own)}`);
    at += to - from;
  });
  return { name: `${name}.edl`, text: lines.join('\r\n'), cutFrom };
}

function writeTimeline(name: string, cut: readonly Recording[], chance: Chance): Written {
  const { pick, happens } = chance;
  const [ranges, isMissing, isFromZero, tellsReels] = [pick([0, 0.5, 1]), happens(0.3), happens(0.15), happens(0.4)];
  const spell = spelling(chance);
  const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate: 25 });
  const range = (start: number, length: number) => ({
    ...{ OTIO_SCHEMA: 'TimeRange.1', start_time: time(start), duration: time(length) },
  });
  const cutFrom = new Map<string, Recording>();
  const children = cut.map((own, i) => {
    const { from, to } = cutOf(own, chance);
    const base = isFromZero ? own.start : 0;
    cutFrom.set(`/tracks/children/0/children/${i}/media_references/DEFAULT_MEDIA`, own);
    const reference = {
      OTIO_SCHEMA: isMissing ? 'MissingReference.1' : 'ExternalReference.1',
      name: happens(0.5) ? own.name : '',
      available_range: happens(ranges) ? range(own.start - base, own.length) : null,
      metadata: tellsReels && own.reel ? { reel: own.reel } : {},
      ...(isMissing ? {} : { target_url: spell(own) }),
    };
    return {
      OTIO_SCHEMA: 'Clip.2',
      name: happens(0.5) ? own.name : own.name.replace(/\.\w+$/, ''),
      source_range: range(from - base, to - from),
      ...{ media_references: { DEFAULT_MEDIA: reference }, active_media_reference_key: 'DEFAULT_MEDIA' },
    };
  });
  const tracks = { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children }] };
  return { name: `${name}.otio`, text: JSON.stringify({ OTIO_SCHEMA: 'Timeline.1', name, tracks }), cutFrom };
}

function writeLog(name: string, cut: readonly Recording[], chance: Chance): Written {
  const spell = spelling(chance);
  const end = ({ start, length }: Recording) => timecode(start + length);
  const columns = chance.pick<Record<string, (r: Recording) => string>>([
    { Name: (r) => r.name, Reel: (r) => r.reel ?? '', Start: (r) => timecode(r.start), End: end, FPS: () => '25' },
    { Clip: (r) => r.name, Start: (r) => timecode(r.start), End: end, FPS: () => '25', Path: spell },
  ]);
  const rows = cut.map((own) => Object.values(columns).map((cell) => cell(own)));
  const text = [Object.keys(columns), ...rows].map((cells) => cells.join('\t')).join('\n');
  return { name: `${name}.tsv`, text, cutFrom: new Map(cut.map((own, i) => [String(i + 2), own])) };
}
