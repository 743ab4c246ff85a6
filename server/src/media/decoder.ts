import type { Detail, Facts, Unreadable } from '@legame/core/model';
import type { FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { endureAsync } from '../disk/conditions.ts';
import { withFileOf, type Ground } from '../disk/held.ts';
import { factsOfProbe } from './facts.ts';
import { decoderFence, howToRead, theFile } from './decoderFence.ts';
import { runFenced, type FencedLimits } from './fenced.ts';
import { withCountedLength } from './soundLength.ts';

export type Decoded =
  { readonly facts: Facts; readonly unreadable: null } | { readonly facts: null; readonly unreadable: Unreadable };

const limits: FencedLimits = { seconds: 15, cpuSeconds: 20, memoryInBytes: 1_500_000_000, outputInBytes: 4_000_000 };

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
    case 'exited': {
      if (result.code !== 0) return no(reasonOf(result.stderr));
      const decoded = interpret(result.stdout.toString('utf8'), result.stderr);
      const facts = decoded.facts && (await withCountedLength(file, decoded.facts, signal));
      return facts === 'aborted' ? 'aborted' : facts ? { facts, unreadable: null } : decoded;
    }
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
