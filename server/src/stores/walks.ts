import type { MediaFileId, PlaceId } from '@legame/core/model';
import { openCopy, type Row } from '../db/copy.ts';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import { tellOfRows } from '../db/statistics.ts';
import type { Walked } from '../disk/walk.ts';
import { fromFolderDown } from './mediaFiles.ts';

export type WalkChanges = {
  readonly added: number;
  readonly changed: number;
  readonly gone: number;
  readonly same: number;
  /** Which: null where nothing was known before, so that all of it is new. */
  readonly which: {
    readonly paths: readonly { readonly folder: string; readonly name: string }[];
    readonly gone: readonly MediaFileId[];
  } | null;
};

type KnownRow = {
  id: MediaFileId;
  folder: string;
  name: string;
  size_in_bytes: string;
  modified_ms: number;
  gone: boolean;
  inode: string | null;
  /** When it was found that it cannot be read; null where it can, or is not to be opened again. */
  failed_at: Date | null;
};
const pathKey = (file: { folder: string; name: string }) => `${file.folder}\u0000${file.name}`;

/** What a walk of a place, or of one folder of it, changes in the records of its files. */
export type WalkInProgress = {
  readonly add: (files: readonly Walked[]) => void;
  /**
   * Writes the rest. What was not seen counts as gone, except under folders that could not be listed. Facts of files
   * whose size or time changed are forgotten; no record is ever deleted. Where files were renamed by Legame meanwhile,
   * or are being, what was seen is thrown away.
   */
  readonly finish: (unlisted: readonly string[]) => Promise<WalkChanges | 'overtaken'>;
  /** Gives up: nothing of this walk is kept. */
  readonly abandon: () => Promise<void>;
};

/**
 * Brings records in line with a walk while it goes on. Where nothing is known yet, what is found goes straight into a
 * COPY; else what is known is loaded while the walk lists, compared in memory, and only the difference is written.
 */
export async function beginWalk(db: Database, placeId: PlaceId, folder = ''): Promise<WalkInProgress> {
  const isUnder = folder === '' ? {} : { folder };
  const first = (await isKnown(db, placeId)) ? null : await copying(db, placeId);
  return first ?? comparing(db, placeId, isUnder);
}

async function isKnown(db: Database | Transaction, placeId: PlaceId): Promise<boolean> {
  return ((await db('media_files').where({ place_id: placeId }).first('id')) as unknown) !== undefined;
}

/** Of two walks of one place at a time the second waits where it would write what the first is writing. */
export const inWalksTurn = (trx: Transaction, placeId: PlaceId) =>
  trx.raw('select pg_advisory_xact_lock(hashtextextended(?, 2))', [placeId]);

/** Null where somebody else was first. */
async function copying(db: Database, placeId: PlaceId): Promise<WalkInProgress | null> {
  const trx = await db.transaction();
  await inWalksTurn(trx, placeId);
  if (await isKnown(trx, placeId)) {
    await trx.rollback();
    return null;
  }
  const copy = await openCopyOf(trx);
  let added = 0;
  return {
    add: (files) => {
      added += files.length;
      copy.write(files.map((f) => fileRow(placeId, f)));
    },
    finish: async () => {
      await copy.end();
      await tellOfRows(trx, 'media_files', added);
      await trx.commit();
      return { added, changed: 0, gone: 0, same: 0, which: null };
    },
    abandon: async () => {
      await copy.end().catch(() => undefined);
      await trx.rollback();
    },
  };
}

function comparing(db: Database, placeId: PlaceId, { folder }: { folder?: string }): WalkInProgress {
  const renamedBefore = timesRenamed(db, placeId);
  renamedBefore.catch(() => undefined);
  const loading = renamedBefore.then(() => loadKnown(db, placeId, folder));
  // A failure is met in finish; this keeps it from being called unhandled before.
  loading.catch(() => undefined);
  const waiting: Walked[] = [];
  return {
    add: (files) => void waiting.push(...files),
    finish: async (unlisted) => {
      const loaded = await loading;
      const isHidden = (row: KnownRow) =>
        unlisted.some((path) => row.folder === path || row.folder.startsWith(`${path}/`));
      return db.transaction(async (trx) => {
        await inWalksTurn(trx, placeId);
        if ((await timesRenamed(trx, placeId)) !== (await renamedBefore) || (await isBeingRenamed(trx, placeId)))
          return 'overtaken';
        // Another walk may have ended since: then what it found is what is known.
        const known =
          (await countKnown(trx, placeId, folder)) === loaded.size ? loaded : await loadKnown(trx, placeId, folder);
        const { added, changed, same, unidentified } = compare(known, waiting);
        const gone = [...known.values()].filter((row) => !row.gone && !isHidden(row)).map((row) => row.id);
        await updateChanged(trx, [...changed, ...unidentified]);
        if (gone.length)
          await trx.raw('update media_files set gone = true where id = any(?::uuid[])', listBindings(gone));
        if (added.length > 0) {
          const copy = await openCopyOf(trx);
          copy.write(added.map((f) => fileRow(placeId, f)));
          await copy.end();
        }
        return {
          added: added.length,
          changed: changed.length,
          gone: gone.length,
          same,
          which: { paths: [...added, ...changed], gone },
        };
      });
    },
    abandon: () => Promise.resolve(),
  };
}

async function timesRenamed(db: Database | Transaction, placeId: PlaceId): Promise<string> {
  const row = (await db('places').where({ id: placeId }).first('renamed')) as { renamed: string } | undefined;
  return row?.renamed ?? '';
}

/** Some were begun to be renamed, and it is not known how that ended. What cannot be settled holds nobody up for ever. */
async function isBeingRenamed(trx: Transaction, placeId: PlaceId): Promise<boolean> {
  const found = (await trx('renames')
    .join('places', 'places.path', trx.raw(`renames.ground ->> 'path'`))
    .where({ 'places.id': placeId })
    .whereRaw(`renames.noted_at > clock_timestamp() - interval '5 minutes'`)
    .first('renames.batch')) as unknown;
  return found !== undefined;
}

async function countKnown(trx: Transaction, placeId: PlaceId, folder: string | undefined): Promise<number> {
  const row = (await trx('media_files')
    .where({ place_id: placeId })
    .modify(fromFolderDown, folder ?? '')
    .count('id as n')
    .first()) as { n: string };
  return Number(row.n);
}

async function loadKnown(
  db: Database | Transaction,
  placeId: PlaceId,
  folder: string | undefined,
): Promise<Map<string, KnownRow>> {
  const rows = (await db('media_files')
    .where({ place_id: placeId })
    .modify(fromFolderDown, folder ?? '')
    .select(
      'id',
      'folder',
      'name',
      'size_in_bytes',
      'modified_ms',
      'gone',
      'inode',
      db.raw('case when unreadable is not null and not quarantined then read_at end as failed_at'),
    )) as KnownRow[];
  return new Map(rows.map((row) => [pathKey(row), row]));
}

/** Takes what was seen out of `known`, so that the rest of it is what was not. */
function compare(known: Map<string, KnownRow>, walked: readonly Walked[]) {
  const added: Walked[] = [];
  const changed: Changed[] = [];
  // As they were, but recorded before files were known by their inode.
  const unidentified: Changed[] = [];
  let same = 0;
  for (const file of walked) {
    const key = pathKey(file);
    const row = known.get(key);
    known.delete(key);
    if (!row) added.push(file);
    else if (row.gone || Number(row.size_in_bytes) !== file.sizeInBytes || row.modified_ms !== file.modifiedMs)
      changed.push({ id: row.id, again: false, ...file });
    // Somebody mended it, and gave it back its time: size and time do not tell, that it was touched does.
    else if (row.failed_at && file.touchedMs !== null && file.touchedMs > row.failed_at.getTime())
      changed.push({ id: row.id, again: true, ...file });
    else {
      same += 1;
      if (row.inode === null && file.inode !== null) unidentified.push({ id: row.id, again: false, ...file });
    }
  }
  return { added, changed, same, unidentified };
}

/** `again`: it is measured anew though size and time are as they were. */
type Changed = Walked & { readonly id: MediaFileId; readonly again: boolean };

async function updateChanged(trx: Transaction, changed: readonly Changed[]): Promise<void> {
  if (changed.length === 0) return;
  await trx.raw(
    `update media_files set size_in_bytes = given.size, modified_ms = given.modified, sequence = given.sequence,
       gone = false, inode = given.inode,
       -- A file that came back as it was is still what was measured.
       facts = case when given.as_it_was then facts end,
       unreadable = case when given.as_it_was then unreadable end,
       read_at = case when given.as_it_was then read_at end,
       fingerprint = case when given.as_it_was then fingerprint end,
       full_hash = case when given.as_it_was then full_hash end,
       trial = case when given.as_it_was then trial end,
       quarantined = quarantined and given.as_it_was
     from (
       select given.*, given.size = size_in_bytes and given.modified = modified_ms and not again as as_it_was
       from unnest(?::uuid[], ?::bigint[], ?::float8[], ?::jsonb[], ?::bigint[], ?::boolean[])
         as given(id, size, modified, sequence, inode, again) join media_files on media_files.id = given.id
     ) as given
     where media_files.id = given.id`,
    listBindings(
      changed.map((f) => f.id),
      changed.map((f) => f.sizeInBytes),
      changed.map((f) => f.modifiedMs),
      changed.map((f) => (f.sequence ? JSON.stringify(f.sequence) : null)),
      changed.map((f) => f.inode),
      changed.map((f) => f.again),
    ),
  );
}

const fileColumns = ['place_id', 'folder', 'name', 'size_in_bytes', 'modified_ms', 'sequence', 'inode'];
const openCopyOf = (trx: Transaction) => openCopy(trx, 'media_files', fileColumns);
const fileRow = (placeId: PlaceId, f: Walked): Row => [
  placeId,
  f.folder,
  f.name,
  f.sizeInBytes,
  f.modifiedMs,
  f.sequence ? JSON.stringify(f.sequence) : null,
  f.inode,
];
