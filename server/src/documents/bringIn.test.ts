import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ClipRow } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import { differingRows, renewRows } from '../clips/renewal.ts';
import type { Database, Transaction } from '../db/database.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import { documentStore } from '../stores/documents.ts';
import { projectStore } from '../stores/projects.ts';
import { feltRows, manyRows } from '../stores/staleRows.ts';
import { clipOf, timelineOf } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { bringIn, readAgain } from './bringIn.ts';

let house: House;
let projectId: ProjectId;
beforeAll(async () => {
  // Without a worker nothing comes of a document but what bringing it in does.
  house = await openHouse({ worker: false });
  projectId = (await projectStore.createProject(house.db, 'Saltglass')).id;
});
afterAll(() => house.close());

const named = (take: string, count: number) =>
  Buffer.from(timelineOf(...Array.from({ length: count }, (_, i) => clipOf(`${take}_${i}.wav`, { start: i }))));
const bring = (db: Database | Transaction, take: string, count: number) =>
  bringIn({ db }, projectId, { name: `${take}.otio`, bytes: named(take, count), reading: {} });
const listed = async (db: Database | Transaction = house.db) =>
  (await clipRowStore.listJson(db, projectId)).map((json) => JSON.parse(json) as ClipRow);
const told = ({ id, name, documentId, uses, bin }: ClipRow) => ({ id, name, documentId, uses, bin });

test('of a document of very many clips the first are in the list as soon as it is, each where it stays', async () => {
  await bring(house.db, 'few', 3);
  await renewRows(house.db, projectId);
  for (const [take, before] of [
    ['roll', 3],
    ['reel', 3 + manyRows],
  ] as const) {
    const id = await bring(house.db, take, manyRows);
    const first = await listed();
    expect(first).toHaveLength(before + feltRows);
    expect(first[before]).toMatchObject({ name: `${take}_0.wav`, documentId: id, uses: 1 });
    // Who only looks does not make all the others.
    await renewRows(house.db, projectId, { onlyLooks: true });
    expect(await listed()).toHaveLength(first.length);
    await renewRows(house.db, projectId);
    const all = await listed();
    expect(all).toHaveLength(before + manyRows);
    expect(first.map(told)).toEqual(all.slice(0, first.length).map(told));
    expect(await differingRows(house.db, projectId)).toEqual([]);
  }
});

test('a document whose bringing in came to nothing leaves nothing behind, and is what it is when it comes again', async () => {
  const before = await listed();
  const undone = house.db.transaction(async (trx) => {
    await bring(trx, 'late', manyRows);
    expect((await listed(trx)).length).toBeGreaterThan(before.length);
    throw new Error('the drive was pulled');
  });
  await expect(undone).rejects.toThrow('pulled');
  expect(await listed()).toEqual(before);
  const id = await bring(house.db, 'late', 2);
  const [{ timelines, sizeInBytes }, again] = [
    await documentStore.getDocument(house.db, id),
    await house.db('documents').where({ id }).first('timelines', house.db.raw('octet_length(content) as bytes')),
  ] as [Awaited<ReturnType<typeof documentStore.getDocument>>, { timelines: unknown; bytes: number }];
  // As it is at hand, so it was kept.
  expect(JSON.parse(JSON.stringify(timelines))).toEqual(again.timelines);
  expect(sizeInBytes).toBe(again.bytes);
  await readAgain(house, id, {});
  await renewRows(house.db, projectId);
  expect((await listed()).slice(-2).map((r) => r.name)).toEqual(['late_0.wav', 'late_1.wav']);
  expect(await differingRows(house.db, projectId)).toEqual([]);
});
