import type { Looking } from '../context.ts';
import type { ProjectId } from '@legame/core/model';
import { darkFrames, darkRanges } from '@legame/core/report';
import { isDark } from '@legame/core/state';
import { rangeLength } from '@legame/core/time';
import type { Cut } from '@legame/core/contract';
import { useKey } from './screenTime.ts';
import { loadProject } from './state.ts';

export async function viewCut({ db }: Looking, projectId: ProjectId): Promise<Cut> {
  const { states, documents } = await loadProject(db, projectId);
  const byKey = new Map(states.map((state) => [useKey(state.clip.documentId, state.clip.key), state]));
  return documents.flatMap((document) => {
    const timelines = new Map(document.timelines.map((timeline) => [timeline.key, timeline]));
    const isDarkClip = (key: string) => isDark(byKey.get(useKey(document.id, key))?.status.status ?? 'missing');
    return document.timelines.map((timeline) => {
      const dark = darkRanges(timeline, timelines, isDarkClip);
      return {
        key: timeline.key,
        documentId: document.id,
        name: timeline.name,
        rate: timeline.rate,
        counting: timeline.counting,
        start: timeline.start,
        length: timeline.length,
        top: timeline.top,
        darkInFrames: dark.reduce((sum, range) => sum + rangeLength(range), 0),
        events: timeline.events.map((event) => ({
          number: event.number,
          name: event.name,
          track: event.track,
          trackKind: event.trackKind,
          clipId: event.clipKey === null ? null : (byKey.get(useKey(document.id, event.clipKey))?.clip.id ?? null),
          nestedKey: event.nestedKey,
          isDarkInside:
            event.nestedKey !== null && darkFrames({ ...timeline, events: [event] }, timelines, isDarkClip) > 0,
          record: event.record,
        })),
      };
    });
  });
}
