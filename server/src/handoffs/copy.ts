import type { Ours } from '../made/ours.ts';
import { UserProblem } from '../problems.ts';
import type { CopyOptions, Expected } from '../media/copying.ts';
import type { ReaderProcess } from '../media/readerProcess.ts';
import type { Ground } from '../disk/held.ts';

export type Copy = {
  readonly source: Ground & { readonly file: string };
  readonly expected: Expected;
  readonly target: string;
};

/** A drive that says nothing for so long has stalled; flushing a large file to a slow one may take a while. */
const patienceMs = 60_000;

/**
 * Copies one file into a folder so that it is proven, by a process that can be ended: written aside, hashed on the way,
 * read back and compared (`media/copying.ts`), and only then named. Returns the hash.
 */
export async function copyVerified(
  process: ReaderProcess,
  { source, expected, target }: Copy,
  ours: Ours,
  { signal, onBytes }: CopyOptions,
): Promise<string> {
  const { aside } = ours.of(target);
  try {
    const end = await process.ask(
      { do: 'copy', source, expected, folder: ours.folder.ground, aside },
      { patienceMs, signal, onPart: (part) => part.part === 'copying' && onBytes(part.bytes) },
    );
    switch (end.part) {
      case 'aborted':
        throw new DOMException('Aborted', 'AbortError');
      case 'copied':
        await ours.name(target, end.xxh64);
        return end.xxh64;
      case 'failed':
        throw end.problem ? new UserProblem(end.problem) : new Error(end.detail);
      case 'no-answer':
        throw new UserProblem({ code: 'file-stalls', path: `${source.path}/${source.file}` });
      default:
        throw new Error(`The copying process answered “${end.part}”.`);
    }
  } catch (error) {
    await ours.folder.discard(aside).catch(() => undefined);
    throw error;
  }
}
