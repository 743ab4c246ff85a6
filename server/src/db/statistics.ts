import type { Database, Transaction } from './database.ts';

/** So many rows can be looked through for each of as many, and nobody feels it. */
const fewRows = 500;

/** What queries find rows by. To look through all that is written in them besides takes up to eight times as long. */
const foundBy = {
  clips: ['id', 'project_id', 'document_id', 'ordinal', 'retired'],
  clip_notes: ['clip_id'],
  clip_rows: ['clip_id', 'project_id', 'position', 'version', 'tied_id', 'place_id', 'decided_id', 'decided_place_id'],
  links: ['clip_id', 'media_file_id'],
  media_files: ['id', 'place_id', 'folder', 'name', 'size_in_bytes', 'fingerprint', 'inode', 'gone', 'changed_in'],
  proposals: ['clip_id', 'where_remembered'],
} as const;

/**
 * After many rows went into a table that stood empty: until it is told, the database plans as if it were empty still, and
 * looks through all for each, so that a second becomes a minute. Once it knows of rows at all, it reckons their number by
 * the size of the table.
 */
export async function tellOfRows(db: Database | Transaction, table: keyof typeof foundBy, rows: number): Promise<void> {
  if (rows < fewRows) return;
  const known = (await db('pg_class').whereRaw('oid = ?::regclass', [table]).first('reltuples')) as {
    reltuples: number;
  };
  if (known.reltuples * 2 < rows) await db.raw('analyze ?? (??)', [table, [...foundBy[table]]]);
}
