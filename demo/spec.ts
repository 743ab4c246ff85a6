import { rate, type Rate } from '../core/src/time/rate.ts';
import type { Look } from './looks.ts';

/** The made-up production "Saltglass": what lies on its simulated drives, and what its edit remembers of it. */
export type PictureCodec = 'h264' | 'mpeg2' | 'mjpeg';

type Common = {
  /** Where it lies in the drive bay, drive first. */
  readonly path: string;
  /** Where the edit says that it lies; null for media the edit does not use. */
  readonly remembered: string | null;
};
export type DemoPicture = Common & {
  readonly kind: 'picture';
  readonly codec: PictureCodec;
  readonly frames: number;
  readonly rate: Rate;
  /** Start in frames since midnight at `rate`; null for a file without timecode. */
  readonly start: number | null;
  readonly drop: boolean;
  readonly reel: string | null;
  readonly raster: { readonly width: number; readonly height: number };
  readonly look: Look;
  /** What the edit believes instead, where the file is not the one it remembers. */
  readonly expected?: { readonly start: number; readonly frames: number; readonly reel: string };
};
export type DemoSound = Common & {
  readonly kind: 'sound';
  readonly seconds: number;
  /** Start in seconds since midnight (BWF time reference); null for a file without. */
  readonly startSeconds: number | null;
  readonly reel: string | null;
  readonly hertz: number;
};
export type DemoStill = Common & {
  readonly kind: 'still';
  readonly raster: { width: number; height: number };
  readonly look: Look;
};
export type DemoSequence = Common & {
  readonly kind: 'sequence';
  readonly first: number;
  readonly frames: number;
  readonly padding: number;
  readonly look: Look;
};
export type DemoMedia = DemoPicture | DemoSound | DemoStill | DemoSequence;

const pal = rate(25);
const hd = { width: 1280, height: 720 };
const clock = (hours: number, minutes: number, seconds = 0) => ((hours * 60 + minutes) * 60 + seconds) * 25;
const two = (n: number) => String(n).padStart(2, '0');

/** A run of takes on one card: names numbered from 1, timecode running on with a pause between takes. */
function takes(
  names: readonly string[],
  options: {
    folder: string;
    remembered: (name: string) => string | null;
    extension: string;
    codec: PictureCodec;
    reel: string;
    start: number;
    look: Look;
    lies?: (name: string, i: number) => string;
  },
): DemoPicture[] {
  let at = options.start;
  return names.map((stem, i) => {
    const frames = 150 + ((i * 37) % 100);
    const name = `${stem}.${options.extension}`;
    const picture: DemoPicture = {
      kind: 'picture',
      path: `${options.folder}/${options.lies ? options.lies(name, i) : name}`,
      remembered: options.remembered(name),
      codec: options.codec,
      frames,
      rate: pal,
      start: at,
      drop: false,
      reel: options.reel,
      raster: hd,
      look: options.look,
    };
    at += frames + 25 * (20 + ((i * 13) % 50));
    return picture;
  });
}
const numbered = (stem: string, count: number) => Array.from({ length: count }, (_, i) => `${stem}_${two(i + 1)}`);

const cameras: DemoPicture[] = [
  // Linked: lies where the edit says.
  ...takes(numbered('bowl-gather', 8), {
    folder: 'KILN_A/day1/cardA',
    remembered: (n) => `file:///Volumes/KILN_A/day1/cardA/${n}`,
    extension: 'mov',
    codec: 'h264',
    reel: 'A001',
    start: clock(9, 12),
    look: 'furnace',
  }),
  ...takes(numbered('co-op-talk', 4), {
    folder: 'KILN_A/day1/cardB',
    remembered: (n) => `file:///Volumes/KILN_A/day1/cardB/${n}`,
    extension: 'mxf',
    codec: 'mpeg2',
    reel: 'B001',
    start: clock(10, 4),
    look: 'talk',
  }),
  // The drive has another name here: the edit knows it by a drive letter.
  ...takes(numbered('furnace-door', 6), {
    folder: 'KILN_A/Saltglass/day3/camB',
    remembered: (n) => `file:///E:/Saltglass/day3/camB/${n}`,
    extension: 'mxf',
    codec: 'mpeg2',
    reel: 'B003',
    start: clock(14, 31),
    look: 'embers',
  }),
  // A folder moved whole, to another drive and under a slightly different name.
  ...takes([...numbered('marver-roll', 7), ...numbered('neck-jack', 3)], {
    folder: 'KILN_B/rushes/day2/card_A',
    remembered: (n) => `file:///Volumes/KILN_A/day2/cardA/${n}`,
    extension: 'mov',
    codec: 'h264',
    reel: 'A002',
    start: clock(11, 2),
    look: 'glass',
  }),
  // Renamed with something added.
  ...takes(numbered('pipe-turn', 4), {
    folder: 'KILN_B/rushes/day2/card_B',
    remembered: (n) => `file:///Volumes/KILN_A/day2/cardB/${n}`,
    extension: 'mov',
    codec: 'mjpeg',
    reel: 'B002',
    start: clock(11, 40),
    look: 'bottle',
    lies: (n) => `SG_${n.replace('.mov', '_day2.mov')}`,
  }),
  // The edit counts each clip from zero, the files carry the time of day.
  ...['GB003', 'GB003', 'GB004'].map((reel, i): DemoPicture => ({
    kind: 'picture',
    path: `KILN_A/day1/cardC/gather-hands_${two(i + 1)}.mov`,
    remembered: `file:///Volumes/KILN_A/day1/cardC/gather-hands_${two(i + 1)}.mov`,
    codec: 'h264',
    frames: 160 + i * 20,
    rate: pal,
    start: reel === 'GB003' ? clock(14, 2, 11 + i * 40) : clock(16, 40, 5) + 12,
    drop: false,
    reel,
    raster: hd,
    look: 'hands',
    expected: { start: 0, frames: 160 + i * 20, reel },
  })),
  // Wholly renamed; reel and timecode are what is left.
  ...takes(numbered('reheat', 3), {
    folder: 'KILN_B/rushes/day3/card_C',
    remembered: (n) => `file:///Volumes/KILN_A/day3/cardC/${n}`,
    extension: 'mov',
    codec: 'h264',
    reel: 'C001',
    start: clock(15, 20),
    look: 'furnace',
    lies: (_, i) => `SG3-${['k81', 'm04', 'q77'][i]}.mov`,
  }),
];

const pair = (card: string, look: Look, remembered: string | null): DemoPicture => ({
  kind: 'picture',
  path: `KILN_B/rushes/day3/${card}/GB0007.mov`,
  remembered,
  codec: 'h264',
  frames: 200,
  rate: pal,
  start: clock(1, 0),
  drop: false,
  reel: null,
  raster: hd,
  look,
});

const oddOnes: DemoPicture[] = [
  // Same name twice in different card folders, both started at one hour: only a person can say which.
  pair('card_D1', 'bottle', 'file:///Volumes/KILN_A/day3/cardD/GB0007.mov'),
  pair('card_D2', 'hands', null),
  // Same name, different content: the edit remembers another recording.
  {
    kind: 'picture',
    path: 'KILN_A/picks/annealing-wide.mov',
    remembered: 'file:///Volumes/KILN_A/day2/cardA/annealing-wide.mov',
    codec: 'h264',
    frames: 175,
    rate: pal,
    start: clock(16, 45),
    drop: false,
    reel: 'A009',
    raster: hd,
    look: 'glass',
    expected: { start: clock(11, 55), frames: 240, reel: 'A002' },
  },
  {
    kind: 'picture',
    path: 'BAY_SHARE/archive/furnace_1974.mov',
    remembered: 'file://KILNHOUSE/BAY_SHARE/archive/furnace_1974.mov',
    codec: 'mjpeg',
    frames: 192,
    rate: rate(24000, 1001),
    start: 86_400,
    drop: false,
    reel: 'ARCH1',
    raster: { width: 720, height: 540 },
    look: 'archive',
  },
];

/** The card that is not plugged in: a drone that counts drop-frame at 29.97. */
const drone: DemoPicture[] = Array.from({ length: 4 }, (_, i) => ({
  kind: 'picture' as const,
  path: `CARD_07/flight/drone-pass_${two(i + 1)}.mp4`,
  remembered: `file:///Volumes/CARD_07/flight/drone-pass_${two(i + 1)}.mp4`,
  codec: 'h264' as const,
  frames: 180 + i * 30,
  rate: rate(30000, 1001),
  start: 1_800_000 + i * 2400,
  drop: true,
  reel: 'CARD_07',
  raster: hd,
  look: 'sky',
}));

const recordist = (
  roll: string,
  count: number,
  start: number,
  path: string,
  remembered: (name: string) => string,
): DemoSound[] =>
  Array.from({ length: count }, (_, i) => ({
    kind: 'sound',
    path: `${path}/${roll}_T${two(i + 1)}.wav`,
    remembered: remembered(`${roll}_T${two(i + 1)}.wav`),
    seconds: 8 + (i % 4),
    startSeconds: start + i * 47,
    reel: roll,
    hertz: 180 + i * 40,
  }));

const sound: DemoSound[] = [
  ...recordist('SND01', 7, 33_130, 'BAY_SHARE/sound/SND01', (n) => `file://KILNHOUSE/BAY_SHARE/sound/SND01/${n}`),
  ...recordist('SND02', 4, 39_730, 'BAY_SHARE/sound/day2/SND02', (n) => `file://KILNHOUSE/BAY_SHARE/sound/roll2/${n}`),
  {
    kind: 'sound',
    path: 'BAY_SHARE/music/kiln-song.wav',
    remembered: 'file://KILNHOUSE/BAY_SHARE/music/kiln-song.wav',
    seconds: 30,
    startSeconds: null,
    reel: null,
    hertz: 220,
  },
  {
    kind: 'sound',
    path: 'BAY_SHARE/music/embers.wav',
    remembered: 'file://KILNHOUSE/BAY_SHARE/music/embers.wav',
    seconds: 20,
    startSeconds: null,
    reel: null,
    hertz: 330,
  },
  ...numbered('vo', 3).map((stem, i): DemoSound => ({
    kind: 'sound',
    path: `BAY_SHARE/voice/${stem}.wav`,
    remembered: `file:///S:/voice/${stem}.wav`,
    seconds: 6 + i,
    startSeconds: null,
    reel: null,
    hertz: 440 + i * 30,
  })),
];

const stills: DemoStill[] = [
  'ledger-page_004.png',
  'ledger-page_011.png',
  'co-op founders 1974.jpg',
  'kiln-plan.png',
  'salt-sack.jpg',
  'yard-map.png',
].map((name, i) => ({
  kind: 'still',
  path: `BAY_SHARE/archive/scans/${name}`,
  remembered:
    i < 4 ? `file://KILNHOUSE/BAY_SHARE/archive/scans/${name.replaceAll(' ', '%20')}` : `file:///S:/scans/${name}`,
  raster: { width: 1200 + i * 40, height: 900 },
  look: 'paper',
}));

const titles: DemoSequence = {
  kind: 'sequence',
  path: 'BAY_SHARE/titles/open/title_####.png',
  remembered: 'file://KILNHOUSE/BAY_SHARE/titles/open/',
  first: 1001,
  frames: 48,
  padding: 4,
  look: 'embers',
};

/** Small copies of two camera originals, for editing on a weak machine: other forms of the same recordings. */
const smallCopies: DemoPicture[] = cameras
  .filter(({ path }) => /bowl-gather_0[12]/.test(path))
  .map((original) => ({
    ...original,
    path: `BAY_SHARE/small/${original.path.split('/').at(-1)!}`,
    remembered: null,
    raster: { width: 640, height: 360 },
  }));

/** A night take that the camera split into three files where its card's file system ends; the edit does not use it. */
const nightTake: DemoPicture[] = [1, 2, 3].map((part) => ({
  kind: 'picture',
  path: `KILN_B/rushes/night/kiln-night_P0${part}.mov`,
  remembered: null,
  codec: 'h264',
  frames: part === 3 ? 90 : 150,
  rate: pal,
  start: clock(22, 10) + (part - 1) * 150,
  drop: false,
  reel: 'N001',
  raster: hd,
  look: 'night',
}));
export const demoMedia: readonly DemoMedia[] = [
  ...cameras,
  ...oddOnes,
  ...smallCopies,
  ...nightTake,
  ...drone,
  ...sound,
  ...stills,
  titles,
];

/** Files that lie: made from the good ones by cutting off their end, or never media at all. The edit does not use them. */
export const brokenMedia = [
  { path: 'KILN_B/rushes/night/ember-wide_cut-short.mov', from: 'KILN_B/rushes/night/kiln-night_P01.mov', keep: 0.4 },
  { path: 'BAY_SHARE/sound/day2/SND02/SND02_T09.wav', from: 'BAY_SHARE/sound/day2/SND02/SND02_T01.wav', keep: 0.5 },
  { path: 'BAY_SHARE/archive/scans/reading-notes.mov', from: null, keep: 1 },
] as const;

/** What the edit remembers and no drive holds any more. */
export const goneMedia: readonly DemoPicture[] = [
  {
    kind: 'picture',
    path: '',
    remembered: 'file:///Volumes/KILN_A/day1/cardA/crucible-pour_02.mov',
    codec: 'h264',
    frames: 220,
    rate: pal,
    start: clock(9, 58),
    drop: false,
    reel: 'A001',
    raster: hd,
    look: 'furnace',
  },
];

/** The simulated drives. The one that is away is made, seen once, and then unplugged. */
export const drives = ['KILN_A', 'KILN_B', 'CARD_07', 'BAY_SHARE'] as const;
export const driveAway = 'CARD_07';

/** What was cleared from the drives, or archived to tape, and comes back when it is asked for. */
export const shelvedMedia: readonly { readonly shelf: 'recycle' | 'vault'; readonly media: DemoPicture }[] = [
  { shelf: 'vault', media: { ...goneMedia[0]!, path: 'KILN_A/day1/cardA/crucible-pour_02.mov' } },
  {
    shelf: 'recycle',
    media: {
      kind: 'picture',
      path: 'KILN_A/day2/cardA/annealing-wide.mov',
      remembered: null,
      codec: 'h264',
      frames: 240,
      rate: pal,
      start: clock(11, 55),
      drop: false,
      reel: 'A002',
      raster: hd,
      look: 'glass',
    },
  },
];
