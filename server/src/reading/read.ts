import { open, stat } from 'node:fs/promises';
import { frameName, type Facts, type MediaFile, type Unreadable } from '@legame/core';
import { fileInsidePlace } from '../places/fence.ts';
import { factsOfProbe } from './facts.ts';
import { runFenced, type FencedLimits } from './fenced.ts';

export type Reading =
  { readonly facts: Facts; readonly unreadable: null } | { readonly facts: null; readonly unreadable: Unreadable };

const limits: FencedLimits = { seconds: 15, cpuSeconds: 20, memoryInBytes: 1_500_000_000, outputInBytes: 4_000_000 };

/** Containers and stills that a media file may be. Playlists are absent on purpose: they make a decoder open other files. */
export const acceptedFormats = [
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

/** Measures one media file with the fenced prober. What cannot be read comes back with the reason, never as a throw. */
export async function readMediaFile(
  placePath: string,
  file: Pick<MediaFile, 'folder' | 'name' | 'sequence'>,
  signal?: AbortSignal,
): Promise<Reading | 'aborted'> {
  const name = file.sequence ? frameName(file.sequence, file.sequence.first) : file.name;
  const path = await fileInsidePlace(placePath, file.folder === '' ? name : `${file.folder}/${name}`);
  if (!path) return unreadable({ code: 'outside-place' });
  const found = await stat(path).catch(() => null);
  if (!found) return unreadable({ code: 'no-permission' });
  if (found.size === 0) return unreadable({ code: 'file-empty' });
  const result = await runFenced(
    'ffprobe',
    [
      '-v',
      'error',
      ...decoderFence,
      '-pattern_type',
      'none',
      '-threads',
      '1',
      '-of',
      'json',
      '-show_format',
      '-show_streams',
      '-i',
      `file:${path}`,
    ],
    limits,
    signal,
  );
  switch (result.end) {
    case 'aborted':
      return 'aborted';
    case 'too-slow':
      return unreadable({ code: 'decoder-too-slow', seconds: result.seconds });
    case 'too-much-output':
      return unreadable({ code: 'decoder-gave-up', detail: 'its header describes more than any real file has' });
    case 'exited':
      return result.code === 0
        ? interpret(result.stdout.toString('utf8'), file)
        : unreadable(reasonOf(result.stderr, path, await beginsAsMovie(path)));
  }
}

function interpret(json: string, file: Pick<MediaFile, 'sequence'>): Reading {
  const facts = factsOfProbe(json);
  if (!facts) return unreadable({ code: 'not-media', detail: 'it holds neither picture nor sound' });
  if (!file.sequence) return { facts, unreadable: null };
  const { first, last } = file.sequence;
  // Numbered stills state no rate; the edit's counts. 25 is only what tools assume, so none is claimed.
  return {
    facts: { ...facts, kind: 'sequence', rate: null, start: first, length: last - first + 1 },
    unreadable: null,
  };
}

/** Whether the first box is one that MOV and MP4 begin with (ISO 14496-12): a text file named .mov is not a broken film. */
async function beginsAsMovie(path: string): Promise<boolean> {
  const file = await open(path, 'r').catch(() => null);
  if (!file) return false;
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(8), 0, 8, 0);
    return (
      bytesRead === 8 &&
      ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip', 'pnot'].includes(buffer.toString('latin1', 4, 8))
    );
  } finally {
    await file.close();
  }
}

function reasonOf(stderr: string, path: string, isMovie: boolean): Unreadable {
  const lines = stderr.split('\n').map((line) =>
    line
      .replaceAll(`file:${path}: `, '')
      .replaceAll(path, 'the file')
      .replace(/^\[[^\]]*\]\s*/, '')
      .trim(),
  );
  const said = lines.filter((line) => line !== '');
  if (said.some((line) => line.includes('Permission denied'))) return { code: 'no-permission' };
  const detail = said.at(-1) ?? 'the decoder gave no reason';
  const notMedia = said.some((line) =>
    /Invalid data found|not on whitelist|Format not on whitelist|unknown format/i.test(line),
  );
  const brokenHeader = said.some(
    (line) => /partial file/i.test(line) || (isMovie && /moov atom not found|error reading header/i.test(line)),
  );
  if (brokenHeader) return { code: 'shorter-than-header', detail: said[0] ?? detail };
  return notMedia ? { code: 'not-media', detail } : { code: 'decoder-gave-up', detail };
}

const unreadable = (reason: Unreadable): Reading => ({ facts: null, unreadable: reason });
