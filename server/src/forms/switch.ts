import type { Form } from '@legame/core/match';
import type { ClipId, ProjectId } from '@legame/core/model';
import type { Act } from '@legame/core/contract';
import type { Context } from '../context.ts';
import { wantedForms } from './views.ts';
import { linkClips } from '../links/link.ts';
import { startMatch } from '../matching/matchProject.ts';
import { projectStore } from '../stores/projects.ts';

/** Switches clips to another form of their recording, as one act, and remembers which form the project works with. */
export async function switchForm(
  context: Pick<Context, 'db'>,
  projectId: ProjectId,
  form: Form,
  clipIds?: readonly ClipId[],
): Promise<Act> {
  const { wanted } = await wantedForms(context, projectId, form, clipIds);
  if (!clipIds) {
    const project = await projectStore.getProject(context.db, projectId);
    await projectStore.setPreferredForm(context.db, projectId, form);
    await startMatch(context.db, projectId, project.name);
  }
  const links = wanted.map(({ state, file }) => ({ clipId: state.clip.id, mediaFileId: file.id, asOf: state }));
  return linkClips(context, projectId, { by: 'cause', verb: 'switch-form', about: { code: 'form', form } }, links);
}
