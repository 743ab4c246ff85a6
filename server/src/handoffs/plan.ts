import {
  estimateSeconds,
  filesToCopy,
  isCodedFilm,
  roomAfter,
  standardChoices,
  type Choices,
  type ConsolidatePlan,
  type PlannedRecording,
} from '@legame/core/consolidate';
import type { HandoffId, MediaFileId, ProjectId } from '@legame/core/model';
import { safeName } from '@legame/core/paths';
import type { HandoffLayout, HandoffPlan, HandoffPreview, HandoffScope, PlannedContent } from '@legame/core/contract';
import { basename, dirname, join } from 'node:path';
import { loadProject } from '../clips/project.ts';
import type { ClipState, ProjectState } from '../clips/state.ts';
import type { Context } from '../context.ts';
import type { Database, Transaction } from '../db/database.ts';
import { folderInsideRoots } from '../disk/fence.ts';
import { withFolder, type FolderIdentity } from '../disk/held.ts';
import { driveOf } from '../disk/removable.ts';
import { roomOf } from '../disk/room.ts';
import { requireWritable } from '../disk/writing.ts';
import { tell } from '../events/tell.ts';
import { viewFolders } from '../folders/views.ts';
import { asIndexed } from './copy.ts';
import { cuttingsFor } from './cuttings.ts';
import { clipsOfScope, comingFile, documentsInScope, planOf, rangesSaid } from './scope.ts';
import { UserProblem } from '../problems.ts';
import { enqueue } from '../queue/queue.ts';
import type { Streams } from '../media/trim.ts';
import type { Cuttable } from '../stores/cuttings.ts';
import { handoffStore, type HandoffFile, type HandoffRecord, type NewFile } from '../stores/handoffs.ts';
import { handoffRunStore } from '../stores/handoffRuns.ts';
import { jobStore } from '../stores/jobs.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { sidecarsFor, type SidecarsFound } from './sidecars.ts';
import { settingsStore } from '../stores/settings.ts';

type Target = HandoffPlan['targets'][number];

type Request = {
  targetFolder: string;
  secondFolder?: string | undefined;
  name: string;
  layout: HandoffLayout;
} & Asked;

/** What is asked for; what is not said is all, or as it usually is. */
type Asked = { readonly [K in keyof HandoffScope]?: NonNullable<HandoffScope[K]> | undefined } & {
  readonly choices?: Partial<Choices> | undefined;
};
const scopeOf = ({ timelines, ranges, clips, bins }: Asked): HandoffScope => ({
  timelines: timelines ?? null,
  ranges: ranges ?? [],
  clips: clips ?? null,
  bins: bins ?? [],
});
type Worked = {
  readonly cuttings: ReadonlyMap<MediaFileId, Cuttable>;
  readonly beside: SidecarsFound['records'];
  readonly project: ProjectState;
  readonly plan: ConsolidatePlan;
  readonly view: PlannedContent;
};

/** What would go where for these choices: worked out, not kept. */
async function workOut(db: Database, projectId: ProjectId, asked: Asked, signal?: AbortSignal): Promise<Worked> {
  const project = await loadProject(db, projectId);
  const choices = { ...standardChoices, ...asked.choices };
  const said = scopeOf(asked);
  const scope = clipsOfScope(project, said);
  const isInScope = ({ clip }: ClipState) => scope.has(clip.id) || scope.size === 0;
  const coming = new Map(
    project.states
      .filter(isInScope)
      .flatMap((s) => comingFile(project, s) ?? [])
      .map((f) => [f.id, f]),
  );
  const cuttings = await cuttingsFor(db, project, [...coming.values()], choices, signal);
  const beside = choices.sidecars ? await sidecarsFor(db, [...coming.values()]) : null;
  const { template } = await viewFolders({ db }, projectId);
  const plan = planOf(project, scope, choices, { cuttings, sidecars: beside?.byFile ?? new Map() }, template);
  const view = {
    choices,
    recordings: plan.recordings.map(viewRecording),
    leftOut: plan.leftOut,
    clipsChosen: said.clips?.length ?? null,
    bins: said.bins,
    ranges: rangesSaid(project, said),
    timelines: documentsInScope(project, said).map((d) => d.name),
    sizeInBytes: plan.sizeInBytes,
    wholeInBytes: plan.wholeInBytes,
  };
  return { project, plan, view, cuttings, beside: beside?.records ?? new Map() };
}

/** The same for whoever is still choosing; with the room of the targets, once there are some. */
export async function previewHandoff(
  { db, config }: Pick<Context, 'db' | 'config'>,
  projectId: ProjectId,
  { targetFolder, secondFolder, ...asked }: Asked & Partial<Pick<Request, 'targetFolder' | 'secondFolder'>>,
  signal?: AbortSignal,
): Promise<HandoffPreview> {
  const { view } = await workOut(db, projectId, asked, signal);
  const wanted = [targetFolder, secondFolder].filter((f) => f !== undefined);
  const folders = await Promise.all(wanted.map((folder) => folderInsideRoots(folder, config.roots)));
  const rooms = await withRoom(db, folders, view.sizeInBytes);
  return { ...view, targets: await withSeconds(db, rooms, view) };
}

/** The room of each folder for so many bytes in each; what lies on one drive shares its room. */
async function withRoom(
  db: Database,
  folders: readonly string[],
  sizeInBytes: number,
): Promise<Omit<Target, 'seconds'>[]> {
  const headroomShare = await settingsStore.headroomShare(db);
  const drives = await Promise.all(
    folders.map((path) => withFolder({ path }, (held) => Promise.resolve(held.identity.device))),
  );
  return Promise.all(
    folders.map(async (folder, i) => {
      const room = await roomOf(folder);
      const known = {
        freeInBytes: room?.freeInBytes ?? 0,
        totalInBytes: room?.totalInBytes ?? 0,
        headroomShare,
      };
      const there = drives.filter((drive) => drive === drives[i]).length;
      const { fits, usableInBytes } = roomAfter(sizeInBytes * there, known);
      return { folder, room: { ...known, usableInBytes, fits } };
    }),
  );
}

/** How long it takes there, as what was written onto each drive before went; coding films anew takes longer than copying. */
const withSeconds = (
  db: Database,
  rooms: readonly Omit<Target, 'seconds'>[],
  { recordings, sizeInBytes }: PlannedContent,
): Promise<Target[]> =>
  Promise.all(
    rooms.map(async (target) => {
      const isCoded = recordings.some((r) => isCodedFilm(r.coded));
      const runs = await handoffRunStore.listOf(db, await driveOf(target.folder), isCoded);
      return { ...target, seconds: estimateSeconds(runs, { files: filesOf(recordings), bytes: sizeInBytes }) };
    }),
  );

const filesOf = (recordings: PlannedContent['recordings']): number =>
  recordings.reduce((sum, { outs, sidecars }) => sum + outs.reduce((all, o) => all + o.files, sidecars.length), 0);

/** Plans a handoff and keeps the plan: what would be copied where, what cannot come along and why, and whether it fits. */
export async function planHandoff({ db, config }: Context, projectId: ProjectId, request: Request): Promise<HandoffId> {
  const { layout, targetFolder, secondFolder } = request;
  const wanted = secondFolder === undefined ? [targetFolder] : [targetFolder, secondFolder];
  const parents = await Promise.all(wanted.map((folder) => folderInsideRoots(folder, config.roots)));
  for (const path of parents) await requireWritable({ path });
  if (new Set(parents).size < parents.length) throw new UserProblem({ code: 'targets-alike', path: parents[0]! });
  const { project, plan, view: content, cuttings, beside } = await workOut(db, projectId, request);
  if (plan.recordings.length === 0) throw new UserProblem({ code: 'nothing-to-gather', leftOut: plan.leftOut.length });
  const name = `${safeName(request.name)}${layout === 'otiod' ? '.otiod' : ''}`;
  const targets = await Promise.all(
    parents.map(async (parent) => ({
      folder: join(parent, name),
      parent: await requireFree(parent, join(parent, name)),
    })),
  );
  const rooms = await withSeconds(db, await withRoom(db, parents, plan.sizeInBytes), content);
  const view = { ...content, targets: rooms.map((of, i) => ({ ...of, folder: targets[i]!.folder })) };
  const files = plan.recordings.flatMap((recording) => [
    ...filesFor(recording, project, cuttings.get(recording.mediaFileId)?.streams ?? null),
    ...recording.sidecars.map((sidecar) => sidecarFile(sidecar, beside.get(sidecar.mediaFileId)!, project)),
  ]);
  return db.transaction(async (trx) => {
    // In one order whoever asks, so that two plans for the same pair do not wait for each other.
    const folders = targets.map((t) => t.folder).toSorted();
    for (const folder of folders) await handoffStore.claimFolder(trx, projectId, folder);
    const scope = scopeOf(request);
    const id = await handoffStore.insertHandoff(trx, { projectId, layout, plan: view, scope, targets }, files);
    await tell(trx, 'project', projectId);
    return id;
  });
}

const viewRecording = ({ clipIds, outs, ...rest }: PlannedRecording): HandoffPlan['recordings'][number] => ({
  ...rest,
  clips: clipIds.length,
  outs: outs.map(({ target, range, sizeInBytes, renamed, handlesCut, ...out }) => ({
    target,
    range,
    sizeInBytes,
    renamed,
    handlesCut,
    files: filesToCopy('', { target, ...out }).length,
  })),
});

/** What is written for a recording, file by file, and what its source has to be then. */
function filesFor(
  { mediaFileId, source, outs, coded }: PlannedRecording,
  { files, places }: ProjectState,
  streams: Streams | null,
): NewFile[] {
  const file = files.get(mediaFileId)!;
  const place = places.get(file.placeId)!;
  const expected = asIndexed(file);
  return outs.flatMap((out) => {
    const copies = filesToCopy(source, out);
    const isPart = out.range !== null && !out.sequence;
    return copies.map((copy) => ({
      mediaFileId,
      source: join(place.path, ...copy.source.split('/')),
      placeId: place.id,
      path: copy.source,
      expected,
      trim: isPart ? { range: out.range, startsAt: out.startsAt, facts: file.facts!, coded, streams } : null,
      target: copy.target,
      sizeInBytes: Math.round(out.sizeInBytes / copies.length),
    }));
  });
}

function sidecarFile(
  { mediaFileId, source, target, sizeInBytes }: PlannedRecording['sidecars'][number],
  file: MediaFileRecord,
  { places }: ProjectState,
): NewFile {
  const place = places.get(file.placeId)!;
  const [path, expected] = [source, asIndexed(file)];
  const at = join(place.path, ...source.split('/'));
  return { mediaFileId, source: at, placeId: place.id, path, expected, trim: null, target, sizeInBytes };
}

/** The folder of a handoff is its own: one that is there already is somebody's. Returns what its parent is known by. */
async function requireFree(parent: string, folder: string): Promise<FolderIdentity> {
  return withFolder({ path: parent }, async (held) => {
    if (await held.look(basename(folder)))
      throw new UserProblem({ code: 'target-exists', path: folder, when: 'planned' });
    return held.identity;
  });
}

/** Starts a planned handoff, or goes on with one that stopped. */
export async function runHandoffSoon({ db, config }: Context, id: HandoffId): Promise<void> {
  const handoff = await handoffStore.getHandoff(db, id);
  await requireStartable(db, handoff);
  const parents = await Promise.all(handoff.targets.map((t) => folderInsideRoots(dirname(t.folder), config.roots)));
  const files = await handoffStore.listFiles(db, id);
  // What goes into a zip in parts is cut out beside it first.
  const timesOf = (f: HandoffFile) => (handoff.layout === 'otioz' && f.trim ? 2 : 1);
  const left = files.filter((f) => f.state !== 'verified');
  const neededInBytes = left.reduce((sum, f) => sum + f.sizeInBytes * timesOf(f), 0);
  for (const { folder, room } of await withRoom(db, parents, neededInBytes)) {
    if (room.fits || room.totalInBytes === 0) continue;
    const { usableInBytes } = room;
    throw new UserProblem({ code: 'no-room', for: 'handoff', folder, neededInBytes, usableInBytes });
  }
  await db.transaction(async (trx) => {
    // Asked for twice at the same moment, it starts once.
    await requireStartable(trx, await handoffStore.lockHandoff(trx, id));
    const job = await enqueue(trx, 'run-handoff', { handoffId: id }, basename(handoff.folder));
    await handoffStore.setState(trx, id, 'running', { jobId: job.id });
    await tell(trx, 'project', handoff.projectId);
  });
}

/** One whose job was given up, since it hung, is running no longer, whatever it says. */
async function requireStartable(db: Database | Transaction, { state, jobId }: HandoffRecord): Promise<void> {
  if (state === 'done') throw new UserProblem({ code: 'handoff-finished' });
  if (state !== 'running') return;
  const job = jobId && (await jobStore.getJob(db, jobId));
  if (job && (job.state === 'queued' || job.state === 'running')) throw new UserProblem({ code: 'handoff-running' });
}

export async function cancelHandoff({ db }: Context, id: HandoffId): Promise<void> {
  const handoff = await handoffStore.getHandoff(db, id);
  if (!handoff.jobId || handoff.state !== 'running') throw new UserProblem({ code: 'handoff-not-running' });
  const { waited } = await jobStore.requestCancel(db, handoff.jobId);
  if (waited) await handoffStore.setState(db, id, 'cancelled');
}
