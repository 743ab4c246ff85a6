import type { Job } from '@legame/core/contract';
import type { Database, Transaction } from '../db/database.ts';
import { jobStore } from '../stores/jobs.ts';
import { tell } from '../events/tell.ts';

/**
 * A job's states: queued → running → done | failed | cancelled. `jobStore.setState` is the only setter, and an ended
 * job stays ended. The queue moves queued → running; the task moves on; a shutdown or crash puts it back to queued, and
 * the next worker takes it up where its action left off.
 */
export async function enqueue(
  db: Database | Transaction,
  kind: Job['kind'],
  subject: string,
  label: string,
  { afterMs = 0 }: { afterMs?: number } = {},
): Promise<Job> {
  const waiting = await jobStore.findQueued(db, kind, subject);
  // What waits for its time is due at once when somebody asks for it.
  if (waiting && afterMs > 0) return waiting;
  const job = waiting ?? (await jobStore.insertJob(db, { kind, subject, label }));
  await db.raw(
    `select graphile_worker.add_job(?, json_build_object('jobId', ?::text), queue_name := ?, max_attempts := 5,
       job_key := ?, run_at := now() + ? * interval '1 millisecond')`,
    [kind, job.id, `${kind}:${subject}`, job.id, afterMs],
  );
  await tell(db, 'jobs', job.id);
  return job;
}
