import type { Looking } from '../context.ts';
import type { HandoffId, ProjectId } from '@legame/core/model';
import type { Handoff } from '@legame/core/contract';
import { type HandoffFile, type HandoffRecord, handoffStore } from '../stores/handoffs.ts';
import { projectStore } from '../stores/projects.ts';

export async function viewHandoffs({ db }: Looking, projectId: ProjectId): Promise<Handoff[]> {
  await projectStore.getProject(db, projectId);
  const handoffs = await handoffStore.listHandoffs(db, projectId);
  return Promise.all(handoffs.map(async (h) => viewHandoff(h, await handoffStore.listFiles(db, h.id))));
}

export async function getHandoff({ db }: Looking, id: HandoffId): Promise<Handoff> {
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
  scope: h.scope,
  plan: h.plan,
  copied: files.map((f) => ({
    target: f.target,
    sizeInBytes: f.sizeInBytes,
    state: f.state,
    xxh64: f.xxh64,
    problem: f.problem,
    lost: f.lost,
  })),
});
