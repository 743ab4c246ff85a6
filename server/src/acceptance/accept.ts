import type { AcceptanceProfile, ProjectId } from '@legame/core/model';
import type { ProjectAcceptance } from '@legame/core/contract';
import { viewAcceptance } from './views.ts';
import type { Context } from '../context.ts';
import { tell } from '../events/tell.ts';
import { projectStore } from '../stores/projects.ts';

/** Changes what a project accepts; statuses follow by themselves. */
export async function setAcceptance(
  { db }: Context,
  projectId: ProjectId,
  profile: AcceptanceProfile,
): Promise<ProjectAcceptance> {
  await projectStore.getProject(db, projectId);
  await projectStore.setAcceptance(db, projectId, profile);
  await tell(db, 'project', projectId);
  return viewAcceptance({ db }, projectId);
}
