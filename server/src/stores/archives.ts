import type { IndexArchive } from '@legame/core/contract';
import type { PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';

type Row = { id: string; place_id: PlaceId; files: number; batch: string; set_aside_at: Date; places: number };
const toView = (r: Row): IndexArchive => ({
  id: r.id,
  placeId: r.place_id,
  files: r.files,
  setAsideAt: r.set_aside_at.toISOString(),
  places: r.places,
});
const query = (db: Database | Transaction) =>
  db('index_archives as a').select(
    'a.*',
    db.raw('(select count(*)::int from index_archives b where b.batch = a.batch) as places'),
  );

/** What was measured of a place's files, set aside under a date. Records and links stay where they are. */
export const archiveStore = {
  async list(db: Database | Transaction, placeId: PlaceId): Promise<IndexArchive[]> {
    return ((await query(db).where({ place_id: placeId }).orderBy('set_aside_at', 'desc')) as Row[]).map(toView);
  },
  /** An archive with all that were set aside in the same act; empty when there is none. */
  async listBatchOf(db: Database | Transaction, id: string): Promise<IndexArchive[]> {
    const batch = db('index_archives').where({ id }).select('batch');
    return ((await query(db).whereIn('batch', batch)) as Row[]).map(toView);
  },
  /** Keeps everything measured of a place and forgets it, so that it is measured anew. */
  async setAside(trx: Transaction, placeId: PlaceId, batch: string): Promise<IndexArchive> {
    const [row] = (await trx('index_archives').insert({ place_id: placeId, files: 0, batch }).returning('*')) as [Row];
    const { rowCount } = (await trx.raw(
      `insert into archived_readings (archive_id, media_file_id, size_in_bytes, modified_ms, facts, unreadable,
         fingerprint, full_hash, trial, quarantined, read_at)
       select ?, id, size_in_bytes, modified_ms, facts, unreadable, fingerprint, full_hash, trial, quarantined, read_at
       from media_files where place_id = ? and read_at is not null and not gone`,
      [row.id, placeId],
    )) as { rowCount: number };
    await trx('index_archives').where({ id: row.id }).update({ files: rowCount });
    await trx('media_files').where({ place_id: placeId, gone: false }).update({
      facts: null,
      unreadable: null,
      fingerprint: null,
      full_hash: null,
      trial: null,
      quarantined: false,
      read_at: null,
    });
    return toView({ ...row, files: rowCount, places: 1 });
  },
  /** Puts back what was measured, for files that still have the size and time they had then. Returns how many. */
  async restore(trx: Transaction, id: string): Promise<number> {
    const { rowCount } = (await trx.raw(
      `update media_files m set facts = a.facts, unreadable = a.unreadable, fingerprint = a.fingerprint,
         full_hash = a.full_hash, trial = a.trial, quarantined = a.quarantined, read_at = a.read_at
       from archived_readings a
       where a.archive_id = ? and a.media_file_id = m.id
         and a.size_in_bytes = m.size_in_bytes and a.modified_ms = m.modified_ms`,
      [id],
    )) as { rowCount: number };
    return rowCount;
  },
};
