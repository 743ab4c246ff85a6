import type { MediaFileId, PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import { type MediaFileRecord, toRecord } from './mediaFiles.ts';

/** What files are called, and what lies beside them. */
export const fileNameStore = {
  /** Files of a folder, with those that are gone and that clips are tied to all the same: their names are not free either. */
  async listNamesTaken(db: Database | Transaction, placeId: PlaceId, folder: string): Promise<MediaFileRecord[]> {
    const rows = (await db('media_files')
      .where({ place_id: placeId, folder })
      .whereRaw('(not gone or exists (select 1 from links where media_file_id = media_files.id))')
      .orderBy('name')) as unknown[];
    return rows.map(toRecord);
  },
  /** Gives files other names in their folders, all at once. Records of what is gone and nobody is tied to make room. */
  async rename(
    trx: Transaction,
    renamed: readonly { readonly id: MediaFileId; readonly name: string }[],
  ): Promise<void> {
    const [ids, names] = [renamed.map((r) => r.id), renamed.map((r) => r.name)];
    const wanted = 'select id, name from unnest(?::uuid[], ?::text[]) as wanted (id, name)';
    await trx.raw(
      `delete from media_files ghost using (${wanted}) wanted, media_files file
       where file.id = wanted.id and ghost.place_id = file.place_id and ghost.folder = file.folder
         and ghost.name = wanted.name and ghost.gone and ghost.id <> all(?::uuid[])
         and not exists (select 1 from links where media_file_id = ghost.id)`,
      listBindings(ids, names, ids),
    );
    // One after another they would stand in each other's way.
    await trx.raw(`update media_files set name = 'renamed ' || id where id = any(?::uuid[])`, listBindings(ids));
    await trx.raw(
      `update media_files file set name = wanted.name from (${wanted}) wanted where file.id = wanted.id`,
      listBindings(ids, names),
    );
  },
  /** What is known of their content is found out anew. */
  async forgetReadings(db: Database, placeId: PlaceId, folder: string, names: readonly string[]): Promise<void> {
    await db('media_files').where({ place_id: placeId, folder }).whereIn('name', names).update({ read_at: null });
  },
};
