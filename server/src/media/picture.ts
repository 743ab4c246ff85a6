import type { Facts, MediaFile } from '@legame/core/model';
import { frameName } from '@legame/core/paths';
import type { Rate } from '@legame/core/time';
import { endureAsync } from '../disk/conditions.ts';
import { fileInsidePlace } from '../disk/fence.ts';
import { complaintsIn, decoderFence } from './decoder.ts';
import { runFenced, type FencedLimits, type FencedResult } from './fenced.ts';

const limits: FencedLimits = { seconds: 15, cpuSeconds: 20, memoryInBytes: 2_000_000_000, outputInBytes: 8_000_000 };

export type PictureResult =
  { readonly ok: true; readonly bytes: Buffer } | { readonly ok: false; readonly detail: string };

type Pictured = Pick<MediaFile, 'folder' | 'name' | 'sequence'>;

/**
 * One frame of a media file as JPEG, by its place in the file (0 is the first frame). Sound gives a drawing of its
 * wave. Frames past the end are the last one's neighbourhood and fail with a reason.
 */
export const takePicture = (
  placePath: string,
  file: Pictured,
  facts: Facts,
  frame: number,
  width = 480,
): Promise<PictureResult> => {
  const look = facts.kind === 'sound' ? waveOf(width) : ['-vf', `scale=${width}:-2`];
  return takeFrame(placePath, file, facts, frame, [...look, '-f', 'image2pipe', '-c:v', 'mjpeg', '-q:v', '5']);
};

const waveOf = (width: number): string[] => [
  '-filter_complex',
  `showwavespic=s=${width}x${Math.round(width / 3)}:colors=0x0F6E67`,
];

const [sampleWidth, sampleHeight] = [32, 18];

/** Grey values of one frame of picture, made small: enough to tell a picture from another. */
export async function takeSample(
  placePath: string,
  file: Pictured,
  facts: Facts,
  frame: number,
): Promise<Uint8Array | null> {
  const look = ['-vf', `scale=${sampleWidth}:${sampleHeight},format=gray`, '-f', 'rawvideo'];
  const result = await takeFrame(placePath, file, facts, frame, look);
  return result.ok && result.bytes.length === sampleWidth * sampleHeight ? new Uint8Array(result.bytes) : null;
}

/** `look`: what the decoder makes of the frame, and as what it is written. */
async function takeFrame(
  placePath: string,
  file: Pictured,
  facts: Facts,
  frame: number,
  look: readonly string[],
): Promise<PictureResult> {
  const name = file.sequence
    ? frameName(file.sequence, Math.min(file.sequence.last, file.sequence.first + frame))
    : file.name;
  const path = await fileInsidePlace(placePath, file.folder === '' ? name : `${file.folder}/${name}`);
  if (!path) return { ok: false, detail: 'the file is not there' };
  if (!(await endureAsync(path))) return { ok: false, detail: 'its drive does not answer' };
  const result = await runFenced(
    'ffmpeg',
    ['-v', 'error', '-nostdin', ...frameArguments(path, facts, frame), ...look, 'pipe:1'],
    limits,
  );
  if (result.end !== 'exited') return failedToMake(result);
  if (result.code !== 0 || result.stdout.length === 0)
    return { ok: false, detail: complaintsIn(result.stderr, path)[0]?.slice(0, 300) || 'the decoder gave no picture' };
  return { ok: true, bytes: result.stdout };
}

export const failedToMake = (result: Exclude<FencedResult, { end: 'exited' }>): PictureResult => ({
  ok: false,
  detail: result.end === 'too-slow' ? `decoding took longer than ${result.seconds} s` : 'the decoder was stopped',
});

/** Half a frame early, so that rounding in the container's time base cannot step past the wanted frame. */
export const seekTo = (frame: number, rate: Rate): string[] =>
  frame > 0 ? ['-ss', (((frame - 0.5) * rate.den) / rate.num).toFixed(6)] : [];

function frameArguments(path: string, facts: Facts, frame: number): string[] {
  // A "%04d" in a still's name must not be taken for a pattern; other demuxers do not know the option.
  const literalName = facts.container === 'image2' ? ['-pattern_type', 'none'] : [];
  const seek = facts.kind === 'picture' && facts.rate ? seekTo(frame, facts.rate) : [];
  const noSound = facts.kind === 'sound' ? [] : ['-an'];
  return [
    ...decoderFence,
    ...literalName,
    '-threads',
    '1',
    ...seek,
    '-i',
    `file:${path}`,
    ...noSound,
    '-frames:v',
    '1',
  ];
}
