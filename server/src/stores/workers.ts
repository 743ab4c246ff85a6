import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/database.ts';

/** A worker that has not shown itself for this long is dead. */
const deadAfterSeconds = 15;

export const workerStore = {
  async beat(db: Database | Transaction, ids: readonly string[]): Promise<void> {
    if (ids.length === 0) return;
    await db('workers')
      .insert(ids.map((id) => ({ id, beat_at: new Date() })))
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
      const dead = (await trx('workers')
        .whereRaw(`beat_at < now() - make_interval(secs => ?)`, [deadAfterSeconds])
        .forUpdate()
        .skipLocked()
        .select('id')) as { id: string }[];
      if (dead.length === 0) return;
      const ids = dead.map((row) => row.id);
      await trx.raw('select graphile_worker.force_unlock_workers(?::text[])', listBindings(ids));
      await trx('workers').whereIn('id', ids).delete();
    });
  },
};
