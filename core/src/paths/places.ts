import type { PlaceId } from '../model/ids.ts';
import type { Place } from '../model/place.ts';
import { nameKey } from './names.ts';
import { foldersFromVolume, type RememberedPath } from './remembered.ts';

/** A place with its names taken apart, for asking many paths. All parts are name keys. */
export type PlaceNames = {
  readonly place: Place;
  readonly names: readonly (readonly string[])[];
  readonly taught: readonly (readonly string[])[];
  readonly root: readonly string[];
};

export const placeNames = (place: Place): PlaceNames => ({
  place,
  names: [place.name, ...place.knownAs.filter((name) => !place.taught?.includes(name))].map(keysOf).filter(isName),
  taught: (place.taught ?? []).map(keysOf).filter(isName),
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
  fromVolume: foldersFromVolume(path).map(nameKey),
  fromRoot: path.fromRoot?.map(nameKey) ?? null,
});

/** How a path leads into a place: by a name of its own, by one that was taught, or with no volume to go by. */
export type WayIn = { readonly folders: readonly string[]; readonly by: 'own-name' | 'taught-name' | 'no-volume' };

/**
 * The folders inside a place that a remembered path means, if it lies there under one of the place's names: name keys
 * from the place's root down. Null when the path does not belong to this place.
 */
export function wayInto(path: PathKeys, { names, taught, root }: PlaceNames): WayIn | null {
  // A bare name lies anywhere; a path of folders is one, also without a volume: so handoffs refer to their media.
  if (path.form === 'relative')
    return { folders: path.fromVolume, by: path.fromVolume.length > 0 ? 'own-name' : 'no-volume' };
  const under = (all: PlaceNames['names']) => all.find((name) => startsWith(path.fromVolume, name));
  const own = under(names);
  if (own) return { folders: path.fromVolume.slice(own.length), by: 'own-name' };
  if (path.fromRoot && startsWith(path.fromRoot, root))
    return { folders: path.fromRoot.slice(root.length), by: 'own-name' };
  const learned = under(taught);
  return learned ? { folders: path.fromVolume.slice(learned.length), by: 'taught-name' } : null;
}

/** The same, whichever way it leads there. */
export const foldersInPlace = (path: PathKeys, place: PlaceNames): readonly string[] | null =>
  wayInto(path, place)?.folders ?? null;

/** Many places, asked by many paths: only those that a path's first part may mean are looked at. */
export class PlaceDirectory {
  readonly #all: readonly PlaceNames[];
  readonly #byFirst = new Map<string, Set<PlaceNames>>();

  constructor(places: readonly Place[]) {
    this.#all = places.map(placeNames);
    for (const place of this.#all)
      for (const [first] of [...place.names, ...place.taught, place.root])
        if (first !== undefined) this.#byFirst.set(first, (this.#byFirst.get(first) ?? new Set()).add(place));
  }

  /** Every place that a path leads into, and how. */
  waysInto(path: PathKeys): { readonly place: PlaceNames; readonly way: WayIn }[] {
    const firsts = [path.fromVolume[0], path.fromRoot?.[0]].flatMap((first) => first ?? []);
    const places =
      path.form === 'relative' ? this.#all : new Set(firsts.flatMap((first) => [...(this.#byFirst.get(first) ?? [])]));
    return [...places].flatMap((place) => {
      const way = wayInto(path, place);
      return way ? [{ place, way }] : [];
    });
  }

  /** The place that an absolute path belongs to, be it there or not. */
  homeOf(path: PathKeys): Place | undefined {
    return path.form === 'relative' ? undefined : this.waysInto(path)[0]?.place.place;
  }

  byId(id: PlaceId): Place | undefined {
    return this.#all.find(({ place }) => place.id === id)?.place;
  }
}

const isName = (parts: readonly string[]): boolean => parts.length > 0;
const keysOf = (text: string): string[] =>
  text
    .split(/[\\/]+/)
    .filter((part) => part !== '')
    .map(nameKey);
const startsWith = (list: readonly string[], head: readonly string[]): boolean =>
  head.length > 0 && head.length <= list.length && head.every((part, i) => part === list[i]);
