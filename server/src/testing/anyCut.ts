import { execFileSync } from 'node:child_process';
import { copyFileSync, cpSync, mkdirSync, readdirSync, renameSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import type { Chance } from '@legame/core/testing';

/** Media of many makings and cuts of them that the dice give out: truth that nothing in a handoff was made for. */

const ffmpeg = (...args: readonly string[]): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', '-threads', '1', ...args], { maxBuffer: 1e9 });

type Kind = 'film' | 'sound' | 'sequence';
/** `start` and `frames` at its rate; sound is counted at 25. */
type Medium = { readonly name: string; readonly kind: Kind; readonly rate: number; start: number; frames: number };
/** Where one lies, and how an edit writes that. */
export type Lying = { readonly path: string; readonly url: string; readonly medium: Medium };

const [p25, p24, d30] = ['25', '24000/1001', '30000/1001'];
const groups = '-c:v libx264 -preset veryfast -g 24 -bf 2 -pix_fmt yuv420p';
const films: readonly (readonly [name: string, rate: string, timecode: string | null, frames: number, how: string])[] =
  [
    ['even.mov', p25, '01:00:00:00', 90, '-c:v mjpeg -q:v 4 -pix_fmt yuvj422p'],
    ['drop.mov', d30, '00:59:59;20', 90, '-c:v mjpeg -q:v 4'],
    ['groups.mov', p25, '02:46:40:00', 120, groups],
    ['slow.mp4', p24, '01:00:00:00', 100, groups],
    ['open.mov', p25, '05:33:20:00', 110, `${groups} -x264-params open-gop=1:bframes=3`],
    ['bare.mp4', p25, null, 100, groups],
    ['long.mxf', p25, '08:00:00:00', 100, '-c:v mpeg2video -g 12 -bf 2 -b:v 2M'],
    ['coloured.mov', p25, '10:00:00:00', 50, '-c:v png'],
    ['keyed.mov', p25, '11:00:00:00', 40, '-c:v qtrle -pix_fmt argb'],
    ['stream.ts', p25, null, 80, groups],
  ];
const sounds: readonly (readonly [name: string, how: string])[] = [
  ['dated.wav', '-c:a pcm_s24le -write_bext 1 -metadata time_reference=172800000'],
  ['plain.wav', '-c:a pcm_s16le'],
  ['packed.flac', '-c:a flac'],
];

const rateOf = (text: string): number =>
  text
    .split('/')
    .map(Number)
    .reduce((a, b) => a / b);
const framesAt = (timecode: string | null, rate: string): number => {
  const [h = 0, m = 0, s = 0, f = 0] = (timecode ?? '').split(/[:;]/).map(Number);
  const count = Math.round(rateOf(rate));
  const minutes = h * 60 + m;
  const dropped = timecode?.includes(';') ? 2 * (minutes - Math.floor(minutes / 10)) : 0;
  return (minutes * 60 + s) * count + f - dropped;
};

/** Makes one of each. Every frame is another, so that a wrong one is noticed. */
export function makePool(folder: string): Medium[] {
  mkdirSync(folder, { recursive: true });
  const at = (name: string) => join(folder, name);
  const pool: Medium[] = [];
  for (const [i, [name, rate, timecode, frames, how]] of films.entries()) {
    const shown = `testsrc2=s=192x108:r=${rate}:d=${i + frames / 20},trim=start_frame=${i * 7},setpts=PTS-STARTPTS`;
    ffmpeg(
      ...['-f', 'lavfi', '-i', shown, '-frames:v', String(frames), ...how.split(' ')],
      ...[...(timecode ? ['-timecode', timecode] : []), at(name)],
    );
    pool.push({ name, kind: 'film', rate: rateOf(rate), start: framesAt(timecode, rate), frames });
  }
  // Cut without being coded anew: what lies before the cut stays in the file, and is not shown.
  ffmpeg('-ss', '1.2', '-i', at('groups.mov'), '-map', '0:v', '-c', 'copy', at('cut.mov'));
  pool.push({ name: 'cut.mov', kind: 'film', rate: 25, start: 250_000, frames: picturesOf(at('cut.mov')).length });
  for (const [i, [name, how]] of sounds.entries()) {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      `aevalsrc=random(${i})*0.5|random(${i + 9})*0.5:s=48000:d=6`,
      ...how.split(' '),
      at(name),
    );
    pool.push({ name, kind: 'sound', rate: 25, start: name === 'dated.wav' ? 90_000 : 0, frames: 150 });
  }
  for (const [folderName, first] of [
    ['titles', 1001],
    ['plates', 9980],
  ] as const) {
    const name = `${folderName}/still_%04d.png`;
    mkdirSync(at(folderName));
    ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=64x36:r=25:d=2', '-start_number', String(first), at(name));
    pool.push({ name, kind: 'sequence', rate: 25, start: first, frames: 50 });
  }
  return pool;
}

/** A few of the pool in folders and under names of all sorts, some of them alike. */
export function layOut(pool: readonly Medium[], from: string, root: string, chance: Chance): Lying[] {
  const url = (path: string) => `file://${path.split('/').map(encodeURIComponent).join('/')}`;
  const laid = new Map<string, Lying>();
  for (let i = chance.between(3, 7); i > 0; i -= 1) {
    const medium = chance.pick(pool);
    const folder = join(root, chance.pick(['', 'day1', 'day1/card A', 'größe', 'a%20b', 'x/y']));
    mkdirSync(folder, { recursive: true });
    if (medium.kind === 'sequence') {
      const [into, stem] = [join(folder, `${dirname(medium.name)} ${i}`), chance.pick(['still_', 'a b_', 'pl#te.'])];
      cpSync(join(from, dirname(medium.name)), into, { recursive: true });
      for (const name of readdirSync(into)) renameSync(join(into, name), join(into, name.replace('still_', stem)));
      laid.set(into, { path: join(into, `${stem}%04d.png`), url: `${url(into)}/`, medium });
      continue;
    }
    const extension = medium.name.slice(medium.name.lastIndexOf('.'));
    const stem = chance.pick(['C0001', 'same', `clip ${i}`, `Öfen_${i}`, `a#b${i}`, `take.${i}.final`]);
    const path = join(folder, stem + (chance.happens(0.2) ? extension.toUpperCase() : extension));
    if (laid.has(path)) continue;
    copyFileSync(join(from, medium.name), path);
    laid.set(path, { path, url: url(path), medium });
  }
  return [...laid.values()];
}

const time = (value: number, rate: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });
const range = (start: number, length: number, rate: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start, rate),
  duration: time(length, rate),
});
export type ReadingClip = {
  readonly OTIO_SCHEMA: 'Clip.2';
  readonly source_range: ReturnType<typeof range>;
  readonly media_references: {
    readonly DEFAULT_MEDIA: {
      readonly available_range: ReturnType<typeof range>;
      readonly target_url?: string;
      readonly target_url_base?: string;
      readonly name_prefix?: string;
      readonly name_suffix?: string;
      readonly start_frame?: number;
      readonly frame_zero_padding?: number;
    };
  };
};

function clipOf({ path, url, medium }: Lying, chance: Chance): ReadingClip {
  const { rate, start, frames, kind } = medium;
  const length = chance.between(1, Math.min(30, frames - 12));
  const last = frames - length;
  // The very ends more often than by chance.
  const at = chance.pick([0, last, chance.between(0, last), chance.between(0, last), chance.between(0, last)]);
  const available_range = range(start, frames, rate);
  const [prefix = '', suffix = ''] = basename(path).split('%04d');
  const sequence = { name_prefix: prefix.replaceAll('#', '%23'), name_suffix: suffix, start_frame: start };
  const reference =
    kind === 'sequence'
      ? {
          ...{ OTIO_SCHEMA: 'ImageSequenceReference.1', target_url_base: url, ...sequence, frame_step: 1, rate },
          ...{ frame_zero_padding: 4, available_range },
        }
      : { OTIO_SCHEMA: 'ExternalReference.1', target_url: url, available_range };
  return {
    ...{ OTIO_SCHEMA: 'Clip.2', name: basename(path), effects: [] },
    source_range: range(start + at, length, rate),
    media_references: { DEFAULT_MEDIA: reference },
    ...{ active_media_reference_key: 'DEFAULT_MEDIA' },
  } as ReadingClip;
}

/** A timeline of one or more tracks with gaps, and now and then a nest. */
export function cutAnyhow(lying: readonly Lying[], chance: Chance): object {
  const track = (kind: string, of: readonly Lying[]): { children: object[] } => ({
    ...{ OTIO_SCHEMA: 'Track.1', kind },
    children: Array.from({ length: chance.between(1, 5) }, () => [
      ...(chance.happens(0.2) ? [{ OTIO_SCHEMA: 'Gap.1', source_range: range(0, chance.between(1, 20), 25) }] : []),
      clipOf(chance.pick(of), chance),
    ]).flat(),
  });
  const shown = lying.filter((l) => l.medium.kind !== 'sound');
  const heard = lying.filter((l) => l.medium.kind === 'sound');
  const tracks = [
    ...(shown.length > 0 ? Array.from({ length: chance.between(1, 2) }, () => track('Video', shown)) : []),
    ...(heard.length > 0 ? [track('Audio', heard)] : []),
  ];
  if (shown.length > 0 && chance.happens(0.4))
    tracks[0]!.children.push({ OTIO_SCHEMA: 'Stack.1', name: 'nest', children: [track('Video', shown)] });
  return { OTIO_SCHEMA: 'Timeline.1', name: 'cut', tracks: { OTIO_SCHEMA: 'Stack.1', children: tracks } };
}

type Node = { readonly OTIO_SCHEMA: string; readonly children?: readonly Node[]; readonly tracks?: Node };
/** All clips of a document, in its order. */
export function clipsIn(node: object): ReadingClip[] {
  const { OTIO_SCHEMA: schema, children = [], tracks } = node as Node;
  if (schema.startsWith('Clip.')) return [node as ReadingClip];
  return [...(tracks ? [tracks] : []), ...children].flatMap(clipsIn);
}

/** Checksums of all pictures of a film, or of a sequence that begins with such a number. */
export const picturesOf = (path: string, first?: number): string[] =>
  ffmpeg(
    ...(first === undefined ? [] : ['-framerate', '25', '-start_number', String(first)]),
    // Of a pattern, only that of the name is one.
    ...[
      '-i',
      first === undefined ? path : join(dirname(path).replaceAll('%', '%%'), basename(path)),
      '-map',
      '0:v:0',
      '-fps_mode',
      'passthrough',
      '-pix_fmt',
      'rgb24',
      '-f',
      'framemd5',
      '-',
    ],
  )
    .toString()
    .split('\n')
    .flatMap((line) => (line === '' || line.startsWith('#') ? [] : [line.split(',').at(-1)!.trim()]));

/** All samples, two channels of 32 bits at 48 kHz. */
export const samplesOf = (path: string): Buffer => ffmpeg('-i', path, '-map', '0:a:0', '-f', 's32le', '-');
export const bytesPerSample = 8;
