import { frameName, type Facts, type MediaFile } from '@legame/core';
import { fileInsidePlace } from '../places/fence.ts';
import { runFenced, type FencedLimits } from './fenced.ts';
import { decoderFence } from './read.ts';

const limits: FencedLimits = { seconds: 15, cpuSeconds: 20, memoryInBytes: 2_000_000_000, outputInBytes: 8_000_000 };
export const pictureWidth = 480;

export type PictureResult =
  { readonly ok: true; readonly jpeg: Buffer } | { readonly ok: false; readonly detail: string };

/**
 * One frame of a media file as JPEG, by its place in the file (0 is the first frame). Sound gives a drawing of its
 * wave. Frames past the end are the last one's neighbourhood and fail with a reason.
 */
export async function takePicture(
  placePath: string,
  file: Pick<MediaFile, 'folder' | 'name' | 'sequence'>,
  facts: Facts,
  frame: number,
): Promise<PictureResult> {
  const name = file.sequence
    ? frameName(file.sequence, Math.min(file.sequence.last, file.sequence.first + frame))
    : file.name;
  const path = await fileInsidePlace(placePath, file.folder === '' ? name : `${file.folder}/${name}`);
  if (!path) return { ok: false, detail: 'the file is not there' };
  const result = await runFenced(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      ...pictureArguments(path, facts, frame),
      '-f',
      'image2pipe',
      '-c:v',
      'mjpeg',
      '-q:v',
      '5',
      'pipe:1',
    ],
    limits,
  );
  if (result.end !== 'exited')
    return {
      ok: false,
      detail: result.end === 'too-slow' ? `decoding took longer than ${result.seconds} s` : 'the decoder was stopped',
    };
  if (result.code !== 0 || result.stdout.length === 0)
    return { ok: false, detail: result.stderr.split('\n')[0]?.slice(0, 300) || 'the decoder gave no picture' };
  return { ok: true, jpeg: result.stdout };
}

function pictureArguments(path: string, facts: Facts, frame: number): string[] {
  // A "%04d" in a still's name must not be taken for a pattern; other demuxers do not know the option.
  const literalName = facts.container === 'image2' ? ['-pattern_type', 'none'] : [];
  const input = [...decoderFence, ...literalName, '-threads', '1'];
  if (facts.kind === 'sound') {
    return [
      ...input,
      '-i',
      `file:${path}`,
      '-filter_complex',
      `showwavespic=s=${pictureWidth}x160:colors=0x0F6E67`,
      '-frames:v',
      '1',
    ];
  }
  // Half a frame early, so that rounding in the container's time base cannot step past the wanted frame.
  const seek =
    facts.kind === 'picture' && facts.rate && frame > 0
      ? ['-ss', (((frame - 0.5) * facts.rate.den) / facts.rate.num).toFixed(6)]
      : [];
  return [...input, ...seek, '-i', `file:${path}`, '-an', '-frames:v', '1', '-vf', `scale=${pictureWidth}:-2`];
}
