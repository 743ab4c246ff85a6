import { jobPayloads, type Job, type JobKind, type JobPayload } from '@legame/core/contract';
import type { PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { jobStore } from '../stores/jobs.ts';
import { tell } from '../events/tell.ts';

/** What goes one after the other by its kind alone: all indexing of a place, and all matching, which is one core's work. */
const laneOf: { readonly [K in JobKind]?: (payload: JobPayload<K>) => string } = {
  'index-place': ({ placeId }) => `index-place:${placeId}`,
  'match-project': () => 'match-project',
};
/** Matching that a change of the storage asks for lets everything go first that somebody waits for. */
const priorities = { asked: 0, byItself: 10 } as const;

type Wanted = {
  readonly afterMs?: number;
  /** Nobody asked for it. */
  readonly byItself?: boolean;
  /** The place it works on: one of its kind at a time there, so that a drive which hangs takes one hand and no more. */
  readonly on?: PlaceId;
};

/**
 * A job's states: queued → running → done | failed | cancelled. `jobStore.setState` is the only setter, and an ended
 * job stays ended. The queue moves queued → running; the task moves on; a shutdown or crash puts it back to queued, and
 * the next worker takes it up where its action left off. One that waits already is not asked for twice, also by two at
 * the same moment; it does not begin before the transaction ends in which it is asked for, or it would not see what that
 * changes. An entry's key in the queue is its job's own: whatever is asked for under the key of an entry that
 * runs, the queue never begins that one again, and a job of another name would be lost with the worker that carries it.
 */
export async function enqueue<K extends JobKind>(
  db: Database | Transaction,
  kind: K,
  payload: JobPayload<K>,
  about: string,
  how: Wanted = {},
): Promise<Job> {
  if (!db.isTransaction) return (db as Database).transaction((trx) => enqueue(trx, kind, payload, about, how));
  const trx = db as Transaction;
  const { afterMs = 0, byItself = false, on = null } = how;
  const asked = jobPayloads[kind].parse(payload);
  const same = [kind, ...Object.values(asked)].join(':');
  await trx.raw('select pg_advisory_xact_lock(hashtextextended(?, 1))', [same]);
  const waiting = await jobStore.holdQueued(trx, kind, asked);
  // What waits for its time is due at once when somebody asks for it.
  if (waiting && (afterMs > 0 || byItself)) return waiting;
  const priority = byItself ? priorities.byItself : priorities.asked;
  const job = waiting ?? (await jobStore.insertJob(trx, { kind, payload: asked, about }));
  await trx.raw(
    `select graphile_worker.add_job(?, json_build_object('jobId', ?::text), queue_name := ?, max_attempts := 5,
       job_key := ?::text, run_at := now() + ? * interval '1 millisecond', priority := ?)`,
    [kind, job.id, laneOf[kind]?.(payload) ?? (on && `${kind}:${on}`), job.id, afterMs, priority],
  );
  await tell(trx, 'jobs', job.id);
  return job;
}
