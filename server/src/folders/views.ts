import { posix } from 'node:path';
import type { Folders, FoldersAt, FolderState } from '@legame/core/contract';
import { defaultTemplate } from '@legame/core/folders';
import type { PlaceId, ProjectId } from '@legame/core/model';
import type { Context } from '../context.ts';
import { withFolder, type HeldFolder } from '../disk/held.ts';
import { UserProblem } from '../problems.ts';
import { groundOf, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';

/** The folders of a project, and what goes where. */
export async function viewFolders({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<Folders> {
  const { folders, namePattern } = await projectStore.getProject(db, projectId);
  return { template: folders ?? defaultTemplate, isOwn: folders !== null, namePattern };
}

/** What lies where the project's folders would be made. */
export async function viewFoldersAt(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  { placeId, folder }: { readonly placeId: PlaceId; readonly folder: string },
): Promise<FoldersAt> {
  const { template } = await viewFolders({ db }, projectId);
  const place = await placeStore.getPlace(db, placeId);
  if (!place.there) throw new UserProblem({ code: 'place-away', place: place.name, path: place.path, for: 'use' });
  return withFolder(groundOf(place), async (held) => {
    const folders: { path: string; is: FolderState }[] = [];
    for (const { path } of template) folders.push({ path, is: await stateOf(held, posix.join(folder, path)) });
    return { folders };
  });
}

async function stateOf(held: HeldFolder, path: string): Promise<FolderState> {
  const found = await held.look(path).catch((error: unknown) => {
    // Where a folder above is absent or a file, nothing lies here.
    if (['ENOENT', 'ENOTDIR'].includes(String((error as { code?: unknown }).code))) return null;
    throw error;
  });
  if (!found) return 'absent';
  return found.isDirectory() ? 'there' : 'file-there';
}
