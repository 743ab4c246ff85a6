import type { Looking } from '../context.ts';
import type { Bench, BenchRow, KnownUpTo } from '@legame/core/contract';
import { timecodeDisplacement, wantedOf } from '@legame/core/match';
import type { ProjectId } from '@legame/core/model';
import { uncoveredUse } from '@legame/core/state';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { found } from './memberViews.ts';
import { loadProject } from './project.ts';
import { changedSince } from './since.ts';
import { type ClipState, likeliestFile } from './state.ts';

/** What every clip's edit counts from beside what its file carries, or those that are others than is known. */
export async function timecodeBench({ db }: Looking, projectId: ProjectId, known: KnownUpTo): Promise<Bench> {
  const { now, touched } = await changedSince(db, projectId, known);
  if (touched?.size === 0) return { ...now, clips: [] };
  const { states, files, places } = await loadProject(db, projectId);
  const wanted = touched ? states.filter(({ clip }) => touched.has(clip.id)) : states;
  const clips = wanted.map((state) => {
    const id = state.tied?.file.id ?? likeliestFile(state.clip);
    const file = (id && files.get(id)) ?? null;
    return benchRow(state, file, file ? (places.get(file.placeId)?.name ?? '') : '');
  });
  return { ...now, clips };
}

function benchRow(state: ClipState, file: MediaFileRecord | null, placeName: string): BenchRow {
  const { clip, status, tied, matched } = state;
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
    apart: file && timecodeDisplacement({ clip: matched, wanted: wantedOf(matched) }, { file }),
    uncoveredInFrames: file && uncoveredUse(clip, file),
  };
}
