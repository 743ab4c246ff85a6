import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdirSync, renameSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type {
  Act,
  Causes,
  ClipDetail,
  ClipRow,
  ComparedPictures,
  History,
  HistoryChange,
  LinkPreview,
  PlaceView,
  Uses,
} from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

/** What ties a clip, what it rests on, and what is said of it: over real films that are renamed, broken, untied, shared. */
let house: House;
let projectId: string;
let bay: string;
const client = clientOf(() => house);
const { api, get } = client;
const post = async <T>(path: string, body: object = {}): Promise<T> =>
  (await client.post(`/projects/${projectId}${path}`, body).expect(200)).body as T;
const row = (name: string) => client.row(projectId, name);
const detail = (name: string) => client.detail(projectId, name);
const index = async () => {
  const [place] = await get<PlaceView[]>('/places');
  await client.index(place!.id);
};

const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: 25, value });
const span = (start: number, length: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start),
  duration: time(length),
});
const anHour = 90_000;
type Shown = {
  readonly url: string;
  readonly start: number;
  readonly from?: number;
  readonly frames?: number;
  readonly reel?: string;
};
const clipOf = ({ url, start, from = 5, frames = 25, reel = 'A001' }: Shown) => ({
  OTIO_SCHEMA: 'Clip.2',
  name: url.split('/').at(-1),
  source_range: span(start + from, frames),
  media_references: {
    DEFAULT_MEDIA: {
      OTIO_SCHEMA: 'ExternalReference.1',
      target_url: url,
      available_range: span(start, 50),
      metadata: { reel },
    },
  },
  active_media_reference_key: 'DEFAULT_MEDIA',
});
const shown: readonly Shown[] = [
  { url: '/Volumes/KILN/day1/lies.mov', start: anHour },
  { url: '/Volumes/KILN/day1/broken.mov', start: anHour + 100 },
  { url: '/Volumes/OLD/day1/broken2.mov', start: anHour + 150 },
  { url: '/Volumes/KILN/day1/short.mov', start: anHour + 200, from: 10, frames: 35 },
  { url: '/Volumes/OLD/day9/door_010_v2.mov', start: 0 },
  { url: '/Volumes/OLD/day9/door_020_v2.mov', start: 0 },
  { url: '/Volumes/OLD/twins/twin.mov', start: anHour + 300 },
];
const track = (kind: string, children: unknown[]) => ({ OTIO_SCHEMA: 'Track.1', kind, children });
const cut = JSON.stringify({
  OTIO_SCHEMA: 'Timeline.1',
  name: 'cut',
  tracks: {
    OTIO_SCHEMA: 'Stack.1',
    // The first is seen and heard at once.
    children: [track('Video', shown.map(clipOf)), track('Audio', [clipOf(shown[0]!), clipOf(shown[1]!)])],
  },
});
const tc = (frame: number) => `01:00:${String(Math.floor((frame - anHour) / 25)).padStart(2, '0')}:00`;

beforeAll(async () => {
  house = await openHouse();
  bay = join(house.folder, 'KILN');
  makeFilm(join(bay, 'day1/lies.mov'));
  mkdirSync(join(bay, 'moved/day1'), { recursive: true });
  writeFileSync(join(bay, 'day1/broken.mov'), '');
  writeFileSync(join(bay, 'moved/day1/broken2.mov'), '');
  // Not just being written.
  for (const name of ['day1/broken.mov', 'moved/day1/broken2.mov']) utimesSync(join(bay, name), 1, 1);
  makeFilm(join(bay, 'day1/short.mov'), { timecode: tc(anHour + 200), frames: 30 });
  makeFilm(join(bay, 'vfx/door_010_v3.mov'), { timecode: '00:00:00:00', colour: 'green' });
  makeFilm(join(bay, 'one/twin.mov'), { timecode: tc(anHour + 300), colour: 'blue' });
  makeFilm(join(bay, 'two/twin.mov'), { timecode: tc(anHour + 300), colour: 'yellow' });
  const made = await api().post('/api/projects').set('Host', 'localhost').send({ name: 'Ties' }).expect(201);
  projectId = (made.body as { id: string }).id;
  await api()
    .post(`/api/projects/${projectId}/documents`)
    .set('Host', 'localhost')
    .query({ name: 'cut.otio' })
    .type('application/octet-stream')
    .send(Buffer.from(cut))
    .expect(201);
  await api().post('/api/places').set('Host', 'localhost').send({ path: bay }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

describe('what is said is what is', () => {
  test('a file at the very path, or found by name and folder, that cannot be read is Unreadable, with its reason', async () => {
    for (const name of ['broken.mov', 'broken2.mov'])
      expect((await row(name)).status).toEqual({ status: 'unreadable', reason: { code: 'file-empty' } });
    const { causes } = await get<Causes>(`/projects/${projectId}/causes`);
    const ids = [(await row('broken.mov')).id, (await row('broken2.mov')).id];
    expect(causes.find((c) => c.kind.code === 'unreadable')!.clipIds.toSorted()).toEqual(ids.sort());
  });

  test('every use has its coverage and its first frame in the file, all of them in one request', async () => {
    const uses = await get<Uses>(`/projects/${projectId}/uses`);
    const { id } = await row('short.mov');
    expect(uses.find((u) => u.clipId === id)!.uses).toMatchObject([
      { uncoveredInFrames: 15, firstFrameInFile: 10, source: { start: anHour + 210, end: anHour + 245 } },
    ]);
    expect((await row('short.mov')).status).toMatchObject({ status: 'changed' });
    expect((await detail('lies.mov')).usesInFull).toMatchObject([
      { uncoveredInFrames: 0, firstFrameInFile: 5 },
      { uncoveredInFrames: 0, firstFrameInFile: 5 },
    ]);
  });

  test('the dark time of a cause is that of the cut: what is seen and heard at once counts once', async () => {
    const { causes } = await get<Causes>(`/projects/${projectId}/causes`);
    const broken = causes.find((c) => c.kind.code === 'unreadable')!;
    // Two clips of a second each; one of them on two tracks at the same time, the other a second later.
    expect(broken.screenSeconds).toBe(2);
  });

  test('linking a selection leaves out what asks for a choice, and gives no file to two recordings', async () => {
    const names = ['twin.mov', 'door_010_v2.mov', 'door_020_v2.mov', 'lies.mov'];
    const clipIds = await Promise.all(names.map(async (n) => (await row(n)).id));
    const { members } = await post<LinkPreview>('/links/preview', { clipIds, onlyCertain: false });
    const byName = new Map(members.map((m) => [m.clipName, m]));
    expect(byName.get('twin.mov')).toMatchObject({ fits: false, leftOut: 'choice' });
    const doors = ['door_010_v2.mov', 'door_020_v2.mov'].map((n) => byName.get(n)!);
    expect(doors.filter((m) => m.fits).length).toBeLessThan(2);
    // Asked for all the same, the server gives it to neither.
    const file = (await detail('door_010_v2.mov')).candidatesInFull[0]!.file.id;
    const wanted = clipIds.slice(1, 3).map((clipId) => ({ clipId, mediaFileId: file }));
    expect(await post<Act>('/links', { by: 'hand', links: wanted })).toMatchObject({ count: 0, skipped: [{}, {}] });
  });
});

test('two takes of one name and timecode are told apart by their pictures', async () => {
  const [one, two] = (await detail('twin.mov')).candidatesInFull;
  const compared = (a: string, b: string) => get<ComparedPictures>(`/media/${a}/compare/${b}`);
  expect(await compared(one!.file.id, two!.file.id)).toMatchObject({
    together: 'other',
    frames: [{ likeness: 'other' }, { likeness: 'other' }, { likeness: 'other' }],
  });
  expect((await compared(one!.file.id, one!.file.id)).together).toBe('same');
});

describe('untied on purpose', () => {
  test('a clip tied by its path alone goes offline, stays so, and comes back by Undo', async () => {
    const { id } = await row('lies.mov');
    const act = await post<Act>('/links', { by: 'hand', links: [{ clipId: id, mediaFileId: null }] });
    expect(act).toMatchObject({ verb: 'unlink', count: 1 });
    const offline = {
      tied: null,
      status: { status: 'missing', because: 'taken-offline' },
      why: { code: 'taken-offline' },
    };
    expect(await row('lies.mov')).toMatchObject(offline);
    await house.idle();
    await post('/links/certain');
    expect(await row('lies.mov')).toMatchObject(offline);
    const { causes } = await get<Causes>(`/projects/${projectId}/causes`);
    expect(causes.find((c) => c.kind.code === 'taken-offline')!.clipIds).toEqual([id]);
    await post('/undo');
    expect(await row('lies.mov')).toMatchObject({ status: { status: 'linked' }, tied: { by: 'remembered' } });
  });

  test('and by being linked by hand', async () => {
    const { id, tied } = await row('lies.mov');
    await post('/links', { by: 'hand', links: [{ clipId: id, mediaFileId: null }] });
    await post('/links', { by: 'hand', links: [{ clipId: id, mediaFileId: tied!.mediaFileId }] });
    expect(await row('lies.mov')).toMatchObject({ status: { status: 'linked' }, tied: { by: 'hand' } });
    expect((await detail('lies.mov')).linkedBecause).toMatchObject({ grounds: 'name-timecode-length' });
  });
});

describe('a linked file under another name', () => {
  test('is followed where the file system and its content say that it is the same, as an act of its own', async () => {
    renameSync(join(bay, 'day1/lies.mov'), join(bay, 'day1/tells the truth.mov'));
    await index();
    expect(await row('lies.mov')).toMatchObject({
      status: { status: 'linked' },
      tied: { name: 'tells the truth.mov', by: 'follow' },
    });
    const { entries } = await get<History>(`/projects/${projectId}/history`);
    expect(entries[0]).toMatchObject({ verb: 'follow', count: 1, state: 'done' });
    await post('/undo');
    expect((await row('lies.mov')).status).toMatchObject({ status: 'missing', because: 'file-gone' });
    // Its certain candidate is shown, with the reason, and can be linked.
    await house.idle();
    expect(await row('lies.mov')).toMatchObject({
      decision: 'certain',
      why: { code: 'renamed', to: 'tells the truth.mov' },
      candidate: { name: 'tells the truth.mov' },
    });
  });

  test('what another file took the place of is not followed', async () => {
    renameSync(join(bay, 'one/twin.mov'), join(bay, 'one/other.mov'));
    makeFilm(join(bay, 'one/other.mov'), { timecode: '05:00:00:00' });
    await index();
    const { entries } = await get<History>(`/projects/${projectId}/history`);
    expect(entries.filter((e) => e.verb === 'follow' && e.state === 'done')).toEqual([]);
  });
});

test('what follows from a name that a link taught is shown under that act', async () => {
  makeFilm(join(bay, 'day9/door_010_v2.mov'), { timecode: tc(anHour + 400), reel: 'B002' });
  const other = JSON.parse(cut) as { tracks: { children: { children: unknown[] }[] } };
  other.tracks.children = [
    track('Video', [
      clipOf({ url: '/Volumes/AWAY/day1/short.mov', start: anHour + 200, frames: 10 }),
      clipOf({ url: '/Volumes/AWAY/two/twin.mov', start: anHour + 300 }),
    ]),
  ] as never;
  await api()
    .post(`/api/projects/${projectId}/documents`)
    .set('Host', 'localhost')
    .query({ name: 'other.otio' })
    .type('application/octet-stream')
    .send(Buffer.from(JSON.stringify(other)))
    .expect(201);
  await house.idle();
  const away = (await get<ClipRow[]>(`/projects/${projectId}/clips`)).filter((r) => r.folder.startsWith('AWAY'));
  const short = away.find((r) => r.fileName === 'short.mov')!;
  const file = (await get<ClipDetail>(`/clips/${short.id}`)).candidatesInFull[0]!.file.id;
  const act = await post<Act>('/links', { by: 'hand', links: [{ clipId: short.id, mediaFileId: file }] });
  await house.idle();
  const changes = await get<HistoryChange[]>(`/projects/${projectId}/history/${act.id}`);
  expect(changes.find((c) => c.what === 'learn')).toMatchObject({ name: 'AWAY' });
  expect(changes.filter((c) => c.what === 'follows')).toMatchObject([
    { clipName: 'twin.mov', after: { path: 'KILN/two/twin.mov' } },
  ]);
});

test('a clip that is left out of a cause stays as it is; what leaves out all of them is no act', async () => {
  for (const [i, name] of ['north.mov', 'south.mov'].entries())
    makeFilm(join(bay, 'moved/day5', name), { timecode: tc(anHour + 500 + i * 100), reel: 'E005' });
  await index();
  projectId = (
    (await api().post('/api/projects').set('Host', 'localhost').send({ name: 'Left out' }).expect(201)).body as {
      id: string;
    }
  ).id;
  const moved = JSON.parse(cut) as { tracks: { children: unknown[] } };
  const lying = ['north.mov', 'south.mov'].map((name, i) =>
    clipOf({ url: `/Volumes/OLD/day5/${name}`, start: anHour + 500 + i * 100, reel: 'E005' }),
  );
  moved.tracks.children = [track('Video', lying)];
  await api()
    .post(`/api/projects/${projectId}/documents`)
    .set('Host', 'localhost')
    .query({ name: 'moved.otio' })
    .type('application/octet-stream')
    .send(Buffer.from(JSON.stringify(moved)))
    .expect(201);
  await house.idle();
  const [cause] = (await get<Causes>(`/projects/${projectId}/causes`)).causes;
  expect(cause).toMatchObject({ kind: { code: 'displaced' }, links: 2 });
  const [north, south] = [await row('north.mov'), await row('south.mov')];
  await api()
    .post(`/api/projects/${projectId}/causes/${cause!.key}/mend`)
    .set('Host', 'localhost')
    .send({ except: [north.id, south.id] })
    .expect(409);
  expect(await post<Act>(`/causes/${cause!.key}/mend`, { except: [north.id] })).toMatchObject({
    verb: 'mend',
    count: 1,
  });
  expect((await row('north.mov')).tied).toBeNull();
  expect(await row('south.mov')).toMatchObject({ status: { status: 'linked' }, tied: { by: 'cause' } });
});
