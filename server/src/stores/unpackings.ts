import type { PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import type { FolderIdentity } from '../disk/held.ts';
import { notFound } from '../problems.ts';
import { folderNotes } from './folderNotes.ts';

/** A zipped bundle on its way into a folder. */
export type Unpacking = {
  readonly id: string;
  readonly placeId: PlaceId;
  /** Of the zip, inside its place. */
  readonly path: string;
  /** Absolute. */
  readonly folder: string;
  readonly parent: FolderIdentity | null;
  readonly folderIntended: boolean;
  readonly madeFolder: FolderIdentity | null;
};

type Row = {
  id: string;
  place_id: PlaceId;
  path: string;
  folder: string;
  parent: FolderIdentity | null;
  folder_intended: boolean;
  made_folder: FolderIdentity | null;
};

export const unpackingStore = {
  async insertUnpacking(
    db: Database | Transaction,
    unpacking: Pick<Unpacking, 'placeId' | 'path' | 'folder' | 'parent'>,
  ): Promise<string> {
    const { placeId, path, folder, parent } = unpacking;
    const [row] = (await db('unpackings')
      .insert({ place_id: placeId, path, folder, parent: parent && JSON.stringify(parent) })
      .returning('id')) as [Row];
    return row.id;
  },
  async getUnpacking(db: Database | Transaction, id: string): Promise<Unpacking> {
    const row = (await db('unpackings').where({ id }).first()) as Row | undefined;
    if (!row) throw notFound('bundle');
    return {
      id: row.id,
      placeId: row.place_id,
      path: row.path,
      folder: row.folder,
      parent: row.parent,
      folderIntended: row.folder_intended,
      madeFolder: row.made_folder,
    };
  },
  ...folderNotes<string>('unpackings'),
};
