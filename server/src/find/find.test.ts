import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { PlaceView, Thing } from '@legame/core/contract';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';

let house: House;
const client = clientOf(() => house);
const find = (text: string) => client.get<Thing[]>(`/find?text=${encodeURIComponent(text)}`);
const named = async (text: string) =>
  (await find(text)).map(
    (t) => `${t.what} ${t.what === 'project' ? t.projectName : t.what === 'clip' ? t.fileName : t.name}`,
  );

beforeAll(async () => {
  house = await openHouse();
  await kilnIn(house);
  const trailer = await client.newProject('Trailer 100%');
  await client.bring(trailer, makeList([event('bowl_close.mov')]), 'trailer bowl.edl', { reading: pal }).expect(201);
  mkdirSync(join(house.folder, 'SHED [old]'));
  await client.post('/places', { path: join(house.folder, 'SHED [old]') }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

test('every word counts, in any project and any place, whatever its case', async () => {
  expect(await named('BOWL')).toEqual([
    'document trailer bowl.edl',
    'clip bowl.mov',
    'clip bowl_close.mov',
    'file bowl.mov',
  ]);
  expect(await named('bowl close')).toEqual(['clip bowl_close.mov']);
  expect(await named('close bowl')).toEqual(['clip bowl_close.mov']);
  expect(await named('day2 spare')).toEqual(['file spare copy.mov', 'file spare.mov']);
  expect(await named('nothing is called so')).toEqual([]);
});

test('the project at hand does not crowd out the others', async () => {
  const { projectId } = (await find('trailer 100'))[0] as Extract<Thing, { what: 'project' }>;
  const beside = await client.get<Thing[]>(`/find?text=bowl&beside=${projectId}`);
  expect(beside.flatMap((t) => (t.what === 'clip' ? [t.fileName] : []))).toEqual(['bowl.mov']);
  // Its documents are found nowhere else.
  expect(beside.some((t) => t.what === 'document')).toBe(true);
  expect(await client.get<Thing[]>(`/find?text=trailer&beside=${projectId}`)).toMatchObject([{ what: 'document' }]);
});

test('what means something to a pattern means itself', async () => {
  expect(await named('100%')).toEqual(['project Trailer 100%']);
  expect(await named('1%0')).toEqual([]);
  expect(await named('bowl_')).toEqual(['clip bowl_close.mov']);
  expect(await named('[old]')).toEqual(['place SHED [old]']);
  expect(await named("'; drop table clips; --")).toEqual([]);
  expect((await find('bowl')).length).toBeGreaterThan(0);
});

test('a deleted project is not found, and comes back with its name', async () => {
  const [project] = await find('trailer 100');
  const id = project!.what === 'project' ? project!.projectId : '';
  await client.send('delete', `/projects/${id}`).expect(204);
  expect(await named('trailer')).toEqual([]);
  expect(await named('bowl_close')).toEqual([]);
  await client.post(`/projects/deleted/${id}/restore`).expect(200);
  expect(await named('trailer 100')).toEqual(['project Trailer 100%']);
});

test('a single letter is refused, and of thousands only the first few are told', async () => {
  await client.send('post', '/projects', { name: 'x' }).expect(201);
  await client.api().get('/api/find?text=b').set('Host', 'localhost').expect(400);
  const [place] = await client.get<PlaceView[]>('/places');
  await house.db.raw(
    `insert into media_files (place_id, folder, name, size_in_bytes, modified_ms)
     select ?, 'many', n || ' glass.mov', 1, 1 from generate_series(1, 3000) n`,
    [place!.id],
  );
  expect((await find('glass')).filter((t) => t.what === 'file')).toHaveLength(8);
});
