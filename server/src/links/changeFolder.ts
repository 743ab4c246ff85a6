import type { ProjectId } from '@legame/core/model';
import type { Act } from '@legame/core/contract';
import type { Context } from '../context.ts';
import { linkClips } from './link.ts';
import { type FolderChange, resolveFolder } from './previews.ts';

/** Changes a folder of the remembered paths for another: links what that resolves, as one act. */
export async function changeFolder(
  context: Pick<Context, 'db'>,
  projectId: ProjectId,
  change: FolderChange,
): Promise<Act> {
  const { members, states } = await resolveFolder(context.db, projectId, change);
  const then = new Map(states.map((state) => [state.clip.id, state]));
  const links = members.flatMap(({ fits, file, clipId, interpretation }) =>
    fits && file ? [{ clipId, mediaFileId: file.mediaFileId, interpretation, asOf: then.get(clipId) }] : [],
  );
  const about = { code: 'folder' as const, from: change.from, to: change.to };
  return linkClips(context, projectId, { by: 'carry', verb: 'change-folder', about }, links);
}
