import { stretchAsked, type PullDeskQuery } from '@legame/core/contract';
import { readByClip, usesOf, type ProjectId } from '@legame/core/model';
import { pullDesk, pullSources, type DeskRow, type Handles, type Stands } from '@legame/core/report';
import { isDark, type StatusName } from '@legame/core/state';
import { uniteRanges } from '@legame/core/time';
import { loadProject } from '../clips/project.ts';
import { ratesOf, withRates } from '../clips/screenTime.ts';
import type { ClipState, ProjectState } from '../clips/state.ts';
import { readOfUse } from '../clips/useViews.ts';
import type { Looking } from '../context.ts';
import { notFound } from '../problems.ts';
import { pullStore } from '../stores/pulls.ts';

export type ClipToPull = ClipState['clip'] & { readonly stands: Stands };

/** What is to be fetched, held against what was asked for; of a stretch, only what that shows. */
export async function lookAtDesk(
  { db }: Looking,
  projectId: ProjectId,
  asked: PullDeskQuery,
): Promise<DeskRow<ClipToPull>[]> {
  const [project, requests] = await Promise.all([loadProject(db, projectId), pullStore.listRequests(db, projectId)]);
  const stretch = stretchAsked(asked);
  const states = stretch ? statesIn(project, stretch) : project.states;
  const clips = states.map(({ clip, status }) => ({ ...clip, stands: standsAs(status.status) }));
  const handles = handlesOf(project, asked.handles);
  if (!stretch) return pullDesk(clips, requests, handles);
  const shown = new Set(pullSources(clips, handles).map((source) => source.key));
  return pullDesk(clips, new Map([...requests].filter(([key]) => shown.has(key))), handles);
}

/** The clips that a stretch of a timeline shows, each with what it shows of it in place of all that is used. */
export function statesIn(
  { documents, states }: Pick<ProjectState, 'documents' | 'states'>,
  { timeline: id, start, end }: NonNullable<ReturnType<typeof stretchAsked>>,
): Pick<ClipState, 'clip' | 'status'>[] {
  const document = documents.find((d) => id.startsWith(`${d.id}/`));
  const top = document?.timelines.find((t) => t.top && id === `${document.id}/${t.key}`);
  if (!document || !top) throw notFound('timeline');
  const uses = usesOf(withRates(document, ratesOf(states.map((s) => s.clip))), new Map([[top.key, { start, end }]]));
  const read = readByClip(uses.filter(({ steps }) => steps[0]!.timelineKey === top.key));
  return states.flatMap(({ clip, status }) => {
    const shown = clip.documentId === document.id ? read.get(clip.key) : undefined;
    return shown
      ? [{ clip: { ...clip, used: uniteRanges(shown.map((source) => readOfUse(clip, source))) }, status }]
      : [];
  });
}

const standsAs = (status: StatusName): Stands => (isDark(status) ? 'dark' : status === 'linked' ? 'linked' : 'waived');

/** Handles as people say them: frames of the project's first timeline that stands by itself. */
export function handlesOf({ documents }: Pick<ProjectState, 'documents'>, frames: number): Handles {
  const timeline = documents.flatMap((d) => d.timelines).find((t) => t.top);
  return { frames, rate: timeline?.rate ?? { num: 25, den: 1 } };
}
