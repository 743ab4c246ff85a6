import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Act, ClipRow, History, Job, PlaceView } from '@legame/core/contract';
import { tidyUp } from '../jobs/tidying.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { clientOf } from '../testing/client.ts';
import { makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';
import type { PlaceId } from '@legame/core/model';

/** The same asked for by several at the same moment. */
let house: House;
let projectId: string;
let kiln: PlaceId;
const { api, get, post, send, bring, rows } = clientOf(() => house);
const remove = (path: string) => send('delete', path);
const atOnce = async <T>(times: number, ask: () => PromiseLike<T>): Promise<T[]> =>
  Promise.all(Array.from({ length: times }, () => ask()));
const history = async () => (await get<History>(`/projects/${projectId}/history`)).entries;

beforeAll(async () => {
  house = await openHouse();
  const made = await kilnIn(house);
  projectId = made.projectId;
  kiln = made.kiln as PlaceId;
}, 120_000);
afterAll(() => house.close());

test('one document brought in six times at once is one document', async () => {
  const list = makeList([{ reel: 'R1', from: '00:00:00:00', to: '00:00:01:00', name: 'x.mov', file: '/V/x.mov' }]);
  const answers = await atOnce(6, () => bring(projectId, list, 'again.edl', { reading: pal }));
  expect(answers.filter((a) => ![201, 409].includes(a.status))).toEqual([]);
  const ids = new Set(answers.filter((a) => a.status === 201).map((a) => (a.body as { id: string }).id));
  expect(ids.size).toBe(1);
  const documents = await get<{ name: string }[]>(`/projects/${projectId}/documents`);
  expect(documents.filter((d) => d.name === 'again.edl')).toHaveLength(1);
  // Other bytes under the name are another document, about which a person is asked.
  await bring(projectId, list.replaceAll('x.mov', 'y.mov'), 'again.edl', { reading: pal }).expect(409);
});

test('what is certain is linked once, and is one act', async () => {
  await house.idle();
  const answers = await atOnce(5, () => post(`/projects/${projectId}/links/certain`, {}));
  expect(answers.map((a) => a.status)).toEqual([200, 200, 200, 200, 200]);
  expect((await history()).filter((e) => e.verb === 'link-by-rule').length).toBeLessThanOrEqual(1);
});

test('links of one clip made at once leave a history that can be taken back step by step', async () => {
  // A clip that is tied to one of the spares wants the other, which is cleared below.
  const files = (await mediaFileStore.listUnder(house.db, kiln, '')).filter(
    (f) => f.facts && !f.name.startsWith('spare'),
  );
  const lost = async (): Promise<ClipRow> => (await rows(projectId)).find((r) => r.fileName === 'lost.mov')!;
  const { id } = await lost();
  await Promise.all(
    files.map((file) =>
      post(`/projects/${projectId}/links`, { by: 'hand', links: [{ clipId: id, mediaFileId: file.id }] }),
    ),
  );
  for (let left = files.length; left > 0; left -= 1) {
    expect((await lost()).tied).not.toBeNull();
    await post(`/projects/${projectId}/undo`, {}).expect(200);
  }
  expect((await lost()).tied).toBeNull();
  for (let left = files.length; left > 0; left -= 1) await post(`/projects/${projectId}/redo`, {}).expect(200);
});

test('an act that is meant is taken back once, however often that is asked for', async () => {
  const [newest, before] = (await history()).filter((e) => e.state === 'done');
  const undone = await atOnce(5, () => post(`/projects/${projectId}/undo`, { act: newest!.id }));
  expect(undone.map((a) => [a.status, (a.body as Act).id])).toEqual(Array(5).fill([200, newest!.id]));
  expect((await history()).find((e) => e.id === before!.id)?.state).toBe('done');
  await post(`/projects/${projectId}/undo`, { act: 1_000_000 }).expect(409);
  const redone = await atOnce(5, () => post(`/projects/${projectId}/redo`, { act: newest!.id }));
  expect(redone.map((a) => [a.status, (a.body as Act).id])).toEqual(Array(5).fill([200, newest!.id]));
  // Where none is named, each takes back one.
  const two = await atOnce(2, () => post(`/projects/${projectId}/undo`, {}));
  expect(new Set(two.map((a) => (a.body as Act).id)).size).toBe(2);
});

test('a file is cleared once and comes back once', async () => {
  await house.idle();
  const spare = (await mediaFileStore.listUnder(house.db, kiln, '')).find((f) => f.name === 'spare copy.mov')!;
  const cleared = await atOnce(4, () => post(`/places/${kiln}/clear`, { mediaFileIds: [spare.id] }));
  expect(cleared.filter((a) => a.status >= 500)).toEqual([]);
  const done = cleared.flatMap((a) => (a.body as { cleared?: { id: string }[] }).cleared ?? []);
  expect(done).toHaveLength(1);
  const restored = await atOnce(4, () => post(`/cleared/${done[0]!.id}/restore`));
  expect(restored.map((a) => a.status).sort()).toEqual([200, 409, 409, 409]);
  await house.idle();
  expect((await get<PlaceView[]>('/places')).find((p) => p.id === kiln)).toMatchObject({ files: 6 });
});

test('indexed again by many at once, a place ends up indexed, and nothing is said to be under way for ever', async () => {
  const answers = await atOnce(8, () => post(`/places/${kiln}/index`, {}));
  expect(answers.filter((a) => a.status !== 202)).toEqual([]);
  await house.idle();
  const jobs = (await get<Job[]>('/jobs')).filter((j) => j.kind === 'index-place');
  expect(jobs.filter((j) => j.state !== 'done')).toEqual([]);
});

test('a deleted project is gone for everybody, its jobs are stopped, and it comes back as it was', async () => {
  const before = await rows(projectId);
  await post(`/projects/${projectId}/match`, {});
  await remove(`/projects/${projectId}`).expect(204);
  for (const path of ['', '/clips', '/causes', '/history'])
    await api().get(`/api/projects/${projectId}${path}`).set('Host', 'localhost').expect(404);
  await post(`/projects/${projectId}/undo`, {}).expect(404);
  expect((await get<{ id: string }[]>('/projects')).map((p) => p.id)).not.toContain(projectId);
  await house.idle();
  const [gone] = await get<{ id: string; keptUntil: string }[]>('/projects/deleted');
  expect(gone!.id).toBe(projectId);
  expect(Date.parse(gone!.keptUntil)).toBeGreaterThan(Date.now() + 6 * 24 * 3600_000);
  await post(`/projects/deleted/${projectId}/restore`).expect(200);
  await house.idle();
  expect(await rows(projectId)).toEqual(before);
  // Only after its time it is removed for good.
  await remove(`/projects/${projectId}`).expect(204);
  await tidyUp(house);
  expect(await get<object[]>('/projects/deleted')).toHaveLength(1);
  await house.db('projects').update({ deleted_at: new Date(Date.now() - 8 * 24 * 3600_000) });
  await tidyUp(house);
  expect(await get<object[]>('/projects/deleted')).toEqual([]);
});

test('jobs that run or wait are told of, however many have ended', async () => {
  const [first] = (await house.db('jobs').insert(waiting).returning('id')) as { id: string }[];
  await house.db('jobs').insert(Array.from({ length: 80 }, () => ({ ...waiting, state: 'done' })));
  const jobs = await get<Job[]>('/jobs');
  expect(jobs.filter((j) => j.state === 'queued').map((j) => j.id)).toEqual([first!.id]);
  expect(jobs).toHaveLength(51);
});
const waiting = { kind: 'hash-files', payload: JSON.stringify({ mediaFileId: crypto.randomUUID() }), about: 'x' };
