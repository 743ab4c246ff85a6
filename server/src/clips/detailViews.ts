import type { Looking } from '../context.ts';
import {
  alignedRange,
  defaultRules,
  enrichFromLogs,
  evidenceOf,
  findRenditions,
  type MatchClip,
  type MatchRules,
  prepareClip,
  prepareFile,
  refusedFor,
  weigh,
} from '@legame/core/match';
import { type ClipId, type MediaFileId, type PlaceId, usesOf } from '@legame/core/model';
import { uncoveredUse } from '@legame/core/state';
import type { ClipDetail, KeptPicture, WeighedFile } from '@legame/core/contract';
import { acceptedAmong } from '../acceptance/acceptedFiles.ts';
import { ratesOf, usedBy, withRates } from './screenTime.ts';
import { coverageOfUse, readOfUse } from './useViews.ts';
import { clipRow } from './row.ts';
import { putBackTarget } from './putBackTarget.ts';
import { found, viewMediaFile } from './memberViews.ts';
import { stateOf, tiedId } from './state.ts';
import type { Database } from '../db/database.ts';
import { type ClipRecord, clipStore } from '../stores/clips.ts';
import { type ClipPicture, clipPictureStore } from '../stores/clipPictures.ts';
import { clipKeyStore } from '../stores/clipKeys.ts';
import { documentStore } from '../stores/documents.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { type PlaceRecord, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';

/** One clip in full: every use, every candidate with its evidence in words to be. */
export async function clipDetail({ db }: Looking, clipId: ClipId): Promise<ClipDetail> {
  const clip = await clipStore.getClip(db, clipId);
  const [project, document, placeList, stated] = await Promise.all([
    projectStore.getProject(db, clip.projectId),
    documentStore.getDocument(db, clip.documentId),
    placeStore.listPlaces(db),
    clipKeyStore.listRates(db, clip.projectId),
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
  const kept = await clipPictureStore.get(db, clipId);
  const names = new Map(document.timelines.map((t) => [t.key, t]));
  const rates = ratesOf(stated);
  const uses = usesOf(withRates(document, rates)).filter((use) => use.clipKey === clip.key);
  return {
    ...clipRow(state, { files, places }, usedBy([document], rates)(clip)),
    rate: clip.rate,
    counting: clip.counting,
    available: clip.available,
    raster: clip.raster,
    used: clip.used,
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
    canPutBack: !('code' in putBackTarget(state, { places })),
    tiedFile: state.tied ? inFull(state.tied.file) : null,
    linkedBecause: clip.link?.because ?? null,
    candidatesInFull: (clip.proposal?.candidates ?? []).flatMap((c) => {
      const file = files.get(c.mediaFileId);
      return file ? [inFull(file)] : [];
    }),
    kept: kept?.isMade ? keptView(kept, state.tied?.file) : null,
  };
}

/** `tied`: the file that it is tied to now, which may be the very one that it was taken of. */
const keptView = (kept: ClipPicture, tied: MediaFileRecord | undefined): KeptPicture => ({
  mediaFileId: kept.mediaFileId,
  fileName: kept.fileName,
  address: kept.address,
  takenAt: kept.takenAt.toISOString(),
  isOfTied: tied?.id === kept.mediaFileId && tied.modifiedMs === kept.modifiedMs && !tied.gone,
});

/** The clip with what logs of the project say of its media, and its own document does not. */
async function asMatched(db: Database, clip: ClipRecord): Promise<MatchClip> {
  const inProject = clip.available || !clip.reel ? [clip] : await clipStore.listClips(db, clip.projectId);
  return enrichFromLogs(inProject).find((c) => c.id === clip.id)!;
}

/** Any file, weighed for a clip as its candidates are. */
export async function weighFileFor({ db }: Looking, clipId: ClipId, mediaFileId: MediaFileId): Promise<WeighedFile> {
  const [clip, file] = await Promise.all([clipStore.getClip(db, clipId), mediaFileStore.getMediaFile(db, mediaFileId)]);
  const [place, project, matched] = await Promise.all([
    placeStore.getPlace(db, file.placeId),
    projectStore.getProject(db, clip.projectId),
    asMatched(db, clip),
  ]);
  return weighInFull(matched, file, place, project.rules);
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
