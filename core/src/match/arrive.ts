import type { MediaFileId, PlaceId } from '../model/ids.ts';
import { folderInPlace, type Place } from '../model/place.ts';
import { nameKey } from '../paths/names.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';

/** Files by the exact spot where they lie. */
export class SpotIndex {
  readonly #files = new Map<string, PreparedFile>();

  constructor(files: Iterable<PreparedFile>) {
    for (const file of files) this.#files.set(spot(file.file.placeId, file.folders.slice(1), file.file.name), file);
  }

  at(placeId: PlaceId, folders: readonly string[], name: string): PreparedFile | null {
    return this.#files.get(spot(placeId, folders, name)) ?? null;
  }

  /**
   * The file that lies exactly where the edit says, under whichever of a place's names the edit uses. Two places may
   * answer to one name; then only one of them may have the file, or nothing is taken for granted.
   */
  whereRemembered(clip: PreparedClip, places: readonly Place[]): MediaFileId | null {
    if (!clip.path) return null;
    const found = new Set<MediaFileId>();
    for (const place of places) {
      const folders = folderInPlace(clip.path, place);
      const file = folders && this.at(place.id, folders, clip.path.name);
      if (file) found.add(file.file.id);
    }
    return found.size === 1 ? [...found][0]! : null;
  }
}

const spot = (placeId: PlaceId, folders: readonly string[], name: string): string =>
  `${placeId}\u0000${folders.map(nameKey).join('/')}\u0000${nameKey(name)}`;
