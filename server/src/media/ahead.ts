import type { FileHandle } from 'node:fs/promises';
import { writeProblem } from '../disk/failures.ts';
import { isUntouched, type FencedFolder, type FileIdentity } from '../disk/writing.ts';
import type { Trim } from './trim.ts';

/** A part that will be asked for, and how it is called in the making. */
export type NextPart = { readonly aside: string; readonly trim: Trim };

/**
 * Parts that were written together with another of their source, since starting the program that writes them takes longer
 * than writing them. Nothing of them is proven until they are asked for; whoever asks gets one only as it was left.
 */
export class WrittenAhead {
  readonly #parts = new Map<string, { readonly identity: FileIdentity; readonly of: string }>();

  /** Whether this part lies there as it was written; then it is the asker's. `source`: what the file it is cut from is. */
  async take(folder: FencedFolder, { aside, trim }: NextPart, source: string): Promise<boolean> {
    const key = folder.resolve(aside);
    const known = this.#parts.get(key);
    this.#parts.delete(key);
    if (!known) return false;
    const found = await folder.look(aside);
    if (found && known.of === nameOf(trim, source) && isUntouched(found, known.identity)) return true;
    await folder.discard(aside);
    return false;
  }

  isThere = (folder: FencedFolder, { aside }: NextPart): boolean => this.#parts.has(folder.resolve(aside));

  async note(folder: FencedFolder, { aside, trim }: NextPart, source: string): Promise<void> {
    this.#parts.set(folder.resolve(aside), { identity: await folder.identify(aside), of: nameOf(trim, source) });
  }
}

const nameOf = ({ range, startsAt, facts, coded }: Trim, source: string): string =>
  JSON.stringify([source, range, startsAt, facts, coded ?? null]);

/** Makes these files, has them written together, and flushes them; where that fails, none of them is left. */
export async function writtenTogether<T>(
  folder: FencedFolder,
  asides: readonly string[],
  write: (copies: readonly FileHandle[]) => Promise<T>,
): Promise<T> {
  const made: { readonly aside: string; readonly copy: FileHandle }[] = [];
  let isWritten = false;
  try {
    for (const aside of asides) made.push({ aside, copy: await folder.create(aside) });
    const result = await write(made.map(({ copy }) => copy));
    for (const { copy } of made) await copy.sync();
    isWritten = true;
    return result;
  } catch (error) {
    throw writeProblem(error, folder.resolve(asides[0]!));
  } finally {
    for (const { aside, copy } of made) {
      await copy.close();
      if (!isWritten) await folder.discard(aside).catch(() => undefined);
    }
  }
}
