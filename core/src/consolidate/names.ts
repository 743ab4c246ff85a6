import { fillPattern, strangeTokens as strangeIn } from '../naming/pattern.ts';
import { nameKey, safeName, splitExtension } from '../paths/names.ts';

/** How the set's folders are laid out. `flat`: all in one; the others by what each recording is or where it lay. */
export const folderings = ['flat', 'as-source', 'by-reel', 'by-kind', 'by-timeline', 'by-bin', 'by-template'] as const;
export type Foldering = (typeof folderings)[number];

/** What names can be made of. `start`: the span's first timecode as digits; `n`: a number from 1 within the recording. */
export const nameTokensKnown = ['name', 'reel', 'scene', 'take', 'timeline', 'start', 'n'] as const;
export type NameToken = (typeof nameTokensKnown)[number];
export type NameParts = Readonly<Record<NameToken, string>>;

export const defaultPattern = '{name}';

/** What of a pattern is no token. */
export const strangeTokens = (pattern: string): string[] => strangeIn(pattern, nameTokensKnown);

/** A name by a pattern, without its extension. Safe on every file system; never empty. */
export const nameBy = (pattern: string, parts: NameParts): string =>
  safeName(fillPattern(pattern, parts) || parts.name);

/** Something that needs a name in the set, with the folder and name it would have by itself. */
export type Wanted = {
  readonly folder: string;
  /** With its extension; of a sequence the folder of its frames. */
  readonly name: string;
  /** Distinguishes files of one name: the folder and the place they came from. */
  readonly from: string;
};

/**
 * Where each goes, in the order given: no two are alike, on file systems that fold case and Unicode form too. Of those
 * that want one place, each goes into a folder named after the one it came from, numbered if that is not enough.
 */
export function placesFor(wanted: readonly Wanted[]): string[] {
  const plain = wanted.map((w) => joined(w.folder, w.name));
  const counts = new Map<string, number>();
  for (const path of plain) counts.set(nameKey(path), (counts.get(nameKey(path)) ?? 0) + 1);
  // A file cannot have the name of a folder.
  const folders = new Set(plain.flatMap(foldersOf));
  const stays = (path: string) => counts.get(nameKey(path)) === 1 && !folders.has(nameKey(path));
  const files = new Set(plain.filter(stays).map(nameKey));
  return wanted.map((one, i) => {
    const path = plain[i]!;
    if (stays(path)) return path;
    const parent = freeVariant(joined(one.folder, safeName(one.from)), (folder) => files.has(folder));
    const free = freeVariant(joined(parent, one.name), (file) => files.has(file) || folders.has(file));
    files.add(nameKey(free));
    for (const folder of foldersOf(free)) folders.add(folder);
    return free;
  });
}

const joined = (folder: string, name: string): string => (folder === '' ? name : `${folder}/${name}`);

/** The keys of all folders that a path leads through. */
export const foldersOf = (path: string): string[] =>
  path
    .split('/')
    .slice(0, -1)
    .map((_, i, parts) => nameKey(parts.slice(0, i + 1).join('/')));

function freeVariant(path: string, isTaken: (key: string) => boolean): string {
  if (!isTaken(nameKey(path))) return path;
  const at = path.lastIndexOf('/') + 1;
  const { stem, extension } = splitExtension(path.slice(at));
  for (let n = 2; ; n += 1) {
    const variant = `${path.slice(0, at)}${extension ? `${stem}_${n}.${extension}` : `${stem}_${n}`}`;
    if (!isTaken(nameKey(variant))) return variant;
  }
}
