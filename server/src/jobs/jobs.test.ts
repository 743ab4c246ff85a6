import { Logger, run } from 'graphile-worker';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ProjectId } from '@legame/core/model';
import { rate } from '@legame/core/time';
import { buildFacts } from '@legame/core/testing';
import { existsSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { loadProject } from '../clips/project.ts';
import { bringIn } from '../documents/bringIn.ts';
import { cancelHandoff, planHandoff, runHandoffSoon } from '../handoffs/plan.ts';
import { getHandoff } from '../handoffs/views.ts';
import { startWorker } from './worker.ts';
import { linkClips } from '../links/link.ts';
import { addPlace } from '../places/change.ts';
import { jobStore } from '../stores/jobs.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';
import { beginWalk } from '../stores/walks.ts';
import { workerStore } from '../stores/workers.ts';
import { type House, openHouse } from '../testing/house.ts';
import { makeList } from '../testing/edits.ts';

/** A project whose five clips are linked to five files of 40 MB, so that copying takes a while. */
const sizeInBytes = 40_000_000;
let house: House;
let projectId: ProjectId;
const context = () => house;

beforeAll(async () => {
  house = await openHouse({ worker: false });
  const bay = join(house.folder, 'KILN');
  mkdirSync(bay);
  mkdirSync(join(house.folder, 'OUT'));
  const names = ['a', 'b', 'c', 'd', 'e'].map((n) => `${n}.bin`);
  names.forEach((name, i) => writeFileSync(join(bay, name), Buffer.alloc(sizeInBytes, i + 1)));
  const place = await addPlace(context(), { path: bay, knownAs: [] });
  const walk = await beginWalk(house.db, place.id);
  walk.add(
    names.map((name) => ({
      folder: '',
      name,
      sizeInBytes,
      modifiedMs: statSync(join(bay, name)).mtimeMs,
      touchedMs: null,
      inode: null,
      sequence: null,
    })),
  );
  await walk.finish([]);
  const project = await projectStore.createProject(house.db, 'Copies');
  projectId = project.id;
  const list = makeList(
    names.map((name) => ({ reel: 'R1', from: '00:00:00:00', to: '00:00:01:00', name, file: `/Volumes/X/${name}` })),
  );
  await bringIn(context(), projectId, { name: 'l.edl', bytes: Buffer.from(list), reading: { rate: rate(25) } });
  const files = await mediaFileStore.listInFolder(house.db, place.id, '');
  for (const file of files) {
    const facts = buildFacts({ kind: 'still', rate: null, timecodeSource: 'none', start: 0, length: null });
    await mediaFileStore.saveReadings(house.db, [{ id: file.id, unreadable: null, fingerprint: null, facts }]);
  }
  const { states } = await loadProject(house.db, projectId);
  await linkClips(
    context(),
    projectId,
    { by: 'hand' },
    states.map((s, i) => ({ clipId: s.clip.id, mediaFileId: files[i]!.id })),
  );
  // Nothing here is about indexing or matching.
  await house.db('jobs').update({ state: 'cancelled' });
}, 120_000);
afterAll(() => house.close());

async function until(check: () => Promise<boolean>): Promise<void> {
  for (let i = 0; i < 400; i += 1) {
    if (await check()) return;
    await after(25);
  }
  throw new Error('It did not come to that.');
}
const verifiedOf = async (id: Parameters<typeof getHandoff>[1]) =>
  (await getHandoff(context(), id)).copied.filter((f) => f.state === 'verified').length;

test('a handoff that is stopped keeps what is verified, leaves nothing half-written, and goes on from there', async () => {
  const id = await planHandoff(context(), projectId, {
    layout: 'folder',
    targetFolder: join(house.folder, 'OUT'),
    name: 'cancelled',
  });
  const worker = await startWorker(house, house.databaseUrl);
  try {
    await runHandoffSoon(context(), id);
    await until(async () => (await verifiedOf(id)) >= 1);
    await cancelHandoff(context(), id);
    await until(async () => (await getHandoff(context(), id)).state !== 'running');
    const stopped = await getHandoff(context(), id);
    const verified = await verifiedOf(id);
    if (stopped.state === 'cancelled') {
      // Nothing vouches for what is not whole; stopped while its papers are written, it is.
      if (verified < 5) expect(existsSync(join(stopped.folder, 'ascmhl'))).toBe(false);
      expect(readdirSync(join(stopped.folder, 'media')).filter((n) => n.endsWith('.part'))).toEqual([]);
      await runHandoffSoon(context(), id);
      await until(async () => (await getHandoff(context(), id)).state === 'done');
    }
    expect(await verifiedOf(id)).toBe(5);
    expect(readdirSync(join(stopped.folder, 'media')).sort()).toEqual(['a.bin', 'b.bin', 'c.bin', 'd.bin', 'e.bin']);
  } finally {
    await worker.stop();
  }
}, 120_000);

test('a worker that shuts down puts its job back, and the next one goes on with it', async () => {
  const id = await planHandoff(context(), projectId, {
    layout: 'folder',
    targetFolder: join(house.folder, 'OUT'),
    name: 'interrupted',
  });
  const first = await startWorker(house, house.databaseUrl);
  await runHandoffSoon(context(), id);
  await until(async () => (await verifiedOf(id)) >= 1);
  await first.stop();
  const handoff = await getHandoff(context(), id);
  const before = await verifiedOf(id);
  if (handoff.state !== 'done') {
    expect((await jobStore.getJob(house.db, handoff.jobId!)).state).toBe('queued');
    // The queue waits a little before it tries again; the test does not.
    await house.db.raw(
      'select graphile_worker.reschedule_jobs((select array_agg(id) from graphile_worker.jobs), run_at := now())',
    );
  }
  const second = await startWorker(house, house.databaseUrl);
  try {
    await until(async () => (await getHandoff(context(), id)).state === 'done');
    expect(await verifiedOf(id)).toBe(5);
    expect(before).toBeGreaterThan(0);
  } finally {
    await second.stop();
  }
}, 120_000);

test('jobs of a worker whose heart stopped are set free', async () => {
  await house.db.raw(`select graphile_worker.add_job('nobody-ends-this', '{}'::json)`);
  const lockedBy = async () =>
    ((await house.db('graphile_worker.jobs').where({ task_identifier: 'nobody-ends-this' }).first('locked_by')) as {
      locked_by: string | null;
    })!.locked_by;
  let letGo = () => {};
  const held = new Promise<void>((resolve) => (letGo = resolve));
  const dead = await run({
    connectionString: house.databaseUrl,
    noHandleSignals: true,
    pollInterval: 50,
    logger: new Logger(() => () => undefined),
    taskList: { 'nobody-ends-this': () => held },
  });
  try {
    await until(async () => (await lockedBy()) !== null);
    const id = await lockedBy();
    await house.db('workers').insert({ id, beat_at: new Date(Date.now() - 60_000) });
    await house.db('workers').insert({ id: 'live-worker', beat_at: new Date() });
    await workerStore.freeJobsOfTheDead(house.db);
    expect(await lockedBy()).toBeNull();
  } finally {
    letGo();
    await dead.stop();
  }
  expect(((await house.db('workers').select('id')) as { id: string }[]).map((w) => w.id)).toEqual(['live-worker']);
});
