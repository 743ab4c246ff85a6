import type { Cleared } from '@legame/core/contract';
import type { PlaceId } from '@legame/core/model';
import { notFound } from '../problems.ts';
import type { Database, Transaction } from '../db/database.ts';

type Row = {
  id: string;
  place_id: PlaceId;
  original: string;
  holding: string;
  size_in_bytes: string;
  cleared_at: Date;
  restored_at: Date | null;
};
export type ClearedRecord = Cleared & { readonly placeId: PlaceId };
const toRecord = (r: Row): ClearedRecord => ({
  id: r.id,
  placeId: r.place_id,
  original: r.original,
  holding: r.holding,
  sizeInBytes: Number(r.size_in_bytes),
  clearedAt: r.cleared_at.toISOString(),
  restoredAt: r.restored_at?.toISOString() ?? null,
});

/** Files that were moved into a place's holding folder, and the way back. */
export const clearedStore = {
  async insert(
    db: Database | Transaction,
    file: { placeId: PlaceId; original: string; holding: string; sizeInBytes: number },
  ): Promise<ClearedRecord> {
    const [row] = (await db('cleared_files')
      .insert({
        place_id: file.placeId,
        original: file.original,
        holding: file.holding,
        size_in_bytes: file.sizeInBytes,
      })
      .returning('*')) as [Row];
    return toRecord(row);
  },
  async get(db: Database | Transaction, id: string): Promise<ClearedRecord> {
    const row = (await db('cleared_files').where({ id }).first()) as Row | undefined;
    if (!row) throw notFound('cleared-file');
    return toRecord(row);
  },
  /** Files that lie in the holding folder now, newest first. */
  async listHeld(db: Database | Transaction, placeId: PlaceId): Promise<ClearedRecord[]> {
    const rows = await db('cleared_files')
      .where({ place_id: placeId, restored_at: null })
      .orderBy('cleared_at', 'desc');
    return (rows as Row[]).map(toRecord);
  },
  /** For a file that was not moved after all. */
  async remove(db: Database | Transaction, id: string): Promise<void> {
    await db('cleared_files').where({ id }).delete();
  },
  async markRestored(db: Database | Transaction, id: string): Promise<void> {
    await db('cleared_files').where({ id }).update({ restored_at: new Date() });
  },
};
