import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { copyFileSync, existsSync, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { defaultRules, shippedRuleSets, type MatchRules } from '@legame/core/match';
import type {
  Act,
  Bench,
  CausePreview,
  Causes,
  ClipDetail,
  History,
  HistoryChange,
  PlaceView,
  RuleSets,
  WeighedClips,
} from '@legame/core/contract';
import { clipStore } from '../stores/clips.ts';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

/** Causes, decisions and their way back, over real films: moved, renamed, counted from zero, copied small. */
let house: House;
let projectId: string;
const client = clientOf(() => house);
const { api, get, send } = client;
const post = (path: string, body?: object) => send('post', `/projects/${projectId}${path}`, body);
const act = async (path: string, body?: object): Promise<Act> => (await post(path, body).expect(200)).body as Act;
const rows = () => client.rows(projectId);
const row = async (name: string) => (await rows()).find((r) => r.name === name)!;
const causes = async () => (await get<Causes>(`/projects/${projectId}/causes`)).causes;
const causeOf = async (name: string) => {
  const { id } = await row(name);
  return (await causes()).find((c) => c.clipIds.includes(id));
};

const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: 25, value });
const range = (start: number, frames: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start),
  duration: time(frames),
});
const clip = (name: string, url: string, start: number, reel = 'A001', frames = 50) => ({
  OTIO_SCHEMA: 'Clip.2',
  name,
  metadata: {},
  source_range: range(start + 5, 25),
  media_references: {
    DEFAULT_MEDIA: {
      OTIO_SCHEMA: 'ExternalReference.1',
      metadata: { camera: { reel } },
      name: null,
      available_range: range(start, frames),
      target_url: url,
    },
  },
  active_media_reference_key: 'DEFAULT_MEDIA',
});
const anHour = 90_000;
const otio = JSON.stringify({
  OTIO_SCHEMA: 'Timeline.1',
  name: 'cut',
  metadata: {},
  global_start_time: time(anHour),
  tracks: {
    OTIO_SCHEMA: 'Stack.1',
    name: 'tracks',
    metadata: {},
    children: [
      {
        OTIO_SCHEMA: 'Track.1',
        name: 'V1',
        kind: 'Video',
        metadata: {},
        children: [
          clip('bowl', 'file:///Volumes/OLD/day1/bowl.mov', anHour),
          clip('door', 'file:///Volumes/OLD/day1/door.mov', anHour + 1000),
          clip('pipe', 'file:///Volumes/KILN/zero/pipe.mov', 0, 'Z001'),
          clip('salt', 'file:///Volumes/KILN/zero/salt.mov', 0, 'Z001'),
          clip('gone', 'file:///Volumes/KILN/day9/gone.mov', 7 * anHour, 'G001'),
          clip('home', 'file:///Volumes/KILN/day1/home.mov', 3 * anHour, 'H001'),
        ],
      },
    ],
  },
});

beforeAll(async () => {
  house = await openHouse();
  const bay = join(house.folder, 'KILN');
  makeFilm(join(bay, 'moved/day1/bowl.mov'));
  makeFilm(join(bay, 'moved/day1/door.mov'), { timecode: '01:00:40:00', colour: 'blue' });
  makeFilm(join(bay, 'zero/pipe.mov'), { timecode: '14:00:00:00', reel: 'Z001', colour: 'green' });
  makeFilm(join(bay, 'zero/salt.mov'), { timecode: '15:30:00:00', reel: 'Z001', colour: 'white' });
  makeFilm(join(bay, 'day1/home.mov'), { timecode: '03:00:00:00', reel: 'H001', colour: 'black' });
  projectId = ((await send('post', '/projects', { name: 'Saltglass' }).expect(201)).body as { id: string }).id;
  await send('post', '/places', { path: bay }).expect(201);
  await api()
    .post(`/api/projects/${projectId}/documents`)
    .set('Host', 'localhost')
    .query({ name: 'cut.otio' })
    .type('application/octet-stream')
    .send(Buffer.from(otio))
    .expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

describe('causes', () => {
  test('account for every dark clip, and say what mending would do without doing it', async () => {
    const list = await causes();
    expect(list.map((c) => [c.kind.code, c.clipIds.length, c.links])).toEqual([
      ['displaced', 2, 2],
      ['displaced', 2, 2],
      ['gone', 1, 0],
    ]);
    expect((await causeOf('bowl'))!.kind).toMatchObject({ folder: { from: 'OLD', to: 'KILN/moved', how: 'tree' } });
    expect((await causeOf('pipe'))!.kind).toMatchObject({ folder: null, timecode: { kind: 'from-zero' } });
    const preview = await get<CausePreview>(`/projects/${projectId}/causes/${(await causeOf('pipe'))!.key}`);
    expect(preview.members.map((m) => [m.clipName, m.fits, m.interpretation?.shiftInFrames])).toEqual([
      ['pipe', true, 14 * anHour],
      ['salt', true, 15.5 * anHour],
    ]);
    expect((await row('pipe')).status.status).toBe('changed');
  });

  test('one decision mends one cause; the clips are read as their files count, the document is not touched', async () => {
    const { key } = (await causeOf('pipe'))!;
    expect(await act(`/causes/${key}/mend`, {})).toMatchObject({ verb: 'mend', count: 2, skipped: [] });
    expect(await row('pipe')).toMatchObject({ interpreted: true, status: { status: 'linked' }, tied: { by: 'cause' } });
    await house.idle();
    expect((await post(`/causes/${key}/mend`, {}).expect(409)).body).toMatchObject({ code: 'cause-gone' });
    const detail = await get<ClipDetail>(`/clips/${(await row('pipe')).id}`);
    expect(detail.used).toEqual([{ start: 14 * anHour + 5, end: 14 * anHour + 30 }]);
    expect(detail.usesInFull[0]!.source).toEqual({ start: 14 * anHour + 5, end: 14 * anHour + 30 });
  });

  test('the export of the document keeps its counting; a list made of it counts as the files do', async () => {
    const { documentId } = await row('pipe');
    const text = async (query: object) =>
      (
        (await api()
          .get(`/api/documents/${documentId}/export`)
          .query(query)
          .set('Host', 'localhost')
          .buffer(true)
          .expect(200)) as { body: Buffer }
      ).body.toString('utf8');
    const own = JSON.parse(await text({})) as { tracks: { children: { children: ReturnType<typeof clip>[] }[] } };
    expect(own.tracks.children[0]!.children[2]!.source_range).toEqual(range(5, 25));
    expect(await text({ format: 'edl' })).toMatch(/Z001\s+V\s+C\s+14:00:00:05 14:00:01:05/);
    const pull = (
      await api().get(`/api/projects/${projectId}/pull-list`).query({ of: 'used' }).set('Host', 'localhost').expect(200)
    ).body as { names: string[]; range: { start: number } }[];
    expect(pull.find((p) => p.names.includes('salt'))!.range.start).toBe(15.5 * anHour + 5);
  });

  test('undo and redo go through the whole act', async () => {
    expect(await act('/undo')).toMatchObject({ verb: 'mend', count: 2 });
    expect(await row('pipe')).toMatchObject({ interpreted: false, status: { status: 'changed' } });
    expect(await act('/redo')).toMatchObject({ verb: 'mend', count: 2 });
    expect(await row('pipe')).toMatchObject({ interpreted: true, status: { status: 'linked' } });
    expect((await post('/redo').expect(409)).body).toMatchObject({ code: 'nothing-to-redo' });
  });
});

describe('what is decided by hand', () => {
  test('a pinned link is left alone by causes, rules and carries, and says so', async () => {
    const [bowl, door] = [await row('bowl'), await row('door')];
    await act('/pins', { clipIds: [bowl.id], pinned: true });
    const mended = await act(`/causes/${(await causeOf('bowl'))!.key}/mend`, {});
    expect(mended).toMatchObject({ count: 1, skipped: [{ clipId: bowl.id, why: 'pinned' }] });
    expect((await row('door')).status.status).toBe('linked');
    await act('/undo');
    await act('/pins', { clipIds: [bowl.id], pinned: false });
    expect((await row('door')).id).toBe(door.id);
  });

  test('a changed folder links what it resolves, with a count before', async () => {
    await house.idle();
    const preview = (await post('/folders/preview', { from: 'OLD', to: 'KILN/moved' }).expect(200)).body as {
      reached: number;
      members: { clipName: string; fits: boolean }[];
    };
    expect([preview.reached, preview.members.map((m) => [m.clipName, m.fits])]).toEqual([
      2,
      [
        ['bowl', true],
        ['door', true],
      ],
    ]);
    const nowhere = (await post('/folders/preview', { from: 'OLD', to: 'KILN/nowhere' }).expect(200)).body as object;
    expect(nowhere).toMatchObject({ reached: 2, members: [] });
    expect(await act('/folders', { from: '/Volumes/OLD', to: '/Volumes/KILN/moved' })).toMatchObject({
      verb: 'change-folder',
      count: 2,
    });
  });

  test('the bench shows what edit and files count from; an interpretation is set, and restored', async () => {
    const bench = async (name: string) =>
      (await get<Bench>(`/projects/${projectId}/timecode`)).clips.find((r) => r.clipName === name)!;
    expect(await bench('pipe')).toMatchObject({ apart: null, uncoveredInFrames: 0 });
    const { clipId } = await bench('pipe');
    await act('/timecode', { clips: [{ clipId, interpretation: null }] });
    expect(await bench('pipe')).toMatchObject({
      stated: { available: { start: 0, end: 50 } },
      apart: { kind: 'from-zero', byFrames: 14 * anHour },
      uncoveredInFrames: 25,
    });
    await act('/undo');
    expect((await row('pipe')).status.status).toBe('linked');
  });

  test('a file moved and renamed after it was linked is known again by its bytes', async () => {
    const bay = join(house.folder, 'KILN');
    mkdirSync(join(bay, 'elsewhere'));
    // Copied and taken away: the file system knows it no more, its bytes do.
    copyFileSync(join(bay, 'moved/day1/bowl.mov'), join(bay, 'elsewhere/nobody-knows.mov'));
    rmSync(join(bay, 'moved/day1/bowl.mov'));
    const [place] = await get<PlaceView[]>('/places');
    await send('post', `/places/${place!.id}/index`).expect(202);
    await house.idle();
    const bowl = await row('bowl');
    expect(bowl).toMatchObject({ status: { status: 'missing' }, decision: 'certain' });
    expect((await get<ClipDetail>(`/clips/${bowl.id}`)).fullDecision).toMatchObject({ grounds: 'content' });
    expect(await act('/links/certain', { clipIds: [bowl.id] })).toMatchObject({ count: 1 });
    expect(await row('bowl')).toMatchObject({ status: { status: 'linked' }, tied: { name: 'nobody-knows.mov' } });
  });

  test('put back copies a file to where the edit expects it, and never over another', async () => {
    const refused = await post('/put-back', { clipIds: [(await row('home')).id] }).expect(409);
    expect(refused.body).toMatchObject({ code: 'nothing-to-put-back' });
    // The edit says OLD; once that is known to be KILN, the folder lies in a place.
    const [place] = await get<PlaceView[]>('/places');
    await api()
      .patch(`/api/places/${place!.id}`)
      .set('Host', 'localhost')
      .send({ knownAs: ['OLD'] })
      .expect(200);
    await house.idle();
    const answer = await post('/put-back', { clipIds: [(await row('bowl')).id] }).expect(202);
    expect(answer.body).toEqual({ started: 1, skipped: [] });
    await house.idle();
    const [source, copy] = ['elsewhere/nobody-knows.mov', 'day1/bowl.mov'].map((p) => join(house.folder, 'KILN', p));
    expect(readFileSync(copy!).equals(readFileSync(source!))).toBe(true);
    expect(await row('bowl')).toMatchObject({
      status: { status: 'linked' },
      tied: { folder: 'day1', name: 'bowl.mov' },
    });
    await act('/undo');
    expect(await row('bowl')).toMatchObject({ tied: { name: 'nobody-knows.mov' } });
    // What was put back before lies there still: it is only linked.
    const { mtimeMs } = statSync(copy!);
    await post('/put-back', { clipIds: [(await row('bowl')).id] }).expect(202);
    await house.idle();
    expect(await row('bowl')).toMatchObject({ tied: { folder: 'day1', name: 'bowl.mov' } });
    expect(statSync(copy!).mtimeMs).toBe(mtimeMs);
    expect(existsSync(source!)).toBe(true);
  });
});

describe('rules', () => {
  test('three good sets are there, own ones are kept beside them', async () => {
    const names = async () => (await get<RuleSets>(`/projects/${projectId}/rule-sets`)).map((s) => s.name);
    expect(await names()).toEqual(shippedRuleSets.map((s) => s.name));
    await send('put', `/projects/${projectId}/rule-sets`, [{ name: 'mine', rules: defaultRules }]).expect(200);
    expect(await names()).toEqual([...shippedRuleSets.map((s) => s.name), 'mine']);
    await send('put', `/projects/${projectId}/rules`, { weights: {} }).expect(400);
  });

  test('where to look is a rule: nothing outside is a candidate', async () => {
    const weighed = await get<WeighedClips>(`/projects/${projectId}/weighed`);
    expect(weighed.clips).toHaveLength(6);
    const [place] = await get<PlaceView[]>('/places');
    const within: MatchRules = { ...defaultRules, within: [{ placeId: place!.id, folder: 'day9' }] };
    await act('/links', { by: 'hand', links: [{ clipId: (await row('door')).id, mediaFileId: null }] });
    await send('put', `/projects/${projectId}/rules`, within).expect(202);
    await house.idle();
    expect((await row('door')).decision).toBe('nothing');
    await send('put', `/projects/${projectId}/rules`, defaultRules).expect(202);
    await house.idle();
    expect((await row('door')).decision).toBe('certain');
    await act('/undo');
  });
});

describe('the way back', () => {
  /** Everything that acts decide about clips, and nothing that follows from it. */
  const decided = async () =>
    (await clipStore.listClips(house.db, projectId as never)).map(
      ({ id, link, setAside, pinned, interpretation, declined }) =>
        JSON.stringify({ id, link, setAside, pinned, interpretation, declined: [...declined].sort() }),
    );

  test('history tells each act before and after; a checkpoint is returned to in one act', async () => {
    const history = (await post('/checkpoints', { name: 'before the trials' }).expect(200)).body as History;
    expect(history.checkpoints[0]!.name).toBe('before the trials');
    const before = await decided();
    const clipIds = (await rows()).map((r) => r.id);
    await act('/pins', { clipIds, pinned: true });
    await act('/set-aside', { clipIds, as: 'waived', reason: 'a slate' });
    await act('/links', { by: 'hand', links: clipIds.map((clipId) => ({ clipId, mediaFileId: null })) });
    const { entries } = await get<History>(`/projects/${projectId}/history`);
    expect(entries.slice(0, 3).map((e) => [e.verb, e.state])).toEqual([
      ['unlink', 'done'],
      ['waive', 'done'],
      ['pin', 'done'],
    ]);
    const changes = await get<HistoryChange[]>(`/projects/${projectId}/history/${entries[1]!.id}`);
    const mend = entries.find((e) => e.verb === 'mend' && e.state === 'done')!;
    expect(await get<HistoryChange[]>(`/projects/${projectId}/history/${mend.id}`)).toContainEqual({
      clipName: 'pipe',
      what: 'interpret',
      before: null,
      after: { countedAt: null, shiftInFrames: 14 * anHour, statedRate: { num: 25, den: 1 } },
    });
    expect(changes[0]).toMatchObject({ what: 'set-aside', before: null, after: { as: 'waived', reason: 'a slate' } });
    expect(await act(`/checkpoints/${history.checkpoints[0]!.id}/return`)).toMatchObject({ verb: 'return' });
    expect(await decided()).toEqual(before);
    await act('/undo');
    expect((await row('door')).status.status).toBe('waived');
    await act('/redo');
    expect(await decided()).toEqual(before);
  });

  test('whatever is done, undone to the end it is as it was, and redone to the end as it became', async () => {
    const ids = (await rows()).map((r) => r.id);
    const files = (await get<WeighedClips>(`/projects/${projectId}/weighed`)).files.map((f) => f.id);
    const some = fc.subarray(ids, { minLength: 1 });
    const oneAct = fc.oneof(
      fc.record({ path: fc.constant('/pins'), body: fc.record({ clipIds: some, pinned: fc.boolean() }) }),
      fc.record({
        path: fc.constant('/set-aside'),
        body: fc.record({
          clipIds: some,
          as: fc.constantFrom('parked' as const, 'waived' as const, null),
          reason: fc.constantFrom('', 'a slate'),
        }),
      }),
      fc.record({
        path: fc.constant('/links'),
        body: fc.record({
          by: fc.constantFrom('hand' as const, 'swap' as const),
          links: some.chain((list) =>
            fc.tuple(
              ...list.map((clipId) =>
                fc.record({ clipId: fc.constant(clipId), mediaFileId: fc.option(fc.constantFrom(...files)) }),
              ),
            ),
          ),
        }),
      }),
      fc.record({
        path: fc.constant('/timecode'),
        body: fc.record({
          clips: some.map((list) =>
            list.map((clipId, i) => ({
              clipId,
              interpretation: i % 3 === 0 ? null : { countedAt: null, shiftInFrames: i * 100 - 50 },
            })),
          ),
        }),
      }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(oneAct, { minLength: 1, maxLength: 8 }), async (acts) => {
        const first = await decided();
        let done = 0;
        for (const { path, body } of acts) if ((await act(path, body)).count > 0) done += 1;
        const last = await decided();
        for (let i = 0; i < done; i += 1) await act('/undo');
        expect(await decided()).toEqual(first);
        for (let i = 0; i < done; i += 1) await act('/redo');
        expect(await decided()).toEqual(last);
        for (let i = 0; i < done; i += 1) await act('/undo');
      }),
      { numRuns: 15 },
    );
  }, 120_000);
});
