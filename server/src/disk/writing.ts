import { randomBytes } from 'node:crypto';
import { constants, type Stats } from 'node:fs';
import {
  access,
  link,
  lstat,
  mkdir,
  open,
  realpath,
  rename,
  rm,
  rmdir,
  unlink,
  type FileHandle,
} from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { UserProblem } from '../problems.ts';
import { writeRefusal } from './conditions.ts';
import { codeOf, writeProblem } from './failures.ts';
import { HeldFolder, partsOf, withFolder, type FolderIdentity, type Ground } from './held.ts';

/** A folder, and that it has to be this very one. */
export type SurelyThat = { readonly path: string; readonly is: FolderIdentity };

/** What a file is known by that Legame made: anything of it another, and it is no longer what was made. */
export type FileIdentity = {
  readonly device: number;
  readonly inode: number;
  readonly sizeInBytes: number;
  readonly modifiedMs: number;
  /** When anything of it changed last, its name included; nobody can set it. */
  readonly changedMs: number;
};

const fileIdentityOf = ({ dev, ino, size, mtimeMs, ctimeMs }: Stats): FileIdentity => ({
  device: dev,
  inode: ino,
  sizeInBytes: size,
  modifiedMs: mtimeMs,
  changedMs: ctimeMs,
});

/** Device numbers change when a drive is plugged in again, so they are not held against it. */
export const isSameFile = (a: FileIdentity, b: FileIdentity): boolean =>
  a.inode === b.inode && a.sizeInBytes === b.sizeInBytes && a.modifiedMs === b.modifiedMs;

/** Whether nothing at all happened to it since; where something did, its content may be another. */
export const isUntouched = (a: FileIdentity, b: FileIdentity): boolean =>
  isSameFile(a, b) && a.changedMs === b.changedMs;

/** A name for a file in the making that nobody else has and nobody could guess; hidden, so that no walk lists it. */
export const nameAside = (): string => `.legame-${randomBytes(12).toString('hex')}.part`;

/** A new file beside where it will lie. */
export const asideOf = (target: string): string => join(dirname(target), nameAside());

/**
 * The only way in which Legame writes files: inside one folder that it holds open, to names that are not taken, never
 * over anything. Nothing is removed but by the name or the identity that Legame itself gave it.
 */
export class FencedFolder {
  readonly path: string;
  readonly identity: FolderIdentity;

  private constructor({ path, identity }: HeldFolder) {
    this.path = path;
    this.identity = identity;
  }

  /**
   * Makes a new folder in a parent. One that is there already is refused; where Legame wrote down that it was about to
   * make it (`intended`) and could not say that it had, one that is empty is taken for it.
   */
  static async make(parent: Ground, name: string, { intended }: { intended: boolean }): Promise<FencedFolder> {
    const path = join(parent.path, name);
    try {
      return await withFolder(parent, async (held) => {
        await refuseWrites(path);
        const isTaken = !(await makeEntry(held, name));
        const folder = await held.folder(name, { strict: true }).catch((error: unknown) => {
          throw isTaken ? new UserProblem({ code: 'target-exists', path, when: 'planned' }) : error;
        });
        try {
          if (isTaken && !(intended && (await folder.entries()).length === 0))
            throw new UserProblem({ code: 'target-exists', path, when: 'planned' });
          return new FencedFolder(folder);
        } finally {
          await folder.close();
        }
      });
    } catch (error) {
      throw writeProblem(error, path);
    }
  }

  /** A folder that is there: of a place, or one that Legame made before, by what that is known by. */
  static of(ground: Ground): Promise<FencedFolder> {
    return withFolder(ground, (held) => Promise.resolve(new FencedFolder(held))).catch((error: unknown) => {
      throw writeProblem(error, ground.path);
    });
  }

  /** A folder of Legame's own, made with its parents where absent. */
  static async own(path: string): Promise<FencedFolder> {
    await mkdir(path, { recursive: true });
    return FencedFolder.of({ path: await realpath(path) });
  }

  get ground(): SurelyThat {
    return { path: this.path, is: this.identity };
  }

  /** Where a "/"-separated relative path lies, for telling people; throws when it would leave the folder. */
  resolve(relativePath: string): string {
    return join(this.path, ...partsOf(relativePath, this.path));
  }

  /** What lies under a name, a link as itself; null when nothing does. */
  async look(relativePath: string): Promise<(FileIdentity & { readonly isFile: boolean }) | null> {
    return this.#beside(relativePath, async (folder, name) => {
      const found = await lstat(folder.entry(name)).catch(nothingThere);
      return found && { ...fileIdentityOf(found), isFile: found.isFile() };
    }).catch(nothingThere);
  }

  async has(relativePath: string): Promise<boolean> {
    return (await this.look(relativePath)) !== null;
  }

  /** Opens a file of it for reading. */
  async open(relativePath: string): Promise<FileHandle> {
    return withFolder(this.ground, (folder) => folder.file(relativePath));
  }

  /** Opens a new file for writing and reading back, making the folders above it. A name that is taken is an error. */
  async create(relativePath: string): Promise<FileHandle> {
    try {
      await refuseWrites(this.resolve(relativePath));
      return await this.#beside(
        relativePath,
        (folder, name) => open(folder.entry(name), constants.O_CREAT | constants.O_EXCL | constants.O_RDWR, 0o644),
        { make: true },
      );
    } catch (error) {
      throw writeProblem(error, this.resolve(relativePath));
    }
  }

  /** What a file is known by from now on. */
  async identify(relativePath: string): Promise<FileIdentity> {
    const found = await this.look(relativePath);
    if (!found) throw new UserProblem({ code: 'folder-not-there', path: this.resolve(relativePath), for: 'writing' });
    const { isFile: _, ...identity } = found;
    return identity;
  }

  /** Gives a finished file its name beside it, only if that name is free. */
  async publish(from: string, to: string): Promise<void> {
    const target = this.resolve(to);
    try {
      await this.#beside(to, async (folder, name) => {
        await moveToFreeName(folder.entry(basename(from)), folder.entry(name));
        await syncFolder(folder);
      });
    } catch (error) {
      if (codeOf(error) === 'EEXIST') throw targetTaken(target);
      throw writeProblem(error, target);
    }
  }

  /** Removes a file in the making, by the name that only Legame knows. */
  async discard(aside: string): Promise<void> {
    if (!basename(aside).startsWith('.legame-')) throw new Error(`${aside} is no name that only Legame knows.`);
    await this.#beside(aside, (folder, name) => rm(folder.entry(name), { force: true })).catch(nothingThere);
  }

  /**
   * Takes back a file that Legame made, if it is still that one. It is put aside first and looked at there, so that
   * what somebody else put in its place at this very moment goes back instead. False where it is another now.
   */
  async takeBack(relativePath: string, made: FileIdentity): Promise<boolean> {
    return this.#beside(relativePath, async (folder, name) => {
      const path = folder.entry(name);
      const found = await lstat(path).catch(nothingThere);
      if (!found) return true;
      if (!isSameFile(fileIdentityOf(found), made)) return false;
      const aside = folder.entry(nameAside());
      await rename(path, aside);
      if (isSameFile(fileIdentityOf(await lstat(aside)), made)) {
        await unlink(aside);
        return true;
      }
      await moveToFreeName(aside, path);
      return false;
    });
  }

  /** Writes a whole small file under its name in the making, and flushes it. */
  async writeAside(aside: string, content: Uint8Array | string): Promise<void> {
    const file = await this.create(aside);
    try {
      await file.writeFile(content);
      await file.sync();
    } catch (error) {
      throw writeProblem(error, this.resolve(aside));
    } finally {
      await file.close();
    }
  }

  /**
   * Puts a file in the making in the place of one that is there, in one step, if that is still what was looked at.
   * For the one case in which a file of another's is to be continued.
   */
  async replace(relativePath: string, seen: FileIdentity, aside: string): Promise<boolean> {
    return this.#beside(relativePath, async (folder, name) => {
      const found = await lstat(folder.entry(name)).catch(nothingThere);
      if (!found || !isUntouched(fileIdentityOf(found), seen)) return false;
      await rename(folder.entry(basename(aside)), folder.entry(name));
      await syncFolder(folder);
      return true;
    });
  }

  /** Makes a folder with those above it; false where it was there. A file under its name is refused. */
  async makeFolder(relativePath: string): Promise<boolean> {
    const path = this.resolve(relativePath);
    try {
      return await this.#beside(
        relativePath,
        async (folder, name) => {
          await refuseWrites(path);
          if (await makeEntry(folder, name)) return true;
          await (await stepDown(folder, name, false)).close();
          return false;
        },
        { make: true },
      );
    } catch (error) {
      if (codeOf(error) === 'ENOTDIR') throw new UserProblem({ code: 'target-exists', path, when: 'written' });
      throw writeProblem(error, path);
    }
  }

  /** Runs with the folder of a relative path held open; its folders are made where asked. */
  async #beside<T>(
    relativePath: string,
    use: (folder: HeldFolder, name: string) => Promise<T>,
    { make = false } = {},
  ): Promise<T> {
    return using(await downTo(this.ground, partsOf(relativePath, this.path), make), use);
  }
}

type Down = { readonly folder: HeldFolder; readonly name: string };

/** Goes down to the folder of the last part step by step, through what is held, so that no link is followed. */
async function downTo(root: Ground, parts: readonly string[], make: boolean): Promise<Down> {
  let folder = await HeldFolder.at(root);
  try {
    for (const part of parts.slice(0, -1)) {
      const next = await stepDown(folder, part, make);
      await folder.close();
      folder = next;
    }
    return { folder, name: parts.at(-1) ?? '.' };
  } catch (error) {
    await folder.close();
    throw error;
  }
}

async function using<T>({ folder, name }: Down, use: (folder: HeldFolder, name: string) => Promise<T>): Promise<T> {
  try {
    return await use(folder, name);
  } finally {
    await folder.close();
  }
}

async function stepDown(folder: HeldFolder, part: string, make: boolean): Promise<HeldFolder> {
  if (make) await makeEntry(folder, part);
  return folder.folder(part, { strict: true }).catch(async (error: unknown) => {
    if (codeOf(error) !== 'ENOTDIR') throw error;
    const found = await lstat(folder.entry(part));
    if (!found.isSymbolicLink()) throw error;
    throw new UserProblem({ code: 'link-leads-out', path: join(folder.path, part), folder: folder.path });
  });
}

/** Makes a folder in one that is held; false where something has its name. What lies in it outlives a power cut only with it. */
async function makeEntry(folder: HeldFolder, name: string): Promise<boolean> {
  try {
    await mkdir(folder.entry(name));
  } catch (error) {
    if (codeOf(error) === 'EEXIST') return false;
    throw error;
  }
  await syncFolder(folder);
  return true;
}

/**
 * Gives a file another name that is free: by a hard link, which cannot replace anything. File systems without hard
 * links get a file of ours under the new name first, which takes the name, and is then replaced.
 */
async function moveToFreeName(from: string, to: string): Promise<void> {
  try {
    await link(from, to);
  } catch (error) {
    if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'EMLINK', 'ENOSYS'].includes(String(codeOf(error)))) throw error;
    await (await open(to, constants.O_CREAT | constants.O_EXCL | constants.O_WRONLY)).close();
    return rename(from, to);
  }
  await unlink(from);
}

/** What was named is named also after a power cut. Some file systems cannot be asked for it. */
async function syncFolder(folder: HeldFolder): Promise<void> {
  const handle = await open(folder.entry('.'), constants.O_RDONLY | constants.O_DIRECTORY).catch(() => null);
  await handle?.sync().catch(() => undefined);
  await handle?.close();
}

/**
 * Moves a file or folder inside one root to a name that is free; the folders above it are made. This is the only way in
 * which a file of the user's is ever moved, and it can be moved back the same way.
 */
export async function moveInside(root: Ground, from: string, to: string): Promise<void> {
  const target = join(root.path, to);
  try {
    await refuseWrites(target);
    const [source, wanted] = [partsOf(from, root.path), partsOf(to, root.path)];
    await using(await downTo(root, source, false), async (folder, name) => {
      const found = await lstat(folder.entry(name));
      await using(await downTo(root, wanted, true), async (into, newName) => {
        if (found.isFile()) await moveToFreeName(folder.entry(name), into.entry(newName));
        else await moveFolder(folder.entry(name), into.entry(newName));
      });
    });
  } catch (error) {
    if (codeOf(error) === 'EEXIST' || codeOf(error) === 'ENOTEMPTY')
      throw new UserProblem({ code: 'target-exists', path: target, when: 'written' });
    throw writeProblem(error, target);
  }
}

/** Folders have no hard links. An empty one of ours takes the name; renaming replaces that, and nothing that is not empty. */
async function moveFolder(from: string, to: string): Promise<void> {
  await mkdir(to);
  await rename(from, to).catch(async (error: unknown) => {
    await rmdir(to).catch(() => undefined);
    throw error;
  });
}

/** Says before anything begins whether a folder can be written to. */
export async function requireWritable(ground: Ground): Promise<void> {
  try {
    await refuseWrites(ground.path, ['EROFS']);
    await withFolder(ground, (folder) => access(folder.entry('.'), constants.W_OK | constants.X_OK));
  } catch (error) {
    throw writeProblem(error, ground.path);
  }
}

async function refuseWrites(path: string, codes?: readonly string[]): Promise<void> {
  const refusal = writeRefusal(path);
  if (refusal && (codes?.includes(refusal.code) ?? true)) return Promise.reject(refusal);
}

const targetTaken = (path: string) => new UserProblem({ code: 'target-exists', path, when: 'running' });

function nothingThere(error: unknown): null {
  if (codeOf(error) === 'ENOENT' || codeOf(error) === 'ENOTDIR') return null;
  throw error;
}
