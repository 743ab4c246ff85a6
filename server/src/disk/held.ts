import { closeSync, constants, fstatSync, openSync, readlinkSync, realpathSync, type Stats } from 'node:fs';
import { open, readdir, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { UserProblem } from '../problems.ts';
import { isInside } from './fence.ts';

/**
 * The one way in which anything in users' storage is opened. A path says what is meant; what it leads to is taken hold
 * of first (`O_PATH`, which opens nothing: no device, no pipe), the system is asked where that really lies, and only
 * what lies inside is opened, through the hold and not by its path again. So nothing that is swapped on the way, at any
 * level and at any moment, leads out.
 */
export type Ground = {
  readonly path: string;
  /** What the folder at that path has to be; another one there is another drive. */
  readonly is?: FolderIdentity | null | undefined;
};

/** What a folder is known by, whatever it is called. Numbers of devices change when a drive is plugged in again. */
export const folderIdentitySchema = z.object({ device: z.number(), inode: z.number(), bornMs: z.number() });
export type FolderIdentity = Readonly<z.infer<typeof folderIdentitySchema>>;

const identityOf = ({ dev, ino, birthtimeMs }: Pick<Stats, 'dev' | 'ino' | 'birthtimeMs'>): FolderIdentity => ({
  device: dev,
  inode: ino,
  bornMs: birthtimeMs,
});

export function isSameFolder(a: FolderIdentity, b: FolderIdentity): boolean {
  const born = a.bornMs > 0 && b.bornMs > 0 ? a.bornMs === b.bornMs : null;
  return a.inode === b.inode && born !== false && (a.device === b.device || born === true);
}

/** Linux' number for taking hold of a file without opening it; Node has no name for it. */
const takeHold = 0o10000000;
const folderHold = takeHold | constants.O_DIRECTORY;
/** Never waits, so that a pipe in a file's place could not hold anybody up. */
const forReading = constants.O_RDONLY | constants.O_NONBLOCK | constants.O_NOCTTY;

const through = (fd: number): string => `/proc/self/fd/${fd}`;

let allowed: readonly string[] = [];
let real: ReadonlyMap<string, string> = new Map();

/** Sets the fence of this process: nothing is opened but under these. Until it is set nothing is. */
export function useFence(folders: readonly string[]): void {
  allowed = folders;
  real = new Map();
}
export const fenceInUse = (): readonly string[] => allowed;
/** As it is handed to a process that is started; without it, that one opens nothing. */
export const fenceText = (): string => JSON.stringify(allowed);
export const fenceFrom = (text: string | undefined): string[] => z.array(z.string()).parse(JSON.parse(text ?? '[]'));

function isAllowed(path: string): boolean {
  if (allowed.some((root) => isInside(root, path))) return true;
  // A root may itself be a link: whoever set it means what it leads to.
  for (const root of allowed) {
    if (real.has(root)) continue;
    try {
      real = new Map([...real, [root, realpathSync(root)]]);
    } catch {
      // It is not there yet.
    }
  }
  return [...real.values()].some((root) => isInside(root, path));
}

/** Where it lies that was taken hold of; refused when that is outside. */
function whereItLies(fd: number, asked: string, folder: string | null): string {
  const path = readlinkSync(through(fd));
  if (!isAllowed(path)) throw new UserProblem({ code: 'outside-roots', path: asked, roots: allowed });
  if (folder !== null && !isInside(folder, path))
    throw new UserProblem({ code: 'link-leads-out', path: asked, folder });
  return path;
}

/** The text of a relative path, before anything is looked at: inside the folder, and one that a system can say. */
export function partsOf(relativePath: string, folder: string): string[] {
  const parts = relativePath.split('/').filter((part) => part !== '' && part !== '.');
  if (relativePath.includes('\0') || relativePath.startsWith('/') || parts.includes('..'))
    throw new UserProblem({ code: 'outside-folder', path: relativePath, folder });
  return parts;
}

const notTheSame = (path: string) => new UserProblem({ code: 'another-folder-there', path });
const noFile = (path: string) => new UserProblem({ code: 'not-a-file', path });

function requireSame(ground: Ground, found: Stats): void {
  if (ground.is && !isSameFolder(ground.is, identityOf(found))) throw notTheSame(ground.path);
}

/** A folder that is held open: what is done in it is done in it, wherever its path leads meanwhile. */
export class HeldFolder {
  readonly #handle: FileHandle;
  /** Where it lay when it was taken hold of. */
  readonly path: string;
  readonly identity: FolderIdentity;

  private constructor(handle: FileHandle, path: string, identity: FolderIdentity) {
    this.#handle = handle;
    this.path = path;
    this.identity = identity;
  }

  /** Takes hold of a folder inside the fence; errors of the system come as they are. */
  static async at(ground: Ground): Promise<HeldFolder> {
    return HeldFolder.#hold(ground.path, ground.path, null, ground);
  }

  static async #hold(path: string, asked: string, inside: string | null, ground?: Ground, flags = 0) {
    const handle = await open(path, folderHold | flags);
    try {
      const lies = whereItLies(handle.fd, asked, inside);
      const found = await handle.stat();
      if (ground) requireSame(ground, found);
      return new HeldFolder(handle, lies, identityOf(found));
    } catch (error) {
      await handle.close();
      throw error;
    }
  }

  /** How the system reaches an entry of exactly this folder. */
  entry(name: string): string {
    return `${through(this.#handle.fd)}/${name}`;
  }

  /** A folder further down; `strict` refuses links on its last step, for going down step by step. */
  async folder(relativePath: string, { strict = false } = {}): Promise<HeldFolder> {
    const way = partsOf(relativePath, this.path).join('/');
    const flags = strict ? constants.O_NOFOLLOW : 0;
    return HeldFolder.#hold(this.entry(way), join(this.path, way), this.path, undefined, flags);
  }

  /** Opens a file of it for reading. */
  async file(relativePath: string): Promise<FileHandle> {
    const way = partsOf(relativePath, this.path).join('/');
    const hold = await open(this.entry(way), takeHold);
    try {
      whereItLies(hold.fd, join(this.path, way), this.path);
      if (!(await hold.stat()).isFile()) throw noFile(join(this.path, way));
      return await open(through(hold.fd), forReading);
    } finally {
      await hold.close();
    }
  }

  /** What lies at a path, a link as itself; null when nothing does, or when it lies outside. */
  async look(relativePath: string): Promise<Stats | null> {
    const way = partsOf(relativePath, this.path).join('/');
    const hold = await open(this.entry(way), takeHold | constants.O_NOFOLLOW).catch(() => null);
    try {
      if (!hold) return null;
      whereItLies(hold.fd, join(this.path, way), this.path);
      return await hold.stat();
    } catch (error) {
      if (error instanceof UserProblem) return null;
      throw error;
    } finally {
      await hold?.close();
    }
  }

  async entries() {
    return readdir(this.entry('.'), { withFileTypes: true });
  }

  async close(): Promise<void> {
    await this.#handle.close();
  }
}

/** Holds a folder while `use` runs. */
export async function withFolder<T>(ground: Ground, use: (folder: HeldFolder) => Promise<T>): Promise<T> {
  const folder = await HeldFolder.at(ground);
  try {
    return await use(folder);
  } finally {
    await folder.close();
  }
}

/** An opened file once more, read past the system's cache, where the file system can. */
export const openPastCache = (file: FileHandle): Promise<FileHandle> =>
  open(through(file.fd), constants.O_RDONLY | constants.O_DIRECT);

/** Opens a file of a place, for reading only, while `use` runs. */
export async function withFileOf<T>(ground: Ground, path: string, use: (file: FileHandle) => Promise<T>): Promise<T> {
  const file = await withFolder(ground, (folder) => folder.file(path));
  try {
    return await use(file);
  } finally {
    await file.close();
  }
}

/** The same with several files at once. */
export async function withFilesOf<T>(
  ground: Ground,
  paths: readonly string[],
  use: (files: readonly FileHandle[]) => Promise<T>,
): Promise<T> {
  const files: FileHandle[] = [];
  try {
    await withFolder(ground, async (folder) => {
      for (const path of paths) files.push(await folder.file(path));
    });
    return await use(files);
  } finally {
    await Promise.all(files.map((file) => file.close()));
  }
}

/** The same for processes that do nothing else and may wait: without promises, which are four times slower. */
export const holdFolderSync = (ground: Ground): HeldFolderSync => holdSync(ground.path, ground.path, null, ground);

export type HeldFolderSync = {
  readonly path: string;
  readonly entry: (name: string) => string;
  readonly folder: (relativePath: string) => HeldFolderSync;
  /** Opens a file for reading; whoever asks closes it. */
  readonly file: (relativePath: string) => number;
  readonly close: () => void;
};

function holdSync(path: string, asked: string, inside: string | null, ground?: Ground): HeldFolderSync {
  const fd = openSync(path, folderHold);
  try {
    const lies = whereItLies(fd, asked, inside);
    if (ground) requireSame(ground, fstatSync(fd));
    const entry = (name: string) => `${through(fd)}/${name}`;
    const wayTo = (relativePath: string) => partsOf(relativePath, lies).join('/');
    return {
      path: lies,
      entry,
      folder: (relativePath) => holdSync(entry(wayTo(relativePath)), join(lies, relativePath), lies),
      file: (relativePath) => openFileSync(entry(wayTo(relativePath)), join(lies, relativePath), lies),
      close: () => closeSync(fd),
    };
  } catch (error) {
    closeSync(fd);
    throw error;
  }
}

function openFileSync(path: string, asked: string, inside: string): number {
  const hold = openSync(path, takeHold);
  try {
    whereItLies(hold, asked, inside);
    if (!fstatSync(hold).isFile()) throw noFile(asked);
    return openSync(through(hold), forReading);
  } finally {
    closeSync(hold);
  }
}
