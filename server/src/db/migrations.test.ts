import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { defaultRules } from '@legame/core/match';
import { jobStore } from '../stores/jobs.ts';
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
const migrateUpTo = (last: string, database: Database = db) => {
  const list = migrations.slice(0, migrations.findIndex((m) => m.name === last) + 1);
  return database.migrate.latest({
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

test('jobs and handoffs of before say what they are about by fields, and what went wrong as a problem', async () => {
  const old = `${name}_jobs`;
  await onServer(`create database ${old}`);
  const before = openDatabase(cluster.replace(/\/[^/]*$/, `/${old}`));
  try {
    await migrateUpTo('006-renewal', before);
    const place = randomUUID();
    const insert = (kind: string, subject: string, more: object = {}) =>
      before('jobs').insert({ kind, subject, label: 'x', state: 'done', ...more });
    await insert('index-place', place);
    await insert('index-place', `${place} day 1/card A`);
    await insert('fetch-shelved', 'vault/KILN_A/day1/a b.mov');
    await insert('put-back', place, { state: 'failed', problem: '"a.mov" lies there already.' });
    await insert('nobody-knows-this', 'x');
    await migrate(before);
    const jobs = (await jobStore.listRecent(before)).map(({ kind, payload, problem }) => ({ kind, payload, problem }));
    expect(jobs).toHaveLength(4);
    expect(jobs).toEqual(
      expect.arrayContaining([
        { kind: 'index-place', payload: { placeId: place, folder: '' }, problem: null },
        { kind: 'index-place', payload: { placeId: place, folder: 'day 1/card A' }, problem: null },
        { kind: 'fetch-shelved', payload: { shelf: 'vault', path: 'KILN_A/day1/a b.mov' }, problem: null },
        {
          kind: 'put-back',
          payload: { clipId: place },
          problem: { code: 'internal', detail: '"a.mov" lies there already.' },
        },
      ]),
    );
  } finally {
    await before.destroy();
    await onServer(`drop database ${old} with (force)`);
  }
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
  const clipId = crypto.randomUUID();
  const parkedTwice = [
    { what: 'set-aside', clipId, before: null, after: { as: 'parked', reason: '' } },
    { what: 'pin', clipId, before: false, after: true },
  ];
  for (const undone of [false, true])
    await db('journal').insert({ project_id: project.id, verb: 'park', changes: JSON.stringify(parkedTwice), undone });
  await migrate(db);
  const { rules, ruleSets, preferredForm } = await projectStore.getProject(db, project.id);
  expect(rules.weights).toEqual({ ...defaultRules.weights, ...weights });
  expect(rules.ignoreCase).toBe(true);
  expect([ruleSets, preferredForm]).toEqual([[], null]);
  expect(await journalStore.findLast(db, project.id)).toMatchObject({
    verb: 'park',
    clips: 1,
    kinds: ['pin', 'set-aside'],
  });
  // What an older Legame had undone was never meant to be done again.
  expect(await journalStore.findRedoable(db, project.id)).toBeNull();
});

test('sound whose length was reckoned from its first moments is measured anew, and keeps what is known of it until then', async () => {
  const old = `${name}_sound`;
  await onServer(`create database ${old}`);
  const before = openDatabase(cluster.replace(/\/[^/]*$/, `/${old}`));
  try {
    await migrateUpTo('030-receiver', before);
    const [place] = (await before('places').insert({ name: 'BAY', path: '/bay' }).returning('id')) as [{ id: string }];
    const file = (folder: string, kind: string, container: string) => ({
      ...{ place_id: place.id, folder, name: container, size_in_bytes: 1, modified_ms: 1, read_at: new Date() },
      facts: JSON.stringify({ kind, container, length: 5 }),
    });
    const given = ['mp3', 'aac', 'wav', 'mov'].map((container) => file('', 'sound', container));
    await before('media_files').insert([...given, file('films', 'picture', 'mp3')]);
    await migrate(before);
    const rows = (await before('media_files').orderBy(['folder', 'name'])) as {
      name: string;
      read_at: Date | null;
      facts: object;
    }[];
    expect(rows.filter((row) => row.read_at === null).map((row) => row.name)).toEqual(['aac', 'mp3']);
    expect(rows.every((row) => (row.facts as { length: number }).length === 5)).toBe(true);
  } finally {
    await before.destroy();
    await onServer(`drop database ${old} with (force)`);
  }
});
