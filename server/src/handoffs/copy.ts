import { join } from 'node:path';
import type { JobContext } from '../context.ts';
import type { Ours } from '../made/ours.ts';
import { UserProblem } from '../problems.ts';
import type { Copied, CopyOptions, Expected, Target } from '../media/copying.ts';
import type { NextPart } from '../media/ahead.ts';
import type { Trim } from '../media/trim.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import type { Ground } from '../disk/held.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { groundOf, type PlaceRecord } from '../stores/places.ts';

export type Copy = {
  readonly source: Ground & { readonly file: string };
  readonly expected: Expected;
  /** The part of it that is kept; null for all of it. */
  readonly trim: Trim | null;
  /** Parts of the same source that come next, in the first of its folders. */
  readonly next?: readonly NextPart[];
  readonly target: string;
};

/** What a source is held against before it is copied: what it was when it was indexed. */
export const asIndexed = ({ sizeInBytes, modifiedMs, sequence, fingerprint }: MediaFileRecord): Expected => ({
  sizeInBytes: sequence ? null : sizeInBytes,
  modifiedMs,
  isFrame: sequence !== null,
  fingerprint: sequence ? null : fingerprint,
});

/** A drive that says nothing for so long has stalled; flushing a large file to a slow one may take a while. */
const patienceMs = 60_000;

/**
 * Copies one file, or makes a part of it, in each of these folders so that it is proven, by a process that can be ended:
 * written aside, read back and compared (`media/copying.ts`, `media/trimming.ts`), and only then named.
 */
export async function copyVerified(
  process: ReaderProcess,
  copy: Copy,
  targets: readonly Ours[],
  options: CopyOptions,
): Promise<Copied> {
  const into = targets.map((ours) => ({ folder: ours.folder, aside: ours.of(copy.target).aside }));
  const made = await writeVerified(process, copy, into, options);
  try {
    for (const ours of targets) await ours.name(copy.target, made.xxh64, made.others);
  } catch (error) {
    await discard(into);
    throw error;
  }
  return made;
}

/** The same up to the name that it gets. */
export async function writeVerified(
  process: ReaderProcess,
  { source, expected, trim, next = [] }: Copy,
  targets: readonly Target[],
  { signal, onBytes, also }: CopyOptions,
): Promise<Copied> {
  const into = targets.map(({ folder, aside }) => ({ folder: folder.ground, aside }));
  const asked = { source, expected, into, also: also ? [...also] : undefined };
  try {
    const end = await process.ask(trim ? { do: 'trim', trim, next: [...next], ...asked } : { do: 'copy', ...asked }, {
      patienceMs,
      signal,
      onPart: (part) => part.part === 'copying' && onBytes(part.bytes),
    });
    switch (end.part) {
      case 'aborted':
        throw new DOMException('Aborted', 'AbortError');
      case 'copied':
        return { xxh64: end.xxh64, sizeInBytes: end.sizeInBytes, others: end.others, lost: end.lost };
      case 'failed':
        throw end.problem ? new UserProblem(end.problem) : new Error(end.detail);
      case 'no-answer':
        throw new UserProblem({ code: 'file-stalls', path: `${source.path}/${source.file}` });
      default:
        throw new Error(`The copying process answered “${end.part}”.`);
    }
  } catch (error) {
    await discard(targets);
    throw error;
  }
}

async function discard(targets: readonly Target[]): Promise<void> {
  for (const { folder, aside } of targets) await folder.discard(aside).catch(() => undefined);
}

/** Copies one file whole, proven, as a job that tells how far it is. */
export async function copyWhole(
  { signal, report }: Pick<JobContext, 'signal' | 'report'>,
  file: MediaFileRecord,
  place: PlaceRecord,
  target: string,
  ours: Ours,
): Promise<void> {
  const copier = new ReaderProcess();
  const { folder, name, sizeInBytes, modifiedMs, fingerprint } = file;
  const expected = { sizeInBytes, modifiedMs, isFrame: false, fingerprint };
  const source = { ...groundOf(place), file: join(folder, name) };
  let done = 0;
  try {
    await copyVerified(copier, { source, expected, trim: null, target }, [ours], {
      signal,
      onBytes: (bytes) => {
        done += bytes;
        void report({ done, of: sizeInBytes, unit: 'bytes', doing: { code: 'copying', file: name } });
      },
    });
  } finally {
    copier.stop();
  }
}
