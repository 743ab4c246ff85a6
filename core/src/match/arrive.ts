import type { PlaceDirectory, WayIn } from '../paths/places.ts';
import { nameKey } from '../paths/names.ts';
import { groundsOf } from './decide.ts';
import { contradicts } from './explain.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import type { CandidateIndex } from './retrieve.ts';
import type { MatchRules } from './rules.ts';
import { weigh } from './weigh.ts';

/**
 * The file that lies exactly where the edit says. `by` says by which of its place's names: its own (or its path), one
 * that a link taught it, or none at all, where the edit remembers a path without a volume.
 */
export type Spot = { readonly file: PreparedFile; readonly by: WayIn['by'] };

/**
 * The file that lies exactly where the edit says, under whichever of a place's names the edit uses. Two places may
 * answer to one name; then only one of them may have the file, or nothing is taken for granted.
 */
export function whereRemembered(clip: PreparedClip, places: PlaceDirectory, index: CandidateIndex): Spot | null {
  if (!clip.pathKeys) return null;
  const found = new Map<PreparedFile, Spot['by']>();
  for (const { place, way } of places.waysInto(clip.pathKeys)) {
    // The first of a file's folders is its place's name.
    const folders = [nameKey(place.place.name), ...way.folders];
    for (const file of index.namedIn(clip.nameKey, folders))
      if (file.placeId === place.place.id) found.set(file, way.by);
  }
  // Case twins lie beside one another where the file system tells them apart: the one written exactly so.
  const exact = found.size > 1 ? [...found].filter(([file]) => file.file.name === clip.name) : [...found];
  const [first] = exact;
  return exact.length === 1 && first ? { file: first[0], by: first[1] } : null;
}

/**
 * Whether a clip is tied to what lies where it remembers. By a place's own name it is, and its status says what is
 * wrong with it. A name that was taught, and a path without a volume, tie nothing by themselves: what lies there is
 * weighed like any other file, and tied only if it is identified.
 */
export function isTakenAsRemembered(clip: PreparedClip, { file, by }: Spot, rules: MatchRules): boolean {
  if (by === 'own-name') return true;
  const { marks } = weigh(clip, file);
  return contradicts(marks).length === 0 && groundsOf(marks, rules, clip) !== null;
}
