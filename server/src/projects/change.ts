import type { Context, Looking } from '../context.ts';
import type { MatchRules } from '@legame/core/match';
import type { ProjectId } from '@legame/core/model';
import type { Job, Project } from '@legame/core/contract';
import { openProjectApart } from '../documents/apart.ts';
import { tell } from '../events/tell.ts';
import { startMatch } from '../matching/matchProject.ts';
import { exportProject } from './package.ts';
import { viewProject } from './views.ts';
import { jobStore } from '../stores/jobs.ts';
import { projectStore } from '../stores/projects.ts';

export async function createProject({ db }: Looking, name: string): Promise<Project> {
  const project = await projectStore.createProject(db, name);
  await tell(db, 'project', project.id);
  return viewProject(project);
}

/**
 * Deletes a project: nobody sees it any more, what runs for it is stopped, and for a week it can be brought back as it
 * was. Files are not touched, nor is what a handoff has written.
 */
export async function deleteProject({ db }: Looking, id: ProjectId): Promise<void> {
  await projectStore.inTurn(db, id, async (trx) => {
    await projectStore.setDeleted(trx, id, new Date());
    for (const job of await jobStore.listActiveOf(trx, id)) await jobStore.requestCancel(trx, job);
    await tell(trx, 'project', id);
  });
}

/** Brings a deleted project back, and matches it with what the storage holds now. */
export async function restoreProject({ db }: Looking, id: ProjectId): Promise<Project> {
  return projectStore.inTurn(db, id, async (trx) => {
    await projectStore.setDeleted(trx, id, null);
    const project = await projectStore.getProject(trx, id);
    await startMatch(trx, id, project.name);
    await tell(trx, 'project', id);
    return viewProject(project);
  });
}

/** Gives a project another name. */
export async function renameProject({ db }: Looking, id: ProjectId, name: string): Promise<Project> {
  return projectStore.inTurn(db, id, async (trx) => {
    await projectStore.rename(trx, id, name);
    await tell(trx, 'project', id);
    return viewProject(await projectStore.getProject(trx, id));
  });
}

/**
 * Makes a second project of what one is now: documents, links and decisions, bins, rules, profile, home. Its history
 * begins anew, and neither knows of the other.
 */
export async function duplicateProject(context: Context, id: ProjectId, name: string): Promise<Project> {
  const { db } = context;
  const { content } = await exportProject(context, id);
  const madeId = await openProjectApart(context, new TextEncoder().encode(content), name);
  const { home } = await projectStore.getProject(db, id);
  return projectStore.inTurn(db, madeId, async (trx) => {
    await projectStore.rename(trx, madeId, name);
    await projectStore.setHome(trx, madeId, home);
    await tell(trx, 'project', madeId);
    return viewProject(await projectStore.getProject(trx, madeId));
  });
}

/** Matches all clips of a project anew, as a job; links nothing. */
export async function matchAnew({ db }: Looking, id: ProjectId): Promise<Job> {
  const project = await projectStore.getProject(db, id);
  return startMatch(db, project.id, project.name);
}

/** Sets what matching goes by, and matches anew. */
export async function setRules({ db }: Looking, id: ProjectId, rules: MatchRules): Promise<Job> {
  await projectStore.setRules(db, (await projectStore.getProject(db, id)).id, rules);
  await tell(db, 'project', id);
  return matchAnew({ db }, id);
}
