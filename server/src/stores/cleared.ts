import type { Cleared } from '@legame/core/contract';
import type { MediaFileId, PlaceId } from '@legame/core/model';
import { notFound } from '../problems.ts';
import { surely, type Database, type Transaction } from '../db/database.ts';

type Row = {
  id: string;
  place_id: PlaceId;
  original: string;
  holding: string;
  size_in_bytes: string;
  cleared_at: Date;
  restored_at: Date | null;
  restoring: string | null;
};
/** `restoring` is where it was about to be put back to. */
export type ClearedRecord = Cleared & { readonly placeId: PlaceId; readonly restoring: string | null };
const toRecord = (r: Row): ClearedRecord => ({
  id: r.id,
  placeId: r.place_id,
  original: r.original,
  holding: r.holding,
  sizeInBytes: Number(r.size_in_bytes),
  clearedAt: r.cleared_at.toISOString(),
  restoredAt: r.restored_at?.toISOString() ?? null,
  restoring: r.restoring,
});

/** Files that were moved into a place's holding folder, and the way back. */
export const clearedStore = {
  /** Notes a file that is about to be moved; on the disk before it is. */
  async insert(
    db: Database,
    file: { placeId: PlaceId; original: string; holding: string; sizeInBytes: number },
  ): Promise<ClearedRecord> {
    const row = { place_id: file.placeId, original: file.original, holding: file.holding };
    const [made] = await surely<[Row]>(db, (trx) =>
      trx('cleared_files')
        .insert({ ...row, size_in_bytes: file.sizeInBytes })
        .returning('*'),
    );
    return toRecord(made);
  },
  /**
   * Takes a file for oneself that is to be cleared, and says which projects link to it: waits for links that are being
   * made, and links that come later wait until it is decided.
   */
  async takeToClear(trx: Transaction, id: MediaFileId): Promise<readonly string[]> {
    await trx('media_files').where({ id }).forUpdate().select('id');
    return trx('links')
      .join('clips', 'clips.id', 'links.clip_id')
      .join('projects', 'projects.id', 'clips.project_id')
      .where({ 'links.media_file_id': id })
      .distinct()
      .orderBy('projects.name')
      .pluck('projects.name');
  },
  async markGone(trx: Transaction, id: MediaFileId): Promise<void> {
    await trx('media_files').where({ id }).update({ gone: true });
  },
  /** Notes where one is about to be put back to; on the disk before it is. */
  async noteRestoring(db: Database, id: string, path: string): Promise<void> {
    await surely(db, (trx) => trx('cleared_files').where({ id }).update({ restoring: path }));
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
  /** Places that hold cleared files. */
  async listPlacesHolding(db: Database): Promise<{ id: PlaceId }[]> {
    return db('cleared_files').where({ restored_at: null }).distinct('place_id as id');
  },
  /** For a file that was not moved after all. */
  async remove(db: Database | Transaction, id: string): Promise<void> {
    await db('cleared_files').where({ id }).delete();
  },
  async markRestored(db: Database | Transaction, id: string): Promise<void> {
    await db('cleared_files').where({ id }).update({ restored_at: new Date() });
  },
};
