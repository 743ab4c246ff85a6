import { lstatSync, readdirSync, type Dirent } from 'node:fs';
import { join } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { findSequences, sequenceName } from '@legame/core';
import type { Walked } from '../stores/mediaFiles.ts';

export type Walk = {
  readonly files: Walked[];
  readonly skipped: { readonly hidden: number; readonly links: number; readonly unlisted: readonly string[] };
};

const systemFolders = new Set(['$recycle.bin', 'system volume information', 'lost+found', '__macosx']);
/** How long a stretch of synchronous listing may be before others get a turn. */
const sliceMs = 25;

/**
 * Lists every file under `root` with size and time; nothing is opened. Numbered image sequences become one entry.
 * Hidden and system entries and links are counted and passed over, so the walk can neither loop nor leave the place.
 * Synchronous calls are four times as fast as promised ones, so it works in slices and lets go in between.
 */
export async function walkPlace(
  root: string,
  options: { signal?: AbortSignal; onFiles?: (count: number, folder: string) => void } = {},
): Promise<Walk> {
  const files: Walked[] = [];
  const unlisted: string[] = [];
  let hidden = 0;
  let links = 0;
  const pending = [''];
  let sliceStart = performance.now();
  for (let folder = pending.pop(); folder !== undefined; folder = pending.pop()) {
    if (performance.now() - sliceStart > sliceMs) {
      options.onFiles?.(files.length, folder);
      await setImmediate();
      options.signal?.throwIfAborted();
      sliceStart = performance.now();
    }
    const entries = listFolder(join(root, folder));
    if (!entries) {
      if (folder === '') throw new Error(`The folder ${root} cannot be listed.`);
      unlisted.push(folder);
      continue;
    }
    const names: string[] = [];
    for (const entry of entries) {
      if (entry.name.startsWith('.') || systemFolders.has(entry.name.toLowerCase())) hidden += 1;
      else if (entry.isSymbolicLink()) links += 1;
      else if (entry.isDirectory()) pending.push(folder === '' ? entry.name : `${folder}/${entry.name}`);
      else if (entry.isFile()) names.push(entry.name);
    }
    addFiles(root, folder, names, files);
  }
  return { files, skipped: { hidden, links, unlisted } };
}

function listFolder(path: string): Dirent[] | null {
  try {
    return readdirSync(path, { withFileTypes: true });
  } catch {
    return null;
  }
}

function addFiles(root: string, folder: string, names: readonly string[], files: Walked[]): void {
  const { sequences, singles } = findSequences(names);
  for (const name of singles) {
    const found = measure(root, folder, name);
    if (found) files.push({ folder, name, ...found, sequence: null });
  }
  for (const { frames, members } of sequences) {
    let sizeInBytes = 0;
    let modifiedMs = 0;
    for (const name of members) {
      const found = measure(root, folder, name);
      sizeInBytes += found?.sizeInBytes ?? 0;
      modifiedMs = Math.max(modifiedMs, found?.modifiedMs ?? 0);
    }
    files.push({ folder, name: sequenceName(frames), sizeInBytes, modifiedMs, sequence: frames });
  }
}

/** Null when the file went away between listing and looking. */
function measure(root: string, folder: string, name: string): { sizeInBytes: number; modifiedMs: number } | null {
  const found = lstatSync(`${root}/${folder === '' ? '' : `${folder}/`}${name}`, { throwIfNoEntry: false });
  return found ? { sizeInBytes: found.size, modifiedMs: found.mtimeMs } : null;
}
