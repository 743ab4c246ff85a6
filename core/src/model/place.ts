import { nameKey } from '../paths/names.ts';
import type { RememberedPath } from '../paths/remembered.ts';
import type { PlaceId } from './ids.ts';

/** A storage root. `knownAs` are the names other machines know it by: a mount point's name, "S:", a share, or a path. */
export type Place = {
  readonly id: PlaceId;
  readonly name: string;
  readonly path: string;
  readonly knownAs: readonly string[];
  readonly there: boolean;
};

/**
 * The folder inside a place that a remembered path means, if it lies there under one of the place's names: its parts
 * from the place's root down. Null when the path does not belong to this place.
 */
export function folderInPlace(path: RememberedPath, place: Pick<Place, 'name' | 'path' | 'knownAs'>): string[] | null {
  if (path.form === 'relative') return [...path.folders];
  const remembered = path.volume === null ? path.folders : [path.volume, ...path.folders];
  const aliases = [place.name, ...place.knownAs].map(partsOf);
  for (const alias of aliases) if (startsWith(remembered, alias)) return remembered.slice(alias.length);
  const root = partsOf(place.path);
  return path.fromRoot && startsWith(path.fromRoot, root) ? path.fromRoot.slice(root.length) : null;
}

const partsOf = (text: string): string[] => text.split(/[\\/]+/).filter((part) => part !== '');
const startsWith = (list: readonly string[], head: readonly string[]): boolean =>
  head.length > 0 && head.length <= list.length && head.every((part, i) => nameKey(part) === nameKey(list[i]!));
