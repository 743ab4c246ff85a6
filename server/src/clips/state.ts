import {
  enrichFromLogs,
  isPoor,
  type Marks,
  type MatchClip,
  type MatchRules,
  prepareClip,
  type PreparedClip,
  verdictIn,
  withStanding,
} from '@legame/core/match';
import type {
  AcceptanceProfile,
  ClipId,
  Interpretation,
  MediaFileId,
  PlaceId,
  ProjectId,
  Unreadable,
} from '@legame/core/model';
import { certainLink, judge, judgeOnceLinked, type Status, tiedTo } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import type { Database, Transaction } from '../db/database.ts';
import { mapInSlices } from '../inSlices.ts';
import { type ClipRecord, clipStore } from '../stores/clips.ts';
import type { DocumentRecord } from '../stores/documents.ts';
import { type KnownFile, type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { type PlaceRecord, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';

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

/** What is known of some of a project's clips. */
export type SomeClips = Omit<ProjectState, 'documents'>;

/**
 * Loads clips and derives their status from link, facts and use: these, or all of the project where `ids` is null. Who
 * loads them part by part passes what all parts share; who has files at hand, where they are.
 */
export async function loadClips(
  db: Database | Transaction,
  projectId: ProjectId,
  ids: readonly ClipId[] | null,
  { shared = sharedBy(db, projectId), known }: { shared?: ReturnType<typeof sharedBy>; known?: KnownFile } = {},
): Promise<SomeClips> {
  const { rules, acceptance, places } = await shared.basis();
  const clips = ids ? await clipStore.listByIds(db, ids) : await clipStore.listClips(db, projectId);
  const files = await filesOf(db, clips, known);
  const matched = ids && clips.some(isPoor) ? await shared.company() : enriched(clips);
  const states = await mapInSlices(clips, (clip) => stateOf(clip, files, places, acceptance, matched.get(clip.id)));
  return { states, places, files, rules, acceptance };
}

/** What parts of a project share, each read once. */
export function sharedBy(db: Database | Transaction, projectId: ProjectId) {
  let all: ReadonlyMap<ClipId, MatchClip> | null = null;
  let basis: Pick<ProjectState, 'rules' | 'acceptance' | 'places'> | null = null;
  return {
    async basis() {
      if (basis) return basis;
      const { rules, acceptance } = await projectStore.getProject(db, projectId);
      const places = new Map((await placeStore.listPlaces(db)).map((p) => [p.id, p]));
      return (basis = { rules, acceptance, places });
    },
    /** Who takes what it knows of its media from others needs the others, too: all clips of the project. */
    company: async () => (all ??= enriched(await clipStore.listClips(db, projectId))),
  };
}
const enriched = (clips: readonly ClipRecord[]) =>
  new Map(enrichFromLogs(clips).map((clip, i) => [clips[i]!.id, clip]));

async function filesOf(
  db: Database | Transaction,
  clips: readonly ClipRecord[],
  known?: KnownFile,
): Promise<Map<MediaFileId, MediaFileRecord>> {
  const ids = new Set<MediaFileId>();
  for (const clip of clips) {
    for (const id of [tiedId(clip), decidedFile(clip), likeliestFile(clip)]) if (id) ids.add(id);
  }
  return new Map((await mediaFileStore.listByIds(db, [...ids], known)).map((file) => [file.id, file]));
}

/** The file that the last decision is about: the certain one, the first of those asked about, the refused one. */
export function decidedFile({ proposal }: ClipRecord): MediaFileId | null {
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

/** The file that a clip is shown beside while it is tied to none: that of the decision, else the first that names it. */
export function likeliestFile(clip: ClipRecord): MediaFileId | null {
  const named = clip.proposal?.candidates.find((c) => verdictIn(c.marks, 'name') !== 'differs');
  return decidedFile(clip) ?? named?.mediaFileId ?? null;
}

/** A clip ready to be weighed, with what matching found out about how common its name is. */
export const preparedClip = ({ clip, matched }: Pick<ClipState, 'clip' | 'matched'>): PreparedClip =>
  withStanding(prepareClip(matched), clip.proposal?.standing ?? { namesakes: 0, outOfTime: 0, leftOut: 0 });

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
  const tied = file && place ? { file, place, gone: file.gone } : null;
  const unusable = tied ? null : unusableInstead(clip, files, places);
  const { status, marks } = judge(clip, matched, tied, { acceptance, unusable });
  return {
    clip,
    matched,
    status,
    // Whole, and not added to a copy: an object that is spread and added to has a shape of its own.
    tied:
      tied && marks !== null ? { file: tied.file, place: tied.place, marks, by: clip.link?.by ?? 'remembered' } : null,
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

/** The file that a rule would link this clip to now; see `certainLink`. */
export const certainFile = ({ clip, status, tied }: Pick<ClipState, 'clip' | 'status' | 'tied'>): MediaFileId | null =>
  certainLink({
    decision: clip.proposal?.decision ?? null,
    status: status.status,
    isSetAside: clip.setAside !== null,
    takenOffline: clip.takenOffline,
    tiedTo: tied?.file.id ?? null,
  });
