import { nameKey } from './names.ts';
import { parseRememberedPath } from './remembered.ts';

/**
 * The name under which an edit knows a place, from one clip and the file in `folder` of that place that it turned out
 * to be: what stands before the folders that both agree on, down to the root of the place. "E:/day3/camB/x.mov" in
 * "day3/camB" says "E:". Null where the folders part before the root, or where only the file's name agrees.
 */
export function learnedName(remembered: string, folder: string): string | null {
  const path = parseRememberedPath(remembered);
  if (path.form === 'relative') return null;
  const folders = folder.split('/').filter((part) => part !== '');
  const all = path.volume === null ? path.folders : [path.volume, ...path.folders];
  const above = all.length - folders.length;
  if (folders.length === 0 || above < 1) return null;
  const agrees = folders.every((part, i) => nameKey(part) === nameKey(all[above + i]!));
  return agrees ? all.slice(0, above).join('/') : null;
}
