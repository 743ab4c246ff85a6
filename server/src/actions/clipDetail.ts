import type { ClipDetail, WeighedFile } from '@legame/core/contract';
import {
  alignedRange,
  defaultRules,
  evidenceOf,
  findRenditions,
  prepareClip,
  prepareFile,
  rangeReadAs,
  refusedFor,
  uncoveredUse,
  usesOf,
  weigh,
  type ClipId,
  type MatchRules,
  type PlaceId,
} from '@legame/core';
import type { Database } from '../db/database.ts';
import { clipStore, type ClipRecord } from '../stores/clips.ts';
import { documentStore } from '../stores/documents.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { binsOf, clipRow, countUses, found, ratesOf, stateOf, viewMediaFile, withRates } from './clipViews.ts';
import { acceptedAmong } from './acceptedFiles.ts';

/** One clip in full: every use, every candidate with its evidence in words to be. */
export async function clipDetail(db: Database, clipId: ClipId): Promise<ClipDetail> {
  const clip = await clipStore.getClip(db, clipId);
  const [project, documents, placeList] = await Promise.all([
    projectStore.getProject(db, clip.projectId),
    documentStore.listDocuments(db, clip.projectId),
    placeStore.listPlaces(db),
  ]);
  const places = new Map(placeList.map((p) => [p.id, p]));
  const tiedId = clip.link?.mediaFileId ?? clip.proposal?.whereRemembered;
  const ids = [...(clip.proposal?.candidates.map((c) => c.mediaFileId) ?? []), ...(tiedId ? [tiedId] : [])];
  const files = new Map((await mediaFileStore.listByIds(db, ids)).map((f) => [f.id, f]));
  const state = stateOf(clip, files, places, project.acceptance);
  const inFull = (file: MediaFileRecord): WeighedFile =>
    weighInFull(clip, file, places.get(file.placeId), project.rules);
  const document = documents.find((d) => d.id === clip.documentId)!;
  const siblings = await clipStore.listOfDocument(db, clip.documentId);
  const names = new Map(document.timelines.map((t) => [t.key, t]));
  const rates = ratesOf(siblings.filter((s) => !s.retired));
  const uses = usesOf(withRates(document, rates)).filter((use) => use.clipKey === clip.key);
  return {
    ...clipRow(state, { files, places, bins: binsOf([document]) }, countUses([document], rates)),
    rate: clip.rate,
    counting: clip.counting,
    available: clip.available,
    raster: clip.raster,
    used: [...clip.used],
    metadata: { ...clip.metadata },
    usesInFull: uses.map(({ record, source, steps }) => {
      const { name, rate, counting } = names.get(steps[0]!.timelineKey)!;
      return {
        timeline: name,
        rate,
        counting,
        record,
        source: clip.interpretation
          ? rangeReadAs(source, { rate: clip.asStated.rate, counting: clip.asStated.counting }, clip.interpretation)
          : source,
        steps: steps.map((s) => ({ timeline: names.get(s.timelineKey)!.name, event: s.event })),
      };
    }),
    interpretation: clip.interpretation,
    renditions: state.tied ? await formsOf(db, state.tied.file, places) : [],
    fullDecision: clip.proposal?.decision ?? null,
    tiedFile: state.tied ? inFull(state.tied.file) : null,
    candidatesInFull: (clip.proposal?.candidates ?? []).flatMap((c) => {
      const file = files.get(c.mediaFileId);
      return file ? [inFull(file)] : [];
    }),
  };
}

/** Weighs any file for a clip, for looking at them side by side. */
export function weighInFull(
  clip: ClipRecord,
  file: MediaFileRecord,
  place: PlaceRecord | undefined,
  rules: MatchRules = defaultRules,
): WeighedFile {
  const [prepared, preparedFile] = [prepareClip(clip), prepareFile(file, place?.name ?? '')];
  return {
    file: viewMediaFile(file, place),
    evidence: evidenceOf(prepared, preparedFile),
    refusedFor: refusedFor(weigh(prepared, preparedFile).marks, rules),
    holds: alignedRange(clip, file),
    uncoveredInFrames: uncoveredUse(clip, file),
  };
}

/** The other files of the recording that this file is a form of, itself included; none where it has one form only. */
async function formsOf(db: Database, file: MediaFileRecord, places: ReadonlyMap<PlaceId, PlaceRecord>) {
  const { facts } = file;
  if (!facts || facts.length === null) return [];
  const alike = (await mediaFileStore.listOfExtent(db, facts.start, facts.length)).filter(
    (f) => places.get(f.placeId)?.there,
  );
  const byId = new Map(alike.map((f) => [f.id, f]));
  const list = findRenditions(alike, await acceptedAmong(db, alike, places)).get(file.id) ?? [];
  return list.map(({ mediaFileId, form }) => {
    const other = byId.get(mediaFileId)!;
    return { ...found(other, places.get(other.placeId)), form };
  });
}
