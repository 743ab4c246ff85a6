import { surely, type Database, type Transaction } from '../db/database.ts';
import type { Ground } from '../disk/held.ts';
import type { FileIdentity } from '../disk/writing.ts';

/** A file that is being given another name in its folder. */
export type NotedRename = {
  /** The place that it lies in. */
  readonly ground: Ground;
  readonly folder: string;
  readonly from: string;
  readonly to: string;
  /** The name that it has while others make room, which nobody else knows. */
  readonly aside: string;
  readonly identity: FileIdentity;
};
type Row = Omit<NotedRename, 'from' | 'to'> & {
  readonly batch: string;
  readonly from_name: string;
  readonly to_name: string;
};

/** Renames that were begun. Each batch is noted before its first file is moved, and forgotten with what it led to. */
export const renameStore = {
  async note(db: Database, batch: string, renames: readonly NotedRename[]): Promise<void> {
    await surely(db, (trx) =>
      trx.batchInsert(
        'renames',
        renames.map(({ ground, folder, from, to, aside, identity }, position) => ({
          batch,
          position,
          ground: JSON.stringify(ground),
          folder,
          from_name: from,
          to_name: to,
          aside,
          identity: JSON.stringify(identity),
        })),
        1000,
      ),
    );
  },
  async forget(db: Database | Transaction, batch: string): Promise<void> {
    await db('renames').where({ batch }).delete();
  },
  /** All that were begun and did not end, by batch. */
  async listBegun(db: Database): Promise<ReadonlyMap<string, readonly NotedRename[]>> {
    const batches = new Map<string, NotedRename[]>();
    for (const row of (await db('renames').orderBy(['batch', 'position'])) as Row[]) {
      const { batch, ground, folder, from_name: from, to_name: to, aside, identity } = row;
      batches.set(batch, [...(batches.get(batch) ?? []), { ground, folder, from, to, aside, identity }]);
    }
    return batches;
  },
};
