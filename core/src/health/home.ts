import type { PlaceId } from '../model/ids.ts';

/** The folder in which all media of a project should lie: in a place, from its root; "" is the place itself. */
export type Home = { readonly placeId: PlaceId; readonly folder: string };
type Lying = { readonly placeId: PlaceId; readonly folder: string; readonly sizeInBytes: number };

export const isAtHome = (home: Home, { placeId, folder }: Pick<Lying, 'placeId' | 'folder'>): boolean =>
  placeId === home.placeId && (home.folder === '' || folder === home.folder || folder.startsWith(`${home.folder}/`));

/**
 * The folder that suggests itself as home: in the place that holds most of what is used, by bytes, the innermost that all
 * of it there has in common. Null where nothing is used.
 */
export function proposeHome(used: readonly Lying[]): Home | null {
  const places = new Map<PlaceId, { bytes: number; common: readonly string[] }>();
  for (const { placeId, folder, sizeInBytes } of used) {
    const parts = folder === '' ? [] : folder.split('/');
    const known = places.get(placeId);
    if (!known) places.set(placeId, { bytes: sizeInBytes, common: parts });
    else {
      known.bytes += sizeInBytes;
      const differs = known.common.findIndex((part, i) => part !== parts[i]);
      if (differs >= 0) known.common = known.common.slice(0, differs);
    }
  }
  const [most] = [...places].sort(([, a], [, b]) => b.bytes - a.bytes);
  return most ? { placeId: most[0], folder: most[1].common.join('/') } : null;
}
