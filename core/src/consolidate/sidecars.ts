import type { MediaFileId } from '../model/ids.ts';
import type { SequenceFrames } from '../model/media.ts';
import { nameKey, safeName, splitExtension } from '../paths/names.ts';

/** A file that is no media and goes with the recording whose name it has: settings, looks, notes, hashes. */
export type Sidecar = {
  readonly id: MediaFileId;
  readonly name: string;
  readonly sizeInBytes: number;
  /** What its name has beyond the recording's: ".xml", ".mov.md5". */
  readonly ending: string;
};

/** A sidecar as it goes; both "/"-separated, from the place's root and from the handoff's folder. */
export type PlannedSidecar = {
  readonly mediaFileId: MediaFileId;
  readonly source: string;
  readonly target: string;
  readonly sizeInBytes: number;
};

/** What a recording and its sidecars are called alike, folded as file systems fold it. Frames share what is before their numbers. */
const stemOf = ({ name, sequence }: { readonly name: string; readonly sequence: SequenceFrames | null }): string =>
  nameKey(sequence ? sequence.prefix.replace(/[-_. ]+$/, '') : splitExtension(name).stem);

/**
 * Of files that are no media and lie in one folder, those of each of its recordings: "A001.xml", "A001.mov.md5" and
 * "a001.cube" are sidecars of "A001.mov", "A001b.xml" is not. One that two recordings could have goes to the first.
 */
export function sidecarsIn<R extends { readonly name: string; readonly sequence: SequenceFrames | null }>(
  recordings: readonly R[],
  others: readonly Omit<Sidecar, 'ending'>[],
): Map<R, Sidecar[]> {
  const byStem = new Map<string, R>();
  for (const one of recordings) if (!byStem.has(stemOf(one))) byStem.set(stemOf(one), one);
  const found = new Map<R, Sidecar[]>();
  for (const { id, name, sizeInBytes } of others) {
    // The longest name wins: "A001.v2.xml" is of "A001.v2.mov" and not of "A001.mov".
    for (let at = name.lastIndexOf('.'); at > 0; at = name.lastIndexOf('.', at - 1)) {
      const of = byStem.get(nameKey(name.slice(0, at)));
      if (!of) continue;
      found.set(of, [...(found.get(of) ?? []), { id, name, sizeInBytes, ending: name.slice(at) }]);
      break;
    }
  }
  return found;
}

/**
 * Where the sidecars of a recording go: beside the first of its files, under that one's name where it is the only one.
 * `taken` holds the keys of all names of the set, and gets theirs.
 */
export function sidecarsBeside(
  file: {
    readonly folder: string;
    readonly sequence: SequenceFrames | null;
    readonly sidecars: readonly Sidecar[];
  },
  outs: readonly { readonly target: string; readonly sequence: SequenceFrames | null }[],
  taken: Set<string>,
): PlannedSidecar[] {
  const [first] = outs;
  const folder = first!.target.slice(0, first!.target.lastIndexOf('/'));
  const stem = outs.length === 1 && !file.sequence ? splitExtension(first!.target.slice(folder.length + 1)).stem : null;
  return file.sidecars.map(({ id, name, sizeInBytes, ending }) => {
    const { stem: plain, extension } = splitExtension(safeName(stem === null ? name : stem + ending));
    const numbered = (n: number) => `${folder}/${plain}${n === 1 ? '' : `_${n}`}${extension ? `.${extension}` : ''}`;
    let n = 1;
    while (taken.has(nameKey(numbered(n)))) n += 1;
    taken.add(nameKey(numbered(n)));
    return {
      mediaFileId: id,
      source: file.folder === '' ? name : `${file.folder}/${name}`,
      target: numbered(n),
      sizeInBytes,
    };
  });
}
