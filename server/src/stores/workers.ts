import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';

/** A worker that has not shown itself for this long is dead. */
const deadAfterSeconds = 15;

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as { code?: unknown }).code === 'EPERM';
  }
}

async function unlock(db: Database | Transaction, ids: readonly string[]): Promise<void> {
  if (ids.length > 0) await db.raw('select graphile_worker.force_unlock_workers(?::text[])', listBindings(ids));
}

export const workerStore = {
  async beat(db: Database | Transaction, ids: readonly string[]): Promise<void> {
    if (ids.length === 0) return;
    await db('workers')
      .insert(ids.map((id) => ({ id, beat_at: new Date(), pid: process.pid })))
      .onConflict('id')
      .merge();
  },
  async retire(db: Database | Transaction, ids: readonly string[]): Promise<void> {
    await db('workers')
      .whereIn('id', [...ids])
      .delete();
  },
  /** Makes the jobs of dead workers due again. */
  async freeJobsOfTheDead(db: Database): Promise<void> {
    await db.transaction(async (trx) => {
      const known = (await trx('workers')
        .forUpdate()
        .skipLocked()
        .select('id', 'pid', trx.raw('beat_at < now() - make_interval(secs => ?) as silent', [deadAfterSeconds]))) as {
        id: string;
        pid: number | null;
        silent: boolean;
      }[];
      const dead = known.filter((row) => row.silent || (row.pid !== null && !isRunning(row.pid))).map((row) => row.id);
      // Those that ended before they could say that they are there; one that lives does so within seconds.
      const strangers = (await trx('graphile_worker.jobs')
        .whereRaw('locked_by is not null and locked_by not in (select id from workers)')
        .whereRaw('locked_at < now() - make_interval(secs => ?)', [deadAfterSeconds])
        .distinct()
        .pluck('locked_by')) as string[];
      await unlock(trx, [...dead, ...strangers]);
      await trx('workers').whereIn('id', dead).delete();
    });
  },
  /**
   * Makes entries due again that are locked by hands of the own worker which carry nothing: the answer that would have
   * told of the lock was lost with its connection.
   */
  async freeLost(db: Database, idle: readonly string[]): Promise<void> {
    const lost = (await db('graphile_worker.jobs')
      .whereIn('locked_by', idle)
      .whereRaw('locked_at < now() - make_interval(secs => ?)', [deadAfterSeconds])
      .distinct()
      .pluck('locked_by')) as string[];
    await unlock(db, lost);
  },
};
