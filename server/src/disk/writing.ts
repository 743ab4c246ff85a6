import { constants } from 'node:fs';
import {
  access,
  link,
  lstat,
  mkdir,
  open,
  readdir,
  readFile,
  realpath,
  rename,
  rm,
  stat,
  utimes,
  writeFile,
  type FileHandle,
} from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { UserProblem } from '../problems.ts';
import { writeRefusal } from './conditions.ts';
import { isInside } from './fence.ts';

/**
 * The only way in which Legame writes files: inside one folder, to names that are not taken, never over anything.
 * Made for a handoff's folder and for Legame's own cache.
 */
export class FencedFolder {
  readonly path: string;

  private constructor(path: string) {
    this.path = path;
  }

  /** Makes a new folder in an existing parent. One that is there already is refused unless it may be `ours` from before. */
  static async make(parent: string, name: string, options: { ours: boolean }): Promise<FencedFolder> {
    const path = join(parent, name);
    try {
      await mkdir(path);
    } catch (error) {
      if (codeOf(error) !== 'EEXIST') throw writeProblem(error, path);
      if (!options.ours) {
        throw new UserProblem({ code: 'target-exists', path, when: 'planned' });
      }
    }
    return FencedFolder.at(path);
  }

  /** A folder of Legame's own, made with its parents where absent. */
  static async own(path: string): Promise<FencedFolder> {
    await mkdir(path, { recursive: true });
    return FencedFolder.at(path);
  }

  private static async at(path: string): Promise<FencedFolder> {
    return new FencedFolder(await realpath(path));
  }

  /** Where a "/"-separated relative path lies; throws when it would leave the folder. */
  resolve(relativePath: string): string {
    const path = join(this.path, ...relativePath.split('/'));
    if (relativePath.includes('\0') || !isInside(this.path, path)) {
      throw new UserProblem({ code: 'outside-folder', path: relativePath, folder: this.path });
    }
    return path;
  }

  async has(relativePath: string): Promise<boolean> {
    return (await stat(this.resolve(relativePath)).catch(() => null)) !== null;
  }

  /** Opens a new file for writing and reading back, making the folders above it. A name that is taken is an error. */
  async create(relativePath: string): Promise<FileHandle> {
    const path = this.resolve(relativePath);
    try {
      const refusal = writeRefusal(path);
      if (refusal) throw refusal;
      await mkdir(dirname(path), { recursive: true });
      const parent = await realpath(dirname(path));
      if (!isInside(this.path, parent))
        throw new UserProblem({ code: 'link-leads-out', path: relativePath, folder: this.path });
      return await open(path, constants.O_CREAT | constants.O_EXCL | constants.O_RDWR, 0o644);
    } catch (error) {
      throw writeProblem(error, path);
    }
  }

  /** Gives a finished file its name, only if that name is free: by a hard link, which cannot replace anything. */
  async publish(from: string, to: string): Promise<void> {
    const [source, target] = [this.resolve(from), this.resolve(to)];
    try {
      await link(source, target);
      await rm(source);
    } catch (error) {
      if (codeOf(error) === 'EEXIST') throw targetTaken(target);
      // File systems without hard links: look, then rename.
      if (await this.has(to)) throw targetTaken(target);
      await rename(source, target).catch((failure: unknown) => {
        throw writeProblem(failure, target);
      });
    }
  }

  /** Removes a file of Legame's own making. */
  async discard(relativePath: string): Promise<void> {
    await rm(this.resolve(relativePath), { force: true });
  }

  /** Removes a folder of Legame's own making with all that is in it. */
  async discardFolder(relativePath: string): Promise<void> {
    const path = this.resolve(relativePath);
    if (path !== this.path) await rm(path, { recursive: true, force: true });
  }

  /** Marks a file as looked at now, for `trimTo`. */
  async touch(relativePath: string): Promise<void> {
    const now = new Date();
    await utimes(this.resolve(relativePath), now, now).catch(() => undefined);
  }

  /** Removes files of this folder of Legame's own until it is within the limit; what was looked at longest ago first. */
  async trimTo(limitInBytes: number): Promise<void> {
    const files = await this.#files();
    let total = files.reduce((sum, f) => sum + f.size, 0);
    for (const file of files.sort((a, b) => a.usedMs - b.usedMs)) {
      if (total <= limitInBytes) break;
      await rm(file.path, { force: true });
      total -= file.size;
    }
  }

  async #files(): Promise<{ path: string; size: number; usedMs: number }[]> {
    const entries = await readdir(this.path, { withFileTypes: true, recursive: true }).catch(() => []);
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

  async list(relativePath = '.'): Promise<string[]> {
    return readdir(this.resolve(relativePath)).catch(() => []);
  }

  /** Writes a whole small file: aside, flushed, then named. */
  async writeWhole(relativePath: string, content: Uint8Array | string): Promise<void> {
    const aside = `${relativePath}.part`;
    await this.discard(aside);
    const file = await this.create(aside);
    try {
      await file.writeFile(content);
      await file.sync();
    } catch (error) {
      throw writeProblem(error, this.resolve(relativePath));
    } finally {
      await file.close();
    }
    await this.publish(aside, relativePath);
  }
}

/**
 * Moves a file or folder inside one root to a name that is free; the folders above it are made. This is the only way in
 * which a file of the user's is ever moved, and it can be moved back the same way.
 */
export async function moveInside(root: string, from: string, to: string): Promise<void> {
  const real = await realpath(root);
  const [source, target] = [join(real, ...from.split('/')), join(real, ...to.split('/'))];
  const above = await Promise.all([source, target].map(nearestFolder));
  if (![source, target, ...above].every((path) => isInside(real, path)))
    throw new UserProblem({ code: 'outside-folder', path: to, folder: root });
  const refusal = writeRefusal(target);
  if (refusal) throw writeProblem(refusal, target);
  if ((await lstat(target).catch(() => null)) !== null)
    throw new UserProblem({ code: 'target-exists', path: target, when: 'written' });
  try {
    await mkdir(dirname(target), { recursive: true });
    // A hard link cannot replace anything that appeared in the meantime; folders have none, and cannot replace files.
    if ((await lstat(source)).isFile()) {
      await link(source, target);
      await rm(source);
    } else await rename(source, target);
  } catch (error) {
    if (!['EPERM', 'ENOTSUP', 'EMLINK'].includes(String(codeOf(error)))) throw writeProblem(error, target);
    await rename(source, target).catch((failure: unknown) => {
      throw writeProblem(failure, target);
    });
  }
}

/** Where the nearest folder above a path really lies, links followed. */
async function nearestFolder(path: string): Promise<string> {
  const above = dirname(path);
  return realpath(above).catch(() => (above === path ? above : nearestFolder(above)));
}

/** Writes a small file of Legame's own anew: aside, then in the place of the one before. */
export async function replaceOwnFile(path: string, text: string): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const aside = `${path}.new`;
  await writeFile(aside, text);
  await rename(aside, path);
}

/** A small file of Legame's own; null when there is none. */
export const readOwnFile = (path: string): Promise<string | null> => readFile(path, 'utf8').catch(() => null);

/** Says before anything begins whether a folder can be written to. */
export async function requireWritable(path: string): Promise<void> {
  const refusal = writeRefusal(path);
  if (refusal?.code === 'EROFS') throw writeProblem(refusal, path);
  await access(path, constants.W_OK | constants.X_OK).catch((error: unknown) => {
    throw writeProblem(error, path);
  });
}

const targetTaken = (path: string) => new UserProblem({ code: 'target-exists', path, when: 'running' });

/** The system's code of a failure, asked of its shape: errors of another realm are no instances of this one's Error. */
const codeOf = (error: unknown): unknown =>
  typeof error === 'object' && error !== null && 'code' in error ? error.code : undefined;

/** A failed write as a sentence; what is not known to be the user's or the storage's is passed on as it is. */
export function writeProblem(error: unknown, path: string): unknown {
  switch (codeOf(error)) {
    case 'ENOSPC':
    case 'EDQUOT':
      return new UserProblem({ code: 'drive-full', path }, error);
    case 'EROFS':
      return new UserProblem({ code: 'target-not-writable', path, why: 'read-only' }, error);
    case 'EACCES':
    case 'EPERM':
      return new UserProblem({ code: 'target-not-writable', path, why: 'permission' }, error);
    case 'ENOENT':
    case 'ENOTDIR':
      return new UserProblem({ code: 'folder-not-there', path, for: 'writing' }, error);
    default:
      return error;
  }
}
