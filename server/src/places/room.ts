import { statfs } from 'node:fs/promises';
import { conditionOf } from './conditions.ts';

/** Free and total bytes of the file system that holds `path`, as an ordinary user may use them; null when unknown. */
export async function roomOf(path: string): Promise<{ freeInBytes: number; totalInBytes: number } | null> {
  const found = await statfs(path).catch(() => null);
  if (!found) return null;
  return {
    freeInBytes: conditionOf(path).full ? 0 : found.bavail * found.bsize,
    totalInBytes: found.blocks * found.bsize,
  };
}
