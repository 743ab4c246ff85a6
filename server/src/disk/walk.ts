import { lstatSync, readdirSync, type Dirent } from 'node:fs';
import { join } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { kindOfName } from '@legame/core/formats';
import type { SequenceFrames } from '@legame/core/model';
import { findSequences, sequenceName } from '@legame/core/paths';
import { UserProblem } from '../problems.ts';
import { endure } from './conditions.ts';
import { excluder } from './exclusions.ts';
import { holdFolderSync, type Ground, type HeldFolderSync } from './held.ts';

/** What a walk sees of one file or sequence. */
export type Walked = {
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly modifiedMs: number;
  /** When anything of it changed last, its time of change included; null for a sequence. */
  readonly touchedMs: number | null;
  /** By which the file system knows it, whatever it is called; null for a sequence, which is many files. */
  readonly inode: number | null;
  readonly sequence: SequenceFrames | null;
};

/** What a walk passed over, counted; folders that could not be listed and names that no program can say, by path. */
export type Skipped = {
  hidden: number;
  links: number;
  excluded: number;
  special: number;
  readonly unlisted: string[];
  readonly unnameable: string[];
};

/** The folder of a place into which cleared files are moved. It is no part of what is searched. */
export const holdingFolder = 'Legame holding';

const systemFolders = new Set([
  '$recycle.bin',
  'system volume information',
  'lost+found',
  '__macosx',
  holdingFolder.toLowerCase(),
]);
/** How long a stretch of synchronous listing may be before others get a turn. */
const sliceMs = 25;
const mostNamed = 100;

export type WalkOptions = {
  /** The folder of the place to begin at; all of it when absent. */
  readonly from?: string;
  /** Patterns of paths that are left out, as `*.tmp`, `proxies/**`. */
  readonly excluded?: readonly string[];
  /** Hidden and system entries as well, and the frames of a sequence one by one. */
  readonly everything?: boolean;
  readonly signal?: AbortSignal;
  /** Called with what was found since the last call, before others get a turn. */
  readonly onFiles: (files: Walked[], folder: string) => void;
};

/**
 * Lists every file of a place with size and time; nothing is opened. Numbered image sequences become one entry.
 * Hidden and system entries and links are counted and passed over, so the walk can neither loop nor leave the place.
 * Synchronous calls are four times as fast as promised ones, so it works in slices and lets go in between.
 */
export async function walkPlace(ground: Ground, options: WalkOptions): Promise<Skipped> {
  const skipped: Skipped = { hidden: 0, links: 0, excluded: 0, special: 0, unlisted: [], unnameable: [] };
  const isExcluded = excluder(options.excluded ?? []);
  const { everything = false } = options;
  const pending = [options.from ?? ''];
  let files: Walked[] = [];
  let sliceStart = performance.now();
  for (let folder = pending.pop(); folder !== undefined; folder = pending.pop()) {
    if (performance.now() - sliceStart > sliceMs) {
      options.onFiles(files, folder);
      files = [];
      await setImmediate();
      options.signal?.throwIfAborted();
      sliceStart = performance.now();
    }
    endure(join(ground.path, folder));
    const isListed = withListing(ground, folder, (held, entries) => {
      const names: string[] = [];
      for (const entry of entries) {
        const inPlace = folder === '' ? entry.name : `${folder}/${entry.name}`;
        if (!everything && (isHidden(entry) || systemFolders.has(entry.name.toLowerCase()))) skipped.hidden += 1;
        // A name that is not text in any encoding known here comes with a replacement, under which nothing is found.
        else if (entry.name.includes('\ufffd')) {
          if (skipped.unnameable.length < mostNamed) skipped.unnameable.push(inPlace);
        } else if (entry.isSymbolicLink()) skipped.links += 1;
        else if (isExcluded(inPlace)) skipped.excluded += 1;
        else if (entry.isDirectory()) pending.push(inPlace);
        else if (!everything && entry.isFile() && isSidecar(held, entry.name)) skipped.hidden += 1;
        else if (entry.isFile()) names.push(entry.name);
        else skipped.special += 1;
      }
      addFiles(held, folder, everything ? { sequences: [], singles: names } : findSequences(names), files);
    });
    // Where it was to begin it has to be let in; further down it is told what it could not see.
    if (isListed !== true && folder === options.from && isListed instanceof UserProblem) throw isListed;
    if (isListed !== true && folder === '') throw new Error(`The folder ${ground.path} cannot be listed.`);
    if (isListed !== true && skipped.unlisted.length < mostNamed) skipped.unlisted.push(folder);
  }
  options.onFiles(files, '');
  return skipped;
}

/** A name that begins with a dot hides a folder; a file under such a name is media if it is called so. */
const isHidden = (entry: Dirent): boolean =>
  entry.name.startsWith('.') && !(entry.isFile() && kindOfName(entry.name) !== null);
/** What some systems write beside each file, under its name with "._" in front: small, and no media. */
const isSidecar = (held: HeldFolderSync, name: string): boolean =>
  name.startsWith('._') && (measure(held, name)?.sizeInBytes ?? 0) < 262_144;

/** Holds a folder of the place while `use` looks at what is in it; the reason why it cannot be listed, where it cannot. */
function withListing(
  ground: Ground,
  path: string,
  use: (held: HeldFolderSync, entries: readonly Dirent[]) => void,
): true | Error {
  const root = holdFolderSync(ground);
  try {
    const held = root.folder(path);
    try {
      use(held, readdirSync(held.entry('.'), { withFileTypes: true }));
      return true;
    } finally {
      held.close();
    }
  } catch (error) {
    return error instanceof Error ? error : new Error(String(error));
  } finally {
    root.close();
  }
}

function addFiles(
  held: HeldFolderSync,
  folder: string,
  { sequences, singles }: ReturnType<typeof findSequences>,
  files: Walked[],
): void {
  for (const name of singles) {
    const found = measure(held, name);
    if (found) files.push({ folder, name, ...found, sequence: null });
  }
  for (const { frames, members } of sequences) {
    let sizeInBytes = 0;
    let modifiedMs = 0;
    for (const name of members) {
      const found = measure(held, name);
      sizeInBytes += found?.sizeInBytes ?? 0;
      modifiedMs = Math.max(modifiedMs, found?.modifiedMs ?? 0);
    }
    files.push({
      folder,
      name: sequenceName(frames),
      sizeInBytes,
      modifiedMs,
      touchedMs: null,
      inode: null,
      sequence: frames,
    });
  }
}

/** Null when the file went away between listing and looking. */
type Measure = Pick<Walked, 'sizeInBytes' | 'modifiedMs' | 'touchedMs' | 'inode'>;
function measure(held: HeldFolderSync, name: string): Measure | null {
  const found = lstatSync(held.entry(name), { throwIfNoEntry: false });
  if (!found) return null;
  const { size: sizeInBytes, mtimeMs: modifiedMs, ctimeMs: touchedMs, ino } = found;
  return { sizeInBytes, modifiedMs, touchedMs, inode: inodeOf(ino) };
}

/** Some file systems make up numbers that no exact integer holds, or none: by those nothing is known again. */
const inodeOf = (ino: number): number | null => (ino > 0 && Number.isSafeInteger(ino) ? ino : null);
