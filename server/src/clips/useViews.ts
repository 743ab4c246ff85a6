import type { Looking } from '../context.ts';
import { type ClipId, type ProjectId, rangeReadAs, usesOf } from '@legame/core/model';
import { firstFrameInFile, uncoveredOf } from '@legame/core/state';
import type { FrameRange } from '@legame/core/time';
import type { Uses } from '@legame/core/contract';
import { ratesOf, useKey, withRates } from './screenTime.ts';
import { loadProject } from './project.ts';
import { type ClipState } from './state.ts';
import type { ClipRecord } from '../stores/clips.ts';

/** What a use reads, as the clip is read: addresses of the file where the edit counts otherwise. */
export const readOfUse = (clip: ClipRecord, source: FrameRange): FrameRange =>
  clip.interpretation
    ? rangeReadAs(source, { rate: clip.asStated.rate, counting: clip.asStated.counting }, clip.interpretation)
    : source;

/** How much of one use the tied file does not hold, and where in the file it begins. */
export function coverageOfUse({ clip, tied }: Pick<ClipState, 'clip' | 'tied'>, source: FrameRange) {
  const read = readOfUse(clip, source);
  return {
    uncoveredInFrames: tied ? uncoveredOf(read, clip, tied.file) : null,
    firstFrameInFile: tied ? firstFrameInFile(read, clip, tied.file) : null,
  };
}

/** Every showing of every clip of a project, with its coverage and its first frame in the file. */
export async function listUses({ db }: Looking, projectId: ProjectId): Promise<Uses> {
  const { states, documents } = await loadProject(db, projectId);
  const rates = ratesOf(states.map((s) => s.clip));
  const byKey = new Map(states.map((state) => [useKey(state.clip.documentId, state.clip.key), state]));
  const uses = new Map<ClipId, Uses[number]['uses'][number][]>();
  for (const document of documents) {
    const timelines = new Map(document.timelines.map((t) => [t.key, t]));
    for (const { clipKey, record, source, steps } of usesOf(withRates(document, rates))) {
      const state = byKey.get(useKey(document.id, clipKey));
      if (!state) continue;
      const { name, rate, counting } = timelines.get(steps[0]!.timelineKey)!;
      const use = {
        timeline: name,
        rate,
        counting,
        record,
        source: readOfUse(state.clip, source),
        ...coverageOfUse(state, source),
        events: steps.map((s) => s.event.number),
      };
      const list = uses.get(state.clip.id);
      if (list) list.push(use);
      else uses.set(state.clip.id, [use]);
    }
  }
  return states.map(({ clip }) => ({ clipId: clip.id, uses: uses.get(clip.id) ?? [] }));
}
