import type { Detail, Facts, Unreadable } from '@legame/core/model';
import type { FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { endureAsync } from '../disk/conditions.ts';
import { withFileOf, type Ground } from '../disk/held.ts';
import { factsOfProbe } from './facts.ts';
import { givenFile, runFenced, type FencedLimits } from './fenced.ts';

export type Decoded =
  { readonly facts: Facts; readonly unreadable: null } | { readonly facts: null; readonly unreadable: Unreadable };

const limits: FencedLimits = { seconds: 15, cpuSeconds: 20, memoryInBytes: 1_500_000_000, outputInBytes: 4_000_000 };

/** Containers and stills that a media file may be. Playlists are absent on purpose: they make a decoder open other files. */
const acceptedFormats = [
  'mov,mp4,m4a,3gp,3g2,mj2',
  'mxf',
  'matroska,webm',
  'avi',
  'mpegts',
  'mpeg',
  'mpegvideo',
  'h264',
  'hevc',
  'dv',
  'gxf',
  'wav',
  'w64',
  'aiff',
  'flac',
  'mp3',
  'ogg',
  'caf',
  'aac',
  'image2',
  'png_pipe',
  'jpeg_pipe',
  'tiff_pipe',
  'dpx_pipe',
  'exr_pipe',
  'bmp_pipe',
  'webp_pipe',
  'j2k_pipe',
  'psd_pipe',
  'pam_pipe',
].join(',');

/** Arguments that keep a decoder to the one file it is given. */
export const decoderFence = [
  '-protocol_whitelist',
  'file',
  '-format_whitelist',
  acceptedFormats,
  '-max_pixels',
  '134217728',
  '-max_alloc',
  '1000000000',
];

/** How a decoder calls the file that it was given opened. */
export const theFile = `file:${givenFile()}`;

/** Decoders know what they are given by its content; one kind of still has nothing in it that tells. */
export const howToRead = (path: string): string[] =>
  /\.tga$/i.test(path) ? ['-f', 'image2', '-pattern_type', 'none', '-c:v', 'targa'] : [];

/** Facts of one file of a place, by the fenced prober. */
export async function askDecoder(ground: Ground, path: string, signal?: AbortSignal): Promise<Decoded | 'aborted'> {
  const patienceMs = 10_000;
  if (!(await endureAsync(join(ground.path, path), { signal, patienceMs })))
    return no({ code: 'no-answer', seconds: patienceMs / 1000 });
  return withFileOf(ground, path, (file) => probeOpened(file, path, signal));
}

/** The same of a file that is open. */
export async function probeOpened(file: FileHandle, path: string, signal?: AbortSignal): Promise<Decoded | 'aborted'> {
  const result = await runFenced(
    'ffprobe',
    [
      '-v',
      'error',
      ...decoderFence,
      ...howToRead(path),
      '-threads',
      '1',
      '-of',
      'json',
      '-show_format',
      '-show_streams',
      '-i',
      theFile,
    ],
    limits,
    { signal, files: [file] },
  );
  switch (result.end) {
    case 'aborted':
      return 'aborted';
    case 'too-slow':
      return no({ code: 'decoder-too-slow', seconds: result.seconds });
    case 'too-much-output':
      return no({ code: 'decoder-gave-up', detail: { code: 'header-beyond-files' } });
    case 'exited':
      return result.code === 0 ? interpret(result.stdout.toString('utf8'), result.stderr) : no(reasonOf(result.stderr));
  }
}

function interpret(json: string, stderr: string): Decoded {
  const facts = factsOfProbe(json);
  if (!facts) return no({ code: 'not-media', detail: { code: 'no-picture-no-sound' } });
  // A prober answers for files that it could not look into; then nothing measured is left of the picture.
  if (facts.kind !== 'sound' && !facts.raster) return no(reasonOf(stderr));
  return { facts, unreadable: null };
}

/** What a decoder's complaints come down to. Its wording is shown, never what it says of where files lie. */
export function reasonOf(stderr: string): Unreadable {
  const said = complaintsIn(stderr);
  const detail: Detail = said.at(-1) ?? { code: 'gave-no-reason' };
  if (said.some((line) => line.includes('Permission denied'))) return { code: 'no-permission' };
  if (
    said.some((line) =>
      /exceeds? specified max pixel|Picture size \S+ is invalid|Cannot allocate memory|max_alloc/i.test(line),
    )
  )
    return { code: 'too-large-to-decode', detail: said[0] ?? detail };
  if (said.some((line) => /partial file/i.test(line))) return { code: 'header-broken', detail: said[0] ?? detail };
  const notMedia = said.some((line) => /Invalid data found|not on whitelist|unknown format/i.test(line));
  return notMedia ? { code: 'not-media', detail } : { code: 'decoder-gave-up', detail };
}

export const complaintsIn = (stderr: string): string[] =>
  stderr
    .split('\n')
    .map((line) =>
      line
        .replace(/file:\/proc\/self\/fd\/(\d+|%d): /g, '')
        .replace(/(file:)?\/proc\/self\/fd\/(\d+|%d)/g, 'the file')
        .replace(/^(\[[^\]]*\]\s*)+/, '')
        .replace(/[.\s]+$/, '')
        .trim(),
    )
    .filter((line) => line !== '');

const no = (reason: Unreadable): Decoded => ({ facts: null, unreadable: reason });
