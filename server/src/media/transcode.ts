import type { FileHandle } from 'node:fs/promises';
import type { Facts, Raster } from '@legame/core/model';
import { formatTimecode } from '@legame/core/time';
import { complaintsIn, decoderFence, theFile } from './decoder.ts';
import { givenFile, runFenced } from './fenced.ts';

export type CopyForm = {
  readonly codec: 'ffv1' | 'dnxhd' | 'h264' | 'mjpeg';
  readonly largestBitDepth: number | null;
  readonly largestRaster: Raster | null;
};

type Encoder = { readonly extension: string; readonly muxer: string; readonly arguments: readonly string[] };

/** How each form is written. Depth follows what the project takes: eight bits, or ten. */
export function encoderFor({ codec, largestBitDepth }: CopyForm, facts: Facts): Encoder {
  const isDeep = (facts.bitDepth ?? 8) > 8 && (largestBitDepth ?? 99) >= 10;
  switch (codec) {
    case 'ffv1':
      return {
        extension: 'mkv',
        muxer: 'matroska',
        arguments: [
          '-c:v',
          'ffv1',
          '-level',
          '3',
          '-g',
          '1',
          '-slicecrc',
          '1',
          '-pix_fmt',
          isDeep ? 'yuv422p10le' : 'yuv422p',
        ],
      };
    case 'dnxhd':
      return {
        extension: 'mov',
        muxer: 'mov',
        arguments: [
          '-c:v',
          'dnxhd',
          '-profile:v',
          isDeep ? 'dnxhr_hqx' : 'dnxhr_hq',
          '-pix_fmt',
          isDeep ? 'yuv422p10le' : 'yuv422p',
        ],
      };
    case 'h264':
      return {
        extension: 'mov',
        muxer: 'mov',
        arguments: ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '14', '-pix_fmt', 'yuv420p'],
      };
    case 'mjpeg':
      return { extension: 'mov', muxer: 'mov', arguments: ['-c:v', 'mjpeg', '-q:v', '2', '-pix_fmt', 'yuvj422p'] };
  }
}

/**
 * Writes a film in another form: same frames, same timecode, same reel; sound as PCM. The caller proves the result.
 * Null when it worked, else the decoder's or encoder's complaint.
 */
export async function transcode(
  source: FileHandle,
  target: FileHandle,
  facts: Facts,
  form: CopyForm,
  signal: AbortSignal,
): Promise<string | null> {
  const encoder = encoderFor(form, facts);
  const seconds = facts.rate && facts.length !== null ? (facts.length * facts.rate.den) / facts.rate.num : 600;
  const allowed = Math.ceil(60 + seconds * 30);
  const result = await runFenced(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      // The file is there already, and empty: it was made so that it is nobody else's.
      '-y',
      ...decoderFence,
      '-i',
      theFile,
      '-map',
      '0:v:0',
      '-map',
      '0:a?',
      ...scaled(facts.raster, form.largestRaster),
      ...encoder.arguments,
      '-fps_mode',
      'passthrough',
      '-c:a',
      'pcm_s24le',
      '-map_metadata',
      '-1',
      ...identity(facts, encoder.muxer),
      '-f',
      encoder.muxer,
      `file:${givenFile(1)}`,
    ],
    { seconds: allowed, cpuSeconds: allowed * 2, memoryInBytes: 4_000_000_000, outputInBytes: 1_000_000 },
    { signal, files: [source, target] },
  );
  if (result.end === 'aborted') throw new DOMException('Aborted', 'AbortError');
  if (result.end === 'too-slow') return `it took longer than ${allowed} s`;
  if (result.end !== 'exited') return 'the encoder was stopped';
  return result.code === 0 ? null : (complaintsIn(result.stderr)[0] ?? 'the encoder gave no reason');
}

/** Start and reel, as each container keeps them. */
function identity({ rate, start, counting, reel, timecodeSource }: Facts, muxer: string): string[] {
  const timecode = rate && timecodeSource === 'timecode' ? formatTimecode(start, rate, counting) : null;
  const written =
    timecode === null ? [] : muxer === 'matroska' ? ['-metadata', `timecode=${timecode}`] : ['-timecode', timecode];
  return [...written, ...(reel ? ['-metadata', `reel_name=${reel}`, '-metadata:s:v:0', `reel_name=${reel}`] : [])];
}

/** Made smaller in the same shape where it is larger than the project takes. Encoders want even sizes. */
function scaled(raster: Raster | null, largest: Raster | null): string[] {
  if (!raster || !largest || (raster.width <= largest.width && raster.height <= largest.height)) return [];
  return ['-vf', `scale=${largest.width}:${largest.height}:force_original_aspect_ratio=decrease:force_divisible_by=2`];
}
