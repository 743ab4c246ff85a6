import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { existsSync, mkdirSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Folders, FoldersAt, HandoffPreview, History, PlaceView, Problem } from '@legame/core/contract';
import { defaultTemplate, withContent, withFolder, withName } from '@legame/core/folders';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

let house: House;
let projectId: string;
let place: PlaceView;
const client = clientOf(() => house);
let n = 0;

beforeAll(async () => {
  house = await openHouse();
}, 120_000);
afterAll(() => house.close());
beforeEach(async () => {
  n += 1;
  const folder = join(house.folder, `BAY_${n}`);
  makeFilm(join(folder, 'cards', 'A001', 'bowl.mov'), { timecode: '01:00:00:00' });
  projectId = await client.newProject(`Saltglass ${n}`);
  place = (await client.post('/places', { path: folder }).expect(201)).body as PlaceView;
  await house.idle();
});

const at = () => `/projects/${projectId}/folder-template`;
const template = async () => (await client.get<Folders>(at())).template;
const put = (to: unknown) => client.put(at(), { template: to });
const lie = async (folder = 'film') =>
  (await client.get<FoldersAt>(`${at()}/at?placeId=${place.id}&folder=${folder}`)).folders;
const make = (folder = 'film') => client.post(`${at()}/make`, { placeId: place.id, folder });
const root = (...parts: string[]) => join(house.folder, `BAY_${n}`, ...parts);
const codeOf = (answer: { body: unknown }) => (answer.body as Problem).code;

describe('the folders of a project', () => {
  test('are those of every project until somebody says others; that is an act, and is undone', async () => {
    expect(await client.get<Folders>(at())).toEqual({ template: defaultTemplate, isOwn: false, namePattern: null });
    const own = withFolder(withName(defaultTemplate, 'picture', 'film'), 'film', 'day 1');
    await put(own).expect(200);
    expect(await client.get<Folders>(at())).toMatchObject({ template: own, isOwn: true });
    const { entries } = await client.get<History>(`/projects/${projectId}/history`);
    expect(entries[0]).toMatchObject({ verb: 'set-folders', state: 'done' });
    await client.post(`/projects/${projectId}/undo`).expect(200);
    expect(await template()).toEqual(defaultTemplate);
    await client.post(`/projects/${projectId}/redo`).expect(200);
    expect(await template()).toEqual(own);
    await put(null).expect(200);
    expect(await client.get<Folders>(at())).toMatchObject({ isOwn: false });
  });

  test('that no system could make, or that lead out, are refused, and nothing changes', async () => {
    for (const path of ['../out', '/etc', 'a/../../b', 'CON', 'a:b', 'picture', 'Picture', 'x/y'])
      await put([...defaultTemplate, { path, takes: [] }]).expect(400);
    await put([{ path: 'a', takes: ['sound', 'sound'] }]).expect(400);
    expect(await client.get<Folders>(at())).toMatchObject({ isOwn: false });
  });

  test('go with the project into another Legame, and so does how its files are named', async () => {
    const own = withFolder(defaultTemplate, '', 'reference');
    await put(own).expect(200);
    await client.put(`/projects/${projectId}/name-pattern`, { pattern: '{reel}_{n:3}' }).expect(204);
    await client.put(`/projects/${projectId}/name-pattern`, { pattern: '{nonsense}' }).expect(400);
    const packed = await client.api().get(`/api/projects/${projectId}/export`).set('Host', 'localhost').expect(200);
    const other = await client
      .api()
      .post('/api/projects/import?name=Saltglass.otio')
      .set('Host', 'localhost')
      .type('application/octet-stream')
      .send(Buffer.from(packed.text ?? String(packed.body)))
      .expect(201);
    expect(await client.get<Folders>(`/projects/${(other.body as { id: string }).id}/folder-template`)).toEqual({
      template: own,
      isOwn: true,
      namePattern: '{reel}_{n:3}',
    });
  });
});

describe('making them', () => {
  test('makes what is not there, keeps what is, and does nothing the second time', async () => {
    mkdirSync(root('film', 'sound'), { recursive: true });
    writeFileSync(root('film', 'sound', 'mine.txt'), 'mine');
    expect((await lie()).filter((f) => f.is === 'there').map((f) => f.path)).toEqual(['sound']);
    await make().expect(200);
    expect(readdirSync(root('film')).sort()).toEqual(defaultTemplate.map((f) => f.path).sort());
    expect(readFileSync(root('film', 'sound', 'mine.txt'), 'utf8')).toBe('mine');
    expect((await lie()).every((f) => f.is === 'there')).toBe(true);
    await make().expect(200);
  });

  test('where a file has the name of one, or a link leads elsewhere, it says so, and makes none', async () => {
    mkdirSync(root('film'));
    writeFileSync(root('film', 'papers'), 'a file');
    expect((await lie()).find((f) => f.path === 'papers')?.is).toBe('file-there');
    expect(codeOf(await make().expect(409))).toBe('target-exists');
    expect(readdirSync(root('film'))).toEqual(['papers']);
    const outside = join(house.folder, `elsewhere ${n}`);
    mkdirSync(outside);
    symlinkSync(outside, root('linked'));
    expect((await make('linked')).status).toBeGreaterThanOrEqual(400);
    expect(readdirSync(outside)).toEqual([]);
    for (const folder of ['..', '../x', 'a/../../x']) expect((await make(folder)).status).toBe(400);
  });

  test('in a place that is not there, or may not be written to, it says why', async () => {
    await house.db('places').where({ id: place.id }).update({ read_only: true });
    expect(codeOf(await make().expect(409))).toBe('home-read-only');
    await house.db('places').where({ id: place.id }).update({ read_only: false, there: false });
    expect(codeOf(await make().expect(409))).toBe('place-away');
    expect(existsSync(root('film'))).toBe(false);
  });
});

test('a handoff that is asked to, and what is brought home, lie in them', async () => {
  await client.bring(projectId, makeList([event('bowl.mov')]), 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
  const [clip] = await client.rows(projectId);
  await client
    .post(`/projects/${projectId}/links`, { by: 'hand', links: [{ clipId: clip!.id, mediaFileId: await onlyFile() }] })
    .expect(200);
  await put(withContent(withFolder(defaultTemplate, 'out', 'rushes'), 'picture', 'out/rushes')).expect(200);
  const preview = (
    await client
      .post(`/projects/${projectId}/handoffs/preview`, { choices: { foldering: 'by-template' }, name: 'x' })
      .expect(200)
  ).body as HandoffPreview;
  expect(JSON.stringify(preview)).toContain('out/rushes/bowl.mov');
  await client.put(`/projects/${projectId}/home`, { home: { placeId: place.id, folder: 'film' } }).expect(200);
  const home = await client.get<{ files: { target: string }[] }>(
    `/projects/${projectId}/health/home?check=outside-home`,
  );
  expect(home.files.map((f) => f.target)).toEqual([`BAY_${n}/film/out/rushes/A001/bowl.mov`]);
});
const onlyFile = async () =>
  ((await house.db('media_files').where({ place_id: place.id }).first('id')) as { id: string }).id;
