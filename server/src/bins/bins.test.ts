import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { join } from 'node:path';
import type { Label } from '@legame/core/bins';
import type {
  Act,
  BinClip,
  BinClips,
  Bins,
  ClipRow,
  History,
  KnownUpTo,
  HistoryChange,
  Layout,
  ProblemDetails,
} from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import { differingRows } from '../clips/renewal.ts';
import { clientOf } from '../testing/client.ts';
import { clipOf, event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

/** Bins, labels and notes over real films, a list and a log: nothing of it touches a link, and all of it comes back. */
let house: House;
let projectId: ProjectId;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
const log = [
  'Name,Reel,Start,End,Scene,Take,Lens',
  'bowl.mov,A001,01:00:00:00,01:00:02:00,12,1,35',
  'rim.mov,A001,04:00:00:00,04:00:02:00,14,2,50',
];

const rows = (): Promise<ClipRow[]> => client.rows(projectId);
const bins = () => client.get<Bins>(`/projects/${projectId}/bins`);
const said = (query = '') => client.get<BinClips>(`/projects/${projectId}/bins/clips${query}`);
const clips = async (): Promise<readonly BinClip[]> => (await said()).clips;
const act = async (path: string, body: object): Promise<Act> =>
  (await client.post(`/projects/${projectId}${path}`, body).expect(200)).body as Act;
const refused = async (path: string, body: object) =>
  (await client.post(`/projects/${projectId}${path}`, body).expect(409)).body as ProblemDetails;
const undo = () => act('/undo', {});
const binsOf = async () => Object.fromEntries((await rows()).map((r) => [`${r.name} ${r.id.slice(0, 4)}`, r.bin]));
const idsOf = async (...names: string[]) => (await rows()).filter((r) => names.includes(r.name)).map((r) => r.id);

beforeAll(async () => {
  house = await openHouse();
  makeFilm(at('KILN/day 2/cardA/CLIP', 'bowl.mov'), { timecode: '01:00:00:00' });
  makeFilm(at('KILN/2026-03-02/cardB', 'door.mov'), { timecode: '02:00:00:00' });
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  await client.post('/places', { path: at('KILN') }).expect(201);
  await house.idle();
  const list = makeList([
    event('bowl.mov', '01:00:00:05', '01:00:01:05'),
    event('door.mov', '02:00:00:05', '02:00:01:05'),
    event('lost.mov', '09:00:00:05', '09:00:01:05'),
  ]);
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await client.bring(projectId, log.join('\n'), 'log.csv', { reading: pal }).expect(201);
  await house.idle();
  // What is likely is linked by a person's word.
  const links = (await rows()).flatMap((r) =>
    r.tied === null && r.candidate ? [{ clipId: r.id, mediaFileId: r.candidate.mediaFileId }] : [],
  );
  await act('/links', { by: 'hand', links });
  await house.idle();
}, 120_000);
afterAll(() => house.close());

test('clips lie where their documents have them; a log’s columns are there to be read', async () => {
  expect((await rows()).map((r) => [r.name, r.bin, r.label])).toEqual([
    ['bowl.mov', [], null],
    ['door.mov', [], null],
    ['lost.mov', [], null],
    ['bowl.mov', ['A001'], null],
    ['rim.mov', ['A001'], null],
  ]);
  const found = await bins();
  expect(found.bins).toEqual([['A001']]);
  expect(found.columns.slice(0, 4)).toEqual(['scene', 'take', 'circled', 'notes']);
  expect(found.columns).toContain('Lens');
  const logged = (await clips()).filter((c) => c.isLogged);
  expect(logged.map((c) => c.values)).toEqual([
    expect.objectContaining({ scene: '12', take: '1', Lens: '35' }),
    expect.objectContaining({ scene: '14', take: '2', Lens: '50' }),
  ]);
  const [bowl] = await clips();
  expect(bowl).toMatchObject({ isLogged: false, used: { start: 90_005, end: 90_030 }, values: {}, written: [] });
});

test('filed by hand and by rule, moved, merged and taken away: each is one act that Undo takes back whole', async () => {
  const before = await binsOf();
  const links = (await rows()).map((r) => r.tied);
  await act('/bins/file', { clipIds: await idsOf('bowl.mov', 'lost.mov'), bin: ['Furnace', 'First day'] });
  const filed = await binsOf();
  expect(Object.values(filed).filter((bin) => bin.length === 2)).toHaveLength(3);
  // The same again is no act at all.
  expect((await act('/bins/file', { clipIds: await idsOf('lost.mov'), bin: ['Furnace', 'First day'] })).id).toBe(0);

  await act('/bins', { bin: ['Yard', 'Empty'] });
  expect((await bins()).bins).toEqual(expect.arrayContaining([['Yard'], ['Yard', 'Empty']]));
  await act('/bins/move', { bin: ['Furnace', 'First day'], to: ['Yard', 'Empty'] });
  expect((await rows()).filter((r) => r.bin.join('/') === 'Yard/Empty')).toHaveLength(3);
  await act('/bins/move', { bin: ['Yard'], to: ['Furnace', 'Yard'] });
  expect((await rows()).find((r) => r.name === 'lost.mov')!.bin).toEqual(['Furnace', 'Yard', 'Empty']);
  expect((await bins()).bins).toContainEqual(['Furnace', 'Yard', 'Empty']);
  await act('/bins/remove', { bin: ['Furnace', 'Yard'] });
  expect((await rows()).find((r) => r.name === 'lost.mov')!.bin).toEqual(['Furnace']);
  expect(await differingRows(house.db, projectId)).toEqual([]);

  for (let i = 0; i < 5; i += 1) await undo();
  expect(await binsOf()).toEqual(before);
  expect((await bins()).bins).toEqual([['A001']]);
  expect((await rows()).map((r) => r.tied)).toEqual(links);
});

test('a bin of a document that is renamed is not there under both names', async () => {
  await act('/bins/move', { bin: ['A001'], to: ['Camera A'] });
  expect((await bins()).bins).toEqual([['Camera A']]);
  await act('/bins/remove', { bin: ['Camera A'] });
  expect((await bins()).bins).toEqual([]);
  for (let i = 0; i < 2; i += 1) await undo();
  expect((await bins()).bins).toEqual([['A001']]);
});

test('a bin in which a document has nothing is there all the same, to be renamed, taken away, and brought back', async () => {
  const collection = (name: string, children: object[]) => ({
    OTIO_SCHEMA: 'SerializableCollection.1',
    name,
    children,
  });
  const document = (...empty: string[]) =>
    JSON.stringify(
      collection('Saltglass', [
        collection('Rushes', [clipOf('file:///Volumes/KILN/x.mov'), ...empty.map((name) => collection(name, []))]),
      ]),
    );
  const other = (await client.newProject('Empty bins')) as ProjectId;
  const own = async () => (await client.get<Bins>(`/projects/${other}/bins`)).bins.map((bin) => bin.join('/'));
  const does = (path: string, body: object) => client.post(`/projects/${other}${path}`, body).expect(200);
  await does('/bins', { bin: ['Mine'] });
  const brought = await client.bring(other, document('Pickups', 'To come'), 'bins.otio').expect(201);
  await house.idle();
  expect(await own()).toEqual(expect.arrayContaining(['Mine', 'Rushes', 'Rushes/Pickups', 'Rushes/To come']));
  // Undo of what was made before takes back that alone.
  await does('/undo', {});
  expect(await own()).not.toContain('Mine');
  expect(await own()).toContain('Rushes/Pickups');
  await does('/bins/move', { bin: ['Rushes', 'Pickups'], to: ['Pickups'] });
  await does('/bins/remove', { bin: ['Rushes', 'To come'] });
  // A newer version brings what is new in it, and not what somebody put elsewhere or took away.
  const { id } = brought.body as { id: string };
  await client.bring(other, document('Pickups', 'To come', 'Night'), 'bins.otio', { replaces: id }).expect(201);
  await house.idle();
  expect((await own()).sort()).toEqual(['Pickups', 'Rushes', 'Rushes/Night']);
});

test('by card, by day, by reel and by kind, each in one act; of which nothing tells stays where it lies', async () => {
  const clipIds = (await rows()).map((r) => r.id);
  const by = async (rule: string) => {
    await act('/bins/file-by', { clipIds, rule, under: ['Shot'] });
    const found = (await rows()).slice(0, 3).map((r) => r.bin.join('/'));
    await undo();
    return found;
  };
  expect(await by('by-card')).toEqual(['Shot/cardA', 'Shot/cardB', 'Shot/day1']);
  expect(await by('by-day')).toEqual(['Shot/Day 2', 'Shot/2026-03-02', 'Shot/Day 1']);
  expect(await by('by-reel')).toEqual(['Shot/A001', 'Shot/A001', 'Shot/A001']);
});

test('a bin that cannot be is refused, with the reason', async () => {
  await act('/bins', { bin: ['Furnace'] });
  expect(await refused('/bins/move', { bin: ['Furnace'], to: ['Furnace', 'Furnace'] })).toMatchObject({
    code: 'bin-refused',
    detail: 'The bin "Furnace" cannot be: it would stand inside itself. Choose another place.',
  });
  await client.post(`/projects/${projectId}/bins`, { bin: [' '] }).expect(400);
  await client.post(`/projects/${projectId}/bins`, { bin: [] }).expect(400);
  await undo();
});

test('what is written stands over the log, as one act, and History says it', async () => {
  const [listed, logged] = (await rows()).filter((r) => r.name === 'bowl.mov');
  const written = [
    { clipIds: [listed!.id, logged!.id], values: { scene: '12A' } },
    { clipIds: [logged!.id], values: { take: '', Lens: '35' } },
  ];
  const done = await act('/notes', { written });
  expect(done).toMatchObject({ verb: 'note', count: 2 });
  const now = new Map((await clips()).map((c) => [c.id, c]));
  expect(now.get(listed!.id)).toMatchObject({ values: { scene: '12A' }, written: ['scene'] });
  // As the log has it is nothing written.
  expect(now.get(logged!.id)).toMatchObject({
    values: { scene: '12A', take: '', Lens: '35' },
    written: ['scene', 'take'],
  });
  const { entries } = await client.get<History>(`/projects/${projectId}/history`);
  const changes = await client.get<HistoryChange[]>(`/projects/${projectId}/history/${entries[0]!.id}`);
  expect(changes).toContainEqual({
    clipName: 'bowl.mov',
    what: 'note',
    before: null,
    after: { bin: null, label: null, values: { scene: '12A' } },
  });
  await undo();
  expect((await clips()).every((c) => c.written.length === 0)).toBe(true);
});

test('who knows what was said is told only what changed since', async () => {
  const known = await said();
  const since = ({ epoch, version, turned }: KnownUpTo) => said(`?epoch=${epoch}&version=${version}&turned=${turned}`);
  expect((await since(known)).clips).toEqual([]);
  const [id] = await idsOf('door.mov');
  await act('/notes', { written: [{ clipIds: [id], values: { take: '7' } }] });
  const changed = await since(known);
  expect(changed.clips).toMatchObject([{ id, values: { take: '7' } }]);
  expect((await since(changed)).clips).toEqual([]);
  await undo();
  expect((await since(changed)).clips).toMatchObject([{ id, values: {} }]);
  // Of another epoch, all.
  expect((await said(`?epoch=${known.epoch - 1}&version=${known.version}`)).clips).toHaveLength(known.clips.length);
});

test('labels are the project’s own; one that is gone is no label, until it comes back', async () => {
  const label: Label = { id: 'check', name: 'look again', colour: 'ember', mark: 'triangle' };
  const put = (labels: readonly Label[]) => client.put(`/projects/${projectId}/labels`, { labels }).expect(200);
  const [id] = await idsOf('door.mov');
  await client.post(`/projects/${projectId}/label`, { clipIds: [id], label: 'check' }).expect(404);
  await put([label]);
  await act('/label', { clipIds: [id], label: 'check' });
  expect((await rows()).find((r) => r.id === id)!.label).toBe('check');
  await put([]);
  expect((await bins()).labels).toEqual([]);
  await undo();
  expect((await bins()).labels).toEqual([label]);
  await undo();
  expect((await rows()).find((r) => r.id === id)!.label).toBeNull();
  await undo();
});

test('bins, labels and notes go out with the whole project and come back with it; a checkpoint returns them', async () => {
  const label: Label = { id: 'l', name: 'glass', colour: 'lake', mark: 'star' };
  await client.put(`/projects/${projectId}/labels`, { labels: [label] }).expect(200);
  await act('/bins', { bin: ['Empty', 'Inner'] });
  await client.post(`/projects/${projectId}/checkpoints`, { name: 'before' }).expect(200);
  const ids = await idsOf('lost.mov');
  await act('/bins/file', { clipIds: ids, bin: ['Lost'] });
  await act('/label', { clipIds: ids, label: 'l' });
  await act('/notes', { written: [{ clipIds: ids, values: { circled: 'yes', 'Own column': 'slag' } }] });

  const exported = await client.api().get(`/api/projects/${projectId}/export`).set('Host', 'localhost').buffer(true);
  const opened = await client
    .api()
    .post('/api/projects/import')
    .set('Host', 'localhost')
    .query({ name: 'Saltglass.otio' })
    .type('application/octet-stream')
    .send(Buffer.from(exported.text ?? String(exported.body)))
    .expect(201);
  const other = (opened.body as { id: string }).id;
  expect(await client.get<Bins>(`/projects/${other}/bins`)).toMatchObject({
    bins: expect.arrayContaining([['Empty', 'Inner']]) as unknown,
    labels: [label],
    columns: expect.arrayContaining(['Own column']) as unknown,
  });
  expect((await client.rows(other)).find((r) => r.name === 'lost.mov')).toMatchObject({ bin: ['Lost'], label: 'l' });

  const { checkpoints } = await client.get<History>(`/projects/${projectId}/history`);
  await client.post(`/projects/${projectId}/checkpoints/${checkpoints[0]!.id}/return`).expect(200);
  expect((await rows()).find((r) => r.name === 'lost.mov')).toMatchObject({ bin: [], label: null });
  await undo();
  expect((await rows()).find((r) => r.name === 'lost.mov')).toMatchObject({ bin: ['Lost'], label: 'l' });
  expect(await differingRows(house.db, projectId)).toEqual([]);
});

test('arrangements of columns are kept under names, of one project or of all', async () => {
  const arrangement = {
    order: ['reel', 'name'],
    hidden: ['codec'],
    widths: { reel: 80 },
    pinned: ['name'],
    sorts: [],
    group: null,
  };
  const of = (project: string) => client.get<Layout[]>(`/projects/${project}/layouts?table=bins`);
  const put = (layout: object) =>
    client.put(`/projects/${projectId}/layouts`, { table: 'bins', ...layout }).expect(200);
  await put({ name: 'mine', forAll: false, arrangement });
  await put({ name: 'mine', forAll: true, arrangement: { ...arrangement, hidden: [] } });
  await put({ name: 'mine', forAll: false, arrangement: { ...arrangement, group: 'reel' } });
  const other = await client.newProject('Another');
  expect(await of(projectId)).toHaveLength(2);
  expect(await of(projectId)).toContainEqual({
    name: 'mine',
    forAll: false,
    arrangement: { ...arrangement, group: 'reel' },
  });
  expect(await of(other)).toEqual([{ name: 'mine', forAll: true, arrangement: { ...arrangement, hidden: [] } }]);
  expect(await client.get(`/projects/${projectId}/layouts?table=ledger`)).toEqual([]);
  await client.post(`/projects/${projectId}/layouts/remove`, { table: 'bins', name: 'mine', forAll: true }).expect(200);
  expect(await of(other)).toEqual([]);
  expect(await of(projectId)).toHaveLength(1);
});
