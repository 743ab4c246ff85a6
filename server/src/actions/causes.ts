import { createHash } from 'node:crypto';
import type { Act, CausePreview, CauseView, Causes } from '@legame/core/contract';
import {
  attributes,
  findCauses,
  prepareFile,
  verdictIn,
  type Cause,
  type ClipId,
  type DarkClip,
  type Decided,
  type Interpretation,
  type MediaFileId,
  type PreparedClip,
  type PreparedFile,
  type ProjectId,
  type Why,
} from '@legame/core';
import type { Database, Transaction } from '../db/database.ts';
import { UserProblem } from '../problems.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { loadProject, member, preparedClip, statusAfter, type ClipState, type ProjectState } from './clipViews.ts';
import { backSeconds, screenSeconds } from './screenTime.ts';
import type { Context } from './context.ts';
import { linkClips, type WantedLink } from './links.ts';

/** Names of a cause's clips that are told at first sight. */
const samplesShown = 6;

type Explained = {
  readonly project: ProjectState;
  readonly causes: readonly Cause[];
  readonly dark: ReadonlyMap<string, DarkClip>;
  readonly states: ReadonlyMap<string, ClipState>;
  readonly files: ReadonlyMap<MediaFileId, MediaFileRecord>;
  readonly parked: number;
};

/** Why a project's clips are dark, worked out from what matching proposed and from how things stand at this moment. */
async function explainDark(db: Database | Transaction, projectId: ProjectId): Promise<Explained> {
  const project = await loadProject(db, projectId);
  const seconds = screenSeconds(project);
  const open = project.states.filter(({ status: { status } }) => isOpen(status));
  const files = await candidateFiles(db, project, open);
  const prepared = new Map<MediaFileId, PreparedFile>();
  for (const file of files.values()) prepared.set(file.id, preparedIn(project, file));
  const dark = open.map((state): DarkClip => ({
    decided: decidedOf(state, prepared),
    why: whyOf(state),
    status: state.status.status as DarkClip['status'],
    tiedTo: state.tied?.file.id ?? null,
    screenSeconds: seconds([state.clip]),
  }));
  const states = new Map(open.map((s) => [s.clip.id, s]));
  return {
    project,
    files,
    dark: new Map(dark.map((d) => [d.decided.clip.id, d])),
    states,
    // What shows at once is dark once: the time of a cause is that of the cut, not of its clips in sum.
    causes: findCauses(dark, project.rules)
      .map((cause) => ({
        ...cause,
        key: shortKey(cause.key),
        screenSeconds: seconds(cause.clipIds.map((id) => states.get(id)!.clip)),
      }))
      .sort((a, b) => b.screenSeconds - a.screenSeconds),
    parked: project.states.filter((s) => s.status.status === 'parked').length,
  };
}

const isOpen = (status: ClipState['status']['status']): boolean =>
  status === 'missing' || status === 'changed' || status === 'unreadable' || status === 'short';
const shortKey = (key: string): string => createHash('sha256').update(key).digest('hex').slice(0, 16);

const preparedIn = ({ places }: ProjectState, file: MediaFileRecord): PreparedFile => {
  const place = places.get(file.placeId);
  return prepareFile(file, place?.name ?? '', place?.there ?? false);
};

/** Files that a clip's decision is about, and all that were weighed: what an explanation may rest on, or fail by. */
async function candidateFiles(
  db: Database | Transaction,
  project: ProjectState,
  states: readonly ClipState[],
): Promise<Map<MediaFileId, MediaFileRecord>> {
  const ids = new Set<MediaFileId>();
  for (const { clip } of states) {
    const decision = clip.proposal?.decision;
    if (decision && 'mediaFileId' in decision) ids.add(decision.mediaFileId);
    if (decision?.kind === 'ask') for (const id of decision.mediaFileIds) ids.add(id);
    for (const { mediaFileId } of clip.proposal?.candidates ?? []) ids.add(mediaFileId);
  }
  const files = new Map([...project.files].filter(([id]) => ids.has(id)));
  const missing = [...ids].filter((id) => !files.has(id));
  for (const file of await mediaFileStore.listByIds(db, missing)) files.set(file.id, file);
  return new Map([...files].filter(([, f]) => !f.gone));
}

/** The decision as it stands in the database, on files as they are now. What went away since is no candidate. */
function decidedOf(
  { clip, matched }: ClipState,
  prepared: ReadonlyMap<MediaFileId, PreparedFile>,
): Decided<PreparedClip, PreparedFile> {
  const candidates = (clip.proposal?.candidates ?? []).flatMap(({ mediaFileId, marks, levels, form }) => {
    const file = prepared.get(mediaFileId);
    return file ? [{ file, marks, levels, form }] : [];
  });
  const decision = clip.proposal?.decision ?? { kind: 'nothing' as const };
  const named =
    decision.kind === 'ask' ? decision.mediaFileIds : decision.kind === 'nothing' ? [] : [decision.mediaFileId];
  // A place that went away since matching offers nothing.
  const isThere = named.every((id) => candidates.some((c) => c.file.id === id));
  const isOffered = decision.kind === 'ask' ? isThere : named.every((id) => prepared.get(id)?.there);
  return {
    clip: preparedClip({ ...matched, proposal: clip.proposal }),
    candidates,
    decision: isThere && isOffered ? decision : { kind: 'nothing' },
  };
}

/** What a tie that stands says comes before what matching found. */
function whyOf({ clip, status, tied }: ClipState): Why {
  if (status.status === 'missing' && status.because === 'taken-offline') return { code: 'taken-offline' };
  if (status.status === 'missing' && status.because === 'place-away' && tied)
    return { code: 'place-away', placeId: tied.place.id, placeName: tied.place.name };
  if (status.status === 'missing' && status.because === 'not-read-yet') return { code: 'still-reading' };
  return clip.proposal?.why ?? { code: 'still-reading' };
}

export async function listCauses({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<Causes> {
  const [explained, files] = await Promise.all([explainDark(db, projectId), mediaFileStore.countPresent(db)]);
  return {
    causes: explained.causes.map((cause) => viewCause(cause, explained)),
    dark: explained.states.size,
    parked: explained.parked,
    files,
  };
}

function viewCause(cause: Cause, { states, dark }: Explained): CauseView {
  const marks = cause.links.map(
    ({ clipId, mediaFileId }) => dark.get(clipId)!.decided.candidates.find((c) => c.file.id === mediaFileId)!.marks,
  );
  const speaksForAll = (attribute: (typeof attributes)[number]) =>
    marks.every((m) => ['agrees', 'nearly'].includes(verdictIn(m, attribute)));
  return {
    key: cause.key,
    kind: cause.kind,
    certainty: cause.certainty,
    clipIds: [...cause.clipIds],
    screenSeconds: cause.screenSeconds,
    links: cause.links.length,
    apart: cause.clipIds.length - cause.links.length,
    samples: cause.clipIds.slice(0, samplesShown).map((id) => states.get(id)!.clip.name),
    agreeing: marks.length ? attributes.filter(speaksForAll) : [],
    wanting: [...cause.wanting],
    witnesses: cause.links.length === 0 ? 0 : Math.min(...cause.links.map((l) => l.witnesses)),
  };
}

/** What a cause's remedy would do, clip by clip. Nothing is changed. */
export async function previewCause(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  key: string,
): Promise<CausePreview> {
  const explained = await explainDark(db, projectId);
  const cause = causeByKey(explained, key);
  const links = new Map(cause.links.map((l) => [l.clipId, l]));
  const apart = new Map(cause.apart.map((a) => [a.clipId, a]));
  const members = cause.clipIds.map((clipId) => {
    const [link, near, dark] = [links.get(clipId), apart.get(clipId), explained.dark.get(clipId)!];
    const id = link?.mediaFileId ?? near?.mediaFileId;
    const file = (id && explained.files.get(id)) ?? null;
    const marks = dark.decided.candidates.find((c) => c.file.id === id)?.marks;
    return member(
      explained.states.get(clipId)!,
      dark.screenSeconds,
      file,
      file ? explained.project.places.get(file.placeId) : undefined,
      {
        ...(marks === undefined ? {} : { marks }),
        fits: link !== undefined,
        certain: link?.certain ?? false,
        differs: [...(near?.differs ?? [])],
        interpretation: link?.interpretation ?? null,
        after: file && link ? afterIn(explained, clipId, file, link.interpretation) : null,
      },
    );
  });
  return {
    cause: viewCause(cause, explained),
    members,
    backSeconds: backSeconds(explained.project, members),
    alternatives: [...alternativesOf(cause, explained)],
  };
}

function afterIn({ project, states }: Explained, clipId: string, file: MediaFileRecord, read: Interpretation | null) {
  const place = project.places.get(file.placeId);
  return place
    ? statusAfter(states.get(clipId)!, file, place, { interpretation: read, acceptance: project.acceptance })
    : null;
}

function causeByKey({ causes }: Explained, key: string): Cause {
  const cause = causes.find((c) => c.key === key);
  if (!cause)
    throw new UserProblem(
      'cause-gone',
      409,
      'This cause is not there any more: something changed since it was shown. Look at the causes as they are now.',
    );
  return cause;
}

/**
 * Mends one cause: links what it explains, as one act. Worked out anew, so that nothing is linked on what was seen a
 * while ago. Where a person has to say, `alternative` is the folder in which the right files lie; `except`
 * are clips that are left as they are.
 */
export async function mendCause(
  context: Pick<Context, 'db'>,
  projectId: ProjectId,
  key: string,
  { alternative, except = [] }: { alternative?: string | undefined; except?: readonly ClipId[] | undefined } = {},
): Promise<Act> {
  const explained = await explainDark(context.db, projectId);
  const cause = causeByKey(explained, key);
  const left = new Set(except);
  const all: readonly WantedLink[] =
    alternative !== undefined
      ? cause.kind.code === 'choice'
        ? chosenLinks(explained, cause, alternative)
        : nearLinks(explained, cause, alternative)
      : cause.links;
  const links = all.filter((l) => !left.has(l.clipId));
  if (links.length === 0)
    throw new UserProblem(
      'cause-gone',
      409,
      'Nothing here can be linked by one decision: a person has to look at each.',
    );
  return linkClips(context, projectId, { by: 'cause', about: { code: 'cause', kind: cause.kind } }, links);
}

/** More folders than this are no choice: their clips are looked at one by one. */
const mostFolders = 4;

/** The folders that a person may say hold the right files, where nothing says it for them. */
function alternativesOf(cause: Cause, explained: Explained): readonly string[] {
  const { kind, links } = cause;
  if (kind.code === 'choice') return kind.alternatives.length > 1 ? kind.alternatives : [];
  if (kind.code !== 'displaced' || links.length > 0) return [];
  const folders = new Set(nearFiles(explained, cause).map(({ file }) => file.folderText));
  return folders.size <= mostFolders ? [...folders] : [];
}

/** The files that came near, where nothing speaks against them and nothing bears them out. */
function nearFiles({ dark }: Explained, cause: Cause): { clipId: ClipId; file: PreparedFile }[] {
  return cause.apart.flatMap(({ clipId, mediaFileId, differs }) => {
    const file = dark.get(clipId)!.decided.candidates.find((c) => c.file.id === mediaFileId)?.file;
    return differs.length === 0 && file?.there ? [{ clipId, file }] : [];
  });
}

/** What a person says of an explanation that nothing bears out: the files that came near, of one folder, are the ones. */
const nearLinks = (explained: Explained, cause: Cause, folder: string): WantedLink[] =>
  nearFiles(explained, cause).flatMap(({ clipId, file }) =>
    file.folderText === folder ? [{ clipId, mediaFileId: file.id }] : [],
  );

function chosenLinks({ dark }: Explained, cause: Cause, alternative: string): WantedLink[] {
  return cause.clipIds.flatMap((clipId) => {
    const { decision, candidates } = dark.get(clipId)!.decided;
    const ids = decision.kind === 'ask' ? decision.mediaFileIds : [];
    const chosen = candidates.filter((c) => ids.includes(c.file.id) && c.file.folderText === alternative);
    return chosen.length === 1 ? [{ clipId, mediaFileId: chosen[0]!.file.id }] : [];
  });
}
