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
  const entries = await readdir(drive, { withFileTypes: true, recursive: true }).catch(() => []);
  const sizes = await Promise.all(
    entries
      .filter((e) => e.isFile())
      .map((e) =>
        stat(join(e.parentPath, e.name)).then(
          (s) => s.size,
          () => 0,
        ),
      ),
  );
  const left = Math.max(0, simulatedCapacityInBytes - sizes.reduce((sum, size) => sum + size, 0));
  return {
    freeInBytes: conditionOf(drive).full ? 0 : Math.min(left, real.freeInBytes),
    totalInBytes: simulatedCapacityInBytes,
  };
}
