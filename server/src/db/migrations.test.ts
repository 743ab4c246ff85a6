import { afterAll, beforeAll, expect, test } from '@jest/globals';
import pg from 'pg';
import { defaultRules } from '@legame/core/match';
import { journalStore } from '../stores/journal.ts';
import { projectStore } from '../stores/projects.ts';
import { migrate, openDatabase, type Database } from './database.ts';
import { migrations } from './migrations/index.ts';

const name = `migrations_${process.env.JEST_WORKER_ID ?? '0'}_${Date.now()}`;
const cluster = process.env.LEGAME_TEST_CLUSTER ?? '';
let db: Database;
async function onServer(statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: cluster });
  await client.connect();
  await client.query(statement);
  await client.end();
}
/** Brings the database as far as an older Legame had it. */
const migrateUpTo = (last: string) => {
  const list = migrations.slice(0, migrations.findIndex((m) => m.name === last) + 1);
  return db.migrate.latest({
    tableName: 'legame_migrations',
    migrationSource: {
      getMigrations: () => Promise.resolve(list),
      getMigrationName: (m: (typeof migrations)[number]) => m.name,
      getMigration: (m: (typeof migrations)[number]) => Promise.resolve(m),
    },
  });
};

beforeAll(async () => {
  await onServer(`create database ${name}`);
  db = openDatabase(cluster.replace(/\/[^/]*$/, `/${name}`));
});
afterAll(async () => {
  await db.destroy();
  await onServer(`drop database ${name} with (force)`);
});

test('a project of before keeps its rules, and its history what was done and undone', async () => {
  await migrateUpTo('003-storage');
  const weights = {
    ...Object.fromEntries(['name', 'folder', 'reel', 'timecode', 'length', 'rate', 'raster'].map((a) => [a, 'counts'])),
    reel: 'must',
  };
  const [project] = (await db('projects')
    .insert({ name: 'Saltglass', rules: JSON.stringify(weights) })
    .returning('id')) as [{ id: Parameters<typeof projectStore.getProject>[1] }];
  for (const undone of [false, true])
    await db('journal').insert({ project_id: project.id, verb: 'park', changes: '[]', undone });
  await migrate(db);
  const { rules, ruleSets, preferredForm } = await projectStore.getProject(db, project.id);
  expect(rules.weights).toEqual({ ...defaultRules.weights, ...weights });
  expect(rules.ignoreCase).toBe(true);
  expect([ruleSets, preferredForm]).toEqual([[], null]);
  expect((await journalStore.findLast(db, project.id))!.verb).toBe('park');
  // What an older Legame had undone was never meant to be done again.
  expect(await journalStore.findRedoable(db, project.id)).toBeNull();
});
