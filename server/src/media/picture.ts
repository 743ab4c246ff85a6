import type { Detail, Facts, MediaFile } from '@legame/core/model';
import { frameName } from '@legame/core/paths';
import type { Rate } from '@legame/core/time';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { endureAsync } from '../disk/conditions.ts';
import { withFileOf, type Ground } from '../disk/held.ts';
import { complaintsIn } from './decoder.ts';
import { decoderFence, howToRead, theFile } from './decoderFence.ts';
import { UserProblem } from '../problems.ts';
import { codeOf } from '../disk/failures.ts';
import { runFenced, type FencedLimits, type FencedResult } from './fenced.ts';

const limits: FencedLimits = { seconds: 15, cpuSeconds: 20, memoryInBytes: 2_000_000_000, outputInBytes: 8_000_000 };

export type PictureResult =
  { readonly ok: true; readonly bytes: Buffer } | { readonly ok: false; readonly detail: Detail };

type Pictured = Pick<MediaFile, 'folder' | 'name' | 'sequence'>;

/**
 * One frame of a media file as JPEG, by its place in the file (0 is the first frame). Sound gives a drawing of its
 * wave. Frames past the end are the last one's neighbourhood and fail with a reason.
 */
export const takePicture = (
  ground: Ground,
  file: Pictured,
  facts: Facts,
  frame: number,
  width = 480,
): Promise<PictureResult> => {
  const look = facts.kind === 'sound' ? waveOf(width) : ['-vf', `scale=${width}:-2`];
  return takeFrame(ground, file, facts, frame, [...look, '-f', 'image2pipe', '-c:v', 'mjpeg', '-q:v', '5']);
};

const waveOf = (width: number): string[] => [
  '-filter_complex',
  `showwavespic=s=${width}x${Math.round(width / 3)}:colors=0x0F6E67`,
];

const [sampleWidth, sampleHeight] = [32, 18];

/** Grey values of one frame of picture, made small: enough to tell a picture from another. */
export async function takeSample(
  ground: Ground,
  file: Pictured,
  facts: Facts,
  frame: number,
): Promise<Uint8Array | null> {
  const look = ['-vf', `scale=${sampleWidth}:${sampleHeight},format=gray`, '-f', 'rawvideo'];
  const result = await takeFrame(ground, file, facts, frame, look);
  return result.ok && result.bytes.length === sampleWidth * sampleHeight ? new Uint8Array(result.bytes) : null;
}

/** `look`: what the decoder makes of the frame, and as what it is written. */
async function takeFrame(
  ground: Ground,
  file: Pictured,
  facts: Facts,
  frame: number,
  look: readonly string[],
): Promise<PictureResult> {
  const name = file.sequence
    ? frameName(file.sequence, Math.min(file.sequence.last, file.sequence.first + frame))
    : file.name;
  const path = file.folder === '' ? name : `${file.folder}/${name}`;
  const result = await decodeGiven(ground, path, limits, [...frameArguments(path, facts, frame), ...look, 'pipe:1']);
  if ('detail' in result) return { ok: false, detail: result.detail };
  if (result.end !== 'exited') return failedToMake(result);
  if (result.code !== 0 || result.stdout.length === 0)
    return { ok: false, detail: complaintsIn(result.stderr)[0]?.slice(0, 300) || { code: 'no-picture-given' } };
  return { ok: true, bytes: result.stdout };
}

/** A share that hangs in the system itself would hold whoever opens a file on it for ever. */
const longestToOpenMs = 60_000;

type Decoded = FencedResult | { readonly detail: Detail };

/** Runs the decoder on a file of a place, which it is given opened; or why that was not possible. */
export async function decodeGiven(
  ground: Ground,
  path: string,
  fence: FencedLimits,
  args: readonly string[],
): Promise<Decoded> {
  if (!(await endureAsync(join(ground.path, path)))) return { detail: { code: 'drive-silent' } };
  let isOpen = false;
  const decoded: Promise<Decoded> = withFileOf(ground, path, (file) => {
    isOpen = true;
    return runFenced('ffmpeg', ['-v', 'error', '-nostdin', ...args], fence, { files: [file] });
  }).catch((error: unknown) => {
    if (error instanceof UserProblem || codeOf(error) === 'ENOENT') return { detail: { code: 'file-gone' } };
    throw error;
  });
  const settled = new AbortController();
  const silent = after(longestToOpenMs, undefined, { ref: false, signal: settled.signal }).then(
    (): Decoded | Promise<Decoded> => (isOpen ? decoded : { detail: { code: 'drive-silent' } }),
    () => decoded,
  );
  return Promise.race([decoded, silent]).finally(() => settled.abort());
}

export const failedToMake = (result: Exclude<FencedResult, { end: 'exited' }>): PictureResult => ({
  ok: false,
  detail:
    result.end === 'too-slow' ? { code: 'decoding-too-long', seconds: result.seconds } : { code: 'decoder-stopped' },
});

/** Half a frame early, so that rounding in the container's time base cannot step past the wanted frame. */
export const seekTo = (frame: number, rate: Rate): string[] =>
  frame > 0 ? ['-ss', (((frame - 0.5) * rate.den) / rate.num).toFixed(6)] : [];

function frameArguments(path: string, facts: Facts, frame: number): string[] {
  const seek = facts.kind === 'picture' && facts.rate ? seekTo(frame, facts.rate) : [];
  const noSound = facts.kind === 'sound' ? [] : ['-an'];
  return [...decoderFence, ...howToRead(path), '-threads', '1', ...seek, '-i', theFile, ...noSound, '-frames:v', '1'];
}
