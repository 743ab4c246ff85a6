import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { copyFileSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type {
  Act,
  BringingHome,
  Checked,
  Health,
  History,
  HistoryChange,
  Job,
  PlaceView,
  ProblemDetails,
} from '@legame/core/contract';
import type { HealthCheck } from '@legame/core/health';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

/** A project on two drives: one its home, one a card by its folders; the same film on both, and one that nobody uses. */
let house: House;
let projectId: string;
let bay: string;
let card: string;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
const health = () => client.get<Health>(`/projects/${projectId}/health`);
const checked = async (check: HealthCheck): Promise<Checked> => (await health()).checks.find((c) => c.check === check)!;
const act = async (method: 'post' | 'put', path: string, body: object) =>
  (await client.send(method, `/projects/${projectId}${path}`, body).expect(200)).body as Act;
const pathsOf = ({ findings }: Checked) =>
  findings.map(({ subject }) => ('path' in subject ? subject.path : 'name' in subject ? subject.name : subject.reel));
const tied = async () =>
  Object.fromEntries(
    (await client.rows(projectId)).map((r) => [
      r.name,
      r.tied && [r.tied.placeName, r.tied.folder, r.tied.name].join('/'),
    ]),
  );

beforeAll(async () => {
  house = await openHouse();
  makeFilm(at('BAY/film/picture', 'bowl.mov'), { timecode: '01:00:00:00' });
  makeFilm(at('BAY/film/picture', 'unused.mov'), { timecode: '05:00:00:00' });
  makeFilm(at('CARD/DCIM/100KILN', 'door.mov'), { timecode: '02:00:00:00' });
  makeFilm(at('CARD/DCIM/101KILN', 'pipe.mov'), { timecode: '03:00:00:00' });
  mkdirSync(at('CARD/copies'), { recursive: true });
  copyFileSync(at('BAY/film/picture/bowl.mov'), at('CARD/copies/bowl copy.mov'));
  projectId = await client.newProject('Saltglass');
  const place = async (path: string) =>
    ((await client.post('/places', { path: at(path) }).expect(201)).body as PlaceView).id;
  bay = await place('BAY');
  card = await place('CARD');
  await house.idle();
  const list = makeList([
    { ...event('bowl.mov', '01:00:00:05', '01:00:01:05'), file: '/Volumes/BAY/film/picture/bowl.mov' },
    { ...event('door.mov', '02:00:00:05', '02:00:01:05'), file: '/Volumes/CARD/DCIM/100KILN/door.mov' },
    { ...event('pipe.mov', '03:00:00:05', '03:00:01:05'), file: '/Volumes/CARD/DCIM/101KILN/pipe.mov' },
  ]);
  await client.bring(projectId, list, 'cut.edl', { reading: pal }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

test('checks tell what they find of real files, and propose a home', async () => {
  const found = await health();
  expect(found).toMatchObject({ home: null, files: 3, clips: 3, keptAt: null });
  expect(found.proposedHome).toEqual({ placeId: card, folder: 'DCIM' });
  expect(await checked('outside-home')).toMatchObject({ open: 0, findings: [] });
  expect(pathsOf(await checked('on-card'))).toEqual(['CARD/DCIM/100KILN/door.mov', 'CARD/DCIM/101KILN/pipe.mov']);
  // The copy on the card is known by its content, whatever it is called.
  expect(pathsOf(await checked('only-copy'))).toEqual(['CARD/DCIM/100KILN/door.mov', 'CARD/DCIM/101KILN/pipe.mov']);
  expect(pathsOf(await checked('unused'))).toEqual(['BAY/film/picture', 'CARD/copies']);
  expect((await checked('never-tried')).open).toBe(3);
  expect(await client.get(`/projects/${projectId}/health/clips?check=on-card`)).toHaveLength(2);
  expect((await checked('never-tried')).sizeInBytes).toBeGreaterThan(0);
});

test('what is accepted is told apart, with its note; undo, and taking it back, open it again', async () => {
  const accepted = await act('post', '/health/accept', { check: 'only-copy', keys: null, note: 'the vault has them' });
  expect(accepted).toMatchObject({ verb: 'accept', count: 0 });
  expect(await checked('only-copy')).toMatchObject({ open: 0, accepted: 2, clips: 0 });
  expect(await client.get(`/projects/${projectId}/health/clips?check=only-copy`)).toEqual([]);
  expect((await checked('only-copy')).findings[0]!.accepted?.note).toBe('the vault has them');
  const { entries } = await client.get<History>(`/projects/${projectId}/history`);
  const changes = await client.get<HistoryChange[]>(`/projects/${projectId}/history/${entries[0]!.id}`);
  expect(changes[0]).toMatchObject({ what: 'accept', check: 'only-copy', before: null, after: 'the vault has them' });
  await act('post', '/undo', {});
  expect(await checked('only-copy')).toMatchObject({ open: 2, accepted: 0 });
  await act('post', '/redo', {});
  const [first] = (await checked('only-copy')).findings;
  await act('post', '/health/accept', { check: 'only-copy', keys: [first!.key], note: null });
  expect(await checked('only-copy')).toMatchObject({ open: 1, accepted: 1 });
  // Asked again for all that is open, what is accepted keeps its own note.
  await act('post', '/health/accept', { check: 'only-copy', keys: null, note: 'known' });
  const notes = (await checked('only-copy')).findings.map((f) => f.accepted?.note).sort();
  expect(notes).toEqual(['known', 'the vault has them']);
});

test('kept once, the next look tells what is new and what is gone', async () => {
  const kept = (await client.post(`/projects/${projectId}/health/keep`).expect(200)).body as Health;
  expect(kept.keptAt).not.toBeNull();
  expect(kept.checks.every((c) => c.added === 0 && c.gone === 0)).toBe(true);
  rmSync(at('CARD/copies/bowl copy.mov'));
  await client.index(card);
  expect(await checked('unused')).toMatchObject({ open: 1, gone: 1 });
  expect(await checked('only-copy')).toMatchObject({ open: 1, added: 1 });
  expect((await checked('only-copy')).findings.find((f) => f.isNew)?.subject).toEqual({
    what: 'file',
    path: 'BAY/film/picture/bowl.mov',
  });
});

test('a home is said, within its place, and undone like any act', async () => {
  const outside = { home: { placeId: bay, folder: '../CARD' } };
  expect((await client.put(`/projects/${projectId}/home`, outside).expect(400)).body).toMatchObject({
    code: 'request-not-understood',
  });
  const homeless = await client.post(`/projects/${projectId}/health/home`, { check: 'on-card' }).expect(409);
  expect((homeless.body as ProblemDetails).code).toBe('no-home');
  await act('put', '/home', { home: { placeId: bay, folder: '/film//' } });
  expect((await health()).home).toEqual({ placeId: bay, folder: 'film' });
  expect(pathsOf(await checked('outside-home'))).toEqual(['CARD/DCIM/100KILN/door.mov', 'CARD/DCIM/101KILN/pipe.mov']);
  await act('post', '/undo', {});
  expect((await health()).home).toBeNull();
  await act('post', '/redo', {});
});

test('brought home: proven copies by kind and card, links moved in one act, originals and what lay there untouched', async () => {
  // Somebody's own file lies where one of them would go.
  mkdirSync(at('BAY/film/picture/100KILN'), { recursive: true });
  writeFileSync(at('BAY/film/picture/100KILN/door.mov'), 'a note that is no film');
  await client.index(bay);
  const before = statSync(at('CARD/DCIM/100KILN/door.mov'));
  const preview = await client.get<BringingHome>(`/projects/${projectId}/health/home?check=outside-home`);
  expect(preview).toMatchObject({ home: 'BAY/film', left: [] });
  expect(preview.files.map((f) => [f.path, f.target])).toEqual([
    ['CARD/DCIM/100KILN/door.mov', 'BAY/film/picture/100KILN/CARD DCIM/door.mov'],
    ['CARD/DCIM/101KILN/pipe.mov', 'BAY/film/picture/101KILN/pipe.mov'],
  ]);
  const job = (await client.post(`/projects/${projectId}/health/home`, { check: 'outside-home' }).expect(202))
    .body as Job;
  await house.idle();
  expect((await client.get<Job[]>('/jobs')).find((j) => j.id === job.id)).toMatchObject({
    state: 'done',
    problem: null,
  });
  for (const { path, target } of preview.files)
    expect(readFileSync(at(target)).equals(readFileSync(at(path)))).toBe(true);
  expect(readFileSync(at('BAY/film/picture/100KILN/door.mov'), 'utf8')).toBe('a note that is no film');
  expect(statSync(at('CARD/DCIM/100KILN/door.mov'))).toMatchObject({ mtimeMs: before.mtimeMs, ino: before.ino });
  expect(await tied()).toEqual({
    'bowl.mov': 'BAY/film/picture/bowl.mov',
    'door.mov': 'BAY/film/picture/100KILN/CARD DCIM/door.mov',
    'pipe.mov': 'BAY/film/picture/101KILN/pipe.mov',
  });
  expect(await checked('outside-home')).toMatchObject({ open: 0 });
  expect((await client.get<History>(`/projects/${projectId}/history`)).entries[0]).toMatchObject({
    verb: 'bring-home',
    count: 2,
  });
  await act('post', '/undo', {});
  await house.idle();
  expect(await tied()).toMatchObject({ 'door.mov': 'CARD/DCIM/100KILN/door.mov' });
  // The copies stay: nothing is deleted by taking links back.
  expect(statSync(at('BAY/film/picture/101KILN/pipe.mov')).isFile()).toBe(true);
  const again = (await client.post(`/projects/${projectId}/health/home`, { check: 'in-passing' }).expect(409)).body;
  expect(again).toMatchObject({ code: 'nothing-to-bring-home' });
});

test('what cannot come home says why and keeps its link; the others come all the same', async () => {
  const { files } = await client.get<BringingHome>(`/projects/${projectId}/health/home?check=outside-home`);
  const [door, pipe] = files;
  // Somebody puts a file of his own there that no index has seen yet.
  mkdirSync(at(door!.target, '..'), { recursive: true });
  writeFileSync(at(door!.target), 'mine');
  const job = (await client.post(`/projects/${projectId}/health/home`, { check: 'outside-home' }).expect(202))
    .body as Job;
  await house.idle();
  expect((await client.get<Job[]>('/jobs')).find((j) => j.id === job.id)).toMatchObject({
    state: 'failed',
    problem: { code: 'not-all-brought-home', files: 1, of: 2, path: door!.target, because: { code: 'target-exists' } },
  });
  expect(readFileSync(at(door!.target), 'utf8')).toBe('mine');
  expect(await tied()).toMatchObject({ 'door.mov': door!.path, 'pipe.mov': pipe!.target });
});
