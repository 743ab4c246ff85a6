import type { DocumentId } from '../model/ids.ts';
import { nameKey, splitExtension } from '../paths/names.ts';

/** A document that lies in the watched folder, by what tells it apart. */
export type WatchedFile = {
  readonly name: string;
  /** In UTC milliseconds. */
  readonly modifiedMs: number;
  readonly sha256: string;
  /** What it says it is; null where it could not be read. */
  readonly says: Said | null;
};
/** Its format by id, and its title. */
type Said = { readonly format: string; readonly title: string };
export type KnownDocument = {
  readonly id: DocumentId;
  readonly name: string;
  readonly says: Said;
  readonly broughtInMs: number;
  /** Of its bytes now, and of every version it replaced. */
  readonly sha256s: readonly string[];
};
export type Newer<F> = { readonly file: F; readonly replaces: DocumentId };

/** Numbers that say which thing it is, and not which version: those after these words stay part of the name. */
const thing = /(reel|roll|part|day|episode|ep|act|scene|sc|card|cam|camera|take)$/;
/** What stands before the number of a version. */
const versionWord = /[\s._-]*(?:\b|_)(?:version|ver|rev|v)?[\s._-]*$/;

/**
 * A name without what says its version: numbers at the end of a word and dates, with the "v" before them; and those
 * numbers, in order. "Saltglass cut 7 v2.edl" and "saltglass_cut_8.edl" are versions of one thing, reel 1 and reel 2 are not.
 */
export function versionOf(name: string): { readonly stem: string; readonly numbers: readonly number[] } {
  const { stem, extension } = splitExtension(nameKey(name));
  const numbers: number[] = [];
  let kept = '';
  for (const piece of stem.split(/(\d+)/)) {
    if (!/^\d+$/.test(piece)) kept += piece;
    else if (thing.test(kept.replace(/[\s._-]+$/, ''))) kept += piece;
    else {
      kept = kept.replace(versionWord, ' ');
      numbers.push(Number(piece));
    }
  }
  const words = kept.split(/[\s._-]+/).filter((word) => word !== '');
  return { stem: `${words.join(' ')}.${extension}`, numbers };
}

/** Which of two versions comes after the other, number by number; one that has a number more comes after. */
export function compareVersions(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < Math.max(a.length, b.length); i += 1) {
    const step = (a[i] ?? -1) - (b[i] ?? -1);
    if (step !== 0) return step;
  }
  return 0;
}

/**
 * What of a folder's documents is newer than what was brought in: of one name with other bytes, of a name that counts on,
 * or written since under the title of one alone. For each document only the newest is told, and for each file the document
 * whose version comes right before it. It is a proposal: whether it is a newer version a person says.
 */
export function findNewer<F extends WatchedFile>(files: readonly F[], documents: readonly KnownDocument[]): Newer<F>[] {
  const known = new Set(documents.flatMap((d) => d.sha256s));
  const versions = documents.map((document) => ({ document, ...versionOf(document.name) }));
  const newest = new Map<DocumentId, { file: F; numbers: readonly number[] }>();
  for (const file of files) {
    if (known.has(file.sha256)) continue;
    const { stem, numbers } = versionOf(file.name);
    const namesake = versions.find((v) => nameKey(v.document.name) === nameKey(file.name));
    const before = versions
      .filter((v) => v.stem === stem && compareVersions(v.numbers, numbers) < 0)
      .sort((a, b) => compareVersions(b.numbers, a.numbers));
    const tied = before[1] && compareVersions(before[0]!.numbers, before[1].numbers) === 0;
    const former = namesake ?? (before[0] ? (tied ? undefined : before[0]) : alikeByTitle(file, stem, versions));
    if (!former) continue;
    const rival = newest.get(former.document.id);
    const step = rival ? compareVersions(numbers, rival.numbers) || file.modifiedMs - rival.file.modifiedMs : 1;
    if (step > 0) newest.set(former.document.id, { file, numbers });
  }
  return [...newest].map(([replaces, { file }]) => ({ file, replaces }));
}

/** The one document of this format and title that was brought in before the file was written, and does not count versions with it. */
function alikeByTitle<V extends { readonly document: KnownDocument; readonly stem: string }>(
  { says, modifiedMs }: WatchedFile,
  stem: string,
  versions: readonly V[],
): V | undefined {
  if (!says || says.title.trim() === '') return undefined;
  const alike = versions.filter(
    ({ document }) => document.says.format === says.format && nameKey(document.says.title) === nameKey(says.title),
  );
  const [only] = alike.length === 1 ? alike : [];
  return only && only.stem !== stem && modifiedMs > only.document.broughtInMs ? only : undefined;
}
