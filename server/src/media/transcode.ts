import type { FileHandle } from 'node:fs/promises';
import { codedBytes, type CodedFilm } from '@legame/core/consolidate';
import { countingRate, type Facts } from '@legame/core/model';
import { formatTimecode, rangeLength, sameRate, type FrameRange } from '@legame/core/time';
import type { CopyOptions } from './copying.ts';
import { complaintsIn } from './decoder.ts';
import { decoderFence, theFile } from './decoderFence.ts';
import { givenFile, runFenced, type FencedResult } from './fenced.ts';
import { readStreams, secondsAt } from './packets.ts';
import { aroundSeconds, cutSamples, isCounted, isPcm, notProven, type Part } from './part.ts';
import type { Traits } from './traits.ts';
import type { Streams, Trim } from './trim.ts';

type ToCode = Trim & { readonly coded: CodedFilm };
/** What is told of how a source's pictures are laid out. */
type Told = Pick<Traits, 'isFullRange' | 'pixels'>;

/**
 * A part of a film that is coded anew: same frames, same timecode and reel, sound as PCM to the sample. Every picture is
 * held against the source's: by checksum where the coding is without loss, else by how it looks; sound by checksum.
 */
export async function codedPart(
  file: FileHandle,
  path: string,
  trim: ToCode,
  { signal }: Pick<CopyOptions, 'signal'>,
): Promise<Part> {
  const { facts, coded, range } = trim;
  // What was looked at before pixels were told is looked at once more.
  const streams = trim.streams?.traits?.pixels ? trim.streams : await readStreams(file, signal);
  if (!streams || !facts.rate || !sameRate(streams.picture.rate, facts.rate))
    throw notProven(path, { code: 'frames-uncountable' });
  const order = coded.isExact ? inOneOrder(streams.traits?.pixels ?? null) : [];
  const told = new Pictures(coded.isExact, order);
  return {
    write: async (copy, options) => {
      await encode(file, copy, path, { streams, trim, told }, options);
      return null;
    },
    prove: async (back, options) => {
      const found = new Pictures(coded.isExact, order);
      const shown = [...theInput(0, null), ...['-map', '0:v:0'], ...told.arguments([])];
      await toTheEnd(path, facts, shown, { files: [back], take: (chunk) => void found.add(chunk) }, options);
      requireAlike(path, told.list, found.list, range);
      if (streams.sound.length === 0) return;
      const inSource = await soundHashes(file, path, facts, soundOf(streams, trim), options);
      const inPart = await soundHashes(back, path, facts, { input: theInput(0, null), how: ['-c:a', 'copy'] }, options);
      if (inSource !== inPart) throw notProven(path, { code: 'sound-differs' });
    },
  };
}

/** Containers in which a film can be entered in its middle and still be timed as from its beginning. */
const seekable = ['mov', 'mxf', 'matroska'];

/** Where the reading of a source begins, so that all of the part is decoded, and how long it goes on. */
function window({ picture, sound }: Streams, { range, facts }: ToCode): { seek: number; reach: number | null } {
  if (!seekable.includes(facts.container)) return { seek: 0, reach: null };
  const counted = isCounted(facts.container, sound);
  const seek = counted ? 0 : Math.max(0, secondsAt(picture, range.start) - aroundSeconds);
  return { seek, reach: secondsAt(picture, range.end) + aroundSeconds - seek };
}

const theInput = (seek: number, reach: number | null): string[] => [
  ...(seek > 0 ? ['-ss', seek.toFixed(6)] : []),
  ...(reach === null ? [] : ['-t', reach.toFixed(6)]),
  ...['-noautorotate', '-i', theFile],
];

/** The frames of the part, each a tick of its rate from zero. Half a frame before an edge tells its two sides apart. */
function cutFrames({ picture }: Streams, { start, end }: FrameRange): string[] {
  const { rate } = picture;
  const [from, to] = [secondsAt(picture, start - 0.5).toFixed(6), secondsAt(picture, end - 0.5).toFixed(6)];
  return [`trim=start=${from}:end=${to}`, `settb=${rate.den}/${rate.num}`, 'setpts=N', `fps=${rate.num}/${rate.den}`];
}

/** How the sound of a part is read and cut. */
function soundOf(streams: Streams, trim: ToCode): { input: string[]; how: string[] } {
  const { seek, reach } = window(streams, trim);
  const cut = {
    picture: streams.picture,
    range: trim.range,
    isCounted: isCounted(trim.facts.container, streams.sound),
  };
  const how = streams.sound.flatMap((stream, i) => [
    ...[`-c:a:${i}`, pcmFor(stream), `-filter:a:${i}`, cutSamples(stream.sampleRate, cut)],
  ]);
  return { input: theInput(seek, reach), how };
}

/** PCM stays what it is; of coded sound, 24 bits hold all that can be heard. */
function pcmFor(stream: Streams['sound'][number]): string {
  if (!isPcm(stream)) return 'pcm_s24le';
  const kept = /^pcm_(s16|s24|s32|f32|f64)/.exec(stream.codec);
  return kept ? `pcm_${kept[1]}le` : 'pcm_s16le';
}

async function encode(
  source: FileHandle,
  target: FileHandle,
  path: string,
  { streams, trim, told }: { streams: Streams; trim: ToCode; told: Pictures },
  options: CopyOptions,
): Promise<void> {
  const { facts, coded, range, startsAt } = trim;
  const { seek, reach } = window(streams, trim);
  const frames = cutFrames(streams, range);
  const laidOut = streams.traits ?? { isFullRange: false, pixels: null };
  const timecode = startsAt === null ? null : formatTimecode(startsAt, facts.rate!, facts.counting);
  const aFrame = codedBytes(facts, coded, 1);
  await toTheEnd(
    path,
    facts,
    [
      ...theInput(seek, reach),
      ...['-map', '0:v:0', '-map', '0:a?'],
      ...['-filter:v', [...frames, ...scaled(facts, coded), ...ranged(coded, laidOut)].join(',')],
      ...[...encoders[coded.coding](coded, laidOut), '-fps_mode', 'passthrough'],
      ...soundOf(streams, trim).how,
      ...['-map_metadata', '0', '-metadata:s:v:0', 'timecode='],
      ...(timecode === null
        ? ['-metadata', 'timecode=']
        : coded.container === 'matroska'
          ? ['-metadata', `timecode=${timecode}`]
          : ['-timecode', timecode]),
      ...(facts.reel ? ['-metadata', `reel_name=${facts.reel}`, '-metadata:s:v:0', `reel_name=${facts.reel}`] : []),
      ...['-f', coded.container, `file:${givenFile(1)}`],
      // The same pictures once more, as they were before they were coded: what was written is held against these.
      ...['-map', '0:v:0', ...told.arguments(frames)],
    ],
    { files: [source, target], take: (chunk) => options.onBytes(told.add(chunk) * aFrame) },
    options,
  );
}

/** How each is written. Pixels stay as they are where nothing is said. */
const encoders: Readonly<Record<CodedFilm['coding'], (coded: CodedFilm, source: Told) => string[]>> = {
  ffv1: (coded, source) => [
    ...['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slicecrc', '1', ...pixels(coded, source)],
    ...(source.isFullRange ? ['-color_range', 'pc'] : []),
  ],
  dnxhd: ({ bitDepth }) => [
    ...['-c:v', 'dnxhd', '-profile:v', bitDepth > 8 ? 'dnxhr_hqx' : 'dnxhr_hq'],
    ...['-pix_fmt', bitDepth > 8 ? 'yuv422p10le' : 'yuv422p'],
  ],
  h264: (_, { isFullRange }) => [
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '14', '-pix_fmt', isFullRange ? 'yuvj420p' : 'yuv420p'],
  ],
  mjpeg: () => ['-c:v', 'mjpeg', '-q:v', '2', '-pix_fmt', 'yuvj422p'],
};

/** FFV1 takes pixels of any range under one name, but the library squeezes them to that of television unless it is told. */
function pixels({ isExact, chroma, bitDepth }: CodedFilm, { isFullRange, pixels: source }: Told): string[] {
  if (isExact) return isFullRange && source?.startsWith('yuv') ? ['-pix_fmt', source.replace('yuvj', 'yuv')] : [];
  const sampling = /^4:\d:\d$/.test(chroma ?? '') ? chroma!.replaceAll(':', '') : null;
  return sampling === null ? [] : ['-pix_fmt', `yuv${sampling}p${bitDepth > 8 ? `${bitDepth}le` : ''}`];
}

const ranged = ({ coding }: CodedFilm, { isFullRange }: Told): string[] =>
  coding === 'ffv1' && isFullRange ? ['scale=in_range=pc:out_range=pc'] : [];

function scaled({ raster: from }: Facts, { raster: to }: CodedFilm): string[] {
  if (!from || !to || (from.width === to.width && from.height === to.height)) return [];
  return [`scale=${to.width}:${to.height}`];
}

/** Runs the encoder with what every run of it has, and throws what it complains about. */
export async function toTheEnd(
  path: string,
  facts: Facts,
  args: readonly string[],
  { files, take }: { files: readonly FileHandle[]; take?: (chunk: Buffer) => void },
  { signal, onBytes }: CopyOptions,
): Promise<Buffer> {
  const rate = countingRate(facts);
  const seconds = rate && facts.length !== null ? (facts.length * rate.den) / rate.num : 600;
  const allowed = Math.ceil(60 + seconds * 30);
  // Who waits is told that it goes on; how long it may, is bounded here.
  const alive = setInterval(() => onBytes(0), aliveMs);
  let result: FencedResult;
  try {
    result = await runFenced(
      'ffmpeg',
      ['-v', 'error', '-nostdin', '-y', '-copyts', ...decoderFence, ...args],
      { seconds: allowed, cpuSeconds: allowed * 2, memoryInBytes: 4_000_000_000, outputInBytes: 4_000_000_000 },
      { signal, files, ...(take ? { onOutput: take } : {}) },
    );
  } finally {
    clearInterval(alive);
  }
  if (result.end === 'aborted') throw new DOMException('Aborted', 'AbortError');
  if (result.end !== 'exited') throw notProven(path, { code: 'took-too-long', seconds: allowed });
  if (result.code === 0) return result.stdout;
  if (/No space left on device/.test(result.stderr))
    throw Object.assign(new Error('No space left'), { code: 'ENOSPC' });
  throw notProven(path, complaintsIn(result.stderr)[0] ?? { code: 'gave-no-reason' });
}
const aliveMs = 5000;

async function soundHashes(
  file: FileHandle,
  path: string,
  facts: Facts,
  { input, how }: { input: readonly string[]; how: readonly string[] },
  options: CopyOptions,
): Promise<string> {
  // Whether pictures are read as well says where sound is entered, and coded sound is not alike from everywhere.
  const pictures = ['-map', '0:v:0', '-c', 'copy', '-f', 'null', '-'];
  const args = [...input, '-map', '0:a', ...how, '-f', 'streamhash', '-hash', 'md5', 'pipe:1', ...pictures];
  return (await toTheEnd(path, facts, args, { files: [file] }, options)).toString('latin1');
}

/**
 * Orders of the same samples in memory that the coding has not: such pictures come back in another order. Where no
 * sample is lost, all are told in one.
 */
const orders: readonly (readonly [RegExp, string])[] = [
  [/^(rgb24|bgr24|0rgb|rgb0|0bgr|bgr0|gbrp)$/, 'gbrp'],
  [/^(rgba|argb|abgr|bgra|gbrap)$/, 'gbrap'],
  [/^(rgb48|bgr48|gbrp16)[lb]e$/, 'gbrp16le'],
  [/^(rgba64|bgra64|gbrap16)[lb]e$/, 'gbrap16le'],
  [/^(uyvy|yuyv|yvyu)422$/, 'yuv422p'],
  [/^uyyvyy411$/, 'yuv411p'],
  [/^(nv12|nv21)$/, 'yuv420p'],
  [/^p010[lb]e$/, 'yuv420p10le'],
];

function inOneOrder(pixels: string | null): string[] {
  if (pixels === null) return [];
  const [, order] = orders.find(([written]) => written.test(pixels)) ?? [];
  // Big-endian samples come back the other way round.
  const format = order ?? (/be$/.test(pixels) ? pixels.replace(/be$/, 'le') : null);
  return format === null ? [] : [`format=${format}`];
}

/** How a picture looks from far: its brightness on a small grid. */
const small = { width: 32, height: 18 };
const smallInBytes = small.width * small.height;

/** Pictures as they are told while they are decoded: a checksum of each, or how each looks from far. */
class Pictures {
  readonly list: (string | Uint8Array)[] = [];
  readonly #isExact: boolean;
  readonly #order: readonly string[];
  #left = Buffer.alloc(0);

  /** `order`: filters that bring exact pictures into one order of samples. */
  constructor(isExact: boolean, order: readonly string[]) {
    this.#isExact = isExact;
    this.#order = order;
  }

  arguments(filters: readonly string[]): string[] {
    const far = [`scale=${small.width}:${small.height}:flags=area`, 'format=gray'];
    const chain = [...filters, ...(this.#isExact ? this.#order : far)];
    return [
      ...(chain.length > 0 ? ['-filter:v', chain.join(',')] : []),
      ...['-fps_mode', 'passthrough', '-f', this.#isExact ? 'framemd5' : 'rawvideo', 'pipe:1'],
    ];
  }

  /** Takes what came, and says how many pictures that was. */
  add(chunk: Buffer): number {
    const before = this.list.length;
    let all = Buffer.concat([this.#left, chunk]);
    if (this.#isExact) {
      const lines = all.toString('latin1').split('\n');
      this.#left = Buffer.from(lines.pop()!, 'latin1');
      this.list.push(
        ...lines.flatMap((line) => (line.startsWith('#') || !line ? [] : [line.split(',').at(-1)!.trim()])),
      );
    } else {
      for (; all.length >= smallInBytes; all = all.subarray(smallInBytes))
        this.list.push(Uint8Array.from(all.subarray(0, smallInBytes)));
      this.#left = all;
    }
    return this.list.length - before;
  }
}

/** Of 255 steps of brightness; codings that lose little stay below 2. */
const mostApart = 8;

function requireAlike(
  path: string,
  told: readonly (string | Uint8Array)[],
  found: readonly (string | Uint8Array)[],
  range: FrameRange,
): void {
  if (told.length !== rangeLength(range)) throw notProven(path, { code: 'not-in-source' });
  if (found.length !== told.length)
    throw notProven(path, { code: 'pictures-counted', found: found.length, wanted: told.length });
  const differs = told.findIndex((picture, i) => !isAlike(picture, found[i]!));
  if (differs >= 0) throw notProven(path, { code: 'pictures-differ', fromFrame: differs });
}

function isAlike(a: string | Uint8Array, b: string | Uint8Array): boolean {
  if (typeof a === 'string' || typeof b === 'string') return a === b;
  return a.reduce((sum, value, i) => sum + Math.abs(value - b[i]!), 0) <= mostApart * a.length;
}
