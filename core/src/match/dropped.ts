import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import type { Facts, MediaFile } from '../model/media.ts';
import type { Place } from '../model/place.ts';
import { commonTail } from '../paths/displacement.ts';
import { nameKey } from '../paths/names.ts';
import { offeredBy } from './decision.ts';
import { coarsest } from './evidence/date.ts';
import { match, type ClipToMatch } from './match.ts';
import type { MatchRules } from './rules.ts';

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
      (Math.abs(file.modifiedMs - dropped.modifiedMs) <= coarsest || measureAlike(file.facts, dropped.facts)),
  );
  if (same.length < 2) return same;
  const shared = same.map((file) => commonTail(file.folder.split('/'), dropped.folders));
  const longest = Math.max(...shared);
  return same.filter((_, i) => shared[i] === longest);
}

/** Name and size are equal already: of timecode, length and reel, what both state must be, and a start both must state. */
function measureAlike(a: Facts | null, b: Facts | null): boolean {
  if (!a || !b || a.timecodeSource === 'none' || b.timecodeSource === 'none') return false;
  return a.start === b.start && a.length === b.length && a.reel === b.reel;
}

/** Which of these clips each file would be offered to, were the folder that was dropped a place of its own. */
export function fitsOf(
  files: readonly DroppedFile[],
  clips: readonly ClipToMatch[],
  rules: MatchRules,
): ReadonlyMap<DroppedFile, readonly ClipId[]> {
  const tops = [...new Set(files.map((file) => file.folders[0] ?? ''))];
  const placeIdOf = (top: string) => `dropped ${tops.indexOf(top)}` as PlaceId;
  const places = tops.map((top): Place => ({
    id: placeIdOf(top),
    name: top || 'dropped',
    path: `/${top}`,
    knownAs: [],
    there: true,
  }));
  const asFiles = files.map(({ name, folders, sizeInBytes, modifiedMs, facts }, i): MediaFile => ({
    id: String(i) as MediaFileId,
    placeId: placeIdOf(folders[0] ?? ''),
    folder: folders.slice(1).join('/'),
    ...{ name, sizeInBytes, modifiedMs, facts },
    ...{ fingerprint: null, fullHash: null, unreadable: null, sequence: null },
  }));
  const fits = new Map<DroppedFile, ClipId[]>();
  for (const { clip, decision } of match({ clips, files: asFiles, places, rules }))
    for (const id of offeredBy(decision)) {
      const file = files[Number(id)]!;
      fits.set(file, [...(fits.get(file) ?? []), clip.id]);
    }
  return fits;
}
