import { nameKey } from './names.ts';
import type { Renaming } from './renaming.ts';

/**
 * What in names tells apart what was recorded at once, from the same frame to the same frame: a letter or a small number
 * by itself, and what people call eyes, cameras, channels and microphones.
 */
const telling =
  /^(?:\p{L}|\d{1,2}|(?:angle|cam|camera|ch|channel|eye|iso|mic|tr|track)[ ._-]?(?:\d{1,2}|\p{L})?|left|right|boom|lav|lavalier|mono|mix)$/u;
const isTelling = (text: string): boolean => telling.test(nameKey(text).replace(/^[ ._-]+|[ ._-]+$/g, ''));

/**
 * Whether one name became the other as that of one eye, camera, channel or microphone becomes that of another: "T01_L" and
 * "T01_R", "T01_boom" and "T01_lav". Of sound, also where the one has such a word and the other none.
 */
export function isOfSibling({ stem }: Renaming, { isSound }: { readonly isSound: boolean }): boolean {
  if (stem.kind === 'replaced') return isTelling(stem.from) && isTelling(stem.to);
  return isSound && stem.kind === 'added' && [stem.before, stem.after].some(isTelling);
}

/** Whether two names differ in nothing but the one letter before their first digits: "A001" and "B001". */
export function differInLetter(a: string, b: string): boolean {
  const isLettered = (name: string) => /^\p{L}\d/u.test(name);
  return isLettered(a) && isLettered(b) && a[0] !== b[0] && a.slice(1) === b.slice(1);
}

/** The number in a name that a renaming changed; null where it changed none. */
export function numberChanged(name: string, { stem }: Renaming): string | null {
  if (stem.kind !== 'renumbered') return null;
  return name.match(/\d+/g)?.at(-1 - stem.fromEnd) ?? null;
}
