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

const places: readonly (readonly [kind: string, words: RegExp])[] = [
  ['camera', /^(?:(?:angle|cam|camera|iso)[ ._-]?(\d{1,2}|\p{L})|(\d{1,2}|\p{L})[ ._-]?(?:cam|camera)|([a-h]))$/u],
  ['channel', /^(?:(?:ch|channel|mic|tr|track)[ ._-]?(\d{1,2}|\p{L})|(boom|lav|lavalier))$/u],
  ['eye', /^(left|right|[lr])(?:[ ._-]?eye)?$/u],
];

/** What is added to the second folder of one name. */
const again = /[ ._-]+(?:copy|\(?\d{1,2}\)?)$/u;

/**
 * What a folder is of, where cameras, channels or eyes have each their own: "CAM A" and "CAM A 2" are "camera a", "R" is
 * "eye r".
 */
const besideIn = (folderKey: string): string | null => named(folderKey) ?? named(folderKey.replace(again, ''));

function named(folderKey: string): string | null {
  for (const [kind, words] of places) {
    const found = words.exec(folderKey);
    const which = found?.slice(1).find((group) => group !== undefined);
    // Letters and numbers are two ways to count, and tell nothing of one another.
    if (which === undefined) continue;
    return /^\d/.test(which) ? `${kind} number ${Number(which)}` : `${kind} ${kind === 'eye' ? which[0] : which}`;
  }
  return null;
}

/** What the folders on the way to a file are of. Folders as `nameKey` writes them. */
export const allBesideIn = (folderKeys: readonly string[]): readonly string[] =>
  folderKeys.flatMap((key) => besideIn(key) ?? []);

const kindOf = (what: string): string => what.slice(0, what.lastIndexOf(' '));

/** Whether two ways lead to files of what stood side by side: of one kind, and of none that both have. */
export function leadBeside(edit: readonly string[], file: readonly string[]): boolean {
  if (edit.length === 0 || file.length === 0) return false;
  return edit.some((own) => {
    const ofKind = (list: readonly string[]) => list.filter((what) => kindOf(what) === kindOf(own));
    const others = ofKind(file);
    return others.length > 0 && !ofKind(edit).some((what) => others.includes(what));
  });
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
