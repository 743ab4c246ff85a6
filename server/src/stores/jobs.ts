import type { Job, JobKind, Problem, Progress } from '@legame/core/contract';
import { jobSchema, progressSchema } from '@legame/core/contract';
import type { JobId, ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';

type Row = {
  id: JobId;
  kind: string;
  payload: unknown;
  about: string;
  state: string;
  progress: unknown;
  problem: unknown;
  cancel_requested: boolean;
  created_at: Date;
  started_at: Date | null;
  finished_at: Date | null;
};

/** So many of those that ended are told of. */
const endedShown = 50;

export function toJob(row: Row): Job {
  return jobSchema.parse({
    id: row.id,
    kind: row.kind,
    payload: row.payload,
    about: row.about,
    state: row.state,
    progress: row.progress ? progressSchema.parse(row.progress) : null,
    problem: row.problem,
    createdAt: row.created_at.toISOString(),
    startedAt: row.started_at?.toISOString() ?? null,
    finishedAt: row.finished_at?.toISOString() ?? null,
  });
}

/** By then whoever asked for a job has committed it with its entry in the queue. */
const queuedWithinSeconds = 60;

export const jobStore = {
  async insertJob(db: Database | Transaction, job: { kind: JobKind; payload: object; about: string }): Promise<Job> {
    const [row] = (await db('jobs')
      .insert({ ...job, payload: JSON.stringify(job.payload) })
      .returning('*')) as [Row];
    return toJob(row);
  },
  /** All that run or wait, and of those that ended the newest; newest first. */
  async listRecent(db: Database | Transaction): Promise<Job[]> {
    const active = ['queued', 'running'];
    const [left, ended] = (await Promise.all([
      db('jobs').whereIn('state', active),
      db('jobs').whereNotIn('state', active).orderBy('created_at', 'desc').limit(endedShown),
    ])) as [Row[], Row[]];
    return [...left, ...ended].sort((a, b) => b.created_at.getTime() - a.created_at.getTime()).map(toJob);
  },
  /** Whether nothing runs or waits, and nothing ended within so long. */
  async isAtRest(db: Database, forMs: number): Promise<boolean> {
    const { rows } = (await db.raw(
      `select not exists (select 1 from jobs where state in ('queued', 'running'))
         and not exists (select 1 from jobs where finished_at > now() - ? * interval '1 millisecond') as rests`,
      [forMs],
    )) as { rows: [{ rests: boolean }] };
    return rows[0].rests;
  },
  /** Jobs of a project that run or wait. */
  async listActiveOf(db: Database | Transaction, projectId: ProjectId): Promise<JobId[]> {
    const rows = (await db('jobs')
      .whereIn('state', ['queued', 'running'])
      .where((of) => {
        void of
          .whereRaw(`payload ->> 'projectId' = ?`, [projectId])
          .orWhereRaw(`payload ->> 'handoffId' in (select id::text from handoffs where project_id = ?)`, [projectId])
          .orWhereRaw(`payload ->> 'clipId' in (select id::text from clips where project_id = ?)`, [projectId]);
      })
      .select('id')) as { id: JobId }[];
    return rows.map((row) => row.id);
  },
  async getJob(db: Database | Transaction, id: JobId): Promise<Job> {
    const row = (await db('jobs').where({ id }).first()) as Row | undefined;
    if (!row) throw notFound('job');
    return toJob(row);
  },
  /** A job of this kind about the same that has not begun: asking for it again would add nothing. */
  /** One that waits; it goes on waiting until this transaction ends. */
  async holdQueued(trx: Transaction, kind: JobKind, payload: object): Promise<Job | null> {
    const row = (await trx('jobs')
      .where({ kind, state: 'queued' })
      .whereRaw('payload = ?::jsonb', [JSON.stringify(payload)])
      .forNoKeyUpdate()
      .first()) as Row | undefined;
    return row ? toJob(row) : null;
  },
  /** Whether a job of this kind waits or runs whose payload holds this. */
  async hasActive(db: Database, kind: JobKind, holds: object): Promise<boolean> {
    const row: unknown = await db('jobs')
      .where({ kind })
      .whereIn('state', ['queued', 'running'])
      .whereRaw('payload @> ?::jsonb', [JSON.stringify(holds)])
      .first('id');
    return row !== undefined;
  },
  /** The one setter of a job's state. A job that has ended stays as it ended; then it answers false. */
  async setState(
    db: Database | Transaction,
    id: JobId,
    state: Job['state'],
    problem: Problem | null = null,
  ): Promise<boolean> {
    const times =
      state === 'running' ? { started_at: new Date() } : state === 'queued' ? {} : { finished_at: new Date() };
    const changed = await db('jobs')
      .where({ id })
      .whereIn('state', ['queued', 'running'])
      .update({ state, problem: problem && JSON.stringify(problem), ...times });
    return changed > 0;
  },
  /** Ends jobs that the queue will not begin again: what carried them ended every time, as a file might make it do. */
  async endGivenUp(db: Database): Promise<JobId[]> {
    const problem: Problem = { code: 'job-given-up' };
    const { rows } = await db.raw<{ rows: { id: JobId }[] }>(
      `update jobs set state = 'failed', problem = ?, finished_at = now()
         where state in ('queued', 'running') and created_at < now() - make_interval(secs => ?)
           and not exists (select 1 from graphile_worker.jobs as entry where entry.key = jobs.id::text
             and (entry.attempts < entry.max_attempts or entry.locked_at is not null))
         returning id`,
      [JSON.stringify(problem), queuedWithinSeconds],
    );
    return rows.map((row) => row.id);
  },
  async setProgress(db: Database | Transaction, id: JobId, progress: Progress): Promise<void> {
    await db('jobs')
      .where({ id })
      .update({ progress: JSON.stringify(progress) });
  },
  /** One that waits is cancelled at once, whatever holds up its turn; one that runs, at its next checkpoint. */
  async requestCancel(db: Database | Transaction, id: JobId): Promise<{ waited: boolean }> {
    const waited = await db('jobs')
      .where({ id, state: 'queued' })
      .update({ state: 'cancelled', finished_at: new Date(), cancel_requested: true });
    if (waited === 0) await db('jobs').where({ id }).update({ cancel_requested: true });
    return { waited: waited > 0 };
  },
  async isCancelRequested(db: Database | Transaction, id: JobId): Promise<boolean> {
    const row = (await db('jobs').where({ id }).first('cancel_requested')) as { cancel_requested: boolean } | undefined;
    return row?.cancel_requested ?? true;
  },
};
