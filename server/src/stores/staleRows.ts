import type { ClipId, ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { orderOfList } from './clipRows.ts';

/** From so many on, making rows anew takes long enough that nobody waits who only looks. */
export const feltRows = 1000;
/** From so many on, it takes so long that whoever can do without them does. */
export const manyRows = 5000;
const lockOf = (projectId: ProjectId): string => `rows ${projectId}`;

/** Notes of the clips whose rows are to be made anew, written by the database itself (migration 008). */
export const staleRowStore = {
  async isStale(db: Database | Transaction, projectId: ProjectId): Promise<boolean> {
    return (await db('stale_rows').where({ project_id: projectId }).first('clip_id')) !== undefined;
  },
  /** How many notes of clips there are whose rows are to be made anew, and whether a document is behind some of them. */
  async countNoted(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ readonly notes: number; readonly areOfDocuments: boolean }> {
    const { rows } = (await db.raw(
      `select count(*)::int as notes, coalesce(bool_or(uses), false) as "areOfDocuments" from stale_rows where project_id = ?`,
      [projectId],
    )) as { rows: [{ notes: number; areOfDocuments: boolean }] };
    return rows[0];
  },
  /** How many clips there are that no list shows yet, as those of a document that has just come in. */
  async countUnshown(db: Database | Transaction, projectId: ProjectId): Promise<number> {
    const { rows } = (await db.raw(
      `select count(*)::int as unshown from clips where project_id = ? and not retired
         and not exists (select 1 from clip_rows where clip_rows.clip_id = clips.id)`,
      [projectId],
    )) as { rows: [{ unshown: number }] };
    return rows[0].unshown;
  },
  /** The clips whose rows are to be made anew. */
  async listNoted(db: Database | Transaction, projectId: ProjectId): Promise<ClipId[]> {
    return (await db('stale_rows').where({ project_id: projectId }).distinct().pluck('clip_id')) as ClipId[];
  },
  /**
   * Whether somebody else is making many rows anew just now, while others stand that can be shown: whoever only looks
   * need not wait for that, and is told when it is done.
   */
  async isBeingRenewed(db: Database, projectId: ProjectId): Promise<boolean> {
    const { rows } = (await db.raw(
      `select (select count(*) from (select 1 from stale_rows where project_id = ? limit ?) as noted) >= ?
         and exists (select 1 from clip_rows where project_id = ?)
         and not pg_try_advisory_xact_lock(hashtext(?)) as busy`,
      [projectId, feltRows, feltRows, projectId, lockOf(projectId)],
    )) as { rows: [{ busy: boolean }] };
    return rows[0].busy;
  },
  /**
   * Takes the notes of clips whose rows are to be made anew; true where its document changed. Null where others were not
   * done within one's patience.
   */
  async takeStale(
    trx: Transaction,
    projectId: ProjectId,
    { patienceMs }: { patienceMs: number | null },
  ): Promise<Map<ClipId, boolean> | null> {
    // One after another, or an older row might be written over a newer one; changes of files that are under way are
    // waited for, others wait (migration 011).
    if (!(await locked(trx, projectId, patienceMs))) return null;
    const notes = (await trx('stale_rows').where({ project_id: projectId }).delete(['clip_id', 'uses'])) as {
      clip_id: ClipId;
      uses: boolean;
    }[];
    const stale = new Map<ClipId, boolean>();
    for (const { clip_id: id, uses } of notes) stale.set(id, uses || (stale.get(id) ?? false));
    return stale;
  },
  /** Takes the notes of the first clips in the list, of those that have a row. */
  async takeFirst(trx: Transaction, projectId: ProjectId, most: number): Promise<ClipId[]> {
    const { rows } = (await trx.raw(
      `with first as (
         select clip_id from clip_rows where project_id = ?
           and exists (select 1 from stale_rows where stale_rows.clip_id = clip_rows.clip_id)
         order by position limit ?
       ), taken as (
         delete from stale_rows where clip_id in (select clip_id from first)
       )
       select clip_id as id from first`,
      [projectId, most],
    )) as { rows: { id: ClipId }[] };
    return rows.map((r) => r.id);
  },
  /** The first clips in the list, where no list shows any yet. Their notes stay. */
  async listFirstUnshown(trx: Transaction, projectId: ProjectId, most: number): Promise<ClipId[]> {
    const { rows } = (await trx.raw(
      `select clips.id from clips join documents on documents.id = clips.document_id
       where clips.project_id = ? and not clips.retired and not exists (select 1 from clip_rows where project_id = ?)
       order by ${orderOfList} limit ?`,
      [projectId, projectId, most],
    )) as { rows: { id: ClipId }[] };
    return rows.map((r) => r.id);
  },
  /**
   * Holds who makes rows of this project anew, one after another, until the transaction ends. False where others were
   * not done within one's patience.
   */
  async isOnesTurn(trx: Transaction, projectId: ProjectId, patienceMs: number): Promise<boolean> {
    return locked(trx, projectId, patienceMs);
  },
};

/** A wait that is given up must not take the transaction along: it happens in a part of its own. */
async function locked(trx: Transaction, projectId: ProjectId, patienceMs: number | null): Promise<boolean> {
  if (patienceMs === null) {
    await trx.raw('select pg_advisory_xact_lock(hashtext(?))', [lockOf(projectId)]);
    return true;
  }
  const { rows } = (await trx.raw('select pg_try_advisory_xact_lock(hashtext(?)) as got', [lockOf(projectId)])) as {
    rows: [{ got: boolean }];
  };
  if (rows[0].got) return true;
  await trx.raw('savepoint waiting');
  try {
    await trx.raw(`set local lock_timeout = ${Math.round(patienceMs)}`);
    await trx.raw('select pg_advisory_xact_lock(hashtext(?))', [lockOf(projectId)]);
    await trx.raw('set local lock_timeout = 0');
    return true;
  } catch (error) {
    if ((error as { code?: unknown }).code !== lockNotAvailable) throw error;
    await trx.raw('rollback to savepoint waiting');
    return false;
  }
}
const lockNotAvailable = '55P03';
