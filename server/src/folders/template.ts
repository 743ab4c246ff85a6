import type { Act, FoldersAt } from '@legame/core/contract';
import type { FolderTemplate } from '@legame/core/folders';
import type { PlaceId, ProjectId } from '@legame/core/model';
import { posix } from 'node:path';
import type { Context } from '../context.ts';
import { FencedFolder } from '../disk/writing.ts';
import { tell } from '../events/tell.ts';
import { act } from '../history/act.ts';
import { UserProblem } from '../problems.ts';
import { groundOf, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { viewFoldersAt } from './views.ts';

/** Says which folders a project has, and what goes where; null: those that every project has. */
export async function setFolders(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  template: FolderTemplate | null,
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const { folders: before } = await projectStore.getProject(trx, projectId);
    const isSame = JSON.stringify(before) === JSON.stringify(template);
    return act(trx, projectId, 'set-folders', isSame ? [] : [{ what: 'folders', before, after: template }]);
  });
}

/** Makes the project's folders in a folder of a place; those that are there stay as they are. */
export async function makeFolders(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  { placeId, folder }: { readonly placeId: PlaceId; readonly folder: string },
): Promise<FoldersAt> {
  const place = await placeStore.getPlace(db, placeId);
  if (!place.there) throw new UserProblem({ code: 'place-away', place: place.name, path: place.path, for: 'use' });
  if (place.readOnly) throw new UserProblem({ code: 'home-read-only', place: place.name });
  const before = await viewFoldersAt({ db }, projectId, { placeId, folder });
  // Said before any is made, so that nothing is half done.
  const blocked = before.folders.find((f) => f.is === 'file-there');
  if (blocked)
    throw new UserProblem({
      code: 'target-exists',
      path: posix.join(place.path, folder, blocked.path),
      when: 'planned',
    });
  const fenced = await FencedFolder.of(groundOf(place));
  for (const { path } of before.folders) await fenced.makeFolder(posix.join(folder, path));
  await tell(db, 'places', placeId);
  return before;
}

/** How files of the project are named from now on, wherever that is not said; null: nobody says it. */
export async function keepNamePattern(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  pattern: string | null,
): Promise<void> {
  await projectStore.inTurn(db, projectId, async (trx) => {
    await projectStore.setNamePattern(trx, projectId, pattern);
    await tell(trx, 'project', projectId);
  });
}
