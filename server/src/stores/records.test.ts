import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ClipId, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import type { Noted } from '@legame/core/bins';
import { rate } from '@legame/core/time';
import { bringIn } from '../documents/bringIn.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeList } from '../testing/edits.ts';
import { clipNoteStore } from './clipNotes.ts';
import { clipStore } from './clips.ts';
import { jobStore } from './jobs.ts';
import { journalStore, type Change } from './journal.ts';
import { layoutStore } from './layouts.ts';
import { mediaFileStore } from './mediaFiles.ts';
import { placeStore } from './places.ts';
import { projectStore } from './projects.ts';
import { type LogEntry, readLogStore } from './readLog.ts';
import { stampStore } from './stamps.ts';
import { trialStore } from './trials.ts';
import { beginWalk } from './walks.ts';

/** What is kept of what people and processes did, against the real database. */
let house: House;
let projectId: ProjectId;
let clips: readonly ClipId[];
let files: readonly MediaFileId[];
const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

beforeAll(async () => {
  house = await openHouse({ worker: false });
  projectId = (await projectStore.createProject(house.db, 'Saltglass')).id;
  const list = makeList(
    ['a', 'b'].map((n) => ({
      reel: 'R1',
      from: '00:00:00:00',
      to: '00:00:01:00',
      name: `${n}.mov`,
      file: `/X/${n}.mov`,
    })),
  );
  await bringIn(house, projectId, { name: 'l.edl', bytes: Buffer.from(list), reading: { rate: rate(25) } });
  const path = join(house.folder, 'KILN');
  mkdirSync(path);
  const place = await placeStore.insertPlace(house.db, { path, name: 'KILN', knownAs: [], fileSystemId: null });
  const walk = await beginWalk(house.db, place.id);
  walk.add(
    ['a', 'b', 'c'].map((n) => ({
      ...{ folder: '', name: `${n}.mov`, sizeInBytes: 1, modifiedMs: 1, touchedMs: null, inode: null, sequence: null },
    })),
  );
  await walk.finish([]);
  files = (await mediaFileStore.listUnder(house.db, place.id, '')).map((one) => one.id);
  clips = (await clipStore.listClips(house.db, projectId)).map((c) => c.id);
});
afterAll(() => house.close());

test('the stamp of all files is another after each change, also one that is committed after a later one', async () => {
  const stamp = async () => (await stampStore.ofProject(house.db, projectId, ['files'])).stamps.files;
  const set = (db: typeof house.db, id: (typeof files)[number], gone: boolean) =>
    db('media_files').where({ id }).update({ gone });
  const first = await stamp();
  let second = '';
  await house.db.transaction(async (late) => {
    await set(late, files[0]!, true);
    await set(house.db, files[1]!, true);
    second = await stamp();
    expect(second).not.toBe(first);
  });
  const third = await stamp();
  expect([first, second]).not.toContain(third);
  for (const id of files) await set(house.db, id, false);
  const fourth = await stamp();
  expect([first, second, third]).not.toContain(fourth);
  await stampStore.dropOldChanges(house.db);
  const after = [await stamp()];
  for (let i = 0; i < 8; i++) {
    await set(house.db, files[0]!, i % 2 === 0);
    after.push(await stamp());
  }
  // Those of a place that is taken off the list go with it.
  const place = await placeStore.insertPlace(house.db, {
    path: '/made/up',
    name: 'UP',
    knownAs: [],
    fileSystemId: null,
  });
  await house.db('media_files').insert({ place_id: place.id, folder: '', name: 'x', size_in_bytes: 1, modified_ms: 1 });
  after.push(await stamp());
  await house.db('places').where({ id: place.id }).delete();
  after.push(await stamp());
  expect(new Set([first, second, third, fourth, ...after]).size).toBe(4 + after.length);
});

describe('the read log', () => {
  const entry = (path: string, more: Partial<LogEntry> = {}): LogEntry => ({
    ...{ worker: 'reader 1', what: 'facts', placeId: null, mediaFileId: null, path, files: 1 },
    ...{ begunAt: new Date(), endedAt: new Date(), outcome: 'ok', detail: null, reason: null },
    ...more,
  });
  const paths = async (filter: object = {}) =>
    (await readLogStore.list(house.db, { limit: 100, ...filter })).map((e) => e.path);

  test('keeps words of others and findings of its own apart, and says what is open first', async () => {
    const ids = await readLogStore.append(house.db, [
      entry('KILN/a%b.mov', { detail: 'moov atom not found', outcome: 'unreadable', begunAt: new Date(1000) }),
      entry('KILN/b.mov', { detail: { code: 'files-listed', files: 3 }, begunAt: new Date(3000) }),
      entry('KILN/open.mov', { endedAt: null, outcome: null, begunAt: new Date(2000) }),
    ]);
    expect(ids).toHaveLength(3);
    expect(await paths()).toEqual(['KILN/open.mov', 'KILN/b.mov', 'KILN/a%b.mov']);
    expect(await paths({ only: 'open' })).toEqual(['KILN/open.mov']);
    expect(await paths({ only: 'trouble' })).toEqual(['KILN/a%b.mov']);
    // A text is found as it is, whatever signs it holds and however it is written.
    expect(await paths({ text: 'A%B' })).toEqual(['KILN/a%b.mov']);
    expect(await paths({ text: '_' })).toEqual([]);
    const [, listed, unread] = await readLogStore.list(house.db, { limit: 100 });
    expect([listed!.detail, unread!.detail]).toEqual([{ code: 'files-listed', files: 3 }, 'moov atom not found']);
    await readLogStore.close(house.db, ids[2]!, {
      outcome: 'too-slow',
      detail: null,
      reason: { code: 'decoder-too-slow', seconds: 20 },
    });
    expect((await readLogStore.list(house.db, { text: 'open', limit: 1 }))[0]).toMatchObject({
      outcome: 'too-slow',
      reason: { code: 'decoder-too-slow', seconds: 20 },
    });
  });

  test('what a process left open when it ended is lost, and nothing of others', async () => {
    await readLogStore.append(house.db, [
      entry('lost.mov', { worker: 'gone 7', endedAt: null, outcome: null }),
      entry('running.mov', { worker: 'here 8', endedAt: null, outcome: null }),
    ]);
    expect(await readLogStore.listOpenWorkers(house.db)).toEqual(expect.arrayContaining(['gone 7', 'here 8']));
    await readLogStore.closeLost(house.db, 'gone 7');
    expect(await paths({ only: 'open' })).toEqual(['running.mov']);
    expect((await readLogStore.list(house.db, { text: 'lost.mov', limit: 1 }))[0]).toMatchObject({ outcome: 'lost' });
  });
});

describe('trial reads', () => {
  test('keep their files in order, with what was found of each', async () => {
    const file = (n: number) => ({ mediaFileId: files[n]!, suspicion: 'large' as const, reachedBy: [] });
    const trial = await trialStore.insert(house.db, { projectId, scope: 'culprit' }, [file(2), file(0), file(1)]);
    await trialStore.saveResult(house.db, trial.id, 1, 'fails', {
      frames: 12,
      reason: { code: 'damaged', atFrame: 12, ofFrames: 50, detail: { code: 'frames-decoded', frames: 12, of: 50 } },
    });
    await trialStore.saveResult(house.db, trial.id, 0, 'whole', { frames: 50, reason: null });
    const found = await trialStore.listFiles(house.db, trial.id);
    expect(found.map((f) => [f.mediaFileId, f.state, f.frames])).toEqual([
      [files[2], 'whole', 50],
      [files[0], 'fails', 12],
      [files[1], 'waiting', null],
    ]);
    expect(found[1]!.reason).toMatchObject({ detail: { code: 'frames-decoded', frames: 12, of: 50 } });
    expect((await trialStore.list(house.db, projectId)).map((t) => t.id)).toEqual([trial.id]);
    await expect(trialStore.get(house.db, uuid(404))).rejects.toMatchObject({ code: 'not-found' });
  });
});

describe('notes of clips', () => {
  const noted = (more: Partial<Noted>): Noted => ({ bin: null, label: null, values: {}, ...more });
  const known = async () =>
    new Map((await clipNoteStore.listNotes(house.db, projectId, null)).map((n) => [n.id, n.noted]));
  const set = (...notes: Parameters<typeof clipNoteStore.setNotes>[1]) =>
    house.db.transaction((trx) => clipNoteStore.setNotes(trx, notes));

  test('are kept, changed and taken away; of a clip that is gone nothing is kept', async () => {
    const [a, b] = clips as [ClipId, ClipId];
    await set(
      { clipId: a, noted: noted({ bin: ['Day 1', 'a/b'], values: { take: '2' } }) },
      { clipId: b, noted: noted({ label: 'x' }) },
      { clipId: uuid(404) as ClipId, noted: noted({ label: 'x' }) },
    );
    expect(await known()).toEqual(
      new Map([
        [a, noted({ bin: ['Day 1', 'a/b'], values: { take: '2' } })],
        [b, noted({ label: 'x' })],
      ]),
    );
    await set({ clipId: a, noted: noted({ bin: [] }) }, { clipId: b, noted: null });
    expect(await known()).toEqual(
      new Map([
        [a, noted({ bin: [] })],
        [b, null],
      ]),
    );
    // And the clips say so, too.
    expect((await clipStore.listByIds(house.db, [a]))[0]!.noted).toEqual(noted({ bin: [] }));
    expect((await clipNoteStore.listNotes(house.db, projectId, [b])).map((n) => n.id)).toEqual([b]);
    await set({ clipId: a, noted: null });
  });
});

describe('layouts', () => {
  test('of one name are three where they are of a project, of all, and of another table', async () => {
    const arrangement = { order: ['a'], hidden: [], widths: {}, pinned: [], sorts: [], group: null };
    const put = (table: 'bins' | 'ledger', forAll: boolean, hidden: string[]) =>
      house.db.transaction((trx) =>
        layoutStore.put(trx, { projectId, table }, { name: 'mine', forAll, arrangement: { ...arrangement, hidden } }),
      );
    await put('bins', false, ['x']);
    await put('bins', true, []);
    await put('ledger', false, []);
    await put('bins', false, ['y']);
    const of = (table: 'bins' | 'ledger') => layoutStore.list(house.db, { projectId, table });
    expect((await of('bins')).map((l) => [l.forAll, l.arrangement.hidden]).sort()).toEqual([
      [false, ['y']],
      [true, []],
    ]);
    expect(await of('ledger')).toHaveLength(1);
    await layoutStore.remove(house.db, { projectId, table: 'bins' }, { name: 'mine', forAll: true });
    expect((await of('bins')).map((l) => l.forAll)).toEqual([false]);
  });
});

describe('the journal', () => {
  const [placeId] = [uuid(9) as PlaceId];
  test('counts clips once and nothing else; what was undone and overtaken is not done again', async () => {
    const pin = (clipId: ClipId, after: boolean): Change => ({ what: 'pin', clipId, before: !after, after });
    const append = (...changes: Change[]) =>
      house.db.transaction((trx) =>
        journalStore.append(trx, projectId, { verb: 'pin', changes, about: { code: 'reason', text: 'kiln' } }),
      );
    const first = await append(
      pin(clips[0]!, true),
      { what: 'interpret', clipId: clips[0]!, before: null, after: { countedAt: null, shiftInFrames: 5 } },
      { what: 'learn', placeId, name: 'KILN' },
      { what: 'bins', before: [], after: [['Day 1']] },
    );
    expect(first).toMatchObject({
      clips: 1,
      kinds: ['pin', 'interpret', 'learn', 'bins'],
      undone: false,
      about: { code: 'reason', text: 'kiln' },
    });
    await house.db.transaction((trx) => journalStore.setUndone(trx, first.id, true));
    expect(await house.db.transaction((trx) => journalStore.findRedoable(trx, projectId))).toMatchObject({
      id: first.id,
    });
    const second = await append(pin(clips[0]!, true), pin(clips[1]!, true));
    expect(second.clips).toBe(2);
    expect(await house.db.transaction((trx) => journalStore.findRedoable(trx, projectId))).toBeNull();
    expect(await house.db.transaction((trx) => journalStore.findLast(trx, projectId))).toMatchObject({ id: second.id });
    expect(await journalStore.findEntry(house.db, projectId, first.id)).toMatchObject({ id: first.id });
    expect(await journalStore.listChanges(house.db, first.id)).toHaveLength(4);
  });
});

describe('jobs', () => {
  test('that wait or run are found by what they are about; what ended is not', async () => {
    const insert = (folder: string) =>
      jobStore.insertJob(house.db, { kind: 'index-place', payload: { placeId: uuid(9), folder }, about: 'KILN' });
    const [day1, day2] = [await insert('day1'), await insert('day2')];
    const waitingFor = (folder: string) =>
      house.db.transaction((trx) => jobStore.holdQueued(trx, 'index-place', { placeId: uuid(9), folder }));
    expect((await waitingFor('day2'))?.id).toBe(day2.id);
    expect(await waitingFor('day')).toBeNull();
    expect(await jobStore.hasActive(house.db, 'index-place', { placeId: uuid(9) })).toBe(true);
    for (const { id } of [day1, day2]) expect(await jobStore.requestCancel(house.db, id)).toEqual({ waited: true });
    expect(await jobStore.hasActive(house.db, 'index-place', { placeId: uuid(9) })).toBe(false);
    expect((await jobStore.getJob(house.db, day1.id)).state).toBe('cancelled');
    await expect(jobStore.getJob(house.db, uuid(404) as typeof day1.id)).rejects.toMatchObject({ code: 'not-found' });
  });
});
