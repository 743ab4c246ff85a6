import { join } from 'node:path';
import { withFolder } from './held.ts';

/** A file by the steps that lead to it from the folder that is looked for, and its size. */
export type Sought = { readonly steps: readonly string[]; readonly sizeInBytes: number };

const mostFolders = 8000;
const mostMs = 4000;
/** More of them say no more to a person. */
const mostFound = 3;

/**
 * Folders under these roots in which the sought files lie, each by its steps and with its size; the nearest to a root
 * first. It looks into so many folders and for so long, and then makes do with what it found.
 */
export async function whereabouts(
  roots: readonly string[],
  sought: readonly Sought[],
  now: () => number = () => performance.now(),
): Promise<readonly (readonly string[])[]> {
  const found = sought.map((): string[] => []);
  const until = now() + mostMs;
  const queue = [...roots];
  for (let at = 0; at < queue.length && at < mostFolders && now() < until; at += 1) {
    if (found.every((list) => list.length >= mostFound)) break;
    const path = queue[at]!;
    // A folder that may not be looked into holds nothing that could be offered.
    await withFolder({ path }, async (folder) => {
      const entries = await folder.entries();
      const names = new Set(entries.map((e) => e.name));
      for (const [i, { steps, sizeInBytes }] of sought.entries()) {
        if (!names.has(steps[0]!) || found[i]!.length >= mostFound) continue;
        const stats = await folder.look(steps.join('/'));
        if (stats?.isFile() && stats.size === sizeInBytes) found[i]!.push(path);
      }
      for (const entry of entries)
        if (entry.isDirectory() && !entry.name.startsWith('.')) queue.push(join(path, entry.name));
    }).catch(() => undefined);
  }
  return found;
}
