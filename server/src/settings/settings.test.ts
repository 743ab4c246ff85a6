import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { join } from 'node:path';
import { standardPreferences, type HandoffPreview, type PlaceView, type RoomMap } from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

let house: House;
const client = clientOf(() => house);
beforeAll(async () => {
  house = await openHouse();
}, 120_000);
afterAll(() => house.close());

const of = (person: string) => `/people/${encodeURIComponent(person)}/preferences`;

test('preferences are kept under a name, whatever it is; who is not known has what everybody has', async () => {
  expect(await client.get(of('Nobody'))).toEqual(standardPreferences);
  expect(await client.get('/people')).toEqual([]);
  for (const person of ['Ada', "O'Neil / Söhne", '../x', '100%']) {
    await client.put(of(person), { theme: 'lamp', handlesInFrames: 12 }).expect(200);
    expect(await client.get(of(person))).toEqual({ ...standardPreferences, theme: 'lamp', handlesInFrames: 12 });
  }
  await client.put(of('Ada'), { ...standardPreferences, dates: 'year-first' }).expect(200);
  expect(await client.get(of('Ada'))).toEqual({ ...standardPreferences, dates: 'year-first' });
  expect(await client.get<string[]>('/people')).toHaveLength(4);
});

test('what no preference can be is refused, and nothing of it is kept', async () => {
  for (const said of [{ theme: 'pink' }, { handlesInFrames: -1 }, { handlesInFrames: 1e9 }, { dates: null }])
    await client.put(of('Eve'), said).expect(400);
  await client.put(of('x'.repeat(81)), {}).expect(400);
  await client.put(of('   '), {}).expect(400);
  expect(await client.get<string[]>('/people')).not.toContain('Eve');
  for (const said of [
    { headroomPercent: 81, cacheLimitInMB: null },
    { headroomPercent: 20 },
    { headroomPercent: 5, cacheLimitInMB: 0 },
  ])
    await client.put('/settings', said).expect(400);
  expect(await client.get('/settings')).toEqual({ headroomPercent: 20, cacheLimitInMB: null });
});

test('the headroom that is said counts wherever room is reckoned', async () => {
  makeFilm(join(house.folder, 'KILN', 'bowl.mov'), { timecode: '01:00:00:00' });
  const place = (await client.post('/places', { path: join(house.folder, 'KILN') }).expect(201)).body as PlaceView;
  await house.idle();
  const project = await client.newProject('Saltglass');
  const preview = async () =>
    (
      await client
        .post(`/projects/${project}/handoffs/preview`, { name: 'set', targetFolder: join(house.folder, 'KILN') })
        .expect(200)
    ).body as HandoffPreview;
  const usable = async () => (await preview()).targets[0]!.room;
  const share = async () =>
    (await client.get<RoomMap>(`/projects/${project}/places/${place.id}/room?folder=`)).headroomShare;
  const before = await usable();
  expect(before.headroomShare).toBe(0.2);
  await client.put('/settings', { headroomPercent: 50, cacheLimitInMB: 500 }).expect(200);
  const after = await usable();
  expect(after.headroomShare).toBe(0.5);
  expect(before.usableInBytes - after.usableInBytes).toBe(Math.round(before.totalInBytes * 0.3));
  expect(await share()).toBe(0.5);
});
