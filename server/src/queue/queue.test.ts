import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { setTimeout as after } from 'node:timers/promises';
import type { ClipId, HandoffId, PlaceId, ProjectId } from '@legame/core/model';
import { openHouse, type House } from '../testing/house.ts';
import { jobStore } from '../stores/jobs.ts';
import { workerStore } from '../stores/workers.ts';
import { enqueue } from './queue.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse({ worker: false });
});
afterAll(() => house.close());
beforeEach(async () => {
  await house.db.raw('select graphile_worker.complete_jobs((select array_agg(id) from graphile_worker.jobs))');
  await house.db('jobs').del();
});

const waiting = async () =>
  (await house.db('graphile_worker.jobs').select('task_identifier', 'queue_name', 'key', 'run_at').orderBy('id')) as {
    task_identifier: string;
    queue_name: string | null;
    key: string;
    run_at: Date;
  }[];
/** Until somebody waits for what somebody else holds. */
async function untilOneWaits(): Promise<void> {
  const one = house.db('pg_stat_activity').whereRaw(`datname = current_database() and wait_event_type = 'Lock'`);
  while ((await one.clone().first('pid')) === undefined) await after(5);
}
const place = randomUUID() as PlaceId;
const project = randomUUID() as ProjectId;

describe('what is asked for twice', () => {
  test('waits once; about another folder it is another job', async () => {
    const first = await enqueue(house.db, 'index-place', { placeId: place, folder: '' }, 'KILN_A');
    const again = await enqueue(house.db, 'index-place', { placeId: place, folder: '' }, 'KILN_A');
    const folder = await enqueue(house.db, 'index-place', { placeId: place, folder: 'day1' }, 'KILN_A/day1');
    expect(again.id).toBe(first.id);
    expect(folder.id).not.toBe(first.id);
    expect(await waiting()).toHaveLength(2);
  });

  test('while it runs, is done once more after it', async () => {
    const first = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    await house.db('jobs').where({ id: first.id }).update({ state: 'running' });
    const next = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    expect(next.id).not.toBe(first.id);
    expect(next.state).toBe('queued');
  });

  test('does not begin before what asks for it again is done: it would not see that', async () => {
    const job = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    const inOrder: string[] = [];
    const { begun } = await house.db.transaction(async (trx) => {
      expect((await enqueue(trx, 'match-project', { projectId: project }, 'Saltglass')).id).toBe(job.id);
      const begins = jobStore.setState(house.db, job.id, 'running').then(() => inOrder.push('begun'));
      await untilOneWaits();
      inOrder.push('done');
      // A promise in an object is not waited for here.
      return { begun: begins };
    });
    await begun;
    expect(inOrder).toEqual(['done', 'begun']);
  });

  test('while it is being begun, is done once more after it', async () => {
    const job = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    const { next } = await house.db.transaction(async (trx) => {
      await jobStore.setState(trx, job.id, 'running');
      const asked = enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
      await untilOneWaits();
      return { next: asked };
    });
    expect((await next).id).not.toBe(job.id);
  });

  test('and waits for its time, is due at once when somebody asks; what waits anyhow is not put off', async () => {
    const later = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass', { afterMs: 600_000 });
    const [put] = await waiting();
    expect(put!.run_at.getTime()).toBeGreaterThan(Date.now() + 500_000);
    expect((await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass')).id).toBe(later.id);
    expect((await waiting())[0]!.run_at.getTime()).toBeLessThan(Date.now() + 5000);
    await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass', { afterMs: 600_000 });
    expect((await waiting())[0]!.run_at.getTime()).toBeLessThan(Date.now() + 5000);
  });
});

describe('what was asked for', () => {
  /** As if a worker had taken it up. */
  const take = async (worker: string) => {
    const { rows } = await house.db.raw<{ rows: { id: string }[] }>(
      `update graphile_worker._private_jobs set locked_by = ?, locked_at = now(), attempts = attempts + 1 returning id`,
      [worker],
    );
    return rows.length;
  };
  const free = async () => (await house.db('graphile_worker.jobs').whereNull('locked_by').pluck('key')) as string[];
  const lockedSince = (seconds: number) =>
    house.db.raw(`update graphile_worker._private_jobs set locked_at = now() - make_interval(secs => ?)`, [seconds]);
  const due = async () =>
    (await house.db('graphile_worker.jobs').whereRaw('attempts < max_attempts').pluck('key')) as string[];

  test('goes on when its worker dies, also where the same was asked for once more meanwhile', async () => {
    const first = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    expect(await take('dead')).toBe(1);
    await jobStore.setState(house.db, first.id, 'running');
    const next = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    await house.db.raw(`select graphile_worker.force_unlock_workers(array['dead'])`);
    expect((await due()).sort()).toEqual([first.id, next.id].sort());
  });

  test('goes on when its worker dies before it could say that it is there; one that lives is left its time', async () => {
    const { id } = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    await take('stranger');
    await workerStore.freeJobsOfTheDead(house.db);
    expect(await free()).toEqual([]);
    await lockedSince(60);
    await workerStore.freeJobsOfTheDead(house.db);
    expect(await free()).toEqual([id]);
  });

  test('goes on when the answer that gave it to a hand was lost; one that is being carried is left alone', async () => {
    const { id } = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    await take('a hand');
    await workerStore.beat(house.db, ['a hand']);
    await lockedSince(60);
    await workerStore.freeJobsOfTheDead(house.db);
    await workerStore.freeLost(house.db, ['another hand']);
    expect(await free()).toEqual([]);
    await workerStore.freeLost(house.db, ['a hand']);
    expect(await free()).toEqual([id]);
    await workerStore.retire(house.db, ['a hand']);
  });

  test('is ended with the reason once every try of it ended with its worker', async () => {
    const job = await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    await house.db('jobs').update({ state: 'running', created_at: new Date(Date.now() - 3600_000) });
    for (let n = 0; n < 5; n += 1) {
      await take('dead');
      expect(await jobStore.endGivenUp(house.db)).toEqual([]);
      await house.db.raw(`select graphile_worker.force_unlock_workers(array['dead'])`);
    }
    expect(await due()).toEqual([]);
    expect(await jobStore.endGivenUp(house.db)).toEqual([job.id]);
    expect(await jobStore.getJob(house.db, job.id)).toMatchObject({
      state: 'failed',
      problem: { code: 'job-given-up' },
    });
    expect(await jobStore.endGivenUp(house.db)).toEqual([]);
  });
});

describe('what goes one after the other', () => {
  test('is all indexing of a place, all matching, and what works on one drive; handoffs run side by side', async () => {
    await enqueue(house.db, 'index-place', { placeId: place, folder: '' }, 'KILN_A');
    await enqueue(house.db, 'index-place', { placeId: place, folder: 'day1' }, 'KILN_A/day1');
    await enqueue(house.db, 'match-project', { projectId: project }, 'Saltglass');
    for (let i = 0; i < 3; i += 1) {
      await enqueue(house.db, 'run-handoff', { handoffId: randomUUID() as HandoffId }, 'to colour');
      await enqueue(house.db, 'put-back', { clipId: randomUUID() as ClipId }, 'KILN_A/a.mov', { on: place });
    }
    const queues = (await waiting()).map((j) => j.queue_name);
    expect(queues).toEqual([
      `index-place:${place}`,
      `index-place:${place}`,
      'match-project',
      ...Array.from({ length: 3 }, () => [null, `put-back:${place}`]).flat(),
    ]);
  });

  test('lets what somebody waits for go before what nobody asked for', async () => {
    const inTurn = async () =>
      (
        (await house
          .db('graphile_worker.jobs as entry')
          .join('jobs', (on) => void on.on(house.db.raw('jobs.id::text = entry.key')))
          .orderBy(['entry.priority', 'entry.run_at'])
          .select('kind', 'jobs.payload')) as { kind: string; payload: object }[]
      ).map(({ kind, payload }) => [kind, ...Object.values(payload)].join(':'));
    const [asked, touched] = [randomUUID() as ProjectId, randomUUID() as ProjectId];
    await enqueue(house.db, 'match-project', { projectId: touched }, 'Saltglass', { byItself: true });
    await enqueue(house.db, 'match-project', { projectId: asked }, 'Another');
    expect(await inTurn()).toEqual([`match-project:${asked}`, `match-project:${touched}`]);
    // Asked for by somebody after all.
    await enqueue(house.db, 'match-project', { projectId: touched }, 'Saltglass');
    await enqueue(house.db, 'match-project', { projectId: touched }, 'Saltglass', { byItself: true });
    await enqueue(house.db, 'index-place', { placeId: place, folder: '' }, 'KILN_A', { byItself: true });
    expect(await inTurn()).toEqual([asked, touched].map((p) => `match-project:${p}`).concat(`index-place::${place}`));
  });
});

describe('a payload', () => {
  test('that is not what its kind is about is refused before anything is written', async () => {
    await expect(enqueue(house.db, 'index-place', { placeId: 'x' as PlaceId, folder: '' }, 'x')).rejects.toThrow();
    await expect(
      enqueue(house.db, 'fetch-shelved', { shelf: 'attic' as 'vault', path: 'KILN_A/a.mov' }, 'a.mov'),
    ).rejects.toThrow();
    expect(await waiting()).toEqual([]);
    expect(await house.db('jobs')).toEqual([]);
  });

  test('and its job come and go with the transaction they were asked for in', async () => {
    await expect(
      house.db.transaction(async (trx) => {
        await enqueue(trx, 'match-project', { projectId: project }, 'Saltglass');
        throw new Error('changed my mind');
      }),
    ).rejects.toThrow('changed my mind');
    expect([await waiting(), await house.db('jobs')]).toEqual([[], []]);
  });
});
