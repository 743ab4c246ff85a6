import type { ClipDetail, Uses, WeighedFile } from '@legame/core/contract';
import {
  alignedRange,
  defaultRules,
  enrichFromLogs,
  evidenceOf,
  findRenditions,
  firstFrameInFile,
  prepareClip,
  prepareFile,
  rangeReadAs,
  refusedFor,
  uncoveredOf,
  uncoveredUse,
  usesOf,
  weigh,
  type ClipId,
  type FrameRange,
  type MatchClip,
  type MatchRules,
  type MediaFileId,
  type PlaceId,
  type ProjectId,
} from '@legame/core';
import type { Database } from '../db/database.ts';
import { clipStore, type ClipRecord } from '../stores/clips.ts';
import { documentStore } from '../stores/documents.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { binsOf, clipRow, found, loadProject, stateOf, tiedId, viewMediaFile, type ClipState } from './clipViews.ts';
import { countUses, ratesOf, useKey, withRates } from './screenTime.ts';
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
  const tied = tiedId(clip);
  const ids = [...(clip.proposal?.candidates.map((c) => c.mediaFileId) ?? []), ...(tied ? [tied] : [])];
  const files = new Map((await mediaFileStore.listByIds(db, ids)).map((f) => [f.id, f]));
  const matched = await asMatched(db, clip);
  const state = stateOf(clip, files, places, project.acceptance, matched);
  // What a link taught of the content would make every rival look refuted: rivals are shown as they were weighed then.
  const inFull = (file: MediaFileRecord): WeighedFile =>
    weighInFull(
      { ...matched, known: file.id === tied ? clip.known : null },
      file,
      places.get(file.placeId),
      project.rules,
    );
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
      const read = readOfUse(clip, source);
      return {
        timeline: name,
        rate,
        counting,
        record,
        ...coverageOfUse(state, source),
        source: read,
        steps: steps.map((s) => ({ timeline: names.get(s.timelineKey)!.name, event: s.event })),
      };
    }),
    interpretation: clip.interpretation,
    renditions: state.tied ? await formsOf(db, state.tied.file, places) : [],
    fullDecision: clip.proposal?.decision ?? null,
    tiedFile: state.tied ? inFull(state.tied.file) : null,
    linkedBecause: clip.link?.because ?? null,
    candidatesInFull: (clip.proposal?.candidates ?? []).flatMap((c) => {
      const file = files.get(c.mediaFileId);
      return file ? [inFull(file)] : [];
    }),
  };
}

/** The clip with what logs of the project say of its media, and its own document does not. */
async function asMatched(db: Database, clip: ClipRecord): Promise<MatchClip> {
  const inProject = clip.available || !clip.reel ? [clip] : await clipStore.listClips(db, clip.projectId);
  return enrichFromLogs(inProject).find((c) => c.id === clip.id)!;
}

/** Any file, weighed for a clip as its candidates are. */
export async function weighFileFor(db: Database, clipId: ClipId, mediaFileId: MediaFileId): Promise<WeighedFile> {
  const [clip, file] = await Promise.all([clipStore.getClip(db, clipId), mediaFileStore.getMediaFile(db, mediaFileId)]);
  const [place, project, matched] = await Promise.all([
    placeStore.getPlace(db, file.placeId),
    projectStore.getProject(db, clip.projectId),
    asMatched(db, clip),
  ]);
  return weighInFull(matched, file, place, project.rules);
}

/** What a use reads, as the clip is read: addresses of the file where the edit counts otherwise. */
const readOfUse = (clip: ClipRecord, source: FrameRange): FrameRange =>
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
export async function listUses(db: Database, projectId: ProjectId): Promise<Uses> {
  const { states, documents } = await loadProject(db, projectId);
  const rates = ratesOf(states.map((s) => s.clip));
  const byKey = new Map(states.map((state) => [useKey(state.clip.documentId, state.clip.key), state]));
  const uses = new Map<ClipId, Uses[number]['uses']>();
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

/** Weighs any file for a clip, for looking at them side by side. */
export function weighInFull(
  clip: MatchClip,
  file: MediaFileRecord,
  place: PlaceRecord | undefined,
  rules: MatchRules = defaultRules,
): WeighedFile {
  const [prepared, preparedFile] = [prepareClip(clip), prepareFile(file, place?.name ?? '')];
  return {
    file: viewMediaFile(file, place),
    evidence: evidenceOf(prepared, preparedFile),
    refusedFor: [...refusedFor(weigh(prepared, preparedFile).marks, rules)],
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
