import { basename, dirname } from 'node:path';
import { FencedFolder } from '../disk/writing.ts';
import type { FolderIdentity } from '../disk/held.ts';
import { UserProblem } from '../problems.ts';

/** A folder that is made once and written into by whoever goes on with it. */
export type FolderToMake = {
  readonly path: string;
  /** What the folder that it is made in was when it was planned. */
  readonly parent: FolderIdentity | null;
  /** What it is known by since it was made. */
  readonly made: FolderIdentity | null;
  readonly isIntended: boolean;
  /** Write down, so that it outlives whatever ends the machine: that it is about to be made, and what it is known by. */
  readonly intend: (isIntended: boolean) => Promise<void>;
  readonly note: (made: FolderIdentity) => Promise<void>;
};

/**
 * That very folder where it was made before, or a new one. That it is about to be made is written down before, and what
 * it is known by at once after: a crash in between costs nothing, and a folder of the user's is never taken for ours.
 */
export async function madeFolder(wanted: FolderToMake): Promise<FencedFolder> {
  if (wanted.made) return FencedFolder.of({ path: wanted.path, is: wanted.made });
  await wanted.intend(true);
  try {
    const parent = { path: dirname(wanted.path), is: wanted.parent };
    const folder = await FencedFolder.make(parent, basename(wanted.path), { intended: wanted.isIntended });
    await wanted.note(folder.identity);
    return folder;
  } catch (error) {
    if (error instanceof UserProblem && !wanted.isIntended) await wanted.intend(false);
    throw error;
  }
}
