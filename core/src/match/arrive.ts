import { foldersInPlace, type PlaceNames } from '../model/place.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';

/**
 * The file that lies exactly where the edit says, under whichever of a place's names the edit uses. Two places may
 * answer to one name; then only one of them may have the file, or nothing is taken for granted. `namesakes` are the
 * files of the clip's file name, in any place.
 */
export function whereRemembered(
  clip: PreparedClip,
  places: readonly PlaceNames[],
  namesakes: readonly PreparedFile[],
): PreparedFile | null {
  if (!clip.pathKeys || namesakes.length === 0) return null;
  const found = new Set<PreparedFile>();
  for (const place of places) {
    const folders = foldersInPlace(clip.pathKeys, place);
    if (!folders) continue;
    for (const file of namesakes) {
      const own = file.folderKeys;
      // The first of a file's folders is its place's name.
      if (
        file.placeId === place.place.id &&
        own.length === folders.length + 1 &&
        folders.every((key, i) => key === own[i + 1])
      ) {
        found.add(file);
      }
    }
  }
  return found.size === 1 ? [...found][0]! : null;
}
