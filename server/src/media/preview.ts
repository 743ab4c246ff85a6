import type { Facts, MediaFile } from '@legame/core/model';
import type { Ground } from '../disk/held.ts';
import { complaintsIn } from './decoder.ts';
import { decoderFence, theFile } from './decoderFence.ts';
import type { FencedLimits } from './fenced.ts';
import { decodeGiven, failedToMake, seekTo, type PictureResult } from './picture.ts';
import { pathInPlace } from './read.ts';

/** From this frame of the file (0 is the first), so many frames; for sound, counted at 25 a second. */
export type PreviewPart = { readonly from: number; readonly frames: number };

const limits: FencedLimits = { seconds: 40, cpuSeconds: 60, memoryInBytes: 2_000_000_000, outputInBytes: 60_000_000 };
const longestInSeconds = 20;
const width = 480;
const soundRate = { num: 25, den: 1 };

/** A piece of a file as WebM for looking at: small and quickly made, at most 20 seconds. */
export async function makePreview(
  ground: Ground,
  file: Pick<MediaFile, 'folder' | 'name' | 'sequence'>,
  facts: Facts,
  { from, frames }: PreviewPart,
): Promise<PictureResult> {
  if (file.sequence || facts.kind === 'still') return { ok: false, detail: { code: 'plays-not' } };
  const rate = facts.kind === 'sound' ? soundRate : facts.rate;
  if (!rate) return { ok: false, detail: { code: 'rate-unknown' } };
  const seconds = Math.min(longestInSeconds, Math.max(0.2, (frames * rate.den) / rate.num));
  const picture =
    facts.kind === 'sound'
      ? ['-vn']
      : [
          '-vf',
          `scale=${width}:-2`,
          '-c:v',
          'libvpx',
          '-deadline',
          'realtime',
          '-cpu-used',
          '8',
          '-b:v',
          '700k',
          '-pix_fmt',
          'yuv420p',
        ];
  const result = await decodeGiven(ground, pathInPlace(file), limits, [
    ...decoderFence,
    '-threads',
    '1',
    ...seekTo(from, rate),
    '-i',
    theFile,
    '-t',
    seconds.toFixed(3),
    '-map',
    '0:v:0?',
    '-map',
    '0:a:0?',
    ...picture,
    '-c:a',
    'libopus',
    '-ac',
    '2',
    '-b:a',
    '64k',
    '-f',
    'webm',
    'pipe:1',
  ]);
  if ('detail' in result) return { ok: false, detail: result.detail };
  if (result.end !== 'exited') return failedToMake(result);
  if (result.stdout.length === 0)
    return { ok: false, detail: complaintsIn(result.stderr)[0]?.slice(0, 300) ?? { code: 'no-picture-given' } };
  return { ok: true, bytes: result.stdout };
}
