import type { Looking } from '../context.ts';
import type { ClipId, ProjectId } from '@legame/core/model';
import { darkFrames, darkRanges } from '@legame/core/report';
import { isDark } from '@legame/core/state';
import { rangeLength } from '@legame/core/time';
import type { Cut, Darkness } from '@legame/core/contract';
import { clipRowStore } from '../stores/clipRows.ts';
import { clipKeyStore } from '../stores/clipKeys.ts';
import { documentStore } from '../stores/documents.ts';
import { renewRows } from './renewal.ts';
import { useKey } from './screenTime.ts';

/** The timelines with every event, as their documents have them. */
export async function viewCut({ db }: Looking, projectId: ProjectId): Promise<Cut> {
  const documents = await documentStore.listDocuments(db, projectId);
  const ids = new Map<string, ClipId>(
    (await clipKeyStore.listKeys(db, projectId)).map((c) => [useKey(c.documentId, c.key), c.id]),
  );
  return documents.flatMap((document) =>
    document.timelines.map((timeline) => ({
      key: timeline.key,
      documentId: document.id,
      name: timeline.name,
      rate: timeline.rate,
      counting: timeline.counting,
      start: timeline.start,
      length: timeline.length,
      top: timeline.top,
      events: timeline.events.map((event) => ({
        number: event.number,
        name: event.name,
        track: event.track,
        trackKind: event.trackKind,
        clipId: event.clipKey === null ? null : (ids.get(useKey(document.id, event.clipKey)) ?? null),
        nestedKey: event.nestedKey,
        record: event.record,
      })),
    })),
  );
}

/** How much of each timeline is dark. */
export async function viewDarkness({ db }: Looking, projectId: ProjectId): Promise<Darkness> {
  await renewRows(db, projectId, { onlyLooks: true });
  const [documents, statuses] = await Promise.all([
    documentStore.listDocuments(db, projectId),
    clipRowStore.listStatuses(db, projectId),
  ]);
  const dark = new Set(statuses.filter((s) => isDark(s.status)).map((s) => useKey(s.documentId, s.key)));
  const known = new Set(statuses.map((s) => useKey(s.documentId, s.key)));
  return documents.flatMap((document) => {
    const timelines = new Map(document.timelines.map((timeline) => [timeline.key, timeline]));
    const isDarkClip = (clipKey: string) => {
      const key = useKey(document.id, clipKey);
      return dark.has(key) || !known.has(key);
    };
    return document.timelines.map((timeline) => ({
      key: timeline.key,
      documentId: document.id,
      darkInFrames: darkRanges(timeline, timelines, isDarkClip).reduce((sum, range) => sum + rangeLength(range), 0),
      darkNests: timeline.events.flatMap((event, i) =>
        event.nestedKey !== null && darkFrames({ ...timeline, events: [event] }, timelines, isDarkClip) > 0 ? [i] : [],
      ),
    }));
  });
}
