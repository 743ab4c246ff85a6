import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { mkdirSync, renameSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Act, DeskRowView, HistoryChange, PlaceView, PullDesk, PullRowView } from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

/** A project of which one film is here, one lies in the tape vault, and two are nowhere. */
let house: House;
let projectId: string;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
const desk = (handles = 12) => client.get<PullDesk>(`/projects/${projectId}/pulls?handles=${handles}`);
const states = async () => Object.fromEntries((await desk()).rows.map((r) => [r.file, r.state]));
const row = async (file: string): Promise<DeskRowView> => (await desk()).rows.find((r) => r.file === file)!;
const mark = async (files: readonly string[], said: object) => {
  const keys = (await desk()).rows.filter((r) => files.includes(r.file)).map((r) => r.key);
  return (await client.post(`/projects/${projectId}/pulls/mark`, { keys, ...said }).expect(200)).body as Act;
};
const undo = () => client.post(`/projects/${projectId}/undo`, {}).expect(200);
const lists = async (query: string) =>
  (await client.get<PullRowView[]>(`/projects/${projectId}/pull-list?${query}`)).map((r) => r.file);

beforeAll(async () => {
  house = await openHouse();
  makeFilm(at('BAY/film', 'bowl.mov'), { timecode: '01:00:00:00' });
  makeFilm(at('shelved.mov'), { timecode: '02:00:00:00' });
  const vault = at('.shelves/vault/BAY/film/door.mov');
  mkdirSync(dirname(vault), { recursive: true });
  renameSync(at('shelved.mov'), vault);
  projectId = await client.newProject('Saltglass');
  const place = (await client.post('/places', { path: at('BAY') }).expect(201)).body as PlaceView;
  expect(place.there).toBe(true);
  await house.idle();
  const file = (name: string) => `/Volumes/BAY/film/${name}`;
  const list = makeList([
    { ...event('bowl.mov', '01:00:00:05', '01:00:01:05'), file: file('bowl.mov') },
    { ...event('door.mov', '02:00:00:05', '02:00:01:05'), file: file('door.mov') },
    { ...event('pipe.mov', '03:00:00:05', '03:00:01:05'), file: file('pipe.mov') },
    { ...event('kiln.mov', '04:00:00:05', '04:00:01:05'), file: file('kiln.mov') },
  ]);
  await client.bring(projectId, list, 'cut.edl', { reading: pal }).expect(201);
  await house.idle();
}, 180_000);
afterAll(() => house.close());

test('what is dark is wanted, with handles as the timeline counts; what is here is not', async () => {
  expect(await states()).toEqual({ 'door.mov': 'wanted', 'pipe.mov': 'wanted', 'kiln.mov': 'wanted' });
  const [wide, bare] = [await row('pipe.mov'), (await desk(0)).rows.find((r) => r.file === 'pipe.mov')!];
  expect(wide.ranges[0]!.start).toBe(bare.ranges[0]!.start - 12);
  expect((await desk()).holders).toEqual(['Tape vault']);
  expect(wide.clipIds).toHaveLength(1);
});

test('of a stretch only what it shows is wanted, to the frame; what was said of the rest of a source stays said', async () => {
  const [document] = await client.get<{ id: string; timelines: { key: string }[] }[]>(
    `/projects/${projectId}/documents`,
  );
  const timeline = `${document!.id}/${document!.timelines[0]!.key}`;
  // Events of a second each from ten hours on: half of door, all of pipe, nothing of kiln.
  const stretch = { timeline, start: 900_000 + 40, end: 900_000 + 75 };
  const query = (more: object) =>
    Object.entries({ ...stretch, ...more })
      .map(([key, of]) => `${key}=${encodeURIComponent(of as string)}`)
      .join('&');
  const shown = async (more: object = {}) => {
    const { rows } = await client.get<PullDesk>(`/projects/${projectId}/pulls?${query({ handles: 0, ...more })}`);
    return Object.fromEntries(rows.map((r) => [r.file, [r.state, r.ranges]]));
  };
  const hour = 90_000;
  const door = [{ start: 2 * hour + 20, end: 2 * hour + 30 }];
  const pipe = [{ start: 3 * hour + 5, end: 3 * hour + 30 }];
  expect(await shown()).toEqual({ 'door.mov': ['wanted', door], 'pipe.mov': ['wanted', pipe] });
  expect(await lists(query({ handles: 0 }))).toEqual(['door.mov', 'pipe.mov']);
  expect(await lists(query({ handles: 0, of: 'used', start: 900_000, end: 900_010 }))).toEqual(['bowl.mov']);

  const ask = (said: object) => mark(['door.mov'], { mark: 'asked', handles: 0, ...said });
  await ask({ ...stretch, start: 900_000 + 25, end: 900_000 + 30, holder: 'The archive' });
  const asked = async () => (await row('door.mov')).request!.ranges;
  expect(await asked()).toEqual([{ start: 2 * hour + 5, end: 2 * hour + 10 }]);
  // Of the other end nobody was asked yet; then of both.
  expect(await shown()).toMatchObject({ 'door.mov': ['asked', door] });
  await ask({ ...stretch, holder: 'The archive' });
  expect(await asked()).toEqual([{ start: 2 * hour + 5, end: 2 * hour + 10 }, ...door]);
  // What was asked for of what this stretch does not show is none of its rows.
  expect(await shown({ start: 900_000 + 50 })).toEqual({ 'pipe.mov': ['wanted', pipe] });
  await undo();
  await undo();
  expect((await row('door.mov')).state).toBe('wanted');
});

test('a stretch that is none is refused with what is wrong', async () => {
  const refused = async (query: string, status: number) =>
    (await client.api().get(`/api/projects/${projectId}/pulls?${query}`).set('Host', 'localhost').expect(status))
      .body as {
      detail: string;
    };
  expect((await refused('timeline=x%2Fy&start=5&end=5', 400)).detail).toMatch(/a stretch says its timeline/);
  expect((await refused('start=5', 400)).detail).toMatch(/a stretch says its timeline/);
  expect((await refused('timeline=x%2Fy&start=1&end=5', 404)).detail).toMatch(/timeline/);
});

test('what is asked of a holder is on its list, and on no other; taken back it is wanted again', async () => {
  const { verb, count } = await mark(['pipe.mov', 'kiln.mov'], {
    mark: 'asked',
    holder: 'The archive',
    note: 'by Friday',
  });
  expect([verb, count]).toEqual(['mark-pulls', 0]);
  expect(await states()).toMatchObject({ 'pipe.mov': 'asked', 'kiln.mov': 'asked', 'door.mov': 'wanted' });
  expect((await row('pipe.mov')).request).toMatchObject({ holder: 'The archive', note: 'by Friday' });
  expect((await desk()).holders).toEqual(['Tape vault', 'The archive']);
  const asked = `holder=${encodeURIComponent('The archive')}`;
  expect((await lists(asked)).sort()).toEqual(['kiln.mov', 'pipe.mov']);
  expect(await lists('holder=somebody')).toEqual([]);
  expect((await lists('')).sort()).toEqual(['door.mov', 'kiln.mov', 'pipe.mov']);
  const csv = (await client.api().get(`/api/projects/${projectId}/pull-list.csv?${asked}`).set('Host', 'localhost'))
    .text;
  expect(csv).toContain('pipe.mov');
  expect(csv).not.toContain('door.mov');

  // Who answers is who was asked, where nobody says otherwise.
  await mark(['kiln.mov'], { mark: 'not-to-be-had' });
  expect((await row('kiln.mov')).request).toMatchObject({
    mark: 'not-to-be-had',
    holder: 'The archive',
    note: 'by Friday',
  });
  await undo();
  await mark(['kiln.mov'], { mark: 'not-to-be-had', holder: 'The archive', note: 'wiped' });
  expect(await lists(asked)).toEqual(['pipe.mov']);
  await mark(['kiln.mov'], { mark: null });
  expect(await states()).toMatchObject({ 'kiln.mov': 'wanted' });
  await undo();
  expect((await row('kiln.mov')).request).toMatchObject({ mark: 'not-to-be-had', note: 'wiped' });
  await undo();
  expect((await row('kiln.mov')).state).toBe('asked');
});

test('the history tells what was said, of what', async () => {
  const { entries } = await client.get<{ entries: { id: number; verb: string }[] }>(`/projects/${projectId}/history`);
  // The newest comes first; the two oldest were said of a stretch.
  const first = entries.filter((e) => e.verb === 'mark-pulls').at(-3)!;
  const changes = await client.get<HistoryChange[]>(`/projects/${projectId}/history/${first.id}`);
  expect(changes).toMatchObject([
    { what: 'pull', file: 'kiln.mov', before: null, after: { mark: 'asked', holder: 'The archive' } },
    { what: 'pull', file: 'pipe.mov' },
  ]);
});

test('the tape vault answers: what it holds comes and is linked by itself, what it does not hold is said', async () => {
  await mark(['door.mov', 'pipe.mov'], { mark: 'asked', holder: 'Tape vault' });
  expect((await row('pipe.mov')).request).toMatchObject({ mark: 'not-to-be-had', isUnknownToVault: true });
  expect((await row('door.mov')).state).toBe('asked');
  // Asked again while it is on its way, it comes once.
  await mark(['door.mov'], { mark: 'asked', holder: 'Tape vault' });
  await house.idle();
  const door = await row('door.mov');
  expect(door.state).toBe('arrived');
  expect(door.here).toMatchObject([{ name: 'door.mov', isTied: true }]);
  const jobs = await client.get<{ kind: string }[]>('/jobs');
  expect(jobs.filter((j) => j.kind === 'fetch-shelved')).toHaveLength(1);
});

test('whatever is said, taken back and said again: the desk is what the acts come to, and undo goes all the way', async () => {
  const asked = async () =>
    Object.fromEntries(
      (await desk()).rows.map((r) => [r.key, r.request && [r.request.mark, r.request.holder, r.request.note]]),
    );
  const keys = (await desk()).rows.map((r) => r.key);
  const marks = ['asked', 'arrived', 'not-to-be-had', null] as const;
  // A row of steps that anybody can run again: numbers of a plain sequence, not of chance.
  let seed = 20_261_127;
  const pick = (n: number) => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % n;
  const states = [await asked()];
  let [at, marked] = [0, 0];
  for (let step = 0; step < 30; step += 1) {
    const what = pick(4);
    if (what === 0 && at > 0) {
      await undo();
      at -= 1;
    } else if (what === 1 && at < states.length - 1) {
      await client.post(`/projects/${projectId}/redo`, {}).expect(200);
      at += 1;
    } else {
      const chosen = keys.filter(() => pick(2) === 0);
      if (chosen.length === 0) continue;
      const mark = marks[pick(4)]!;
      const said = { keys: chosen, mark, holder: `holder ${pick(3)}`, note: `note ${step}` };
      const { id } = (await client.post(`/projects/${projectId}/pulls/mark`, said).expect(200)).body as Act;
      // Taking back what nobody said is no act.
      if (id === 0) continue;
      const then = Object.fromEntries(chosen.map((key) => [key, mark && [mark, said.holder, said.note]]));
      states.splice(at + 1, Infinity, { ...states[at]!, ...then });
      at += 1;
      marked += 1;
    }
    expect(await asked()).toEqual(states[at]);
  }
  expect(marked).toBeGreaterThan(8);
  for (; at > 0; at -= 1) await undo();
  expect(await asked()).toEqual(states[0]);
});

test('refuses what says nothing', async () => {
  await client.post(`/projects/${projectId}/pulls/mark`, { keys: [], mark: 'asked' }).expect(400);
  await client.post(`/projects/${projectId}/pulls/mark`, { keys: ['x'], mark: 'lost' }).expect(400);
  const { id } = (await client.post(`/projects/${projectId}/pulls/mark`, { keys: ['x'], mark: 'asked' }).expect(200))
    .body as Act;
  expect(id).toBe(0);
});
