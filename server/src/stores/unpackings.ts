import type { PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';

/** A zipped bundle on its way into a folder. */
export type Unpacking = {
  readonly id: string;
  readonly placeId: PlaceId;
  /** Of the zip, inside its place. */
  readonly path: string;
  /** Absolute. */
  readonly folder: string;
  readonly folderMade: boolean;
};

type Row = { id: string; place_id: PlaceId; path: string; folder: string; folder_made: boolean };

export const unpackingStore = {
  async insertUnpacking(
    db: Database | Transaction,
    unpacking: Pick<Unpacking, 'placeId' | 'path' | 'folder'>,
  ): Promise<string> {
    const { placeId, path, folder } = unpacking;
    const [row] = (await db('unpackings').insert({ place_id: placeId, path, folder }).returning('id')) as [Row];
    return row.id;
  },
  async getUnpacking(db: Database | Transaction, id: string): Promise<Unpacking> {
    const row = (await db('unpackings').where({ id }).first()) as Row | undefined;
    if (!row) throw notFound('bundle');
    return { id: row.id, placeId: row.place_id, path: row.path, folder: row.folder, folderMade: row.folder_made };
  },
  async markFolderMade(db: Database | Transaction, id: string): Promise<void> {
    await db('unpackings').where({ id }).update({ folder_made: true });
  },
};
