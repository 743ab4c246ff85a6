import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdirSync, renameSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type { ComparedLook, PlaceView } from '@legame/core/contract';
import type { ClipId, MediaFileId } from '@legame/core/model';
import { keepPictures } from '../jobs/keeping.ts';
import { Cache } from '../disk/own.ts';
import { clipPictureStore } from '../stores/clipPictures.ts';
import { clientOf } from '../testing/client.ts';
import { cutOf } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { dropOrphans, keepPicture } from './keptPictures.ts';
import { dropPictures } from './pictures.ts';

/** Films that look different, linked, seen, and then gone: what is found instead is compared with how they looked. */
let house: House;
let projectId: string;
let bay: string;
const client = clientOf(() => house);
const { api, get } = client;
const detail = (name: string) => client.detail(projectId, name);
const index = async () => {
  const [place] = await get<PlaceView[]>('/places');
  await client.index(place!.id);
  await house.idle();
};
const wanting = () => clipPictureStore.listWanting(house.db, 100);
const look = (clipId: string, mediaFileId: string) => get<ComparedLook>(`/clips/${clipId}/look/${mediaFileId}`);
const gradient = (colours: string, x = 10) =>
  `gradients=s=64x36:r=25:n=2:${colours}:x0=${x}:y0=4:x1=${60 - x}:y1=30:speed=0.00001`;
const glow = 'c0=0xffcc55:c1=0x200804';
const glass = 'c0=0x081820:c1=0xc0f0e0';

beforeAll(async () => {
  house = await openHouse();
  bay = join(house.folder, 'KILN');
  makeFilm(join(bay, 'day1/bowl.mov'), { shows: gradient(glow) });
  makeFilm(join(bay, 'day1/door.mov'), { shows: gradient(glass, 50) });
  makeFilm(join(bay, 'day1/black.mov'), { colour: 'black' });
  await client.post('/places', { path: bay }).expect(201);
  await house.idle();
  projectId = await client.newProject('Saltglass');
  const names = ['bowl.mov', 'door.mov', 'black.mov'];
  const urls = names.map((name) => `file://${join(bay, 'day1', name)}`);
  await client.bring(projectId, cutOf(...urls), 'cut.otio').expect(201);
  await house.idle();
}, 60_000);
afterAll(() => house.close());

describe('while clips are linked', () => {
  test('a picture of each is taken by itself, once nothing else is to be done', async () => {
    await get(`/projects/${projectId}/clips`);
    expect(await wanting()).toHaveLength(3);
    const keeping = keepPictures(house, { restMs: 0, lookEveryMs: 20 });
    for (let i = 0; i < 600 && (await wanting()).length > 0; i += 1) await after(50);
    keeping.stop();
    expect(await wanting()).toEqual([]);
    const bowl = await detail('bowl.mov');
    expect(bowl.kept).toMatchObject({ fileName: 'bowl.mov', isOfTied: true });
    const sent = await api().get(`/api/clips/${bowl.id}/picture`).set('Host', 'localhost').expect(200);
    expect(sent.headers['content-type']).toBe('image/jpeg');
  });

  test('not while a job waits', async () => {
    const { id } = await detail('bowl.mov');
    await house.db('clip_pictures').where({ clip_id: id }).delete();
    await house.db('jobs').insert({ kind: 'match-project', payload: { projectId }, about: 'x', state: 'queued' });
    const keeping = keepPictures(house, { restMs: 0, lookEveryMs: 20 });
    await after(500);
    expect(await wanting()).toHaveLength(1);
    await house.db('jobs').where({ about: 'x' }).delete();
    for (let i = 0; i < 600 && (await wanting()).length > 0; i += 1) await after(50);
    keeping.stop();
    expect((await detail('bowl.mov')).kept).not.toBeNull();
  });
});

describe('when they go dark', () => {
  test('what is found is told apart from what only bears its name, and nothing is linked by that', async () => {
    renameSync(join(bay, 'day1'), join(house.folder, 'elsewhere'));
    makeFilm(join(bay, 'one/bowl.mov'), { shows: `${gradient(glow)},scale=128:72`, reel: 'X' });
    makeFilm(join(bay, 'two/bowl.mov'), { shows: gradient(glass), reel: 'X' });
    makeFilm(join(bay, 'one/black.mov'), { colour: 'black', reel: 'X' });
    await index();
    const bowl = await detail('bowl.mov');
    expect(bowl).toMatchObject({ status: { status: 'missing' }, kept: { isOfTied: false, fileName: 'bowl.mov' } });
    await api().get(`/api/clips/${bowl.id}/picture`).set('Host', 'localhost').expect(200);
    const verdicts = new Map<string, ComparedLook>();
    for (const { file } of bowl.candidatesInFull.filter((c) => c.file.name === 'bowl.mov'))
      verdicts.set(file.folder, await look(bowl.id, file.id));
    expect([...verdicts].map(([folder, { verdict }]) => [folder, verdict]).sort()).toEqual([
      ['one', 'same'],
      ['two', 'other'],
    ]);
    expect((await detail('bowl.mov')).tied).toBeNull();
  });

  test('what is of one colour looks like nothing', async () => {
    const black = await detail('black.mov');
    expect(black.kept).not.toBeNull();
    const [candidate] = black.candidatesInFull;
    expect(await look(black.id, candidate!.file.id)).toMatchObject({ shared: null, verdict: null });
  });

  test('another recording under the very name is not taken for how the clip looks', async () => {
    for (const folder of ['one', 'two']) rmSync(join(bay, folder), { recursive: true });
    makeFilm(join(bay, 'day1/door.mov'), { shows: gradient(glass), timecode: '05:00:00:00', reel: 'Z9' });
    utimesSync(join(bay, 'day1/door.mov'), new Date(1e12), new Date(1e12));
    await index();
    const door = await detail('door.mov');
    expect(door.status.status).not.toBe('linked');
    expect((await wanting()).map((w) => w.clipId)).not.toContain(door.id);
    const lying = [door.tiedFile, ...door.candidatesInFull].find((w) => w !== null)!;
    expect(await look(door.id, lying.file.id)).toMatchObject({ verdict: 'other' });
  });

  test('a clip of which none is kept says so', async () => {
    const { id } = await detail('door.mov');
    await house.db('clip_pictures').where({ clip_id: id }).delete();
    await api().get(`/api/clips/${id}/picture`).set('Host', 'localhost').expect(404);
    expect((await detail('door.mov')).kept).toBeNull();
  });
});

test('of a file that gives no picture that is kept, and it is not tried again; a drive that is pulled is', async () => {
  const door = await detail('door.mov');
  const file = (door.tiedFile ?? door.candidatesInFull[0])!.file;
  await dropPictures(house, [file.id as MediaFileId]);
  const keep = () => keepPicture(house, door.id as ClipId, file.id as MediaFileId);
  const path = join(bay, 'day1/door.mov');
  renameSync(path, `${path}.away`);
  await expect(keep()).rejects.toThrow();
  // The one that works by itself comes back to it.
  const id = door.id as ClipId;
  await house.db('clip_rows').where({ clip_id: id }).update({ status_there: 'linked' });
  const keeping = keepPictures(house, { restMs: 0, lookEveryMs: 20, tryAgainMs: 100 });
  await after(400);
  expect(await clipPictureStore.get(house.db, id)).toBeNull();
  renameSync(`${path}.away`, path);
  for (let i = 0; i < 200 && !(await clipPictureStore.get(house.db, id)); i += 1) await after(50);
  keeping.stop();
  expect(await clipPictureStore.get(house.db, id)).toMatchObject({ isMade: true });
  await house.db('clip_pictures').where({ clip_id: id }).delete();
  await dropPictures(house, [file.id as MediaFileId]);
  rmSync(path);
  expect(await clipPictureStore.get(house.db, door.id as ClipId)).toBeNull();
  // Other bytes under the size and time that were read: nothing of it can be decoded.
  writeFileSync(path, Buffer.alloc(file.sizeInBytes, 7));
  await keep();
  expect(await clipPictureStore.get(house.db, door.id as ClipId)).toMatchObject({ isMade: false, look: null });
});

test('pictures of clips that are no more go, those of others stay', async () => {
  const cache = new Cache(house.config.cacheFolder);
  const { id } = await detail('bowl.mov');
  await cache.keep('clips/0b0f2c6e-4f0f-4d7c-9a54-2f1d3c4b5a69/x.jpg', Buffer.alloc(10));
  await cache.keep('clips/no id at all/x.jpg', Buffer.alloc(10));
  await dropOrphans(house);
  expect(await cache.foldersIn('clips')).toContain(id);
  expect((await cache.foldersIn('clips')).filter((name) => name.startsWith('0b0f') || name.startsWith('no'))).toEqual(
    [],
  );
});

test('when room is short, pictures of clips go last', async () => {
  const path = join(house.folder, '.cache-of-its-own');
  mkdirSync(path);
  const cache = new Cache(path);
  await cache.keep('clips/a/x.jpg', Buffer.alloc(1000));
  await after(20);
  for (const name of ['pictures/a/x.jpg', 'pictures/b/x.jpg']) await cache.keep(name, Buffer.alloc(1000));
  await cache.trimTo(1500);
  expect(await cache.find('clips/a/x.jpg')).not.toBeNull();
  expect(await cache.find('pictures/b/x.jpg')).toBeNull();
  await cache.trimTo(500);
  expect(await cache.find('clips/a/x.jpg')).toBeNull();
});
