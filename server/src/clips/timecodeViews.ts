import type { Looking } from '../context.ts';
import type { BenchRow } from '@legame/core/contract';
import { prepareClip, prepareFile, timecodeDisplacement, verdictIn } from '@legame/core/match';
import type { ProjectId } from '@legame/core/model';
import { uncoveredUse } from '@legame/core/state';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { found } from './memberViews.ts';
import { loadProject } from './project.ts';
import { type ClipState } from './state.ts';

/** What every clip's edit counts from beside what its file carries: the tied file, else the candidate that names it best. */
export async function timecodeBench({ db }: Looking, projectId: ProjectId): Promise<BenchRow[]> {
  const project = await loadProject(db, projectId);
  const wanted = new Map(project.states.map((s) => [s.clip.id, s.tied?.file.id ?? likeliestFile(s)]));
  const missing = [...wanted.values()].filter((id) => id !== null).filter((id) => !project.files.has(id));
  const more = await mediaFileStore.listByIds(db, missing);
  const files = new Map([...project.files, ...more.map((f) => [f.id, f] as const)]);
  return project.states.map((state) => {
    const id = wanted.get(state.clip.id) ?? null;
    const file = (id && files.get(id)) ?? null;
    return benchRow(state, file, file ? (project.places.get(file.placeId)?.name ?? '') : '');
  });
}

/** The candidate that the decision names, else the first whose name speaks for it. */
function likeliestFile({ clip: { proposal } }: ClipState) {
  const decision = proposal?.decision;
  if (decision && 'mediaFileId' in decision) return decision.mediaFileId;
  if (decision?.kind === 'ask' && decision.mediaFileIds.length === 1) return decision.mediaFileIds[0]!;
  return proposal?.candidates.find((c) => verdictIn(c.marks, 'name') !== 'differs')?.mediaFileId ?? null;
}

function benchRow(state: ClipState, file: MediaFileRecord | null, placeName: string): BenchRow {
  const { clip, status, tied } = state;
  const prepared = prepareClip(state.matched);
  const { rate, counting, available, used } = clip.asStated;
  return {
    clipId: clip.id,
    clipName: clip.name,
    reel: clip.reel,
    status,
    stated: { rate, counting, available, used },
    interpretation: clip.interpretation,
    file: file && {
      ...found(file, undefined),
      placeName,
      facts: file.facts,
      isTied: tied !== null,
    },
    apart: file && timecodeDisplacement(prepared, prepareFile(file, placeName)),
    uncoveredInFrames: file && uncoveredUse(clip, file),
  };
}
