import { surely, type Database } from '../db/database.ts';
import type { FolderIdentity } from '../disk/held.ts';

/** What is noted of a folder that a row of this table makes; kept also if the machine ends right after. */
export const folderNotes = <Id extends string>(table: 'handoffs' | 'unpackings') => ({
  /** It is about to be made. */
  async intendFolder(db: Database, id: Id, isIntended: boolean): Promise<void> {
    await surely(db, (trx) => trx(table).where({ id }).update({ folder_intended: isIntended }));
  },
  /** It was made, and is known by this. */
  async markFolderMade(db: Database, id: Id, made: FolderIdentity): Promise<void> {
    await surely(db, (trx) =>
      trx(table)
        .where({ id })
        .update({ folder_made: true, made_folder: JSON.stringify(made) }),
    );
  },
});
