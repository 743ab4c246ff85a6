import knex, { type Knex } from 'knex';
import pg from 'pg';
import { migrations } from './migrations/index.ts';

export type Database = Knex;
export type Transaction = Knex.Transaction;

/** Whoever could not get a connection is told so by the failure itself, and says more of it than a line without a reason. */
const log = {
  warn: (message: string) => {
    if (!message.startsWith('Acquire connection error')) process.emitWarning(message);
  },
};

/**
 * Opens a pool on `url`; all tables of Legame live in `schema`. What is committed is on the disk before anybody is told so;
 * who writes much that can be worked out again, and says where it must not be lost (`surely`), may lose a moment of it.
 */
export function openDatabase(url: string, { mayLoseAMoment = false, schema = 'public' } = {}): Database {
  return knex({
    client: 'pg',
    connection: { connectionString: url, ...(mayLoseAMoment ? { options: '-c synchronous_commit=off' } : {}) },
    searchPath: [schema],
    pool: { min: 0, max: 12 },
    acquireConnectionTimeout: 20_000,
    log,
  });
}

/** Brings the tables up to date, each step in a transaction. A database from a newer Legame is refused. */
export async function migrate(database: Database, schema = 'public'): Promise<void> {
  const known = new Set(migrations.map((m) => m.name));
  const hasTable = await database.schema.hasTable('legame_migrations');
  const done: { name: string }[] = hasTable ? await database('legame_migrations').select('name') : [];
  const newer = done.find((row) => !known.has(row.name));
  if (newer) {
    throw new Error(
      `This data folder was used by a newer Legame (it has "${newer.name}"). Start that version, or choose another folder with LEGAME_DATA.`,
    );
  }
  await database.migrate.latest({
    tableName: 'legame_migrations',
    schemaName: schema,
    migrationSource: {
      getMigrations: () => Promise.resolve([...migrations]),
      getMigrationName: (migration: (typeof migrations)[number]) => migration.name,
      getMigration: (migration: (typeof migrations)[number]) => Promise.resolve(migration),
    },
  });
}

/** Whether a failure is that of the connection to the database, or of its server, and none of what was asked. */
export function isConnectionLoss(error: unknown): boolean {
  const { code, message = '' } = (error ?? {}) as { code?: unknown; message?: string };
  if (typeof code === 'string' && (/^(08|57P)/.test(code) || code === 'ECONNREFUSED' || code === 'ECONNRESET'))
    return true;
  return /Connection terminated|terminating connection|not queryable|Timeout acquiring a connection/.test(message);
}

/** Whether what was written rests on something that somebody removed meanwhile. */
export const isReferenceGone = (error: unknown): boolean =>
  (error as { code?: unknown } | null)?.code === pgForeignKeyViolation;
const pgForeignKeyViolation = '23503';

/**
 * Tells once when the database goes away: whoever keeps what it knows in memory, and work that is under way, has to begin
 * anew once it is back. Returns how to let go.
 */
export async function onDatabaseGone(url: string, tell: (error: unknown) => void): Promise<() => Promise<void>> {
  const client = new pg.Client({ connectionString: url, keepAlive: true });
  let isOver = false;
  const ended = (error?: unknown) => {
    if (isOver) return;
    isOver = true;
    tell(error);
  };
  client.on('error', ended);
  client.on('end', ended);
  await client.connect();
  return async () => {
    isOver = true;
    await client.end().catch(() => undefined);
  };
}

/** A transaction that is on the disk before anything goes on, also where the rest of the database may lose a moment. */
export const surely = <T>(db: Database, run: (trx: Transaction) => Promise<T> | Knex.QueryBuilder): Promise<T> =>
  db.transaction(async (trx) => {
    await trx.raw('set local synchronous_commit = on');
    return (await run(trx)) as T;
  });
