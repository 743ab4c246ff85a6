import type { ClipRow, Cut, MediaFileView, Member, ProjectSummary } from '@legame/core/contract';
import {
  certainLink,
  darkFrames,
  darkRanges,
  enrichFromLogs,
  isDark,
  judge,
  judgeOnceLinked,
  parseRememberedPath,
  prepareClip,
  rangeLength,
  tiedTo,
  verdictsIn,
  withStanding,
  type AcceptanceProfile,
  type Interpretation,
  type Marks,
  type MatchClip,
  type MatchRules,
  type MediaFileId,
  type PlaceId,
  type PreparedClip,
  type ProjectId,
  type RememberedPath,
  type Status,
  type Unreadable,
} from '@legame/core';
import type { Database, Transaction } from '../db/database.ts';
import { clipStore, type ClipRecord } from '../stores/clips.ts';
import { documentStore, type DocumentRecord } from '../stores/documents.ts';
import { journalStore, type JournalEntry } from '../stores/journal.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { countUses, ratesOf, useKey, type UseCounts } from './screenTime.ts';

/** A clip with its status and the file it is tied to: by a link, else the one that lies where the edit says. */
export type ClipState = {
  readonly clip: ClipRecord;
  /** The same with what logs of the project say of its media: as matching saw it. */
  readonly matched: MatchClip;
  readonly status: Status;
  readonly tied: {
    readonly file: MediaFileRecord;
    readonly place: PlaceRecord;
    readonly marks: Marks;
    readonly by: NonNullable<ClipRow['tied']>['by'];
  } | null;
};

export type ProjectState = {
  readonly states: readonly ClipState[];
  readonly documents: readonly DocumentRecord[];
  readonly places: ReadonlyMap<PlaceId, PlaceRecord>;
  readonly files: ReadonlyMap<MediaFileId, MediaFileRecord>;
  readonly rules: MatchRules;
  readonly acceptance: AcceptanceProfile | null;
};

/** Loads a project and derives every clip's status from link, facts and use. */
export async function loadProject(db: Database | Transaction, projectId: ProjectId): Promise<ProjectState> {
  const project = await projectStore.getProject(db, projectId);
  const [clips, documents, placeList] = await Promise.all([
    clipStore.listClips(db, projectId),
    documentStore.listDocuments(db, projectId),
    placeStore.listPlaces(db),
  ]);
  const places = new Map(placeList.map((p) => [p.id, p]));
  const files = await filesOf(db, clips);
  const { rules, acceptance } = project;
  const matched = enrichFromLogs(clips);
  const states = clips.map((clip, i) => stateOf(clip, files, places, acceptance, matched[i]));
  return { states, documents, places, files, rules, acceptance };
}

async function filesOf(
  db: Database | Transaction,
  clips: readonly ClipRecord[],
): Promise<Map<MediaFileId, MediaFileRecord>> {
  const ids = new Set<MediaFileId>();
  for (const clip of clips) {
    for (const id of [tiedId(clip), decidedFile(clip)]) if (id) ids.add(id);
  }
  return new Map((await mediaFileStore.listByIds(db, [...ids])).map((file) => [file.id, file]));
}

/** The file that the last decision is about: the certain one, the first of those asked about, the refused one. */
function decidedFile({ proposal }: ClipRecord): MediaFileId | null {
  const decision = proposal?.decision;
  switch (decision?.kind) {
    case 'certain':
    case 'unusable':
    case 'refused':
      return decision.mediaFileId;
    case 'ask':
      return decision.mediaFileIds[0] ?? null;
    default:
      return null;
  }
}

/** A clip ready to be weighed, with what matching found out about how common its name is. */
export const preparedClip = (clip: MatchClip & Pick<ClipRecord, 'proposal'>): PreparedClip =>
  withStanding(prepareClip(clip), clip.proposal?.standing ?? { namesakes: 0, outOfTime: 0, leftOut: 0 });

/** The file that a clip is tied to; see `tiedTo`. */
export const tiedId = ({ link, takenOffline, proposal }: ClipRecord): MediaFileId | null =>
  tiedTo({ link, takenOffline, whereRemembered: proposal?.whereRemembered ?? null });

export function stateOf(
  clip: ClipRecord,
  files: ReadonlyMap<MediaFileId, MediaFileRecord>,
  places: ReadonlyMap<PlaceId, PlaceRecord>,
  acceptance: AcceptanceProfile | null,
  matched: MatchClip = clip,
): ClipState {
  const id = tiedId(clip);
  const file = id ? files.get(id) : undefined;
  const place = file && places.get(file.placeId);
  const tied = file && place ? { file, place } : null;
  const unusable = tied ? null : unusableInstead(clip, files, places);
  const { status, marks } = judge(clip, matched, tied && { ...tied, gone: tied.file.gone }, { acceptance, unusable });
  return {
    clip,
    matched,
    status,
    tied: tied && marks !== null ? { ...tied, marks, by: clip.link?.by ?? 'remembered' } : null,
  };
}

/** Why the file that lies where the edit's folders say cannot be used, where that is what matching found. */
function unusableInstead(
  { proposal }: ClipRecord,
  files: ReadonlyMap<MediaFileId, MediaFileRecord>,
  places: ReadonlyMap<PlaceId, PlaceRecord>,
): Unreadable | null {
  const found = proposal?.decision.kind === 'unusable' ? files.get(proposal.decision.mediaFileId) : undefined;
  return found && !found.gone && places.get(found.placeId)?.there ? found.unreadable : null;
}

/** The status that a clip will have once it is linked to this file, read so: what a preview promises. */
export const statusAfter = (
  { clip, matched }: Pick<ClipState, 'clip' | 'matched'>,
  file: MediaFileRecord,
  place: PlaceRecord,
  how: { interpretation: Interpretation | null; acceptance: AcceptanceProfile | null },
): Status => judgeOnceLinked(clip, matched, { file, place, gone: file.gone }, how);

/** Changes when a file changes or is read anew, and its pictures with it. */
const versionOf = (file: MediaFileRecord): string => `${file.modifiedMs}-${file.readAt ?? 0}`;

export const found = (file: MediaFileRecord, place: PlaceRecord | undefined) => ({
  mediaFileId: file.id,
  version: versionOf(file),
  name: file.name,
  placeName: place?.name ?? '',
  folder: file.folder,
});

/** Names of bins by document and key. */
export const binsOf = (documents: readonly DocumentRecord[]): Map<string, string> =>
  new Map(documents.flatMap(({ id, bins }) => bins.map((b) => [useKey(id, b.key), b.name] as const)));

/** From its volume down; from the root, where it knows no volume. */
const folderAsWritten = ({ form, volume, folders }: RememberedPath): string =>
  `${form === 'rooted' ? '/' : ''}${[...(volume === null ? [] : [volume]), ...folders].join('/')}`;

/** One row of the ledger. */
export function clipRow(
  state: ClipState,
  project: Pick<ProjectState, 'files' | 'places'> & { readonly bins: ReadonlyMap<string, string> },
  uses: UseCounts,
): ClipRow {
  const { clip, status, tied } = state;
  const path = clip.remembered ? parseRememberedPath(clip.remembered) : null;
  const decision = clip.proposal?.decision ?? null;
  const wanted = decidedFile(clip);
  const shown = wanted && clip.proposal?.candidates.find((c) => c.mediaFileId === wanted);
  const best = shown && project.files.get(shown.mediaFileId);
  const marks = tied?.marks ?? shown?.marks ?? null;
  const use = uses.get(useKey(clip.documentId, clip.key));
  return {
    id: clip.id,
    documentId: clip.documentId,
    name: clip.name,
    fileName: path?.name ?? clip.name,
    folder: path ? folderAsWritten(path) : '',
    remembered: clip.remembered,
    reel: clip.reel,
    bin: project.bins.get(useKey(clip.documentId, clip.binKey ?? '')) ?? null,
    kind: clip.kind,
    status,
    why:
      status.status === 'missing' || status.status === 'changed' || status.status === 'parked'
        ? clip.takenOffline && clip.link === null
          ? { code: 'taken-offline' }
          : (clip.proposal?.why ?? null)
        : null,
    decision: decision?.kind ?? 'not-matched-yet',
    certainty: decision?.kind === 'certain' ? 'certain' : decision?.kind === 'ask' ? decision.certainty : null,
    certainNow: certainFile(state) !== null,
    tied: tied ? { ...found(tied.file, tied.place), by: tied.by } : null,
    candidate: best ? found(best, project.places.get(best.placeId)) : null,
    candidates: clip.proposal?.candidates.length ?? 0,
    pinned: clip.pinned,
    interpreted: clip.interpretation !== null,
    verdicts: marks === null ? null : verdictsIn(marks),
    uses: use?.count ?? 0,
    usedSeconds: use?.seconds ?? 0,
  };
}

export async function listClipRows(db: Database, projectId: ProjectId): Promise<ClipRow[]> {
  const project = await loadProject(db, projectId);
  const uses = countUses(project.documents, ratesOf(project.states.map((s) => s.clip)));
  const shown = { ...project, bins: binsOf(project.documents) };
  return project.states.map((state) => clipRow(state, shown, uses));
}

/** The file that a rule would link this clip to now; see `certainLink`. */
export const certainFile = ({ clip, status, tied }: ClipState): MediaFileId | null =>
  certainLink({
    decision: clip.proposal?.decision ?? null,
    status: status.status,
    takenOffline: clip.takenOffline,
    tiedTo: tied?.file.id ?? null,
  });

export function viewMediaFile(file: MediaFileRecord, place: PlaceRecord | undefined): MediaFileView {
  return {
    id: file.id,
    placeId: file.placeId,
    placeName: place?.name ?? '',
    placeThere: place?.there ?? false,
    folder: file.folder,
    name: file.name,
    sizeInBytes: file.sizeInBytes,
    facts: file.facts,
    unreadable: file.unreadable,
    sequence: file.sequence,
    gone: file.gone,
    version: versionOf(file),
    quarantined: file.quarantined,
    fingerprint: file.fingerprint,
    fullHash: file.fullHash,
    trial: file.trial && { state: file.trial.state, at: file.trial.at },
  };
}

export async function viewCut(db: Database, projectId: ProjectId): Promise<Cut> {
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

const actInShort = ({ id, verb, clips, madeAt }: JournalEntry) => ({
  id,
  verb,
  count: clips,
  madeAt: madeAt.toISOString(),
});

export async function summarize(db: Database, projectId: ProjectId): Promise<ProjectSummary> {
  const record = await projectStore.getProject(db, projectId);
  const [{ states }, cut, last, redoable] = await Promise.all([
    loadProject(db, projectId),
    viewCut(db, projectId),
    journalStore.findLast(db, projectId),
    journalStore.findRedoable(db, projectId),
  ]);
  const statuses = { linked: 0, missing: 0, changed: 0, unreadable: 0, short: 0, parked: 0, waived: 0 };
  for (const { status } of states) statuses[status.status] += 1;
  const seconds = (frames: number, rate: { num: number; den: number }) => (frames * rate.den) / rate.num;
  const top = cut.filter((t) => t.top);
  return {
    id: record.id,
    name: record.name,
    createdAt: record.createdAt.toISOString(),
    rules: record.rules,
    clips: states.length,
    toDo: states.filter((s) => isDark(s.status.status)).length,
    certain: states.filter((s) => certainFile(s) !== null).length,
    statuses,
    darkSeconds: top.reduce((sum, t) => sum + seconds(t.darkInFrames, t.rate), 0),
    cutSeconds: top.reduce((sum, t) => sum + seconds(t.length, t.rate), 0),
    lastAct: last && actInShort(last),
    redoable: redoable && actInShort(redoable),
  };
}

/** One clip of a preview: the file it would get, with the evidence in short. */
export function member(
  { clip }: Pick<ClipState, 'clip'>,
  screenSeconds: number,
  file: MediaFileRecord | null,
  place: PlaceRecord | undefined,
  more: Partial<Omit<Member, 'clipId' | 'clipName' | 'screenSeconds' | 'file' | 'verdicts'>> & {
    readonly marks?: Marks;
  },
): Member {
  const { marks, ...rest } = more;
  return {
    clipId: clip.id,
    clipName: clip.name,
    screenSeconds,
    file: file && found(file, place),
    verdicts: marks === undefined ? null : verdictsIn(marks),
    fits: false,
    certain: false,
    differs: [],
    interpretation: null,
    after: null,
    leftOut: null,
    offset: null,
    ...rest,
  };
}
