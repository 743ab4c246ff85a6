import {
  type Cause,
  type DarkClip,
  type Decided,
  FilePreparer,
  findingCauses,
  FoundBefore,
  type PreparedClip,
  type PreparedFile,
  type Why,
} from '@legame/core/match';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import { createHash } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { screenSeconds } from '../clips/screenTime.ts';
import { loadProject, stampsOf } from '../clips/project.ts';
import { type ClipState, preparedClip, type ProjectState } from '../clips/state.ts';
import type { Database } from '../db/database.ts';
import { inSlices, mapInSlices } from '../inSlices.ts';
import type { WantedLink } from '../links/link.ts';
import { whileMemoryFills } from '../memory.ts';
import { UserProblem } from '../problems.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';

export type Explained = {
  /** But for its clips and files: of those that are not dark nothing is kept here. */
  readonly project: Pick<ProjectState, 'documents' | 'places' | 'rules' | 'acceptance'>;
  readonly causes: readonly Cause[];
  /** What was found out about each dark clip on the way. */
  readonly found: FoundBefore;
  readonly dark: ReadonlyMap<string, DarkClip>;
  readonly states: ReadonlyMap<string, ClipState>;
  readonly files: ReadonlyMap<MediaFileId, MediaFileRecord>;
  readonly seconds: ReturnType<typeof screenSeconds>;
  readonly parked: number;
  /** How many files there are in all places. */
  readonly filesThere: number;
};

/** What was explained last: who looks at causes looks into one of them next, and then has it mended. */
type Last = {
  readonly stamp: string;
  readonly ofMedia: string;
  readonly explained: Promise<Explained>;
  readonly forgetting: NodeJS.Timeout;
};
const explainedLast = new WeakMap<object, Last>();
const keptForMs = 2 * 60_000;

/** What causes are worked out from, on whatever screen they are told. */
export const causesRestOn = ['clips', 'documents', 'project', 'places', 'files'] as const;

/**
 * Why a project's clips are dark, worked out from what matching proposed and from how things stand at this moment: what
 * was worked out last, where nothing that it rests on is otherwise since; where files and places are as they were, only
 * the clips are looked into that something touched.
 */
export async function explainDark(db: Database, projectId: ProjectId): Promise<Explained> {
  const stamps = await stampsOf(db, projectId, causesRestOn);
  const stamp = [projectId, ...Object.values(stamps)].join('/');
  const ofMedia = [projectId, stamps.places, stamps.files].join('/');
  const last = explainedLast.get(db);
  if (last?.stamp === stamp) return last.explained;
  const before = last?.ofMedia === ofMedia ? last.explained.catch(() => null) : null;
  // No function made here names what was before: the timer below would hold it as well.
  const explained = before
    ? explainAnew(db, projectId, before)
    : whileMemoryFills(() => explainAnew(db, projectId, null));
  // What is to be forgotten later is held until then: of each but the last that is over now.
  clearTimeout(explainedLast.get(db)?.forgetting);
  const forgetting = setTimeout(() => explainedLast.delete(db), keptForMs).unref();
  explainedLast.set(db, { stamp, ofMedia, explained, forgetting });
  explained.catch(() => {
    if (explainedLast.get(db)?.explained !== explained) return;
    clearTimeout(forgetting);
    explainedLast.delete(db);
  });
  return explained;
}

async function explainAnew(
  db: Database,
  projectId: ProjectId,
  lookedAt: Promise<Explained | null> | null,
): Promise<Explained> {
  const before = await lookedAt;
  const project = await loadProject(db, projectId);
  const isCutAsBefore = before !== null && isSame(before.project.documents, project.documents);
  const seconds = isCutAsBefore ? before.seconds : screenSeconds(project);
  const open = project.states.filter(({ status: { status } }) => isOpen(status));
  const known = new Map<string, DarkClip>();
  if (isCutAsBefore)
    for (const { clip } of open.filter((state) => before.states.get(state.clip.id) === state))
      known.set(clip.id, before.dark.get(clip.id)!);
  const touched = open.filter((state) => !known.has(state.clip.id));
  const files = new Map(before?.files);
  for (const file of await candidateFiles(db, project, touched, files)) files.set(file.id, file);
  const prepared = new Map<MediaFileId, PreparedFile>();
  const preparer = new FilePreparer();
  const preparedOf = (id: MediaFileId): PreparedFile | undefined => {
    const file = files.get(id);
    const place = file && project.places.get(file.placeId);
    if (file && !prepared.has(id)) prepared.set(id, preparer.prepare(file, place?.name ?? '', place?.there ?? false));
    return prepared.get(id);
  };
  const dark = await mapInSlices(
    open,
    (state): DarkClip =>
      known.get(state.clip.id) ?? {
        decided: decidedOf(state, preparedOf),
        why: whyOf(state),
        status: state.status.status as DarkClip['status'],
        tiedTo: state.tied?.file.id ?? null,
        screenSeconds: seconds([state.clip]),
      },
  );
  const states = new Map(open.map((s) => [s.clip.id, s]));
  const areRulesAsBefore = before !== null && isDeepStrictEqual(before.project.rules, project.rules);
  const found = areRulesAsBefore ? before.found : new FoundBefore();
  const { documents, places, rules, acceptance } = project;
  return {
    project: { documents, places, rules, acceptance },
    files,
    seconds,
    dark: new Map(dark.map((d) => [d.decided.clip.id, d])),
    states,
    found,
    // What shows at once is dark once: the time of a cause is that of the cut, not of its clips in sum.
    causes: (await inSlices(findingCauses(dark, project.rules, found)))
      .map((cause) => ({
        ...cause,
        key: shortKey(cause.key),
        screenSeconds: seconds(cause.clipIds.map((id) => states.get(id)!.clip)),
      }))
      .sort((a, b) => b.screenSeconds - a.screenSeconds),
    parked: project.states.filter((s) => s.status.status === 'parked').length,
    filesThere: before?.filesThere ?? (await mediaFileStore.countPresent(db)),
  };
}

const isSame = <T>(one: readonly T[], other: readonly T[]): boolean =>
  one.length === other.length && one.every((item, i) => item === other[i]);

const isOpen = (status: ClipState['status']['status']): boolean =>
  status === 'missing' || status === 'changed' || status === 'unreadable' || status === 'short';

const shortKey = (key: string): string => createHash('sha256').update(key).digest('hex').slice(0, 16);

/**
 * Files that the decisions of these clips are about, and all that were weighed for them: what an explanation may rest on,
 * or fail by. Those that are known are as they were.
 */
async function candidateFiles(
  db: Database,
  project: ProjectState,
  states: readonly ClipState[],
  known: ReadonlyMap<MediaFileId, MediaFileRecord>,
): Promise<MediaFileRecord[]> {
  const ids = new Set<MediaFileId>();
  for (const { clip } of states) {
    const decision = clip.proposal?.decision;
    if (decision && 'mediaFileId' in decision) ids.add(decision.mediaFileId);
    if (decision?.kind === 'ask') for (const id of decision.mediaFileIds) ids.add(id);
    for (const { mediaFileId } of clip.proposal?.candidates ?? []) ids.add(mediaFileId);
  }
  const atHand = [...ids].flatMap((id) => project.files.get(id) ?? []);
  const missing = [...ids].filter((id) => !project.files.has(id) && !known.has(id));
  return [...atHand, ...(await mediaFileStore.listByIds(db, missing))].filter((file) => !file.gone);
}

/** The decision as it stands in the database, on files as they are now. What went away since is no candidate. */
function decidedOf(
  { clip, matched }: ClipState,
  preparedOf: (id: MediaFileId) => PreparedFile | undefined,
): Decided<PreparedClip, PreparedFile> {
  const candidates = (clip.proposal?.candidates ?? []).flatMap(({ mediaFileId, marks, levels, form }) => {
    const file = preparedOf(mediaFileId);
    return file ? [{ file, marks, levels, form }] : [];
  });
  const decision = clip.proposal?.decision ?? { kind: 'nothing' as const };
  const named =
    decision.kind === 'ask' ? decision.mediaFileIds : decision.kind === 'nothing' ? [] : [decision.mediaFileId];
  // A place that went away since matching offers nothing.
  const isThere = named.every((id) => candidates.some((c) => c.file.id === id));
  const isOffered = decision.kind === 'ask' ? isThere : named.every((id) => preparedOf(id)?.there);
  return {
    clip: preparedClip({ clip, matched }),
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

/** What was made ready of a clip and a file to explain it, where both are as they were. */
export const preparedIn =
  ({ states, files, dark }: Explained) =>
  (state: ClipState, file: MediaFileRecord): { clip: PreparedClip; file: PreparedFile } | null => {
    if (states.get(state.clip.id) !== state || files.get(file.id) !== file) return null;
    const { clip, candidates } = dark.get(state.clip.id)!.decided;
    const candidate = candidates.find((c) => c.file.id === file.id);
    return candidate ? { clip, file: candidate.file } : null;
  };

export function causeByKey({ causes }: Explained, key: string): Cause {
  const cause = causes.find((c) => c.key === key);
  if (!cause) throw new UserProblem({ code: 'cause-gone' });
  return cause;
}

/** More folders than this are no choice: their clips are looked at one by one. */
const mostFolders = 4;

/** The folders that a person may say hold the right files, where nothing says it for them. */
export function alternativesOf(cause: Cause, explained: Explained): readonly string[] {
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
export const nearLinks = (explained: Explained, cause: Cause, folder: string): WantedLink[] =>
  nearFiles(explained, cause).flatMap(({ clipId, file }) =>
    file.folderText === folder ? [{ clipId, mediaFileId: file.id }] : [],
  );

export function chosenLinks({ dark }: Explained, cause: Cause, alternative: string): WantedLink[] {
  return cause.clipIds.flatMap((clipId) => {
    const { decision, candidates } = dark.get(clipId)!.decided;
    const ids = decision.kind === 'ask' ? decision.mediaFileIds : [];
    const chosen = candidates.filter((c) => ids.includes(c.file.id) && c.file.folderText === alternative);
    return chosen.length === 1 ? [{ clipId, mediaFileId: chosen[0]!.file.id }] : [];
  });
}
