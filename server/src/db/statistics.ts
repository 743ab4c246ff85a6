import type { Database, Transaction } from './database.ts';

/** So many rows can be looked through for each of as many, and nobody feels it. */
const fewRows = 500;

/**
 * After many rows went into a table that stood empty: until it is told, the database plans as if it were empty still, and
 * looks through all for each, so that a second becomes a minute. Once it knows of rows at all, it reckons their number by
 * the size of the table.
 */
export async function tellOfRows(
  db: Database | Transaction,
  table: 'clips' | 'clip_notes' | 'clip_rows' | 'links' | 'media_files' | 'proposals',
  rows: number,
): Promise<void> {
  if (rows < fewRows) return;
  const known = (await db('pg_class').whereRaw('oid = ?::regclass', [table]).first('reltuples')) as {
    reltuples: number;
  };
  if (known.reltuples * 2 < rows) await db.raw('analyze ??', [table]);
}
