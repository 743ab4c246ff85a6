import type { PlaceId } from '@legame/core/model';
import { surely, type Database, type Transaction } from '../db/database.ts';
import type { FolderIdentity } from '../disk/held.ts';
import { notFound } from '../problems.ts';

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
  /** Its folder is about to be made; kept also if the machine ends right after, as what it is known by then. */
  async intendFolder(db: Database, id: string, isIntended: boolean): Promise<void> {
    await surely(db, (trx) => trx('unpackings').where({ id }).update({ folder_intended: isIntended }));
  },
  async markFolderMade(db: Database, id: string, made: FolderIdentity): Promise<void> {
    await surely(db, (trx) =>
      trx('unpackings')
        .where({ id })
        .update({ folder_made: true, made_folder: JSON.stringify(made) }),
    );
  },
};
