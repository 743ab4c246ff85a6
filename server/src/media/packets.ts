import type { FileHandle } from 'node:fs/promises';
import { z } from 'zod';
import { rate as makeRate, snapToStandard, type FrameRange, type Rate } from '@legame/core/time';
import { decoderFence, theFile } from './decoderFence.ts';
import { readPictures } from '@legame/core/headers';
import { xxh64Of } from './hashing.ts';
import { readerOf } from './openFile.ts';
import { probedSchema, traitsOf } from './traits.ts';
import type { PictureStream, Streams } from './trim.ts';
import { runFenced, type FencedLimits } from './fenced.ts';

/** One coded picture: which frame of presentation it is, and whether decoding can begin there. */
export type Packet = { readonly frame: number; readonly isKey: boolean; readonly hash: string | null };

const limitsFor = (sizeInBytes: number): FencedLimits => {
  // As fast as a slow drive reads, and a while to begin.
  const seconds = Math.ceil(60 + sizeInBytes / 10_000_000);
  return { seconds, cpuSeconds: seconds * 2, memoryInBytes: 2_000_000_000, outputInBytes: 1_000_000_000 };
};

const fraction = z
  .string()
  .regex(/^\d+\/\d+$/)
  .transform((text) => text.split('/').map(Number) as [number, number])
  .refine(([num, den]) => num > 0 && den > 0)
  .transform(([num, den]) => makeRate(num, den));
const streamsSchema = z.object({
  streams: z.array(
    probedSchema.extend({
      codec_name: z.string().default(''),
      time_base: fraction,
      r_frame_rate: z.string().default(''),
      start_pts: z.number().default(0),
      sample_rate: z.coerce.number().optional(),
    }),
  ),
});

/** Timecode tracks are made anew; they have no codec that anybody names. Pictures bear timecode as well. */
const isTimecode = ({ codec_type: type, tags }: { readonly codec_type: string; readonly tags: object }): boolean =>
  type !== 'video' && 'timecode' in tags;

/** What is in a file, as the decoder's library counts it; null where it holds no picture that counts. */
export async function readStreams(file: FileHandle, signal?: AbortSignal): Promise<Streams | null> {
  const { size } = await file.stat();
  const text = await ask(file, ['-show_streams'], limitsFor(Math.min(size, 1_000_000_000)), signal);
  const parsed = text === null ? null : streamsSchema.safeParse(JSON.parse(text));
  const streams = parsed?.success ? parsed.data.streams : [];
  const picture = streams.find((s) => s.codec_type === 'video');
  const rate = picture && fraction.safeParse(picture.r_frame_rate);
  if (!picture || !rate?.success) return null;
  return {
    picture: { rate: snapToStandard(rate.data), timeBase: picture.time_base, start: picture.start_pts },
    sound: streams
      .filter((s) => s.codec_type === 'audio')
      .map((s) => ({ codec: s.codec_name, sampleRate: s.sample_rate ?? 0 })),
    others: streams.filter((s) => s !== picture && s.codec_type !== 'audio' && !isTimecode(s)).length,
    traits: traitsOf(streams, null),
  };
}

/** The presentation time of a frame, in the stream's time base, rounded; halves tell frames apart safely. */
export function timeOf({ rate, timeBase, start }: PictureStream, frame: number): number {
  return Math.round(start + (frame * rate.den * timeBase.den) / (rate.num * timeBase.num));
}

/** Which frame is presented at this time, from the first on. */
export function frameAt({ rate, timeBase, start }: PictureStream, time: number): number {
  return Math.round(((time - start) * rate.num * timeBase.num) / (rate.den * timeBase.den));
}

/** Seconds from the stream's zero at which a frame is presented, for seeking. */
export const secondsAt = (stream: PictureStream, frame: number): number =>
  (timeOf(stream, frame) * stream.timeBase.num) / stream.timeBase.den;

/** The coded pictures of a file in the order they are decoded. Null where nobody can tell. */
export async function readPackets(
  file: FileHandle,
  stream: PictureStream,
  signal?: AbortSignal,
): Promise<Packet[] | null> {
  const { size } = await file.stat();
  // The index of a movie tells; of other files all has to be read.
  const indexed = readPictures(readerOf(file.fd, size));
  if (indexed) return indexed.map(({ frame, isKey }) => ({ frame, isKey, hash: null }));
  const asked = ['-select_streams', 'v:0', '-show_entries', 'packet=pts,dts,flags'];
  const parsed = parsePackets(await ask(file, asked, limitsFor(size), signal));
  return parsed && packetsOf(parsed.packets, stream);
}

/** The coded pictures of a movie, by its own index and without anybody's help, with a checksum of each. */
export async function hashPictures(file: FileHandle, within?: FrameRange): Promise<Packet[] | null> {
  const source = readerOf(file.fd, (await file.stat()).size);
  const isWithin = ({ frame }: { frame: number }) => !within || (frame >= within.start && frame < within.end);
  return (
    readPictures(source)
      ?.filter(isWithin)
      .map(({ offset, size, ...packet }) => ({ ...packet, hash: xxh64Of(source.read(offset, size)) })) ?? null
  );
}

/** The same of any file, as the decoder's library reads it. */
export async function readWhole(file: FileHandle, signal?: AbortSignal): Promise<Packet[] | null> {
  const { size } = await file.stat();
  const shown = 'packet=pts,dts,flags,data_hash:stream=time_base,r_frame_rate,start_pts';
  const asked = ['-select_streams', 'v:0', '-show_data_hash', 'md5', '-show_entries', shown];
  const parsed = parsePackets(await ask(file, asked, limitsFor(size), signal));
  const stream = parsed?.streams[0];
  const rate = stream && fraction.safeParse(stream.r_frame_rate);
  if (!stream || !rate?.success) return null;
  return packetsOf(parsed.packets, {
    rate: snapToStandard(rate.data),
    timeBase: stream.time_base,
    start: stream.start_pts,
  });
}

const packetsSchema = z.object({
  packets: z.array(
    z.object({
      pts: z.number().optional(),
      dts: z.number().optional(),
      flags: z.string().default(''),
      data_hash: z.string().optional(),
    }),
  ),
  streams: z
    .array(z.object({ time_base: fraction, r_frame_rate: z.string(), start_pts: z.number().default(0) }))
    .default([]),
});

function parsePackets(text: string | null): z.infer<typeof packetsSchema> | null {
  const parsed = text === null ? null : packetsSchema.safeParse(JSON.parse(text));
  return parsed?.success ? parsed.data : null;
}

const packetsOf = (packets: z.infer<typeof packetsSchema>['packets'], stream: PictureStream): Packet[] =>
  packets.flatMap((p): Packet[] => {
    const time = p.pts ?? p.dts;
    const hash = p.data_hash?.replace(/^md5:/i, '') ?? null;
    return time === undefined ? [] : [{ frame: frameAt(stream, time), isKey: p.flags.includes('K'), hash }];
  });

/** Packets as they are told while they are written, a line each: stream, dts, pts, duration, size, checksum. */
export class PacketList {
  readonly packets: Packet[] = [];
  readonly #stream: PictureStream;
  #timeBase: Rate | null = null;
  #left = '';

  constructor(stream: PictureStream) {
    this.#stream = stream;
  }

  /** Takes what came, and says how many bytes of coded picture that was. */
  add(text: string): number {
    const lines = (this.#left + text).split('\n');
    this.#left = lines.pop()!;
    return lines.reduce((sum, line) => sum + this.#line(line), 0);
  }

  #line(line: string): number {
    const base = /^#tb 0: (\d+)\/(\d+)/.exec(line);
    if (base) this.#timeBase = makeRate(Number(base[1]), Number(base[2]));
    const [, , pts, , size, hash] = line.split(',').map((part) => part.trim());
    if (line.startsWith('#') || hash === undefined || !this.#timeBase) return 0;
    const { timeBase, start } = this.#stream;
    const inOwn = (start * timeBase.num * this.#timeBase.den) / (timeBase.den * this.#timeBase.num);
    const frame = frameAt({ ...this.#stream, timeBase: this.#timeBase, start: inOwn }, Number(pts));
    this.packets.push({ frame, isKey: false, hash });
    return Number(size);
  }
}

async function ask(
  file: FileHandle,
  what: readonly string[],
  limits: FencedLimits,
  signal: AbortSignal | undefined,
): Promise<string | null> {
  const args = ['-v', 'error', ...decoderFence, '-threads', '1', '-of', 'json=compact=1', ...what, '-i', theFile];
  const result = await runFenced('ffprobe', args, limits, { signal, files: [file] });
  if (result.end === 'aborted') throw new DOMException('Aborted', 'AbortError');
  return result.end === 'exited' && result.code === 0 ? result.stdout.toString('utf8') : null;
}
