import type { Facts, MediaFile } from '../model/media.ts';
import { nameKey } from '../paths/names.ts';

/** A file that somebody holds in hand, as their browser tells of it: the folders it lies in, from the one they dropped. */
export type DroppedFile = {
  readonly name: string;
  readonly folders: readonly string[];
  readonly sizeInBytes: number;
  /** When it was last written, in milliseconds since 1970. */
  readonly modifiedMs: number;
  /** From its header; null where only a decoder could tell. */
  readonly facts: Facts | null;
};

/** Old file systems keep times to two seconds. */
const coarsestMs = 2000;

/**
 * Which of these files of places the dropped one is: of its name and size, and written when it was, or measuring what it
 * measures. Where it lies more than once, those whose folders agree longest with the dropped one's, from the file up.
 */
export function sameAmong(dropped: DroppedFile, files: readonly MediaFile[]): readonly MediaFile[] {
  const key = nameKey(dropped.name);
  const same = files.filter(
    (file) =>
      nameKey(file.name) === key &&
      file.sizeInBytes === dropped.sizeInBytes &&
      (Math.abs(file.modifiedMs - dropped.modifiedMs) <= coarsestMs || measureAlike(file.facts, dropped.facts)),
  );
  if (same.length < 2) return same;
  const shared = same.map((file) => sharedTail(file.folder.split('/'), dropped.folders));
  const longest = Math.max(...shared);
  return same.filter((_, i) => shared[i] === longest);
}

/** Name and size are equal already: of timecode, length and reel, what both state must be, and a start both must state. */
function measureAlike(a: Facts | null, b: Facts | null): boolean {
  if (!a || !b || a.timecodeSource === 'none' || b.timecodeSource === 'none') return false;
  return a.start === b.start && a.length === b.length && a.reel === b.reel;
}

function sharedTail(a: readonly string[], b: readonly string[]): number {
  let shared = 0;
  while (shared < Math.min(a.length, b.length) && nameKey(a.at(-1 - shared)!) === nameKey(b.at(-1 - shared)!))
    shared += 1;
  return shared;
}
