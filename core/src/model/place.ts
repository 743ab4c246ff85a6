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

/** A place with its names taken apart, for asking many paths. All parts are name keys. */
export type PlaceNames = {
  readonly place: Place;
  readonly names: readonly (readonly string[])[];
  readonly root: readonly string[];
};

export const placeNames = (place: Place): PlaceNames => ({
  place,
  names: [place.name, ...place.knownAs].map(keysOf).filter((name) => name.length > 0),
  root: keysOf(place.path),
});

/** The folders of a remembered path as name keys: from its volume down, and from the root of a POSIX path down. */
export type PathKeys = {
  readonly form: RememberedPath['form'];
  readonly fromVolume: readonly string[];
  readonly fromRoot: readonly string[] | null;
};

export const pathKeys = (path: RememberedPath): PathKeys => ({
  form: path.form,
  fromVolume: [...(path.volume === null ? [] : [path.volume]), ...path.folders].map(nameKey),
  fromRoot: path.fromRoot?.map(nameKey) ?? null,
});

/**
 * The folders inside a place that a remembered path means, if it lies there under one of the place's names: name keys
 * from the place's root down. Null when the path does not belong to this place.
 */
export function foldersInPlace(path: PathKeys, { names, root }: PlaceNames): readonly string[] | null {
  if (path.form === 'relative') return path.fromVolume;
  for (const name of names) if (startsWith(path.fromVolume, name)) return path.fromVolume.slice(name.length);
  return path.fromRoot && startsWith(path.fromRoot, root) ? path.fromRoot.slice(root.length) : null;
}

const keysOf = (text: string): string[] =>
  text
    .split(/[\\/]+/)
    .filter((part) => part !== '')
    .map(nameKey);
const startsWith = (list: readonly string[], head: readonly string[]): boolean =>
  head.length > 0 && head.length <= list.length && head.every((part, i) => part === list[i]);
