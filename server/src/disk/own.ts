import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { asideOf, FencedFolder } from './writing.ts';

/** Legame's own files, in its data folder: nobody else's, so they may be replaced and removed. */

/** The folder of the cache with pictures of clips as they looked while they were linked. */
export const keptLongest = 'clips';

/** Writes a small file anew: aside, then in the place of the one before. */
export async function replaceOwnFile(path: string, text: string): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const aside = `${path}.new`;
  await writeFile(aside, text);
  await rename(aside, path);
}

/** A small file; null when there is none. */
export const readOwnFile = (path: string): Promise<string | null> => readFile(path, 'utf8').catch(() => null);

export const readOwnBytes = (path: string): Promise<Buffer> => readFile(path);

/**
 * What was made once and can be made again, under names that say of what; what was looked at longest ago goes first. What
 * is kept longest goes when there is nothing else: the files that it was made of may be gone.
 */
export class Cache {
  readonly #path: string;

  constructor(path: string) {
    this.#path = path;
  }

  /** Where something is kept, looked at now; null when it is not. */
  async find(name: string): Promise<string | null> {
    const path = join(this.#path, ...name.split('/'));
    const now = new Date();
    return utimes(path, now, now).then(
      () => path,
      () => null,
    );
  }

  /** Keeps it and says where. Two may have made the same; the first to be named is kept. */
  async keep(name: string, bytes: Uint8Array): Promise<string> {
    const folder = await FencedFolder.own(this.#path);
    const aside = asideOf(name);
    try {
      await folder.writeAside(aside, bytes);
      await folder.publish(aside, name);
    } catch (error) {
      if (!(await this.find(name))) throw error;
    } finally {
      await folder.discard(aside);
    }
    return join(this.#path, ...name.split('/'));
  }

  /** Names of the folders in one of its folders. */
  async foldersIn(folder: string): Promise<string[]> {
    const entries = await readdir(join(this.#path, folder), { withFileTypes: true }).catch(() => []);
    return entries.filter((entry) => entry.isDirectory()).map((entry) => entry.name);
  }

  async drop(folder: string): Promise<void> {
    await rm(join(this.#path, ...folder.split('/')), { recursive: true, force: true });
  }

  async trimTo(limitInBytes: number): Promise<void> {
    const files = await this.#files();
    let total = files.reduce((sum, f) => sum + f.size, 0);
    const last = join(this.#path, keptLongest);
    const order = (path: string) => (path.startsWith(`${last}/`) ? 1 : 0);
    for (const file of files.sort((a, b) => order(a.path) - order(b.path) || a.usedMs - b.usedMs)) {
      if (total <= limitInBytes) break;
      await rm(file.path, { force: true });
      total -= file.size;
    }
  }

  async #files(): Promise<{ path: string; size: number; usedMs: number }[]> {
    const entries = await readdir(this.#path, { withFileTypes: true, recursive: true }).catch(() => []);
    return Promise.all(
      entries
        .filter((e) => e.isFile())
        .map(async (e) => {
          const path = join(e.parentPath, e.name);
          const found = await stat(path).catch(() => null);
          return { path, size: found?.size ?? 0, usedMs: found?.mtimeMs ?? 0 };
        }),
    );
  }
}
