import type { ClipToMatch, MatchInput } from '../../match/match.ts';
import { defaultRules } from '../../match/rules.ts';
import type { ClipId, MediaFileId } from '../../model/ids.ts';
import type { MediaFile } from '../../model/media.ts';
import type { FrameRange } from '../../time/range.ts';
import { rate, type Rate } from '../../time/rate.ts';
import { buildClip, buildFile, buildPlace, clipId } from '../build.ts';
import { seeded } from '../generate.ts';
import { chanceOf, type Chance } from './shoot.ts';

/**
 * A world so small that everything meets everything: few names, reels, starts and lengths, given out by the dice, so that
 * two recordings share any of them, or all but one. Nothing in it was made with a cause in mind.
 */
export type SmallWorld = {
  readonly input: MatchInput;
  readonly said: ReadonlyMap<ClipId, Said>;
  readonly recordingOf: ReadonlyMap<MediaFileId, Recording>;
};
type Recording = {
  readonly id: number;
  readonly name: string;
  readonly folder: string;
  readonly place: string;
  readonly reel: string | null;
  readonly start: number;
  readonly length: number;
  readonly rate: Rate;
};
/** Which recording a clip was cut from, and what its edit says of that. */
type Said = { readonly recording: Recording; readonly clip: ClipToMatch };

const stems = ['C0001', 'C0002', 'C0003', 'A001C001', 'A001C002', 'Take 1', 'ZOOM0001', 'bowl_v01', 'bowl_v02'];
const folders = ['CARD_A', 'CARD_B/CLIP', 'DAY1/CAM A', 'DAY1/CAM B', 'DAY2/CAM A', 'old/DAY1/CAM A', 'sound'];
const reels = ['A001', 'A002', 'B001', null];
const starts = [0, 90_000, 90_000, 900_000, 900_001, 900_025, 1_234_567, 1_234_600];
const lengths = [200, 201, 500, 1000];

export function smallWorld(seed: number): SmallWorld {
  const chance = chanceOf(seeded(seed));
  const recordings = record(chance);
  const { files, recordingOf } = lay(recordings, chance);
  const said = new Map(
    recordings.flatMap((recording, i) => {
      if (chance.happens(0.3)) return [];
      const id = clipId(`clip ${i}`);
      return [[id, { recording, clip: cut(id, recording, chance) }] as const];
    }),
  );
  const places = ['KILN', 'SHED', 'NEW'].map((name) => buildPlace(name));
  return {
    input: { clips: [...said.values()].map((s) => s.clip), files, places, rules: defaultRules },
    said,
    recordingOf,
  };
}

function record({ pick, between, happens }: Chance): Recording[] {
  const rates = happens(0.7) ? [rate(25)] : [rate(25), rate(24), rate(50)];
  const byPath = new Map<string, Recording>();
  for (let id = between(4, 34); id > 0; id -= 1) {
    const recording = {
      id,
      name: `${pick(stems)}.${pick(['mov', 'mov', 'mxf'])}`,
      folder: pick(folders),
      place: pick(['KILN', 'SHED']),
      reel: pick(reels),
      start: pick(starts) + (happens(0.5) ? between(0, 4) * 1000 : 0),
      length: pick(lengths),
      rate: pick(rates),
    };
    byPath.set(`${recording.place}/${recording.folder}/${recording.name}`, recording);
  }
  return [...byPath.values()];
}

/** What became of them: folders were moved, files renamed, deleted and copied. */
function lay(recordings: readonly Recording[], { pick, happens }: Chance) {
  const files = new Map<string, MediaFile>();
  const recordingOf = new Map<MediaFileId, Recording>();
  const put = (recording: Recording, place: string, folder: string, name: string) => {
    const path = `${place}/${folder}/${name}`;
    if (files.has(path.toLowerCase())) return;
    const { reel, start, length } = recording;
    const own = { fingerprint: `content ${recording.id}`, sizeInBytes: 1000 + recording.id };
    const file = buildFile(path, { reel, start, length, rate: recording.rate }, own);
    files.set(path.toLowerCase(), file);
    recordingOf.set(file.id, recording);
  };
  const moved = new Map(
    folders
      .filter(() => happens(0.35))
      .map((f) => [f, pick([`moved/${f}`, 'all', `${f.toUpperCase()} 2`, pick(folders)])]),
  );
  for (const recording of recordings) {
    const { place, folder, name } = recording;
    const another = `${pick(stems)}${pick(['', '_1', ' copy'])}${name.slice(-4)}`;
    if (happens(0.8))
      put(recording, happens(0.1) ? 'NEW' : place, moved.get(folder) ?? folder, happens(0.15) ? another : name);
    if (happens(0.15)) put(recording, 'NEW', pick([`backup/${folder}`, 'x']), name);
  }
  return { files: [...files.values()], recordingOf };
}

/** An event of it as timelines with and without paths and ranges, lists and bare reels have it. */
function cut(id: ClipId, recording: Recording, { pick, between, happens }: Chance): ClipToMatch {
  const { name, folder, reel, start, length } = recording;
  const manner = pick(['path', 'path', 'name', 'reel'] as const);
  const volume = happens(0.8) ? recording.place : 'OTHER';
  const base = happens(0.15) ? 0 : start;
  const from = base + between(0, length - 60);
  return {
    ...buildClip(manner === 'path' ? `/Volumes/${volume}/${folder}/${name}` : null),
    id,
    key: id,
    name: manner === 'reel' ? (reel ?? 'black') : happens(0.5) ? name : name.slice(0, -4),
    reel: manner === 'reel' || happens(0.7) ? reel : null,
    rate: recording.rate,
    available: manner === 'path' && base === start && happens(0.7) ? { start, end: start + length } : null,
    raster: null,
    used: [{ start: from, end: from + between(20, 59) }],
    declined: [],
    linkedTo: null,
  };
}

const stemOf = (name: string): string => name.replace(/\.(mov|mxf)$/, '').toLowerCase();

/** What the edit says of its clip that holds for a recording and a file of it, each yes or no; null where it says nothing. */
function holding({ clip }: Said, { reel, start, length, rate: own }: Recording, file: MediaFile): (boolean | null)[] {
  const remembered = clip.remembered?.split('/').at(-1) ?? clip.name;
  const folder = clip.remembered?.split('/').slice(3, -1).join('/');
  return [
    stemOf(file.name) === stemOf(remembered),
    stemOf(file.name).includes(stemOf(remembered)),
    clip.reel === null || reel === null ? null : reel === clip.reel,
    clip.available && start === clip.available.start,
    clip.available && length === clip.available.end - clip.available.start,
    own.num === clip.rate.num,
    clip.used.every((used) => used.start >= start && used.end <= start + length),
    folder === undefined ? null : holdsOf(folder, file.folder, reel !== null && reel === clip.reel),
  ];
}

/** What lies elsewhere was moved, but from one camera to the other only if its reel says so. */
function holdsOf(folder: string, lies: string, isOfReel: boolean): boolean | null {
  if (`/${lies}`.endsWith(`/${folder}`)) return true;
  const camera = /CAM ([AB])$/.exec(folder)?.[1];
  const other = camera && (camera === 'A' ? 'B' : 'A');
  return other && !isOfReel && lies.includes(`CAM ${other}`) && !lies.includes(`CAM ${camera}`) ? false : null;
}

const isWithin = (a: FrameRange, { start, length }: Recording): boolean =>
  (a.start >= start && a.end <= start + length) || (start >= a.start && start + length <= a.end);

/**
 * What is wrong with a link, whatever its clip was cut from: it contradicts what the edit says, where names may differ, and
 * what is of one reel may be cut down or kept longer; or a file of the clip's own recording is there for which as much
 * holds, or more. Null where the edit cannot tell better.
 */
export function faultOf(world: SmallWorld, id: ClipId, linked: MediaFile): string | null {
  const said = world.said.get(id)!;
  const recording = world.recordingOf.get(linked.id)!;
  if (recording.id === said.recording.id) return null;
  const held = holding(said, recording, linked);
  const [, , reel, start, length, ...others] = held;
  const isOtherCut = reel === true && said.clip.available !== null && isWithin(said.clip.available, recording);
  if ([reel, isOtherCut || start, isOtherCut || length, ...others].includes(false)) return 'contradicts the edit';
  const own = world.input.files.filter((file) => world.recordingOf.get(file.id)!.id === said.recording.id);
  const isAsGood = (file: MediaFile) =>
    holding(said, said.recording, file).every((holds, i) => Number(holds) >= Number(held[i]));
  return own.some(isAsGood) ? 'its own recording is there, and is as good' : null;
}
