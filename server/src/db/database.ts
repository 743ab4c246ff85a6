import knex, { type Knex } from 'knex';
import { migrations } from './migrations/index.ts';

export type Database = Knex;
export type Transaction = Knex.Transaction;

/** Opens a pool on `url`; all tables of Legame live in `schema`. */
export function openDatabase(url: string, schema = 'public'): Database {
  return knex({
    client: 'pg',
    connection: url,
    searchPath: [schema],
    pool: { min: 0, max: 8 },
    acquireConnectionTimeout: 20_000,
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

/** Whole lists as bindings for `unnest(?::type[], …)`; their elements may be null, which Knex's types do not know. */
export const listBindings = (...lists: readonly (readonly unknown[])[]): string[][] => lists as unknown as string[][];
