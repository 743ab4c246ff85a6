import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  appendFileSync,
  cpSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type {
  ClipDetail,
  DriveBay,
  Handoff,
  IndexArchive,
  MediaFileView,
  OpeningView,
  PlaceView,
  TrialView,
  Trouble,
} from '@legame/core/contract';
import { sweepPlaces } from '../places/states.ts';
import { damage } from '../testing/hostile.ts';
import { enqueue } from '../queue/queue.ts';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';
import { makeFilm } from '../testing/media.ts';

/** Storage through the HTTP interface, on real files: one drive of films, and an edit that uses some of them. */
let house: House;
let projectId: string;
let kiln: string;
const client = clientOf(() => house);
const { api, get, post, patch } = client;
const at = (...parts: string[]) => join(house.folder, ...parts);
const place = async (name = 'KILN') => (await get<PlaceView[]>('/places')).find((p) => p.name === name)!;
const clip = (fileName: string) => client.row(projectId, fileName);
const detail = (fileName: string) => client.detail(projectId, fileName);
const filesIn = async (folder: string) =>
  (await get<{ files: MediaFileView[] }>(`/places/${kiln}/files?folder=${encodeURIComponent(folder)}`)).files;
const sweep = async () => {
  await sweepPlaces(house);
  await house.idle();
};
/** Asks until the answer is as it should be: what a simulated drive is like is looked at now and then. */
async function comesTo<T>(ask: () => Promise<T>, isSo: (answer: T) => boolean): Promise<T> {
  for (let i = 0; ; i += 1) {
    const answer = await ask();
    if (isSo(answer) || i === 200) return answer;
    await after(20);
  }
}
const index = (folder = '') => client.index(kiln, folder);
const longAgo = new Date('2026-03-02T10:00:00Z');

beforeAll(async () => {
  house = await openHouse();
  ({ projectId, kiln } = await kilnIn(house));
}, 120_000);
afterAll(() => house.close());

describe('a place and its index', () => {
  test('patterns leave files out, and what was passed over is told', async () => {
    expect(await place()).toMatchObject({ files: 6, unread: 0, readOnly: false, awayBecause: null });
    await patch(`/places/${kiln}`, { excluded: ['*.tmp'] }).expect(200);
    await house.idle();
    expect(await place()).toMatchObject({ files: 5, skipped: { excluded: 1 } });
  });

  test('one folder is indexed alone; what changed elsewhere waits', async () => {
    makeFilm(at('KILN/day2/new.mov'), { timecode: '05:00:00:00' });
    makeFilm(at('KILN/day1/new.mov'), { timecode: '06:00:00:00' });
    await index('day2');
    expect((await filesIn('day2')).map((f) => f.name)).toContain('new.mov');
    expect((await filesIn('day1')).map((f) => f.name)).not.toContain('new.mov');
    rmSync(at('KILN/day1/new.mov'));
    rmSync(at('KILN/day2/new.mov'));
    await index();
    expect(await place()).toMatchObject({ files: 5 });
  });

  test('a link teaches the names of a place; one that was taken away is not learned again', async () => {
    const door = await detail('door.mov');
    const [file] = (await filesIn('day1')).filter((f) => f.name === 'door.mov');
    const link = () =>
      post(`/projects/${projectId}/links`, { by: 'hand', links: [{ clipId: door.id, mediaFileId: file!.id }] });
    await link().expect(200);
    expect(await place()).toMatchObject({ knownAs: ['E:'], learnedNames: ['E:'] });
    // Taken back, it is as if it had never been learned.
    await post(`/projects/${projectId}/undo`).expect(200);
    expect(await place()).toMatchObject({ knownAs: [] });
    await link().expect(200);
    await patch(`/places/${kiln}`, { knownAs: [] }).expect(200);
    await link().expect(200);
    expect(await place()).toMatchObject({ knownAs: [], learnedNames: [] });
    await house.idle();
  });

  test('its memory is set aside under a date and brought back; links stay', async () => {
    const before = (await filesIn('day1'))[0]!;
    await house.db('media_files').where({ id: before.id }).update({ full_hash: 'kept' });
    const { archive } = (await post(`/places/${kiln}/archives`).expect(201)).body as { archive: IndexArchive };
    expect(archive).toMatchObject({ files: 5 });
    await house.idle();
    expect((await filesIn('day1'))[0]).toMatchObject({ fullHash: null, facts: before.facts });
    expect(await clip('door.mov')).toMatchObject({ status: { status: 'linked' } });
    expect((await post(`/archives/${archive.id}/restore`).expect(200)).body).toEqual({ files: 5 });
    expect((await filesIn('day1'))[0]).toMatchObject({ fullHash: 'kept' });
    const all = (await post('/archives').expect(201)).body as IndexArchive[];
    expect(all).toMatchObject([{ placeId: kiln, files: 5, places: 1 }]);
    await house.idle();
    expect(await place()).toMatchObject({ unread: 0 });
  });
});

describe('drives that come and go', () => {
  test('under another path it is the same place; another drive in its old path is told', async () => {
    renameSync(at('KILN'), at('USB 4'));
    await sweep();
    expect(await place()).toMatchObject({ there: true, path: at('USB 4'), movedFrom: at('KILN') });
    expect(await clip('bowl.mov')).toMatchObject({ status: { status: 'linked' } });

    renameSync(at('USB 4'), at('.hidden'));
    await sweep();
    mkdirSync(at('USB 4'));
    writeFileSync(at('USB 4/holiday.jpg'), 'x');
    await sweep();
    expect(await place()).toMatchObject({ there: false, awayBecause: 'another-drive' });
    expect(await clip('bowl.mov')).toMatchObject({ status: { status: 'missing', because: 'place-away' } });
    rmSync(at('USB 4'), { recursive: true });
    renameSync(at('.hidden'), at('KILN'));
    await sweep();
    expect(await place()).toMatchObject({ there: true, path: at('KILN') });
  });

  test('where two folders could be the drive, none is taken until a person says which', async () => {
    renameSync(at('KILN'), at('COPY 1'));
    cpSync(at('COPY 1'), at('COPY 2'), { recursive: true, preserveTimestamps: true });
    await sweep();
    expect(await place()).toMatchObject({ there: false });
    await patch(`/places/${kiln}`, { path: at('COPY 2') }).expect(200);
    await house.idle();
    expect(await place()).toMatchObject({ there: true, path: at('COPY 2') });
    rmSync(at('COPY 2'), { recursive: true });
    renameSync(at('COPY 1'), at('KILN'));
    await sweep();
    expect(await place()).toMatchObject({ there: true, path: at('KILN') });
  });

  test('added under its new path, a known drive is recognised and becomes no second place', async () => {
    renameSync(at('KILN'), at('.KILN'));
    await sweep();
    mkdirSync(at('mounts'));
    renameSync(at('.KILN'), at('mounts', 'KILN'));
    const added = (await post('/places', { path: at('mounts', 'KILN') }).expect(201)).body as PlaceView;
    expect(added).toMatchObject({ id: kiln, path: at('mounts', 'KILN'), there: true });
    await house.idle();
    renameSync(at('mounts', 'KILN'), at('KILN'));
    await sweep();
    expect(await get<PlaceView[]>('/places')).toHaveLength(1);
  });

  test('a drive that is looked through before anybody saw that it came back turns its clips all the same', async () => {
    renameSync(at('KILN'), at('.KILN'));
    await sweep();
    expect((await clip('bowl.mov')).status).toMatchObject({ because: 'place-away' });
    renameSync(at('.KILN'), at('KILN'));
    // As who watches its folders does, which may be first.
    await post(`/places/${kiln}/index`).expect(202);
    await house.idle();
    const before = await house.db('jobs').where({ kind: 'match-project' }).count();
    await sweep();
    expect(await place()).toMatchObject({ there: true });
    expect((await clip('bowl.mov')).status).not.toMatchObject({ because: 'place-away' });
    expect(await house.db('jobs').where({ kind: 'match-project' }).count()).not.toEqual(before);
  });

  test('a stalled drive is given up, and a read-only or full one says so', async () => {
    const change = (body: object) => patch('/drive-bay/drives/KILN', body).expect(200);
    const swept = async () => {
      await sweepPlaces(house);
      return place();
    };
    await change({ slow: true });
    expect(await comesTo(swept, (p) => p.slow)).toMatchObject({ there: true, slow: true });
    await house.idle();
    await change({ slow: false, stalling: true });
    // At first there is no answer yet, and nothing turns by that.
    expect(await comesTo(swept, (p) => p.silent)).toMatchObject({ there: true, silent: true });
    expect((await clip('bowl.mov')).status).not.toMatchObject({ status: 'missing', because: 'place-away' });
    for (let i = 0; i < 20 && (await place()).there; i += 1) await sweepPlaces(house);
    expect(await place()).toMatchObject({ there: false, awayBecause: 'no-answer', silent: false });
    expect((await post(`/places/${kiln}/index`).expect(409)).body).toMatchObject({ code: 'place-away' });
    await change({ stalling: false });
    expect(await comesTo(swept, (p) => p.there)).toMatchObject({ there: true });
    await house.idle();

    const out = (body: object) => patch('/drive-bay/drives/OUT', body).expect(200);
    const plan = async () => {
      const { body } = await post(`/projects/${projectId}/handoffs`, { targetFolder: at('OUT'), name: 'h' });
      return body as Partial<Handoff> & { code?: string };
    };
    await out({ readOnly: true });
    expect(await comesTo(plan, (answer) => answer.code !== undefined)).toMatchObject({ code: 'target-not-writable' });
    await out({ readOnly: false, full: true });
    const full = await comesTo(plan, (answer) => answer.plan?.targets[0]?.room.freeInBytes === 0);
    expect(full.plan!.targets).toMatchObject([{ room: { freeInBytes: 0, fits: false } }]);
    const bay = (await out({ full: false })).body as DriveBay;
    expect(bay.drives).toContainEqual({
      name: 'OUT',
      plugged: true,
      readOnly: false,
      slow: false,
      stalling: false,
      full: false,
    });
  });
});

describe('reading', () => {
  test('a file that is being written is read when it has come to rest', async () => {
    const whole = at('KILN/day1/growing.mov');
    makeFilm(whole, { timecode: '07:00:00:00' });
    const bytes = readFileSync(whole);
    truncateSync(whole, 900);
    await index('day1');
    const found = async () => (await filesIn('day1')).find((f) => f.name === 'growing.mov')!;
    expect(await found()).toMatchObject({ facts: null, unreadable: { code: 'growing' } });
    appendFileSync(whole, bytes.subarray(900));
    await house
      .db('media_files')
      .where({ id: (await found()).id })
      .update({ read_at: longAgo });
    await sweep();
    expect(await found()).toMatchObject({ unreadable: null, facts: { length: 50 } });
    rmSync(whole);
    await index('day1');
  });

  test('read again drops the pictures of that clip’s file, and of no other', async () => {
    const [bowl, pipe] = [await detail('bowl.mov'), await detail('pipe.mov')];
    const picture = (d: ClipDetail) => api().get(`/api/media/${d.tied!.mediaFileId}/picture`).set('Host', 'localhost');
    await picture(bowl).expect(200);
    await picture(pipe).expect(200);
    const kept = () => readdirSync(join(house.config.cacheFolder, 'pictures'));
    expect(kept()).toEqual(expect.arrayContaining([bowl.tied!.mediaFileId, pipe.tied!.mediaFileId]));
    expect((await post('/reread', { clipIds: [bowl.id] }).expect(200)).body).toEqual({ files: 1 });
    expect(kept()).not.toContain(bowl.tied!.mediaFileId);
    expect(kept()).toContain(pipe.tied!.mediaFileId);
    await house.idle();
    const after_ = await detail('bowl.mov');
    expect(after_.tiedFile!.file.version).not.toBe(bowl.tiedFile!.file.version);
    expect(after_.status).toEqual({ status: 'linked' });
  });

  test('what hung a decoder is set apart: nothing opens it until it is read again', async () => {
    const pipe = await detail('pipe.mov');
    const id = pipe.tied!.mediaFileId;
    const hung = JSON.stringify({ code: 'decoder-too-slow', seconds: 15 });
    await house.db('media_files').where({ id }).update({ unreadable: hung, quarantined: true });
    const picture = () => api().get(`/api/media/${id}/picture`).query({ frame: 7 }).set('Host', 'localhost');
    expect((await picture().expect(422)).body).toMatchObject({ code: 'picture-not-made' });
    await index();
    expect(await clip('pipe.mov')).toMatchObject({ status: { status: 'unreadable' } });
    await post('/reread', { mediaFileIds: [id] }).expect(200);
    await house.idle();
    expect(await clip('pipe.mov')).toMatchObject({ status: { status: 'linked' } });
    await picture().expect(200);
  });

  test('a preview is a piece of film that a browser plays', async () => {
    const bowl = await detail('bowl.mov');
    const answer = await api()
      .get(`/api/media/${bowl.tied!.mediaFileId}/preview`)
      .query({ from: 5, frames: 20 })
      .set('Host', 'localhost')
      .buffer(true)
      .expect(200);
    expect(answer.headers['content-type']).toContain('webm');
    expect(
      Buffer.from(answer.body as Buffer)
        .subarray(0, 4)
        .toString('hex'),
    ).toBe('1a45dfa3');
  });

  test('a full hash is made on demand, and the read log tells of it', async () => {
    const bowl = await detail('bowl.mov');
    await post(`/media/${bowl.tied!.mediaFileId}/hash`).expect(202);
    await house.idle();
    expect((await detail('bowl.mov')).tiedFile!.file.fullHash).toMatch(/^[0-9a-f]{16}$/);
    await house.readLog.flush();
    const log = await get<OpeningView[]>('/read-log?text=bowl.mov');
    expect(log.map((e) => e.what)).toContain('hash');
    expect(log.every((e) => e.endedAt !== null && e.outcome === 'ok')).toBe(true);
  });

  test('equal content has equal fingerprints, other content others', async () => {
    const files = await filesIn('day2');
    const print = (name: string) => files.find((f) => f.name === name)!.fingerprint;
    expect(print('spare.mov')).toBe(print('spare copy.mov'));
    expect(print('spare.mov')).not.toBe(print('pipe.mov'));
  });

  test('a trial read finds damage, tells who reaches it, and goes on where it was stopped', async () => {
    const path = at('KILN/day2/pipe.mov');
    const whole = readFileSync(path);
    damage(path, 0.5, 600);
    await index();
    const started = (await post(`/projects/${projectId}/trials`, { scope: 'culprit' }).expect(202)).body as {
      trial: TrialView;
    };
    await house.idle();
    const [trial] = await get<TrialView[]>(`/projects/${projectId}/trials`);
    expect(trial!.id).toBe(started.trial.id);
    const culprit = trial!.files.find((f) => f.name === 'pipe.mov')!;
    expect(culprit).toMatchObject({
      state: 'fails',
      reason: { code: 'damaged', ofFrames: 50 },
      suspicion: 'changed-lately',
    });
    expect(culprit.reachedBy).toMatchObject([
      { clipName: 'pipe.mov', steps: [{ timeline: 'TEST', track: 'V', event: 3 }] },
    ]);
    expect(
      trial!.files
        .filter((f) => f.state === 'whole')
        .map((f) => f.name)
        .sort(),
    ).toEqual(['bowl.mov', 'door.mov']);
    expect(await clip('pipe.mov')).toMatchObject({ status: { status: 'unreadable', reason: { code: 'damaged' } } });
    await house.readLog.flush();
    const log = await get<OpeningView[]>('/read-log?text=pipe.mov&only=trouble');
    expect(log.find((e) => e.what === 'trial')).toMatchObject({ outcome: 'unreadable', reason: { code: 'damaged' } });
    const trouble = await get<Trouble[]>(`/places/${kiln}/trouble`);
    expect(trouble).toMatchObject([{ name: 'pipe.mov', quarantined: false }]);

    // Taken up again, it tries only what is still waiting.
    await house
      .db('trial_read_files')
      .where({ trial_id: trial!.id, position: 0 })
      .update({ state: 'waiting', result: null });
    await house.db.transaction((trx) =>
      enqueue(trx, 'trial-read', { trialId: trial!.id, scope: trial!.scope }, `${trial!.files.length}`),
    );
    await house.idle();
    expect(
      (await get<TrialView[]>(`/projects/${projectId}/trials`))[0]!.files.every((f) => f.state !== 'waiting'),
    ).toBe(true);
    writeFileSync(path, whole);
    utimesSync(path, longAgo, longAgo);
    await index();
    expect(await clip('pipe.mov')).toMatchObject({ status: { status: 'linked' } });
  });
});

test('a file that was mended, and given its size and time back, is read anew', async () => {
  const path = at('KILN/day2/spare.mov');
  const good = readFileSync(path);
  const broken = async (bytes: Buffer) => {
    writeFileSync(path, bytes);
    utimesSync(path, longAgo, longAgo);
    await index('day2');
    return (await filesIn('day2')).find((f) => f.name === 'spare.mov')!.unreadable;
  };
  expect(await broken(Buffer.alloc(good.length, 1))).not.toBeNull();
  expect(await broken(good)).toBeNull();
});
