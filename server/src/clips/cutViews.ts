import type { Looking } from '../context.ts';
import { countingRate, sourceRange, usesOf, type ClipId, type EditEvent, type ProjectId } from '@legame/core/model';
import { darkFrames, darkRanges } from '@legame/core/report';
import { isDark } from '@legame/core/state';
import { rangeLength } from '@legame/core/time';
import type { Cut, CutRecording, Darkness } from '@legame/core/contract';
import { clipPictureStore } from '../stores/clipPictures.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import { clipKeyStore } from '../stores/clipKeys.ts';
import { documentStore, type DocumentRecord } from '../stores/documents.ts';
import { versionOf } from './memberViews.ts';
import { renewRows } from './renewal.ts';
import { ratesOf, useKey, withRates } from './screenTime.ts';
import { loadClips } from './state.ts';
import { coverageOfUse, readOfUse } from './useViews.ts';

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
        speed: speedOf(event),
        transition: event.transition && { kind: event.transition.kind, length: event.transition.length },
      })),
      trackNames: timeline.trackNames ?? {},
      markers: (timeline.markers ?? []).map(({ address: _, ...marker }) => marker),
    })),
  );
}

/** Null where it runs as it was recorded. */
const speedOf = ({ speed }: Pick<EditEvent, 'speed'>) => (speed.num === speed.den ? null : speed);

/** Each nested timeline that reads one of these clips itself, as if it were the one that is looked at. */
function nestsAsTops({ timelines }: Pick<DocumentRecord, 'timelines'>, isWanted: (clipKey: string) => boolean) {
  return timelines
    .filter((t) => !t.top && t.events.some((e) => e.clipKey !== null && isWanted(e.clipKey)))
    .map(({ key }) => ({ timelines: timelines.map((t) => ({ ...t, top: t.key === key })) }));
}

/** The recordings under events: what each of these clips is tied to or expects, and which stretch each showing reads. */
export async function viewRecordings(
  { db }: Looking,
  projectId: ProjectId,
  ids: readonly ClipId[],
): Promise<CutRecording[]> {
  const [loaded, all] = await Promise.all([loadClips(db, projectId, ids), documentStore.listDocuments(db, projectId)]);
  const own = new Set(all.map((d) => d.id));
  const states = loaded.states.filter(({ clip }) => own.has(clip.documentId));
  const wanted = new Set(states.map(({ clip }) => clip.documentId));
  const documents = all.filter((d) => wanted.has(d.id));
  // How each clip is counted says which frames a nest's window lets through.
  const rates = ratesOf(await clipKeyStore.listRates(db, projectId));
  const byKey = new Map(states.map((s) => [useKey(s.clip.documentId, s.clip.key), s]));
  const uses = new Map<ClipId, CutRecording['uses'][number][]>();
  for (const document of documents) {
    const edit = withRates(document, rates);
    const shown = [edit, ...nestsAsTops(document, (key) => byKey.has(useKey(document.id, key)))];
    for (const [at, timelines] of shown.entries()) {
      for (const { clipKey, record, source, steps } of usesOf({ ...edit, ...timelines })) {
        const state = byKey.get(useKey(document.id, clipKey));
        if (!state) continue;
        const use = {
          timeline: useKey(document.id, steps[0]!.timelineKey),
          isTop: at === 0,
          record,
          source: readOfUse(state.clip, source),
          ...coverageOfUse(state, source),
          speed: speedOf(steps.at(-1)!.event),
        };
        uses.set(state.clip.id, [...(uses.get(state.clip.id) ?? []), use]);
      }
    }
  }
  const keptAt = await clipPictureStore.listTaken(db, ids);
  const order = new Map(ids.map((id, i) => [id, i]));
  return states
    .toSorted((a, b) => order.get(a.clip.id)! - order.get(b.clip.id)!)
    .map(({ clip, tied, status }) => {
      const file = tied?.file ?? null;
      return {
        clipId: clip.id,
        name: clip.name,
        fileName: file?.name ?? clip.remembered?.split(/[/\\]/).at(-1) ?? clip.name,
        where: tied && [tied.place.name, tied.file.folder].filter(Boolean).join('/'),
        status,
        kind: clip.kind,
        rate: clip.rate,
        counting: clip.counting,
        holds: file?.facts ? sourceRange(file.facts, clip.rate) : null,
        expected: clip.available,
        media: file && { id: file.id, version: versionOf(file), rate: file.facts && countingRate(file.facts) },
        lengthInFile: file?.facts?.length ?? null,
        keptAt: keptAt.get(clip.id)?.toISOString() ?? null,
        uses: uses.get(clip.id) ?? [],
      };
    });
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
