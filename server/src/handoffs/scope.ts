import { type ConsolidatePlan, type LeftOutReason, type PlanInput, planWholeFiles } from '@legame/core/consolidate';
import type { Timeline } from '@legame/core/model';
import { clipsInScope } from '@legame/core/state';
import { ratesOf, useKey, withRates } from '../clips/screenTime.ts';
import type { ClipState, ProjectState } from '../clips/state.ts';
import type { DocumentRecord } from '../stores/documents.ts';

/** The whole-file plan over the media that the chosen timelines use; over every clip where nothing is cut yet. */
export function planOf(project: ProjectState, timelines: readonly string[] | null): ConsolidatePlan {
  const { states, documents, files, places } = project;
  const usedBy = usesInScope(project, timelines);
  const isCut = documents.some((d) => d.timelines.length > 0);
  const inputs = states.flatMap((state): PlanInput[] => {
    const names = usedBy.get(useKey(state.clip.documentId, state.clip.key));
    if (isCut && !names) return [];
    const reason = leftOutFor(state);
    const file = reason === null && state.tied ? (files.get(state.tied.file.id) ?? null) : null;
    const planFile = file && {
      id: file.id,
      placeName: places.get(file.placeId)?.name ?? '',
      folder: file.folder,
      name: file.name,
      sizeInBytes: file.sizeInBytes,
      sequence: file.sequence,
    };
    return [{ clipId: state.clip.id, clipName: state.clip.name, usedBy: [...(names ?? [])], file: planFile, reason }];
  });
  return planWholeFiles(inputs);
}

function leftOutFor({ status }: ClipState): LeftOutReason | null {
  switch (status.status) {
    case 'linked':
    case 'short':
      return null;
    case 'missing':
      return status.because === 'place-away' ? 'place-away' : 'missing';
    // A file that is not the one remembered must not go out as if it were.
    case 'changed':
      return 'missing';
    case 'unreadable':
    case 'waived':
    case 'parked':
      return status.status;
  }
}

const timelineId = (document: DocumentRecord, timeline: Timeline) => `${document.id}/${timeline.key}`;

export const documentsInScope = (
  documents: readonly DocumentRecord[],
  timelines: readonly string[] | null,
): DocumentRecord[] =>
  documents.filter((d) => !timelines || d.timelines.some((t) => timelines.includes(timelineId(d, t))));

/** For each clip in scope, the names of the top timelines that show it. */
function usesInScope(
  { documents, states }: ProjectState,
  timelines: readonly string[] | null,
): Map<string, Set<string>> {
  const rates = ratesOf(states.map((s) => s.clip));
  const uses = new Map<string, Set<string>>();
  for (const document of documents) {
    const wanted = document.timelines.filter((t) => t.top && timelines?.includes(timelineId(document, t)));
    const names = new Map(document.timelines.map((t) => [t.key, t.name]));
    const scope = timelines && new Set(wanted.map((t) => t.key));
    for (const [clipKey, { timelineKeys }] of clipsInScope(withRates(document, rates), scope))
      uses.set(useKey(document.id, clipKey), new Set([...timelineKeys].map((key) => names.get(key)!)));
  }
  return uses;
}
