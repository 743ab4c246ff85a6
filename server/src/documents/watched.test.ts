import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { mkdirSync, renameSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { DocumentView, PlaceView, Watched, WouldChange } from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';

/** A project with a cut, and a folder into which the editor puts newer ones. */
let house: House;
let projectId: string;
let placeId: string;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
const of = (path: string) => `/projects/${projectId}/watched${path}`;
const look = () => client.get<Watched>(of(''));
const news = async () => (await look()).newer.map((n) => `${n.path} for ${n.replaces.name}`);
const documents = () => client.get<DocumentView[]>(`/projects/${projectId}/documents`);
const watch = (folder: string) => client.put(of(''), { folder: { placeId, folder } }).expect(200);
const cut = (...names: string[]) => makeList(names.map((name) => event(name)));
/** Written a while ago: what was written just now may still be being written. */
const write = (path: string, content: string, secondsAgo = 60) => {
  writeFileSync(at(path), content);
  const then = new Date(Date.now() - secondsAgo * 1000);
  utimesSync(at(path), then, then);
};

beforeAll(async () => {
  house = await openHouse();
  mkdirSync(at('BAY/from the editor'), { recursive: true });
  mkdirSync(at('secret'));
  projectId = await client.newProject('Saltglass');
  placeId = ((await client.post('/places', { path: at('BAY') }).expect(201)).body as PlaceView).id;
  await client.bring(projectId, cut('bowl.mov', 'door.mov'), 'Saltglass cut 7.edl', { reading: pal }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

test('nobody looks before a folder is named; then nothing is new that was brought in', async () => {
  expect(await look()).toEqual({ folder: null, isThere: false, documents: 0, newer: [] });
  write('BAY/from the editor/Saltglass cut 7.edl', cut('bowl.mov', 'door.mov'));
  write('BAY/from the editor/music.edl', cut('bell.wav'));
  expect((await watch('/from the editor/')).body).toMatchObject({
    folder: { placeName: 'BAY', folder: 'from the editor' },
    isThere: true,
    documents: 2,
    newer: [],
  });
});

test('a newer one is told, with what it would change; brought in, it keeps the links and is told no more', async () => {
  write('BAY/from the editor/Saltglass cut 8.edl', cut('bowl.mov', 'kiln.mov', 'pipe.mov'));
  expect(await news()).toEqual(['from the editor/Saltglass cut 8.edl for Saltglass cut 7.edl']);
  const [newer] = (await look()).newer;
  const query = new URLSearchParams({ path: newer!.path, replaces: newer!.replaces.id });
  const would = await client.get<WouldChange>(of(`/changes?${query.toString()}`));
  expect(would).toMatchObject({ kept: 1, fresh: 2, gone: 1 });
  expect(would.timelines).toMatchObject([{ unchanged: 1, only: null }]);
  // Looking changed nothing.
  expect((await documents()).map((d) => d.name)).toEqual(['Saltglass cut 7.edl']);

  const before = (await client.rows(projectId)).find((r) => r.fileName === 'bowl.mov')!.id;
  await client
    .post(`/projects/${projectId}/documents/from-place`, { placeId, path: newer!.path, replaces: newer!.replaces.id })
    .expect(201);
  expect((await documents()).map((d) => d.name)).toEqual(['Saltglass cut 8.edl']);
  expect((await client.rows(projectId)).find((r) => r.fileName === 'bowl.mov')!.id).toBe(before);
  expect(await news()).toEqual([]);
  await house.idle();
});

test('written over under its own name it is told again; what is not wanted is not, until it changes', async () => {
  write('BAY/from the editor/Saltglass cut 8.edl', cut('bowl.mov', 'other.mov'), 50);
  expect(await news()).toEqual(['from the editor/Saltglass cut 8.edl for Saltglass cut 8.edl']);
  await client.post(of('/pass-over'), { path: 'from the editor/Saltglass cut 8.edl' }).expect(200);
  expect(await news()).toEqual([]);
  write('BAY/from the editor/Saltglass cut 8.edl', cut('bowl.mov', 'another.mov'), 40);
  expect(await news()).toHaveLength(1);
  await client.post(of('/pass-over'), { path: 'from the editor/Saltglass cut 8.edl' }).expect(200);
});

test('one that is called otherwise and says the same title is told once it was written after', async () => {
  // Brought in a minute ago, as far as the tests' hurry allows.
  await house.db('documents').update({ brought_in_at: new Date(Date.now() - 120_000) });
  write('BAY/from the editor/of tuesday.edl', cut('bowl.mov', 'x.mov'), 60);
  expect(await news()).toEqual(['from the editor/of tuesday.edl for Saltglass cut 8.edl']);
  await client.post(of('/pass-over'), { path: 'from the editor/of tuesday.edl' }).expect(200);
  await house.db('documents').update({ brought_in_at: new Date() });
  expect(await news()).toEqual([]);
});

test('what is being written is waited for; what cannot be read holds up nothing', async () => {
  write('BAY/from the editor/Saltglass cut 9.edl', cut('half'), 0);
  expect(await news()).toEqual([]);
  // A share’s clock may run ahead of this one.
  write('BAY/from the editor/Saltglass cut 9.edl', cut('bowl.mov'), -3600);
  expect(await news()).toHaveLength(1);
  write('BAY/from the editor/Saltglass cut 9.edl', cut('bowl.mov'), 30);
  write('BAY/from the editor/Saltglass cut 10.otioz', 'no zip at all');
  symlinkSync(at('secret/Saltglass cut 11.edl'), at('BAY/from the editor/Saltglass cut 11.edl'));
  expect(await news()).toEqual(['from the editor/Saltglass cut 9.edl for Saltglass cut 8.edl']);
});

test('only what lies in the watched folder is compared or passed over', async () => {
  write('secret/Saltglass cut 12.edl', cut('x'));
  write('BAY/Saltglass cut 12.edl', cut('x'));
  const replaces = (await documents())[0]!.id;
  for (const path of [
    '../secret/Saltglass cut 12.edl',
    'Saltglass cut 12.edl',
    'from the editor/../Saltglass cut 12.edl',
  ]) {
    await client.post(of('/pass-over'), { path }).expect(404);
    const query = new URLSearchParams({ path, replaces });
    expect(
      (
        await client
          .api()
          .get(`/api${of(`/changes?${query.toString()}`)}`)
          .set('Host', 'localhost')
      ).status,
    ).toBe(404);
  }
  await client.put(of(''), { folder: { placeId, folder: '../secret' } }).expect(400);
});

test('a place that goes is said, and back again it is looked at as before; nobody looks any more when told so', async () => {
  renameSync(at('BAY'), at('AWAY'));
  expect(await look()).toMatchObject({ isThere: false, newer: [], folder: { placeName: 'BAY' } });
  renameSync(at('AWAY'), at('BAY'));
  expect(await news()).toHaveLength(1);
  await client.put(of(''), { folder: null }).expect(200);
  expect((await look()).folder).toBeNull();
});
