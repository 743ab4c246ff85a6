import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseRate } from '@legame/core/time';
import type { ClipDetail, ClipRow, Handoff, PlaceView, ProjectSummary } from '@legame/core/contract';
import { sweepPlaces } from '../places/states.ts';
import { xxh64Of } from '../media/hashing.ts';
import { listedIn } from '../testing/set.ts';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeList } from '../testing/edits.ts';
import { makeFilm } from '../testing/media.ts';

let house: House;
let projectId: string;
let documentId: string;
const client = clientOf(() => house);
const { api, get, post } = client;
const bring = (content: string | Buffer, name: string, rate?: string) =>
  client.bring(projectId, content, name, rate ? { reading: { rate: parseRate(rate) } } : {});
const rows = () => client.rows(projectId);
const statuses = async () => Object.fromEntries((await rows()).map((r) => [r.fileName, r.status.status]));

const event = (name: string, file: string, reel = 'A001', hour = '01') => ({
  reel,
  from: `${hour}:00:00:05`,
  to: `${hour}:00:01:05`,
  name,
  file,
});
const list = makeList([
  event('bowl.mov', 'E:\\old\\day1\\bowl.mov'),
  event('door.mov', 'E:\\old\\day1\\door.mov'),
  event('rim.mov', 'E:\\old\\day1\\rim.mov'),
  event('friend.mov', 'E:\\old\\day1\\friend.mov', 'F001'),
  event('gone.mov', 'E:\\old\\day1\\gone.mov', 'A009', '07'),
  event('lies.mov', '/Volumes/KILN/day1/lies.mov', 'A001', '02'),
]);

beforeAll(async () => {
  house = await openHouse();
  const bay = join(house.folder, 'KILN');
  makeFilm(join(bay, 'moved/day1/bowl.mov'));
  makeFilm(join(bay, 'moved/day1/door.mov'), { colour: 'blue' });
  makeFilm(join(bay, 'moved/day1/rim.mov'), { colour: 'green' });
  makeFilm(join(bay, 'elsewhere/friend.mov'), { timecode: '05:00:00:00', frames: 30, reel: 'Z001' });
  makeFilm(join(bay, 'day1/lies.mov'), { timecode: '02:00:00:00' });
  projectId = ((await post('/projects', { name: 'Saltglass' }).expect(201)).body as { id: string }).id;
  documentId = ((await bring(list, 'reel.edl', '25').expect(201)).body as { id: string }).id;
  await post('/places', { path: bay }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

describe('the path from an edit to its media', () => {
  test('what lies where the edit says is linked by itself; the rest is dark, with its reason', async () => {
    expect(await statuses()).toEqual({
      'bowl.mov': 'missing',
      'door.mov': 'missing',
      'rim.mov': 'missing',
      'friend.mov': 'missing',
      'gone.mov': 'missing',
      'lies.mov': 'linked',
    });
    expect((await rows()).map((r) => r.why?.code ?? null)).toEqual([
      'moved',
      'moved',
      'moved',
      // A namesake elsewhere is another recording, and not the reason.
      'volume-unknown',
      'volume-unknown',
      null,
    ]);
    const friend = (await rows()).find((r) => r.fileName === 'friend.mov')!;
    const detail = await get<ClipDetail>(`/clips/${friend.id}`);
    expect(detail.candidatesInFull[0]).toMatchObject({ refusedFor: ['timecode'], file: { folder: 'elsewhere' } });
  });

  test('a rule may link only what is certain', async () => {
    const friend = (await rows()).find((r) => r.fileName === 'friend.mov')!;
    const detail = await get<ClipDetail>(`/clips/${friend.id}`);
    const refused = await post(`/projects/${projectId}/links`, {
      by: 'rule',
      links: [{ clipId: friend.id, mediaFileId: detail.candidatesInFull[0]!.file.id }],
    }).expect(200);
    expect(refused.body).toMatchObject({ count: 0, skipped: [{ clipId: friend.id }] });
    expect((await statuses())['friend.mov']).toBe('missing');
  });

  test('carry shows where one decision leads before anything is linked', async () => {
    const bowl = (await rows()).find((r) => r.fileName === 'bowl.mov')!;
    const preview = await post(`/projects/${projectId}/carry`, {
      clipId: bowl.id,
      mediaFileId: bowl.candidate!.mediaFileId,
    }).expect(200);
    expect(preview.body).toMatchObject({
      pattern: { from: 'E:/old', to: 'KILN/moved' },
      members: [
        { clipName: 'door.mov', fits: true, after: { status: 'linked' } },
        { clipName: 'rim.mov', fits: true, after: { status: 'linked' } },
      ],
    });
    expect((await statuses())['door.mov']).toBe('missing');
  });

  test('running the rules links every certain one; undo takes all of it back; then again', async () => {
    expect((await post(`/projects/${projectId}/links/certain`).expect(200)).body).toMatchObject({
      verb: 'link-by-rule',
      count: 3,
      skipped: [],
    });
    expect(await statuses()).toMatchObject({
      'bowl.mov': 'linked',
      'door.mov': 'linked',
      'friend.mov': 'missing',
      'gone.mov': 'missing',
    });
    await post(`/projects/${projectId}/undo`).expect(200);
    expect(await statuses()).toMatchObject({ 'bowl.mov': 'missing', 'door.mov': 'missing' });
    expect((await post(`/projects/${projectId}/undo`).expect(409)).body).toMatchObject({ code: 'nothing-to-undo' });
    await house.idle();
    await post(`/projects/${projectId}/links/certain`).expect(200);
    expect((await get<ProjectSummary>(`/projects/${projectId}`)).statuses).toMatchObject({ linked: 4, missing: 2 });
  });

  test('parking and waiving, taken up again by undo', async () => {
    const gone = (await rows()).find((r) => r.fileName === 'gone.mov')!;
    await post(`/projects/${projectId}/set-aside`, { clipIds: [gone.id], as: 'waived', reason: 'a slate' }).expect(200);
    expect((await statuses())['gone.mov']).toBe('waived');
    await post(`/projects/${projectId}/undo`).expect(200);
    expect((await statuses())['gone.mov']).toBe('missing');
  });

  test('the export differs from the original in source files only', async () => {
    const exported = (
      await api().get(`/api/documents/${documentId}/export`).set('Host', 'localhost').buffer(true).expect(200)
    ).body as Buffer;
    const [before, after] = [list.split('\n'), exported.toString('utf8').split('\n')];
    const changed = after.filter((line, i) => line !== before[i]);
    expect(after).toHaveLength(before.length);
    expect(changed.every((line) => line.startsWith(`* SOURCE FILE: ${house.folder}/KILN/`))).toBe(true);
    expect(changed).toHaveLength(4);
  });

  test('pictures are made once and kept', async () => {
    const bowl = (await rows()).find((r) => r.fileName === 'bowl.mov')!;
    const picture = await api()
      .get(`/api/media/${bowl.tied!.mediaFileId}/picture`)
      .query({ frame: 5 })
      .set('Host', 'localhost')
      .expect(200);
    expect(picture.headers['content-type']).toBe('image/jpeg');
    await api()
      .get(`/api/media/${bowl.tied!.mediaFileId}/picture`)
      .query({ frame: 5 })
      .set('Host', 'localhost')
      .expect(200);
  });

  test('a drive that is unplugged takes its clips along, and brings them back', async () => {
    const bay = join(house.folder, 'KILN');
    // Hidden, so that it is not recognised under another path.
    const away = join(house.folder, '.KILN');
    renameSync(bay, away);
    await sweepPlaces(house);
    expect(await statuses()).toMatchObject({ 'bowl.mov': 'missing', 'lies.mov': 'missing' });
    expect((await get<PlaceView[]>('/places'))[0]).toMatchObject({ there: false, files: 5 });
    const place = (await get<PlaceView[]>('/places'))[0]!;
    expect((await post(`/places/${place.id}/index`).expect(409)).body).toMatchObject({ code: 'place-away' });
    renameSync(away, bay);
    await sweepPlaces(house);
    await house.idle();
    expect(await statuses()).toMatchObject({ 'bowl.mov': 'linked', 'lies.mov': 'linked' });
  });

  test('a file replaced by another after it was linked is Changed', async () => {
    const path = join(house.folder, 'KILN/moved/day1/door.mov');
    const original = readFileSync(path);
    makeFilm(path, { frames: 20, timecode: '08:00:00:00' });
    const [place] = await get<PlaceView[]>('/places');
    await post(`/places/${place!.id}/index`).expect(202);
    await house.idle();
    expect((await statuses())['door.mov']).toBe('changed');
    writeFileSync(path, original);
    await post(`/places/${place!.id}/index`).expect(202);
    await house.idle();
    expect((await statuses())['door.mov']).toBe('linked');
  });

  test('a handoff is planned, copied, verified, and opens on its copies', async () => {
    mkdirSync(join(house.folder, 'OUT'));
    const planned = (
      await post(`/projects/${projectId}/handoffs`, {
        targetFolder: join(house.folder, 'OUT'),
        name: 'to colour',
      }).expect(201)
    ).body as Handoff;
    expect(planned.plan.recordings.map((r) => r.outs[0]!.target)).toEqual([
      'media/lies.mov',
      'media/bowl.mov',
      'media/door.mov',
      'media/rim.mov',
    ]);
    expect(planned.plan.leftOut.map((l) => [l.clipName, l.reason])).toEqual([
      ['friend.mov', 'missing'],
      ['gone.mov', 'missing'],
    ]);
    expect(existsSync(planned.folder)).toBe(false);
    await post(`/handoffs/${planned.id}/run`).expect(202);
    await house.idle();
    const done = await get<Handoff>(`/handoffs/${planned.id}`);
    expect(done.state).toBe('done');
    for (const file of done.plan.recordings) {
      expect(
        readFileSync(join(done.folder, file.outs[0]!.target)).equals(
          readFileSync(join(house.folder, 'KILN', file.source)),
        ),
      ).toBe(true);
    }
    const listed = listedIn(done.folder);
    const films = ['media/bowl.mov', 'media/door.mov', 'media/lies.mov', 'media/rim.mov'];
    expect([...listed.keys()].filter((path) => path.startsWith('media/'))).toEqual(films);
    expect([...listed.keys()]).toEqual(expect.arrayContaining(['reel.edl', 'report.csv']));
    for (const { path, sizeInBytes, hashes } of listed.values()) {
      const bytes = readFileSync(join(done.folder, path));
      expect([sizeInBytes, hashes.xxh64]).toEqual([bytes.length, xxh64Of(bytes)]);
    }
    expect(readFileSync(join(done.folder, 'report.csv'), 'utf8')).toMatch(/gone\.mov.*no file is linked/);
    expect(readFileSync(join(done.folder, 'reel.edl'), 'utf8')).toContain('* SOURCE FILE: media/bowl.mov');
    expect((await post(`/handoffs/${planned.id}/run`).expect(409)).body).toMatchObject({ code: 'handoff-finished' });

    // The next person opens it: a new project, the handoff as a place, the timeline from beside the media.
    const next = ((await post('/projects', { name: 'Colour' }).expect(201)).body as { id: string }).id;
    await post('/places', { path: done.folder }).expect(201);
    await api()
      .post(`/api/projects/${next}/documents`)
      .set('Host', 'localhost')
      .query({ name: 'reel.edl', reading: JSON.stringify({ rate: parseRate('25') }) })
      .type('application/octet-stream')
      .send(readFileSync(join(done.folder, 'reel.edl')))
      .expect(201);
    await house.idle();
    const opened = await get<ClipRow[]>(`/projects/${next}/clips`);
    expect(opened.filter((r) => r.status.status === 'linked').map((r) => [r.fileName, r.tied?.placeName])).toEqual([
      ['bowl.mov', 'to colour'],
      ['door.mov', 'to colour'],
      ['rim.mov', 'to colour'],
      ['lies.mov', 'to colour'],
    ]);
  }, 30_000);

  test('a target that is there already, and a source that went away, are told; the rest is copied; it can go on', async () => {
    const out = join(house.folder, 'OUT');
    const again = await post(`/projects/${projectId}/handoffs`, { targetFolder: out, name: 'to colour' }).expect(409);
    expect(again.body).toMatchObject({ code: 'target-exists', when: 'planned' });

    const planned = (await post(`/projects/${projectId}/handoffs`, { targetFolder: out, name: 'second' }).expect(201))
      .body as Handoff;
    const source = join(house.folder, 'KILN/moved/day1/bowl.mov');
    renameSync(source, `${source}.hidden`);
    await post(`/handoffs/${planned.id}/run`).expect(202);
    await house.idle();
    const stopped = await get<Handoff>(`/handoffs/${planned.id}`);
    expect(stopped).toMatchObject({
      state: 'failed',
      problem: { code: 'files-not-copied', failed: 1, of: 4, first: { code: 'source-unreadable' } },
    });
    expect(stopped.copied.map((f) => f.state)).toEqual(['verified', 'failed', 'verified', 'verified']);
    renameSync(`${source}.hidden`, source);
    await post(`/handoffs/${planned.id}/run`).expect(202);
    await house.idle();
    const done = await get<Handoff>(`/handoffs/${planned.id}`);
    expect([done.state, ...done.copied.map((f) => f.state)]).toEqual([
      'done',
      'verified',
      'verified',
      'verified',
      'verified',
    ]);
    expect(readFileSync(join(done.folder, 'reel.edl'), 'utf8')).toContain('* SOURCE FILE: media/bowl.mov');
  }, 30_000);
});

describe('bad input', () => {
  test.each([
    ['nothing.edl', Buffer.alloc(0), 'is empty'],
    ['film.edl', Buffer.from([0, 0, 0, 0x14, 0x66, 0x74, 0x79, 0x70, 0, 0, 1]), 'no text file'],
    ['cut.otio', Buffer.from('{"OTIO_SCHEMA": "Timeline.1", '), 'broken JSON at line 1'],
    ['letter.edl', Buffer.from('Dear editor'), 'none of the formats'],
  ])('%s is refused with a sentence, and nothing is kept of it', async (name, content, said) => {
    const before = (await get<unknown[]>(`/projects/${projectId}/documents`)).length;
    const { body } = await bring(content, name, '25').expect(422);
    expect(body).toMatchObject({
      code: 'document-not-read',
      status: 422,
      detail: expect.stringContaining(said) as unknown,
    });
    expect(await get<unknown[]>(`/projects/${projectId}/documents`)).toHaveLength(before);
  });

  test('an EDL with garbage is read, the garbage remarked; without a rate it asks', async () => {
    const garbage = `${list}\n@@@@ what is this\n`;
    expect((await bring(garbage, 'g.edl').expect(422)).body).toMatchObject({
      code: 'rate-needed',
      proposals: expect.any(Array) as unknown,
    });
    const { body } = await bring(garbage, 'g.edl', '25').expect(201);
    expect(body).toMatchObject({ remarks: [{ code: 'line-not-understood', text: '@@@@ what is this' }] });
    await api()
      .delete(`/api/documents/${(body as { id: string }).id}`)
      .set('Host', 'localhost')
      .expect(204);
    expect((await bring(list, 'g.edl', 'fast').expect(400)).body).toMatchObject({ code: 'request-not-understood' });
  });

  test('places and targets outside the roots, twice, absent, or not writable', async () => {
    expect((await post('/places', { path: '/etc' }).expect(403)).body).toMatchObject({ code: 'outside-roots' });
    expect((await post('/places', { path: join(house.folder, 'nothing') }).expect(404)).body).toMatchObject({
      code: 'folder-not-there',
    });
    expect((await post('/places', { path: join(house.folder, 'KILN/moved') }).expect(409)).body).toMatchObject({
      code: 'place-known-already',
    });
    expect(
      (await post(`/projects/${projectId}/handoffs`, { targetFolder: '/etc', name: 'x' }).expect(403)).body,
    ).toMatchObject({ code: 'outside-roots' });
    const escaped = (
      await post(`/projects/${projectId}/handoffs`, {
        targetFolder: join(house.folder, 'OUT'),
        name: '../../escape',
      }).expect(201)
    ).body as Handoff;
    expect(escaped.folder).toBe(join(house.folder, 'OUT/.._.._escape'));
  });

  test('a full drive is refused before anything is written', async () => {
    const planned = (
      await post(`/projects/${projectId}/handoffs`, {
        targetFolder: join(house.folder, 'OUT'),
        name: 'too much',
      }).expect(201)
    ).body as Handoff;
    await house.db('handoff_files').where({ handoff_id: planned.id }).update({ size_in_bytes: 1e15 });
    expect((await post(`/handoffs/${planned.id}/run`).expect(507)).body).toMatchObject({ code: 'no-room' });
    expect(existsSync(planned.folder)).toBe(false);
  });

  test('unknown things, wrong bodies and foreign pages', async () => {
    const nobody = '00000000-0000-4000-8000-000000000000';
    await api().get(`/api/projects/${nobody}`).set('Host', 'localhost').expect(404);
    await api().get('/api/projects/nonsense').set('Host', 'localhost').expect(400);
    await api().get('/api/nonsense').set('Host', 'localhost').expect(404);
    expect((await post('/projects', { name: '' }).expect(400)).body).toMatchObject({ code: 'request-not-understood' });
    await api().post('/api/projects').set('Host', 'localhost').type('application/json').send('{broken').expect(400);
    for (const headers of [
      { Host: 'evil.example' },
      { Host: 'localhost', Origin: 'http://evil.example' },
      { Host: 'localhost', 'Sec-Fetch-Site': 'cross-site' },
    ]) {
      expect((await api().get('/api/projects').set(headers).expect(403)).body).toMatchObject({
        code: 'foreign-origin',
      });
    }
  });

  test('the description covers every route with its answer', async () => {
    const { paths } = await get<{ paths: Record<string, Record<string, { responses: Record<string, unknown> }>> }>(
      '/openapi.json',
    );
    expect(Object.keys(paths)).toEqual(
      expect.arrayContaining([
        '/api/projects/{projectId}/clips',
        '/api/handoffs/{handoffId}/run',
        '/api/media/{mediaFileId}/picture',
      ]),
    );
    expect(JSON.stringify(paths['/api/projects/{projectId}/links'])).toContain('mediaFileId');
  });
});
