import type { Hashes } from '@legame/core/mhl';
import { surely, type Database, type Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import type { FileIdentity } from '../disk/writing.ts';

/** A file that Legame makes, or made, in a folder of the user's. */
export type MadeFile = {
  readonly owner: string;
  readonly folder: string;
  /** Its name in the making, which nobody else knows. */
  readonly aside: string;
  readonly target: string;
  /** What it is known by once it is whole and proven: written down before it gets its name. */
  readonly identity: FileIdentity | null;
  readonly xxh64: string | null;
  /** Hashes that were asked for beside it. */
  readonly others: Hashes;
  readonly isNamed: boolean;
};
type Row = Omit<MadeFile, 'isNamed'> & { readonly is_named: boolean };
const toMade = ({ owner, folder, aside, target, identity, xxh64, others, is_named }: Row): MadeFile => ({
  owner,
  folder,
  aside,
  target,
  identity,
  xxh64,
  others,
  isNamed: is_named,
});

export const madeFileStore = {
  /** Notes files before they are made, so that the note outlives whatever ends the machine. Those noted before stay. */
  async note(db: Database, files: readonly Pick<MadeFile, 'owner' | 'folder' | 'aside' | 'target'>[]): Promise<void> {
    await surely(db, (trx) =>
      trx.raw(
        `insert into made_files (owner, folder, aside, target)
         select * from unnest(?::text[], ?::text[], ?::text[], ?::text[]) on conflict (owner, target) do nothing`,
        listBindings(
          files.map((f) => f.owner),
          files.map((f) => f.folder),
          files.map((f) => f.aside),
          files.map((f) => f.target),
        ),
      ),
    );
  },
  async listOf(db: Database | Transaction, owner: string): Promise<MadeFile[]> {
    return ((await db('made_files').where({ owner })) as Row[]).map(toMade);
  },
  /** `isSure`: on the disk before anything goes on, as has to be known before a file gets its name. */
  async setState(
    db: Database,
    { owner, target, identity, xxh64, others, isNamed }: MadeFile,
    { isSure }: { isSure: boolean },
  ): Promise<void> {
    const update = (on: Database | Transaction) =>
      on('made_files')
        .where({ owner, target })
        .update({ identity: JSON.stringify(identity), xxh64, others: JSON.stringify(others), is_named: isNamed });
    await (isSure ? surely(db, update) : update(db));
  },
  /** Files that never got their name, noted before, whose owners nothing runs or waits for. */
  async listUnnamed(db: Database | Transaction, before: Date): Promise<MadeFile[]> {
    return (
      (await db('made_files')
        .where({ is_named: false })
        .where('noted_at', '<', before)
        .whereRaw(
          `not exists (select 1 from jobs where state in ('queued', 'running')
         and position(split_part(owner, ':', 2) in payload::text) > 0)`,
        )) as Row[]
    ).map(toMade);
  },
};
