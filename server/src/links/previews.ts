import type { Looking } from '../context.ts';
import {
  type Carried,
  carry,
  carryPattern,
  type CarryPattern,
  filesByPath,
  interpretationOf,
  isKnownElsewhere,
  prepareClip,
  type PreparedFile,
  prepareFile,
  prepareFiles,
  timecodeDisplacement,
  wantedOf,
} from '@legame/core/match';
import type { ClipId, Interpretation, MediaFileId, ProjectId } from '@legame/core/model';
import { foldersFromVolume, nameKey, parseRememberedPath } from '@legame/core/paths';
import { isDark } from '@legame/core/state';
import type { CarryPreview, FolderPreview, LinkPreview, Member } from '@legame/core/contract';
import { backSeconds, screenSeconds } from '../clips/screenTime.ts';
import { loadProject } from '../clips/project.ts';
import { certainFile, type ClipState, type ProjectState, statusAfter } from '../clips/state.ts';
import { member } from '../clips/memberViews.ts';
import { Owners } from './owners.ts';
import { notFound } from '../problems.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';

/** What tying this clip to this file would carry to the project's other dark clips. Nothing is changed. */
export async function previewCarry(
  { db }: Looking,
  projectId: ProjectId,
  clipId: ClipId,
  mediaFileId: MediaFileId,
): Promise<CarryPreview> {
  const [project, files] = await Promise.all([loadProject(db, projectId), mediaFileStore.listPresent(db)]);
  const state = project.states.find((s) => s.clip.id === clipId);
  const file = files.find((f) => f.id === mediaFileId);
  if (!state) throw notFound('clip');
  if (!file) throw notFound('media-file');
  const placeName = project.places.get(file.placeId)?.name ?? '';
  const pattern = carryPattern(prepareClip(state.matched), prepareFile(file, placeName));
  if (!pattern) return { pattern: null, members: [] };
  const others = project.states.filter((s) => s.clip.id !== clipId && isDark(s.status.status));
  // Who passes over what is certain of the first clip means to do so with the others.
  const passesOver = isElsewhere(state, mediaFileId);
  const { displacement, renaming, timecode } = pattern;
  return {
    pattern: { from: displacement.from.join('/'), to: displacement.to.join('/'), renaming, timecode },
    members: membersOf(project, reach(project, pattern, others, files), others, { passesOver }),
  };
}

export type FolderChange = {
  readonly from: string;
  readonly to: string;
  readonly clipIds?: readonly ClipId[] | undefined;
};

/** What changing one folder of the remembered paths for another would resolve, over these clips or all dark ones. */
export async function previewFolderChange(
  { db }: Looking,
  projectId: ProjectId,
  request: FolderChange,
): Promise<FolderPreview> {
  const { reached, members } = await resolveFolder(db, projectId, request);
  return { reached, members };
}

/** The same with the clips as they were then. `from` and `to` begin with the volume or place; how far they are typed is how far they count. */
export async function resolveFolder(
  db: Looking['db'],
  projectId: ProjectId,
  request: FolderChange,
): Promise<FolderPreview & { readonly states: readonly ClipState[] }> {
  const [project, files] = await Promise.all([loadProject(db, projectId), mediaFileStore.listPresent(db)]);
  const chosen = request.clipIds && new Set(request.clipIds);
  const states = project.states.filter((s) => (chosen ? chosen.has(s.clip.id) : isDark(s.status.status)));
  const displacement = { from: foldersTyped(request.from), to: foldersTyped(request.to) };
  if (displacement.to.length === 0) return { reached: 0, members: [], states };
  const pattern: CarryPattern = {
    displacement,
    renaming: { stem: { kind: 'same' }, extension: null },
    timecode: null,
  };
  const members = membersOf(project, reach(project, pattern, states, files), states);
  const under = states.filter(({ clip }) => isUnder(prepareClip(clip).folderKeys, displacement.from.map(nameKey)));
  return { reached: under.length, members, states };
}

/** A folder as somebody types it: "KILN_A/day2", "/Volumes/KILN_A/day2", "S:\\scans" all begin with the volume. */
function foldersTyped(text: string): readonly string[] {
  if (text === '') return [];
  return foldersFromVolume(
    parseRememberedPath(/^([\\/]|[a-z]:|file:)/i.test(text) ? `${text}/x` : `/Volumes/${text}/x`),
  );
}

const isUnder = (folders: readonly string[], head: readonly string[]): boolean =>
  head.length <= folders.length && head.every((part, i) => part === folders[i]);

function reach(
  { places, rules }: ProjectState,
  pattern: CarryPattern,
  states: readonly ClipState[],
  files: readonly MediaFileRecord[],
): Carried[] {
  const there = files.filter((f) => places.get(f.placeId)?.there);
  const clips = states.map((s) => prepareClip(s.matched));
  return carry(pattern, clips, filesByPath(prepareFiles(there, [...places.values()])), rules);
}

/** Where the file as it stands leaves something uncovered: the reading by which its addresses would be the edit's. */
export function offsetFor({ matched }: ClipState, file: PreparedFile): Interpretation | null {
  const apart = timecodeDisplacement({ clip: matched, wanted: wantedOf(matched) }, file);
  return apart && interpretationOf(apart);
}

const isElsewhere = ({ clip: { proposal } }: ClipState, mediaFileId: MediaFileId): boolean =>
  proposal !== null && isKnownElsewhere(proposal.decision, proposal.candidates, mediaFileId);

function membersOf(
  project: ProjectState,
  carried: readonly Carried[],
  states: readonly ClipState[],
  { passesOver = false } = {},
) {
  const byId = new Map(states.map((s) => [s.clip.id, s]));
  const seconds = screenSeconds(project);
  return carried.map((c) => {
    const state = byId.get(c.clipId)!;
    const file = c.file.file as MediaFileRecord;
    const place = project.places.get(file.placeId)!;
    const { acceptance } = project;
    const isLeft = c.fits && !passesOver && isElsewhere(state, file.id);
    const fits = c.fits && !isLeft;
    const after = fits ? statusAfter(state, file, place, { interpretation: c.interpretation, acceptance }) : null;
    return member(state, seconds([state.clip]), file, place, {
      after,
      offset: after?.status === 'short' ? offsetFor(state, c.file) : null,
      marks: c.marks,
      fits,
      leftOut: isLeft ? 'other-file' : null,
      differs: c.fits ? [] : c.differs,
      interpretation: c.interpretation,
    });
  });
}

/**
 * What linking each of these clips to its candidate would do. Left out, with the reason, are clips that ask for a choice
 * and files that different recordings want; the status each clip will have is told by the function that tells it then.
 */
export async function previewLinks(
  { db }: Looking,
  projectId: ProjectId,
  { clipIds, onlyCertain }: { readonly clipIds: readonly ClipId[]; readonly onlyCertain: boolean },
): Promise<LinkPreview> {
  const project = await loadProject(db, projectId);
  const chosen = new Set(clipIds);
  const wanted = project.states
    .filter((s) => chosen.has(s.clip.id))
    .map((state) => ({ state, ...candidateFor(state, onlyCertain) }));
  return previewOf(project, wanted);
}

/** A clip with the file that it would be linked to, or why there is none. */
export type WantedMember = {
  readonly state: ProjectState['states'][number];
  readonly mediaFileId: MediaFileId | null;
  readonly leftOut: LeftOut | null;
};

/** What linking these would do, each and in sum. */
export function previewOf(project: ProjectState, wanted: readonly WantedMember[]): LinkPreview {
  const seconds = screenSeconds(project);
  const owners = new Owners(wanted.flatMap((w) => (w.mediaFileId ? [{ ...w, mediaFileId: w.mediaFileId }] : [])));
  const members = wanted.map(({ state, mediaFileId, leftOut }) => {
    const file = mediaFileId ? (project.files.get(mediaFileId) ?? null) : null;
    const place = file ? project.places.get(file.placeId) : undefined;
    const why = leftOut ?? (mediaFileId && owners.isContested(state, mediaFileId) ? 'contested' : null);
    const marks = state.clip.proposal?.candidates.find((c) => c.mediaFileId === mediaFileId)?.marks;
    const fits = why === null && file !== null && place !== undefined;
    const { acceptance } = project;
    const after = fits ? statusAfter(state, file, place, { interpretation: null, acceptance }) : null;
    return member(state, seconds([state.clip]), file, place, {
      ...(marks === undefined ? {} : { marks }),
      fits,
      certain: certainFile(state) !== null,
      leftOut: why,
      after,
      offset: after?.status === 'short' && file && place ? offsetFor(state, prepareFile(file, place.name)) : null,
    });
  });
  return { members, backSeconds: backSeconds(members, project.states, seconds) };
}

export type LeftOut = NonNullable<Member['leftOut']>;

/** The one file that a clip would be linked to, or why there is none. */
function candidateFor(
  state: ProjectState['states'][number],
  onlyCertain: boolean,
): { mediaFileId: MediaFileId | null; leftOut: LeftOut | null } {
  const decision = state.clip.proposal?.decision;
  if (state.clip.pinned) return { mediaFileId: null, leftOut: 'pinned' };
  if (state.clip.takenOffline && onlyCertain) return { mediaFileId: null, leftOut: 'taken-offline' };
  if (decision?.kind === 'certain') return { mediaFileId: decision.mediaFileId, leftOut: null };
  if (decision?.kind !== 'ask') return { mediaFileId: null, leftOut: 'nothing-found' };
  const isOne = decision.reason === 'not-enough-known' && decision.mediaFileIds.length === 1 && !onlyCertain;
  return isOne ? { mediaFileId: decision.mediaFileIds[0]!, leftOut: null } : { mediaFileId: null, leftOut: 'choice' };
}
