import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { setTimeout as after } from 'node:timers/promises';
import express from 'express';
import { runMigrations } from 'graphile-worker';
import pg from 'pg';
import { pino, type BaseLogger } from 'pino';
import { ReadLog } from '../reading/readLog.ts';
import { readConfig, type Config } from '../config/config.ts';
import { migrate, openDatabase, type Database } from '../db/database.ts';
import { allOver } from '../db/together.ts';
import { makeApp } from '../http/app.ts';
import { startWorker } from '../jobs/worker.ts';
import { useBay } from '../disk/conditions.ts';
import { endDocumentProcesses } from '../documents/apart.ts';
import { useFence } from '../disk/held.ts';
import { jobStore } from '../stores/jobs.ts';
import { ProvenAnswers } from './proven.ts';
import { tellWhenStuck } from './stuck.ts';

/** A whole Legame for one test file: its own database, folders, HTTP application and worker. */
export type House = {
  readonly app: ReturnType<typeof makeApp>;
  readonly db: Database;
  readonly config: Config;
  /** A folder inside the allowed roots. */
  readonly folder: string;
  readonly databaseUrl: string;
  readonly log: BaseLogger;
  readonly readLog: ReadLog;
  readonly idle: () => Promise<void>;
  readonly close: () => Promise<void>;
};

const clusterUrl = () => {
  const url = process.env.LEGAME_TEST_CLUSTER;
  if (!url) throw new Error('These tests need a database server: run them with "npm test -- server".');
  return url;
};

/** Its folder is a bay of simulated drives: their room does not depend on the machine that the tests run on. */
export async function openHouse({ worker = true } = {}): Promise<House> {
  const name = `test_${process.env.JEST_WORKER_ID ?? '0'}_${Date.now()}`;
  await onServer(`create database ${name}`);
  const databaseUrl = clusterUrl().replace(/\/[^/]*$/, `/${name}`);
  const db = openDatabase(databaseUrl);
  const overlaps = overlapsOn(db);
  await migrate(db);
  await runMigrations({ connectionString: databaseUrl });
  const folder = await mkdtemp(join(tmpdir(), 'legame-'));
  const read = readConfig({ LEGAME_DATA: join(folder, '.data'), LEGAME_ROOTS: folder, LEGAME_DEMO: 'off' });
  const config = { ...read, drives: folder, databaseUrl };
  useBay(config.drives);
  useFence([...config.roots, config.dataFolder]);
  const log = pino({ level: process.env.LEGAME_TEST_LOG ?? 'silent' });
  const readLog = new ReadLog(db, 'test');
  const context = { db, config, log, readLog };
  const running = worker ? await startWorker(context, databaseUrl) : null;
  const stuck = tellWhenStuck(databaseUrl);
  const kept = new ProvenAnswers();
  const app = express()
    .use(stuck.note)
    .use(makeApp(context, { attach: (_, response) => Promise.resolve(void response.end()) }, { kept }));
  return {
    app,
    db,
    config,
    folder,
    databaseUrl,
    log,
    readLog,
    idle: async () => {
      for (let i = 0; i < 2000; i += 1) {
        const busy = (await jobStore.listRecent(db)).some((job) => job.state === 'queued' || job.state === 'running');
        if (!busy) return;
        await after(50);
      }
      const left = (await jobStore.listRecent(db)).filter((job) => job.state === 'queued' || job.state === 'running');
      throw new Error(`These jobs did not come to an end: ${JSON.stringify(left)}`);
    },
    close: async () => {
      await stuck.stop();
      endDocumentProcesses();
      await running?.stop();
      await readLog.close();
      // Nobody waits for what a request only set going.
      await allOver(db);
      await db.destroy();
      await dropDatabase(name);
      await rm(folder, { recursive: true, force: true });
      if (kept.untrue.length > 0)
        throw new Error(`Answers were given again that were true no more: ${kept.untrue.join('; ')}`);
      if (overlaps.length > 0) throw new Error(`One connection was asked twice at once: ${overlaps.join('; ')}`);
    },
  };
}

/** Questions that were put to a connection while it was still answering another, which its driver is about to refuse. */
function overlapsOn(db: Database): string[] {
  const overlaps: string[] = [];
  const { pool } = db.client as {
    pool: { on: (event: 'createSuccess', tell: (id: number, c: pg.Client) => void) => void };
  };
  pool.on('createSuccess', (_, connection) => {
    let isBusy = false;
    const isOver = () => (isBusy = false);
    connection.on('drain', isOver);
    const ask = connection.query.bind(connection) as (...asked: unknown[]) => unknown;
    connection.query = ((...asked: unknown[]) => {
      if (isBusy) overlaps.push(JSON.stringify((asked[0] as { text?: string }).text ?? asked[0]));
      isBusy = true;
      const answered = asked.at(-1);
      // One that fails is over before its connection is.
      if (asked[0] instanceof Writable) asked[0].once('error', isOver);
      if (typeof answered !== 'function') return ask(...asked);
      return ask(...asked.slice(0, -1), (...said: unknown[]) => {
        isOver();
        (answered as (...said: unknown[]) => void)(...said);
      });
    }) as typeof connection.query;
  });
  return overlaps;
}

/** A pool that was told to end goes on ending for a moment: whom the server cuts off then fails in nobody's hands. */
async function dropDatabase(name: string): Promise<void> {
  for (let tries = 0; tries < 100; tries += 1) {
    const { rows } = await onServer(`select 1 from pg_stat_activity where datname = '${name}'`);
    if (rows.length === 0) break;
    await after(50);
  }
  await onServer(`drop database ${name} with (force)`);
}

async function onServer(statement: string): Promise<pg.QueryResult> {
  const client = new pg.Client({ connectionString: clusterUrl() });
  await client.connect();
  const answer = await client.query(statement);
  await client.end();
  return answer;
}
