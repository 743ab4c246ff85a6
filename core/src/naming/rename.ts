import { nameKey, safeName, splitExtension } from '../paths/names.ts';
import { fillPattern, hasToken } from './pattern.ts';

/** What a new name can be made of. `date`: the day a file was written; `version`: the number behind a "v" in its name. */
export const namingTokens = ['name', 'date', 'project', 'reel', 'scene', 'take', 'version', 'n'] as const;
export type NamingToken = (typeof namingTokens)[number];
export type NamingParts = Readonly<Record<Exclude<NamingToken, 'n' | 'version' | 'name'>, string>>;

/** A file that may get another name. */
export type ToName = {
  readonly id: string;
  /** Where it lies: place and folder, as one text. */
  readonly folder: string;
  readonly name: string;
  readonly isSequence: boolean;
  readonly parts: NamingParts;
};

/**
 * Why a file cannot get a name. `taken`: another file has it, on a system that folds case too; `twice`: two of those that
 * are named would have it; `sequence`: its frames are many files; `empty`: nothing is left of it.
 */
export const renameFaults = ['taken', 'twice', 'sequence', 'empty'] as const;
export type RenameFault = (typeof renameFaults)[number];

export type Proposed = {
  readonly id: string;
  readonly from: string;
  /** The same as `from` where it has that name already. */
  readonly to: string;
  readonly fault: RenameFault | null;
};

/** The number behind the last "v" of a name that stands by itself: "cut_v03.mov" is version 03. */
export const versionIn = (stem: string): string => /(?:^|[-_. ])v(\d{1,4})(?=$|[-_. ])/i.exec(stem)?.[1] ?? '';

/**
 * Names by a pattern, in the order of the files, numbered from `first`. A name that fits the pattern already, whatever its
 * number, is kept, and its number is given to nobody else. Extensions stay.
 */
export function namesBy(files: readonly ToName[], pattern: string, first: number): Map<string, string> {
  const partsOf = ({ name, parts }: ToName) => {
    const { stem } = splitExtension(name);
    return { ...parts, name: stem, version: versionIn(stem) };
  };
  const keeps = new Map(files.map((file) => [file.id, numberIn(file, pattern, partsOf(file))]));
  const kept = new Set([...keeps.values()].filter((n) => n !== null));
  let n = first;
  return new Map(
    files.map((file) => {
      if (keeps.get(file.id) !== null) return [file.id, file.name];
      while (kept.has(n)) n += 1;
      const { extension } = splitExtension(file.name);
      const stem = fillPattern(pattern, { ...partsOf(file), n: String(n) });
      if (hasToken(pattern, 'n')) n += 1;
      const plain = stem === '' ? '' : `${stem}${extension ? `.${extension}` : ''}`;
      return [file.id, plain === '' ? '' : safeName(plain)];
    }),
  );
}

/** The number that a name has by the pattern; -1 where that has none and the name fits it, null where it does not fit. */
function numberIn({ name }: ToName, pattern: string, parts: Readonly<Record<string, string>>): number | null {
  const { stem, extension } = splitExtension(name);
  if (safeName(name) !== name) return null;
  if (!hasToken(pattern, 'n')) return fillPattern(pattern, parts) === stem ? -1 : null;
  const mark = '\uE000';
  const digits = Number(/\{n:([1-9])\}/.exec(pattern)?.[1] ?? 1);
  const filled = fillPattern(pattern, { ...parts, n: mark });
  const escaped = filled.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const found = new RegExp(`^${escaped.replace(mark, `(\\d{${digits},})`).replaceAll(mark, '\\d+')}$`).exec(stem)?.[1];
  // More zeros than asked for are another spelling of the number.
  if (found === undefined || String(Number(found)).padStart(digits, '0') !== found || extension === stem) return null;
  return Number(found);
}

/**
 * Holds wanted names against one another and against what lies there. `others`: names in each folder that stay, those of
 * the files themselves not among them. Names are compared as file systems that fold case and Unicode form do.
 */
export function proposeNames(
  files: readonly Pick<ToName, 'id' | 'folder' | 'name' | 'isSequence'>[],
  wanted: ReadonlyMap<string, string>,
  others: ReadonlyMap<string, readonly string[]>,
): Proposed[] {
  const keyOf = (folder: string, name: string) => `${folder}\0${nameKey(name)}`;
  const nameOf = (file: (typeof files)[number]) => wanted.get(file.id) ?? file.name;
  const taken = new Set([...others].flatMap(([folder, names]) => names.map((name) => keyOf(folder, name))));
  const counts = new Map<string, number>();
  for (const file of files) {
    const key = keyOf(file.folder, nameOf(file));
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const faults = new Map<string, RenameFault>();
  const faultOf = (file: (typeof files)[number]): RenameFault | null => {
    const to = nameOf(file);
    const key = keyOf(file.folder, to);
    if (to === file.name) return null;
    if (to === '' || to.includes('/') || safeName(to) !== to) return 'empty';
    if (file.isSequence) return 'sequence';
    if (counts.get(key)! > 1) return 'twice';
    return taken.has(key) ? 'taken' : null;
  };
  // What cannot be renamed stays, and so its name is taken for whoever wanted it.
  for (let found = true; found;) {
    found = false;
    for (const file of files) {
      const fault = faults.has(file.id) ? null : faultOf(file);
      if (!fault) continue;
      faults.set(file.id, fault);
      taken.add(keyOf(file.folder, file.name));
      found = true;
    }
  }
  return files.map((file) => ({
    id: file.id,
    from: file.name,
    to: nameOf(file),
    fault: faults.get(file.id) ?? null,
  }));
}
