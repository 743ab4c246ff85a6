import { z } from 'zod';
import {
  reachSchema,
  suspicions,
  trialScopes,
  unreadableSchema,
  type Reach,
  type TrialView,
} from '@legame/core/contract';
import type { JobId, MediaFileId, ProjectId, Unreadable } from '@legame/core/model';
import { notFound } from '../problems.ts';
import type { Database, Transaction } from '../db/database.ts';

export type TrialScope = (typeof trialScopes)[number];
export type TrialRecord = {
  readonly id: string;
  readonly projectId: ProjectId;
  readonly scope: TrialScope;
  readonly jobId: JobId | null;
  readonly createdAt: Date;
};
export type TrialFile = {
  readonly position: number;
  readonly mediaFileId: MediaFileId;
  readonly suspicion: (typeof suspicions)[number];
  readonly reachedBy: readonly Reach[];
  readonly state: TrialView['files'][number]['state'];
  readonly frames: number | null;
  readonly reason: Unreadable | null;
};

const resultSchema = z.object({ frames: z.int().nullable(), reason: unreadableSchema.nullable() });
const recordSchema = z
  .object({
    id: z.string(),
    project_id: z.custom<ProjectId>(),
    scope: z.enum(trialScopes),
    job_id: z.custom<JobId>().nullable(),
    created_at: z.date(),
  })
  .transform((r): TrialRecord => ({
    id: r.id,
    projectId: r.project_id,
    scope: r.scope,
    jobId: r.job_id,
    createdAt: r.created_at,
  }));
const fileSchema = z
  .object({
    position: z.int(),
    media_file_id: z.custom<MediaFileId>(),
    suspicion: z.enum(suspicions),
    reached_by: z.array(reachSchema),
    state: z.enum(['waiting', 'whole', 'fails', 'skipped']),
    result: resultSchema.nullable(),
  })
  .transform((r): TrialFile => ({
    position: r.position,
    mediaFileId: r.media_file_id,
    suspicion: r.suspicion,
    reachedBy: r.reached_by,
    state: r.state,
    frames: r.result?.frames ?? null,
    reason: r.result?.reason ?? null,
  }));

/** Trial reads: which files, in which order, and what was found of each. */
export const trialStore = {
  async insert(
    db: Database | Transaction,
    trial: { projectId: ProjectId; scope: TrialScope },
    files: readonly Pick<TrialFile, 'mediaFileId' | 'suspicion' | 'reachedBy'>[],
  ): Promise<TrialRecord> {
    const [row] = (await db('trial_reads')
      .insert({ project_id: trial.projectId, scope: trial.scope })
      .returning('*')) as [unknown];
    const record = recordSchema.parse(row);
    const rows = files.map((f, position) => ({
      trial_id: record.id,
      position,
      media_file_id: f.mediaFileId,
      suspicion: f.suspicion,
      reached_by: JSON.stringify(f.reachedBy),
    }));
    await db.batchInsert('trial_read_files', rows, 500);
    return record;
  },
  async setJob(db: Database | Transaction, id: string, jobId: JobId): Promise<void> {
    await db('trial_reads').where({ id }).update({ job_id: jobId });
  },
  async get(db: Database | Transaction, id: string): Promise<TrialRecord> {
    const row: unknown = await db('trial_reads').where({ id }).first();
    if (!row) throw notFound('trial-read');
    return recordSchema.parse(row);
  },
  /** The newest first. */
  async list(db: Database | Transaction, projectId: ProjectId): Promise<TrialRecord[]> {
    const rows: unknown[] = await db('trial_reads')
      .where({ project_id: projectId })
      .orderBy('created_at', 'desc')
      .limit(20);
    return rows.map((row) => recordSchema.parse(row));
  },
  async listFiles(db: Database | Transaction, id: string): Promise<TrialFile[]> {
    const rows: unknown[] = await db('trial_read_files').where({ trial_id: id }).orderBy('position');
    return rows.map((row) => fileSchema.parse(row));
  },
  async saveResult(
    db: Database | Transaction,
    id: string,
    position: number,
    state: TrialFile['state'],
    result: { frames: number | null; reason: Unreadable | null },
  ): Promise<void> {
    await db('trial_read_files')
      .where({ trial_id: id, position })
      .update({ state, result: JSON.stringify(result) });
  },
};
