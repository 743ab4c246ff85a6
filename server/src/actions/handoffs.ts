import { dirname, basename, join } from 'node:path';
import type { Handoff, HandoffLayout, HandoffPlan } from '@legame/core/contract';
import {
  clipsInScope,
  defaultHeadroomShare,
  filesToCopy,
  planWholeFiles,
  roomAfter,
  safeName,
  type ConsolidatePlan,
  type HandoffId,
  type LeftOutReason,
  type PlanInput,
  type ProjectId,
  type Timeline,
} from '@legame/core';
import { enqueue } from '../queue/queue.ts';
import { folderInsideRoots } from '../places/fence.ts';
import { roomOf } from '../places/room.ts';
import { requireWritable } from '../places/writing.ts';
import { UserProblem } from '../problems.ts';
import type { DocumentRecord } from '../stores/documents.ts';
import { handoffStore, type HandoffFile, type HandoffRecord } from '../stores/handoffs.ts';
import { jobStore } from '../stores/jobs.ts';
import { projectStore } from '../stores/projects.ts';
import { loadProject, type ClipState, type ProjectState } from './clipViews.ts';
import type { Context } from './context.ts';
import { ratesOf, useKey, withRates } from './screenTime.ts';
import { tell } from '../events/tell.ts';

type Request = {
  targetFolder: string;
  name: string;
  layout: HandoffLayout;
  timelines?: string[] | undefined;
};

/** Plans a handoff and keeps the plan: what would be copied where, what cannot come along and why, and whether it fits. */
export async function planHandoff({ db, config }: Context, projectId: ProjectId, request: Request): Promise<HandoffId> {
  const parent = await folderInsideRoots(request.targetFolder, config.roots);
  await requireWritable(parent);
  const project = await loadProject(db, projectId);
  const plan = planOf(project, request.timelines ?? null);
  if (plan.files.length === 0) {
    throw new UserProblem(
      'nothing-to-gather',
      409,
      'Nothing that these timelines use is linked to a file, so there is nothing to gather. Link clips first.',
      { leftOut: plan.leftOut.length },
    );
  }
  const { layout } = request;
  const folder = join(parent, `${safeName(request.name)}${layout === 'otiod' ? '.otiod' : ''}`);
  const room = await roomOf(parent);
  const known = {
    freeInBytes: room?.freeInBytes ?? 0,
    totalInBytes: room?.totalInBytes ?? 0,
    headroomShare: defaultHeadroomShare,
  };
  const { fits, usableInBytes } = roomAfter(plan.sizeInBytes, known);
  const view: HandoffPlan = {
    folder,
    files: plan.files.map((f) => ({
      mediaFileId: f.mediaFileId,
      placeName: f.placeName,
      source: f.source,
      target: f.target,
      sizeInBytes: f.sizeInBytes,
      files: filesToCopy(f).length,
      clips: f.clipIds.length,
      usedBy: [...f.usedBy],
      renamed: f.renamed,
    })),
    leftOut: plan.leftOut.map((l) => ({ ...l })),
    timelines: documentsInScope(project.documents, request.timelines ?? null).map((d) => d.name),
    sizeInBytes: plan.sizeInBytes,
    room: { ...known, usableInBytes, fits },
  };
  const files = plan.files.flatMap((planned) => {
    const file = project.files.get(planned.mediaFileId)!;
    const place = project.places.get(file.placeId)!;
    const copies = filesToCopy(planned);
    return copies.map((copy) => ({
      mediaFileId: planned.mediaFileId,
      source: join(place.path, ...copy.source.split('/')),
      target: copy.target,
      sizeInBytes: Math.round(planned.sizeInBytes / copies.length),
    }));
  });
  return db.transaction(async (trx) => {
    const id = await handoffStore.insertHandoff(
      trx,
      { projectId, folder, layout, plan: view, timelines: request.timelines ?? null },
      files,
    );
    await tell(trx, 'project', projectId);
    return id;
  });
}

/** Starts a planned handoff, or goes on with one that stopped. */
export async function runHandoffSoon({ db, config }: Context, id: HandoffId): Promise<void> {
  const handoff = await handoffStore.getHandoff(db, id);
  if (handoff.state === 'done' || handoff.state === 'running') {
    throw new UserProblem(
      'busy',
      409,
      handoff.state === 'done'
        ? 'This handoff is finished. Plan another one to gather again.'
        : 'This handoff is running already.',
    );
  }
  const parent = await folderInsideRoots(dirname(handoff.folder), config.roots);
  const files = await handoffStore.listFiles(db, id);
  const toWrite = files.filter((f) => f.state !== 'verified').reduce((sum, f) => sum + f.sizeInBytes, 0);
  const room = await roomOf(parent);
  if (room) {
    const { fits, usableInBytes } = roomAfter(toWrite, { ...room, headroomShare: handoff.plan.room.headroomShare });
    if (!fits) {
      throw new UserProblem(
        'no-room',
        507,
        `${toWrite} bytes are to be written, but ${parent} has only ${usableInBytes} bytes free beside its headroom of ${handoff.plan.room.headroomShare * 100} %. Make room, or choose another drive.`,
        { toWrite, usableInBytes },
      );
    }
  }
  await db.transaction(async (trx) => {
    const job = await enqueue(trx, 'run-handoff', id, `Copy ${files.length} files to ${basename(handoff.folder)}`);
    await handoffStore.setState(trx, id, 'running', { jobId: job.id });
    await tell(trx, 'project', handoff.projectId);
  });
}

export async function viewHandoffs({ db }: Context, projectId: ProjectId): Promise<Handoff[]> {
  await projectStore.getProject(db, projectId);
  const handoffs = await handoffStore.listHandoffs(db, projectId);
  return Promise.all(handoffs.map(async (h) => viewHandoff(h, await handoffStore.listFiles(db, h.id))));
}

export async function getHandoff({ db }: Context, id: HandoffId): Promise<Handoff> {
  return viewHandoff(await handoffStore.getHandoff(db, id), await handoffStore.listFiles(db, id));
}

const viewHandoff = (h: HandoffRecord, files: readonly HandoffFile[]): Handoff => ({
  id: h.id,
  folder: h.folder,
  layout: h.layout,
  state: h.state,
  createdAt: h.createdAt.toISOString(),
  finishedAt: h.finishedAt?.toISOString() ?? null,
  problem: h.problem,
  jobId: h.jobId,
  plan: h.plan,
  copied: files.map((f) => ({
    target: f.target,
    sizeInBytes: f.sizeInBytes,
    state: f.state,
    xxh64: f.xxh64,
    problem: f.problem,
  })),
});

export async function cancelHandoff({ db }: Context, id: HandoffId): Promise<void> {
  const handoff = await handoffStore.getHandoff(db, id);
  if (!handoff.jobId || handoff.state !== 'running')
    throw new UserProblem('job-not-running', 409, 'This handoff is not running, so there is nothing to stop.');
  await jobStore.requestCancel(db, handoff.jobId);
}

/** The whole-file plan over the media that the chosen timelines use; over every clip where nothing is cut yet. */
export function planOf(project: ProjectState, timelines: readonly string[] | null): ConsolidatePlan {
  const { states, documents, files, places } = project;
  const usedBy = usesInScope(project, timelines);
  const isCut = documents.some((d) => d.timelines.length > 0);
  const inputs = states.flatMap((state): PlanInput[] => {
    const names = usedBy.get(useKey(state.clip.documentId, state.clip.key));
    if (isCut && !names) return [];
    const reason = leftOutFor(state);
    const file = reason === null && state.tied ? (files.get(state.tied.file.id) ?? null) : null;
    const planFile = file && {
      id: file.id,
      placeName: places.get(file.placeId)?.name ?? '',
      folder: file.folder,
      name: file.name,
      sizeInBytes: file.sizeInBytes,
      sequence: file.sequence,
    };
    return [{ clipId: state.clip.id, clipName: state.clip.name, usedBy: [...(names ?? [])], file: planFile, reason }];
  });
  return planWholeFiles(inputs);
}

function leftOutFor({ status }: ClipState): LeftOutReason | null {
  switch (status.status) {
    case 'linked':
    case 'short':
      return null;
    case 'missing':
      return status.because === 'place-away' ? 'place-away' : 'missing';
    // A file that is not the one remembered must not go out as if it were.
    case 'changed':
      return 'missing';
    case 'unreadable':
    case 'waived':
    case 'parked':
      return status.status;
  }
}

const timelineId = (document: DocumentRecord, timeline: Timeline) => `${document.id}/${timeline.key}`;

export const documentsInScope = (
  documents: readonly DocumentRecord[],
  timelines: readonly string[] | null,
): DocumentRecord[] =>
  documents.filter((d) => !timelines || d.timelines.some((t) => timelines.includes(timelineId(d, t))));

/** For each clip in scope, the names of the top timelines that show it. */
function usesInScope(
  { documents, states }: ProjectState,
  timelines: readonly string[] | null,
): Map<string, Set<string>> {
  const rates = ratesOf(states.map((s) => s.clip));
  const uses = new Map<string, Set<string>>();
  for (const document of documents) {
    const wanted = document.timelines.filter((t) => t.top && timelines?.includes(timelineId(document, t)));
    const names = new Map(document.timelines.map((t) => [t.key, t.name]));
    const scope = timelines && new Set(wanted.map((t) => t.key));
    for (const [clipKey, { timelineKeys }] of clipsInScope(withRates(document, rates), scope))
      uses.set(useKey(document.id, clipKey), new Set([...timelineKeys].map((key) => names.get(key)!)));
  }
  return uses;
}
