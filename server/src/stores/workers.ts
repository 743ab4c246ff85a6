import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/database.ts';

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
      const ids = known.filter((row) => row.silent || (row.pid !== null && !isRunning(row.pid))).map((row) => row.id);
      if (ids.length === 0) return;
      await trx.raw('select graphile_worker.force_unlock_workers(?::text[])', listBindings(ids));
      await trx('workers').whereIn('id', ids).delete();
    });
  },
};
