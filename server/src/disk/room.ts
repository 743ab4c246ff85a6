import { readdir, stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { conditionOf, simulatedCapacityInBytes, simulatedDriveOf } from './conditions.ts';

export type RoomOf = { freeInBytes: number; totalInBytes: number };

/** Free and total bytes of the file system that holds `path`, as an ordinary user may use them; null when unknown. */
export async function roomOf(path: string): Promise<RoomOf | null> {
  const found = await statfs(path).catch(() => null);
  if (!found) return null;
  const real = { freeInBytes: found.bavail * found.bsize, totalInBytes: found.blocks * found.bsize };
  const drive = simulatedDriveOf(path);
  return drive === null ? real : simulatedRoom(drive, real);
}

/** A simulated drive is as full as its files make it, and never roomier than the real one it lies on. */
async function simulatedRoom(drive: string, real: RoomOf): Promise<RoomOf> {
  const left = Math.max(0, simulatedCapacityInBytes - (await usedOf(drive)));
  return {
    freeInBytes: conditionOf(drive).full ? 0 : Math.min(left, real.freeInBytes),
    totalInBytes: simulatedCapacityInBytes,
  };
}

/** Adding up a drive's files takes a while where there are many, so the sum holds for some seconds. */
const sumHoldsMs = 5000;
const sums = new Map<string, { at: number; bytes: Promise<number> }>();

function usedOf(drive: string): Promise<number> {
  const known = sums.get(drive);
  if (known && performance.now() - known.at < sumHoldsMs) return known.bytes;
  const bytes = addUp(drive);
  sums.set(drive, { at: performance.now(), bytes });
  return bytes;
}

/** Bytes of all files under a folder. */
export async function addUp(folder: string): Promise<number> {
  const entries = await readdir(folder, { withFileTypes: true, recursive: true }).catch(() => []);
  let sum = 0;
  for (const entry of entries)
    if (entry.isFile()) sum += (await stat(join(entry.parentPath, entry.name)).catch(() => null))?.size ?? 0;
  return sum;
}
