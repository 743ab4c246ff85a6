import { nameKey } from './names.ts';

/** How many folder levels agree, counted upward from the file. Case and Unicode form do not matter. */
export const commonTail = (a: readonly string[], b: readonly string[]): number =>
  commonTailOfKeys(a.map(nameKey), b.map(nameKey));

/** The same for folders that are name keys already. */
export function commonTailOfKeys(a: readonly string[], b: readonly string[]): number {
  let levels = 0;
  while (levels < a.length && levels < b.length && a[a.length - 1 - levels] === b[b.length - 1 - levels]) levels += 1;
  return levels;
}

/** Where a tree lay and where it lies now: the folders above the longest common tail of one remembered and one found path. */
export type Displacement = { readonly from: readonly string[]; readonly to: readonly string[] };

/** The displacement that one decision reveals. Both lists begin with the volume or place and end with the file's folder. */
export function displacementOf(remembered: readonly string[], found: readonly string[]): Displacement {
  const tail = commonTail(remembered, found);
  return { from: remembered.slice(0, remembered.length - tail), to: found.slice(0, found.length - tail) };
}

/** Where a displacement would put another remembered folder; null when that folder does not lie under `from`. */
export function displace(folders: readonly string[], { from, to }: Displacement): string[] | null {
  const under = folders.length >= from.length && from.every((part, i) => nameKey(part) === nameKey(folders[i]!));
  return under ? [...to, ...folders.slice(from.length)] : null;
}
