import type { MeasuredRun } from '@legame/core/consolidate';
import type { Database, Transaction } from '../db/database.ts';

/** Runs older than so many on a drive say nothing of it any more. */
const mostKept = 20;

/** How long handoffs took to be written, by the drive they were written to. */
export const handoffRunStore = {
  async insert(
    db: Database,
    { drive, isCoded, files, bytes, ms }: MeasuredRun & { readonly drive: string; readonly isCoded: boolean },
  ): Promise<void> {
    await db('handoff_runs').insert({ drive, is_coded: isCoded, files, bytes, ms: Math.round(ms) });
    const old = db('handoff_runs')
      .where({ drive, is_coded: isCoded })
      .orderBy('at', 'desc')
      .offset(mostKept)
      .select('id');
    await db('handoff_runs').whereIn('id', old).delete();
  },
  async listOf(db: Database | Transaction, drive: string, isCoded: boolean): Promise<MeasuredRun[]> {
    const rows = (await db('handoff_runs').where({ drive, is_coded: isCoded })) as {
      files: number;
      bytes: string;
      ms: number;
    }[];
    return rows.map(({ files, bytes, ms }) => ({ files, bytes: Number(bytes), ms }));
  },
};
