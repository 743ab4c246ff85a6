import { createHash } from 'node:crypto';
import type { FileHandle } from 'node:fs/promises';
import { z } from 'zod';
import type { CodedSound } from '@legame/core/consolidate';
import type { LostTrait } from '@legame/core/contract';
import { waveAround } from '@legame/core/headers';
import { rangeLength } from '@legame/core/time';
import { writeAll, type CopyOptions } from './copying.ts';
import { decoderFence, theFile } from './decoderFence.ts';
import { firstGiven, runFenced } from './fenced.ts';
import { notProven, Written, type Part } from './part.ts';
import { probedSchema, traitsOf } from './traits.ts';
import { toTheEnd } from './transcode.ts';
import type { Trim } from './trim.ts';

type ToCode = Trim & { readonly coded: CodedSound };

/** Coded sound comes in blocks, and what states its length counts the last of them whole: so much may be filled with silence. */
const mostMissing = 4096;
const pieceInBytes = 1024 * 1024;

/**
 * A part of a recording of sound as PCM in a WAVE file: same samples from the same time on, its reel. All tracks of sound
 * become channels of it, in their order. What was decoded is decoded once more and held against what the disk gives back.
 */
export async function codedSoundPart(
  file: FileHandle,
  path: string,
  { facts, coded, range, startsAt }: ToCode,
  { signal }: Pick<CopyOptions, 'signal'>,
): Promise<Part> {
  const tracks = await tracksOf(file, path, signal);
  const channels = tracks.reduce((sum, track) => sum + track.channels, 0);
  const sampleRate = facts.sampleRate!;
  // Tracks of other rates would have to be counted otherwise than the edit does.
  if (tracks.some((track) => track.sample_rate !== sampleRate)) throw notProven(path, { code: 'frames-uncountable' });
  const wanted = rangeLength(range);
  const shape = { codec: coded.codec, channels, sampleRate };
  const { head, tail, bytesPerSample } = waveAround(shape, wanted, { startsAt, reel: facts.reel });
  const cut = `atrim=start_sample=${range.start}:end_sample=${range.end}`;
  const filter = `${tracks.length > 1 ? joined(tracks.length, channels) : '[0:a:0]'}${cut}[cut]`;
  const decoding = ['-i', theFile, '-filter_complex', filter, '-map', '[cut]', '-c:a', coded.codec];
  const raw = coded.codec.slice('pcm_'.length);
  const mostSilence = coded.isExact && !facts.doubts.includes('length-estimated') ? 0 : mostMissing;
  let held = 0;
  return {
    channels,
    lost: lostOfTracks(tracks),
    write: async (copy, options) => {
      await writeAll(copy, head);
      // The decoder goes on writing where the head ends: it was given the very file.
      const progress = new Written();
      const out = ['-f', raw, `pipe:${firstGiven + 1}`, '-progress', 'pipe:1'];
      const take = (chunk: Buffer) => options.onBytes(progress.add(chunk.toString('latin1')));
      await toTheEnd(path, facts, [...decoding, ...out], { files: [file, copy], take }, options);
      const { size } = await copy.stat();
      held = (size - head.length) / bytesPerSample;
      const missing = wanted - held;
      if (missing < 0 || !Number.isInteger(held) || missing > mostSilence)
        throw notProven(path, { code: 'not-in-source' });
      await writeAll(copy, Buffer.alloc(missing * bytesPerSample, coded.codec === 'pcm_u8' ? 128 : 0));
      await writeAll(copy, tail);
      return null;
    },
    prove: async (back, options) => {
      const how = ['-f', 'hash', '-hash', 'md5', 'pipe:1'];
      const told = await toTheEnd(path, facts, [...decoding, ...how], { files: [file] }, options);
      const found = await hashOfStretch(back, head.length, held * bytesPerSample, options);
      if (told.toString('latin1').trim() !== `MD5=${found}`) throw notProven(path, { code: 'sound-differs' });
    },
  };
}

/**
 * Tracks one behind the other. The library puts channels into an order of its own unless two tracks claim one of them; so
 * the first is given twice, and what came of that is left out again.
 */
function joined(tracks: number, channels: number): string {
  const others = Array.from({ length: tracks - 1 }, (_, i) => `[0:a:${i + 1}]`).join('');
  const kept = Array.from({ length: channels }, (_, i) => `c${i}=c${i}`).join('|');
  return `[0:a:0]asplit[first][again];[first]${others}[again]amerge=inputs=${tracks + 1},pan=${channels}c|${kept},`;
}

/** A WAVE file has no names for its tracks, and is not told how more than two channels lie. */
function lostOfTracks(streams: readonly z.infer<typeof probedSchema>[]): LostTrait[] {
  const { tracks } = traitsOf(streams, null);
  const isLost = {
    channels: tracks.some((track) => track.layout !== null),
    'track-names': tracks.some((track) => track.name !== null),
    languages: tracks.some((track) => track.language !== null),
  };
  return (['channels', 'track-names', 'languages'] as const).filter((trait) => isLost[trait]);
}

const tracksSchema = z.object({
  streams: z.array(probedSchema.extend({ channels: z.int().positive(), sample_rate: z.coerce.number() })).min(1),
});

async function tracksOf(file: FileHandle, path: string, signal: AbortSignal) {
  const asked = ['-select_streams', 'a', '-show_streams'];
  const args = ['-v', 'error', ...decoderFence, '-threads', '1', '-of', 'json=compact=1', ...asked, '-i', theFile];
  const limits = { seconds: 60, cpuSeconds: 60, memoryInBytes: 1_500_000_000, outputInBytes: 1_000_000 };
  const result = await runFenced('ffprobe', args, limits, { signal, files: [file] });
  if (result.end === 'aborted') throw new DOMException('Aborted', 'AbortError');
  const parsed =
    result.end === 'exited' && result.code === 0 ? tracksSchema.safeParse(JSON.parse(result.stdout.toString())) : null;
  if (!parsed?.success) throw notProven(path, { code: 'frames-uncountable' });
  return parsed.data.streams;
}

/** What the disk gives back of a stretch of the file, as checksum. */
async function hashOfStretch(
  file: FileHandle,
  offset: number,
  length: number,
  { signal, onBytes }: Pick<CopyOptions, 'signal' | 'onBytes'>,
): Promise<string> {
  const hash = createHash('md5');
  const buffer = Buffer.allocUnsafe(pieceInBytes);
  for (let at = offset; at < offset + length;) {
    signal.throwIfAborted();
    const { bytesRead } = await file.read(buffer, 0, Math.min(pieceInBytes, offset + length - at), at);
    if (bytesRead === 0) break;
    hash.update(buffer.subarray(0, bytesRead));
    at += bytesRead;
    onBytes(0);
  }
  return hash.digest('hex');
}
