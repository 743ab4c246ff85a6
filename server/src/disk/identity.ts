import { readdir, readFile, readlink, realpath } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { withFolder, type HeldFolder } from './held.ts';

/**
 * What a place is known by, wherever it is mounted: the file system's own id where it is the root of one, else its
 * tree. Nothing is ever written to a drive to know it again.
 */
export async function fileSystemIdOf(path: string): Promise<string | null> {
  const device = await deviceMountedAt(path);
  if (!device) return null;
  const folder = '/dev/disk/by-uuid';
  for (const uuid of await readdir(folder).catch(() => [])) {
    const target = await readlink(join(folder, uuid)).catch(() => null);
    if (target && basename(target) === basename(device)) return uuid;
  }
  return null;
}

/** The block device whose file system is mounted right at `path`; null for folders inside one, and for shares. */
async function deviceMountedAt(path: string): Promise<string | null> {
  const table = await readFile('/proc/self/mountinfo', 'utf8').catch(() => '');
  for (const line of table.split('\n')) {
    // "36 35 98:0 / /mnt/kiln rw,noatime master:1 - ext4 /dev/sdb1 rw"; spaces in paths are written \040.
    const [before, after] = line.split(' - ');
    const [, , , root, point] = before?.split(' ') ?? [];
    const device = after?.split(' ')[1];
    if (root !== '/' || !point || !device?.startsWith('/dev/')) continue;
    const unescaped = point.replace(/\\([0-7]{3})/g, (_, octal: string) => String.fromCharCode(parseInt(octal, 8)));
    if (unescaped === path) return realpath(device).catch(() => device);
  }
  return null;
}

export type TreeSample = readonly {
  readonly path: string;
  readonly sizeInBytes: number;
  readonly modifiedMs: number;
}[];

/** Some file systems keep times to two seconds only. */
const timeToleranceMs = 2001;

/** The share of a sample of files that lie under `root` with their size and time. */
export async function treeFit(root: string, sample: TreeSample): Promise<number> {
  if (sample.length === 0) return 0;
  return withFolder({ path: root }, (folder) => fitOf(folder, sample)).catch(() => 0);
}

async function fitOf(folder: HeldFolder, sample: TreeSample): Promise<number> {
  let alike = 0;
  for (const [i, { path, sizeInBytes, modifiedMs }] of sample.entries()) {
    // Nearly every folder is quite another tree, and shows it at once.
    if (i === enoughToTell && alike === 0) return 0;
    const found = await folder.look(path);
    if (found?.isFile() && found.size === sizeInBytes && Math.abs(found.mtimeMs - modifiedMs) < timeToleranceMs)
      alike += 1;
  }
  return alike / sample.length;
}

const enoughToTell = 8;

/** From this share on a tree is the same one; a few files may have changed meanwhile. */
export const sameTree = 0.8;
/** Up to this share it is certainly another one. */
export const otherTree = 0.1;
/** Fewer files than this say nothing about a tree. */
export const leastSample = 3;
export const sampleSize = 48;
const mostFolders = 200;

/**
 * Folders beside those where places lay, and right under the allowed roots: where a drive may turn up again. What lies
 * outside the roots is not looked at, also where a root itself was a place.
 */
export async function foldersNearby(placePaths: readonly string[], roots: readonly string[]): Promise<string[]> {
  const parents = new Set([...placePaths.map((path) => dirname(path)), ...roots]);
  const found = new Set<string>();
  for (const parent of parents) {
    const entries = await withFolder({ path: parent }, (folder) => folder.entries()).catch(() => []);
    for (const entry of entries)
      if (entry.isDirectory() && !entry.name.startsWith('.') && found.size < mostFolders)
        found.add(join(parent, entry.name));
  }
  return [...found];
}
