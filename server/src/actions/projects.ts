import type { Job, Project } from '@legame/core/contract';
import type { MatchRules, ProjectId } from '@legame/core';
import type { Database } from '../db/database.ts';
import { tell } from '../events/tell.ts';
import { projectStore, type ProjectRecord } from '../stores/projects.ts';
import { startMatch } from './matchProject.ts';

const viewProject = (p: ProjectRecord): Project => ({ id: p.id, name: p.name, createdAt: p.createdAt.toISOString() });

export const listProjects = async (db: Database): Promise<Project[]> =>
  (await projectStore.listProjects(db)).map(viewProject);

export const getProject = async (db: Database, id: ProjectId): Promise<Project> =>
  viewProject(await projectStore.getProject(db, id));

export async function createProject(db: Database, name: string): Promise<Project> {
  const project = await projectStore.createProject(db, name);
  await tell(db, 'project', project.id);
  return viewProject(project);
}

/** Matches all clips of a project anew, as a job; links nothing. */
export async function matchAnew(db: Database, id: ProjectId): Promise<Job> {
  const project = await projectStore.getProject(db, id);
  return startMatch(db, project.id, project.name);
}

/** Sets what matching goes by, and matches anew. */
export async function setRules(db: Database, id: ProjectId, rules: MatchRules): Promise<Job> {
  await projectStore.setRules(db, (await projectStore.getProject(db, id)).id, rules);
  await tell(db, 'project', id);
  return matchAnew(db, id);
}
