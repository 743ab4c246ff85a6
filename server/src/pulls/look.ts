import type { ProjectId } from '@legame/core/model';
import { pullDesk, type DeskRow, type Handles, type Stands } from '@legame/core/report';
import { isDark, type StatusName } from '@legame/core/state';
import { loadProject } from '../clips/project.ts';
import type { ClipState, ProjectState } from '../clips/state.ts';
import type { Looking } from '../context.ts';
import { pullStore } from '../stores/pulls.ts';

export type ClipToPull = ClipState['clip'] & { readonly stands: Stands };

/** What is to be fetched, held against what was asked for. */
export async function lookAtDesk(
  { db }: Looking,
  projectId: ProjectId,
  handles: number,
): Promise<DeskRow<ClipToPull>[]> {
  const [project, requests] = await Promise.all([loadProject(db, projectId), pullStore.listRequests(db, projectId)]);
  const clips = project.states.map(({ clip, status }) => ({ ...clip, stands: standsAs(status.status) }));
  return pullDesk(clips, requests, handlesOf(project, handles));
}

const standsAs = (status: StatusName): Stands => (isDark(status) ? 'dark' : status === 'linked' ? 'linked' : 'waived');

/** Handles as people say them: frames of the project's first timeline that stands by itself. */
export function handlesOf({ documents }: Pick<ProjectState, 'documents'>, frames: number): Handles {
  const timeline = documents.flatMap((d) => d.timelines).find((t) => t.top);
  return { frames, rate: timeline?.rate ?? { num: 25, den: 1 } };
}
