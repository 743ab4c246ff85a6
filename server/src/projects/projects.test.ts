import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { ClipRow, Health, History, PlaceView, Project, ProjectStanding, PullDesk } from '@legame/core/contract';
import { acceptsAll, type ProjectId } from '@legame/core/model';
import { clientOf } from '../testing/client.ts';
import { cutOf, event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';
import { clipStore } from '../stores/clips.ts';
import { projectStore } from '../stores/projects.ts';
import { clipFinder, exportProject, importProject } from './package.ts';

let house: House;
let projectId: string;
let kiln: string;
const client = clientOf(() => house);
const decided = async (id: string) =>
  (await client.rows(id)).map(({ name, status, tied, pinned, bin }: ClipRow) => [
    name,
    status.status,
    tied?.name ?? null,
    pinned,
    bin,
  ]);

beforeAll(async () => {
  house = await openHouse();
  ({ projectId, kiln } = await kilnIn(house));
}, 120_000);
afterAll(() => house.close());

test('a project gets another name, and an empty one is refused', async () => {
  const renamed = (await client.patch(`/projects/${projectId}`, { name: ' Saltglass, locked ' }).expect(200)).body;
  expect((renamed as Project).name).toBe('Saltglass, locked');
  await client.patch(`/projects/${projectId}`, { name: '  ' }).expect(400);
  expect((await client.get<Project[]>('/projects')).map((p) => p.name)).toEqual(['Saltglass, locked']);
});

test('a second project has all that was decided in the first, and goes its own way from then on', async () => {
  await house.idle();
  const rows = await client.rows(projectId);
  const [lost] = rows.filter((r) => r.name === 'lost.mov');
  const [bowl] = rows.filter((r) => r.name === 'bowl.mov');
  await client.post(`/projects/${projectId}/links/certain`).expect(200);
  await client.post(`/projects/${projectId}/set-aside`, { clipIds: [lost!.id], as: 'waived', reason: 'a slate' });
  await client.post(`/projects/${projectId}/pins`, { clipIds: [bowl!.id], pinned: true }).expect(200);
  await client.post(`/projects/${projectId}/bins/file`, { clipIds: [bowl!.id], bin: ['Fire'] }).expect(200);
  await client.put(`/projects/${projectId}/home`, { home: { placeId: kiln, folder: 'day1' } }).expect(200);
  const made = (await client.post(`/projects/${projectId}/duplicate`, { name: 'Trailer' }).expect(201)).body as Project;
  await house.idle();
  expect(made.name).toBe('Trailer');
  expect(await decided(made.id)).toEqual(await decided(projectId));
  expect((await client.get<Health>(`/projects/${made.id}/health`)).home).toEqual({ placeId: kiln, folder: 'day1' });
  expect((await client.get<History>(`/projects/${made.id}/history`)).entries).toEqual([]);
  const [second] = (await client.rows(made.id)).filter((r) => r.name === 'lost.mov');
  await client.post(`/projects/${made.id}/set-aside`, { clipIds: [second!.id], as: null, reason: '' }).expect(200);
  expect((await client.row(projectId, 'lost.mov')).status.status).toBe('waived');
});

test('which other projects use the same recordings is told, also where they have copies of their own', async () => {
  const standing = (id: string) => client.get<ProjectStanding>(`/projects/${id}/standing`);
  const shares = async (id: string) => (await standing(id)).shares.map(({ name, files }) => [name, files]);
  const tied = (await client.rows(projectId)).filter((r) => r.tied);
  const used = new Set(tied.map((r) => r.tied!.mediaFileId)).size;
  expect(used).toBeGreaterThan(0);
  expect(await shares(projectId)).toEqual([['Trailer', used]]);
  // One film again on another drive, tied to in a project that has nothing else.
  const bowl = tied.find((r) => r.name === 'bowl.mov')!.tied!;
  mkdirSync(join(house.folder, 'COPY'));
  copyFileSync(join(house.folder, 'KILN', bowl.folder, bowl.name), join(house.folder, 'COPY', 'other name.mov'));
  const copies = (await client.post('/places', { path: join(house.folder, 'COPY') }).expect(201)).body as PlaceView;
  const archive = await client.newProject('Archive');
  await client.bring(archive, makeList([event('other name.mov')]), 'one.edl', { reading: pal }).expect(201);
  await house.idle();
  const file = (await house.db('media_files').where({ place_id: copies.id }).first('id')) as { id: string };
  const [clip] = await client.rows(archive);
  await client
    .post(`/projects/${archive}/links`, { by: 'hand', links: [{ clipId: clip!.id, mediaFileId: file.id }] })
    .expect(200);
  await house.idle();
  expect(await shares(archive)).toEqual(expect.arrayContaining([['Saltglass, locked', 1], ['Trailer', 1]])); // prettier-ignore
  expect(await shares(projectId)).toEqual([['Trailer', used], ['Archive', 1]]); // prettier-ignore
  await client.send('delete', `/projects/${archive}`).expect(204);
  expect(await shares(projectId)).toEqual([['Trailer', used]]);
});

test('how many checks of health found something is told without what was accepted', async () => {
  const open = async () => (await client.get<ProjectStanding>(`/projects/${projectId}/standing`)).openChecks;
  const { checks } = await client.get<Health>(`/projects/${projectId}/health`);
  const found = checks.filter((c) => c.open > 0);
  expect(await open()).toBe(found.length);
  const body = { check: found[0]!.check, keys: null, note: 'known' };
  await client.post(`/projects/${projectId}/health/accept`, body).expect(200);
  expect(await open()).toBe(found.length - 1);
});

test('what the project accepts and works with, and what was asked for, goes out and in with it', async () => {
  const lost = await client.row(projectId, 'lost.mov');
  await client.post(`/projects/${projectId}/set-aside`, { clipIds: [lost.id], as: null, reason: '' }).expect(200);
  const { rows: wanted } = await client.get<PullDesk>(`/projects/${projectId}/pulls`);
  expect(wanted.length).toBeGreaterThan(0);
  const keys = wanted.map((r) => r.key);
  await client.post(`/projects/${projectId}/pulls/mark`, { keys, mark: 'asked', holder: 'The archive', note: 'soon' });
  await projectStore.setAcceptance(house.db, projectId as ProjectId, { ...acceptsAll, codecs: ['prores'] });
  const arrangement = { order: ['name', 'reel'], hidden: ['uses'], widths: {}, pinned: [], sorts: [], group: 'reel' };
  const layout = { table: 'bins', name: 'by reel', arrangement };
  await client.put(`/projects/${projectId}/layouts`, { ...layout, forAll: false }).expect(200);
  await client.put(`/projects/${projectId}/layouts`, { ...layout, name: 'of all', forAll: true }).expect(200);
  const { content } = await exportProject(house, projectId as ProjectId);
  const again = await importProject(house, Buffer.from(content), 'saltglass.otio');
  const desk = async (id: string) =>
    (await client.get<PullDesk>(`/projects/${id}/pulls`)).rows.map((r) => [r.file, r.state, r.request]);
  expect(await desk(again)).toEqual(await desk(projectId));
  // Those that are for all are there anyhow.
  const layouts = (id: string) => client.get(`/projects/${id}/layouts?table=bins`);
  expect(await layouts(again)).toEqual(await layouts(projectId));
  expect(await layouts(again)).toHaveLength(2);
  const [before, after] = await Promise.all(
    [projectId as ProjectId, again].map((id) => projectStore.getProject(house.db, id)),
  );
  expect(after!.acceptance).toEqual(before!.acceptance);
  expect(after!.acceptance).not.toBeNull();
  // One that was written before these were known opens as well.
  const old = content.replace(/"pulls"\s*:/, '"forgotten":').replace(/"acceptance"\s*:/, '"also":');
  const opened = await importProject(house, Buffer.from(old), 'old.otio');
  expect((await projectStore.getProject(house.db, opened)).acceptance).toBeNull();
});

test('what was decided of thousands goes in and out again, each with its own clip', async () => {
  const many = 3000;
  const id = (await client.newProject('Rolls')) as ProjectId;
  // Two of each name, which only their paths tell apart.
  const urls = Array.from({ length: many }, (_, i) => `/Volumes/ROLLS/card${i % 2}/take${Math.floor(i / 2)}.mov`);
  await client.bring(id, cutOf(...urls), 'rolls.otio').expect(201);
  await house.idle();
  const clips = await clipStore.listClips(house.db, id);
  const odd = clips.filter((_, i) => i % 3 === 0).map((c) => c.id);
  await client.post(`/projects/${id}/set-aside`, { clipIds: odd, as: 'parked', reason: 'later' }).expect(200);
  const { content } = await exportProject(house, id);
  const again = await importProject(house, Buffer.from(content), 'rolls.otio');
  const aside = (list: typeof clips) => list.filter((c) => c.setAside).map((c) => c.remembered);
  expect(aside(await clipStore.listClips(house.db, again))).toEqual(aside(await clipStore.listClips(house.db, id)));
  expect(odd).toHaveLength(many / 3);
}, 120_000);

test('where a newer reader counts clips otherwise, what several say is given to none of them', () => {
  const said = (key: string, name: string) => ({ key, name, reel: 'A009', remembered: null });
  const then = [said('clip-1', 'door'), said('clip-2', 'take'), said('clip-3', 'take')];
  const found = (now: typeof then) => then.map((was) => clipFinder(then, now)(was)?.key);
  expect(found(then)).toEqual(['clip-1', 'clip-2', 'clip-3']);
  expect(found([said('clip-1', 'bowl'), ...then.map(({ name }, i) => said(`clip-${i + 2}`, name))])).toEqual([
    'clip-2',
    undefined,
    undefined,
  ]);
});
