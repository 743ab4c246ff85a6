import { afterAll, beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { existsSync, mkdirSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { formatTimecode } from '@legame/core/time';
import type { Causes, ClipBlock, ClipRow, PlaceView } from '@legame/core/contract';
import type { ClipId, DocumentId, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import { fileClips, moveBin } from '../bins/arrange.ts';
import { setAcceptance } from '../acceptance/accept.ts';
import { changePlace } from '../places/change.ts';
import { sweepPlaces } from '../places/states.ts';
import { interpretClips, setAside, setPinned } from '../links/aside.ts';
import { linkCertain, linkClips } from '../links/link.ts';
import { undo, redo } from '../history/act.ts';
import { readAgain, takeOut } from '../documents/bringIn.ts';
import { UserProblem } from '../problems.ts';
import type { Database, Transaction } from '../db/database.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import { feltRows, manyRows, staleRowStore } from '../stores/staleRows.ts';
import { clientOf } from '../testing/client.ts';
import { clipOf, event, makeList, pal, timelineOf } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { loadProject } from './project.ts';
import { differingRows, renewShown, renewRows } from './renewal.ts';
import { type ClipState, loadClips } from './state.ts';

/** Rows of lists are kept; whatever happens, they are as if they were derived at this moment. */
let house: House;
let projectId: ProjectId;
let place: PlaceView;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
const names = ['bowl', 'door', 'pipe', 'ember', 'lost'];
/** When a place was indexed last is of no matter to a clip. */
const withoutTimes = ({ tied, ...state }: ClipState) => ({
  ...state,
  tied: tied && { ...tied, place: { ...tied.place, indexedAt: null, skipped: null } },
});
const rows = () => client.rows(projectId);
/** What is asked for in blocks is all of the list, each row once and in its place. */
async function expectTheSameInBlocks(): Promise<void> {
  const all = (await rows()).map((r) => r.id);
  const inBlocks: string[] = [];
  for (let from = 0; from < all.length; from += 3) {
    const block = await client.get<ClipBlock>(`/projects/${projectId}/clips/block?from=${from}&limit=3`);
    expect(block.total).toBe(all.length);
    inBlocks.push(...block.rows.map((r) => r.id));
  }
  expect(inBlocks).toEqual(all);
}
/** Until one of the house's connections waits for a lock that another holds. */
async function somebodyWaits(): Promise<void> {
  for (;;) {
    const { rows } = await house.db.raw<{ rows: { waiting: number }[] }>(
      `select count(*)::int as waiting from pg_stat_activity
       where datname = current_database() and wait_event_type = 'Lock'`,
    );
    if (rows[0]!.waiting > 0) return;
    await after(20);
  }
}

beforeAll(async () => {
  house = await openHouse();
  names.slice(0, 4).forEach((name, i) => {
    makeFilm(at('KILN/day1', `${name}.mov`), { timecode: `0${i + 1}:00:00:00` });
  });
  mkdirSync(at('OUT'));
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  place = (await client.post('/places', { path: at('KILN') }).expect(201)).body as PlaceView;
  await house.idle();
  const list = makeList(names.map((n, i) => event(`${n}.mov`, `0${i + 1}:00:00:05`, `0${i + 1}:00:01:05`)));
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  const cut = timelineOf(
    ...names.map((n, i) => clipOf(`${at('KILN/day1')}/${n}.mov`, { start: (i + 1) * 90_000, reel: 'A001' })),
  );
  await client.bring(projectId, cut, 'cut.otio').expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

test('a drive that goes turns its clips and writes no row', async () => {
  const known = await client.get<ClipBlock>(`/projects/${projectId}/clips/block`);
  expect(known.rows).toHaveLength(known.total);
  const [before] = (await house.db('clip_rows').max('version')) as { max: string }[];
  await house
    .db('places')
    .where({ id: place.id as PlaceId })
    .update({ there: false });
  const tied = known.rows.filter((r) => r.tied);
  expect(tied.length).toBeGreaterThan(2);
  const since = await client.get<ClipBlock>(
    `/projects/${projectId}/clips/since?version=${known.version}&turned=${known.turned}`,
  );
  const ids = (list: readonly ClipRow[]) => list.map((r) => r.id);
  expect(ids(since.rows)).toEqual(ids(tied));
  const turned = since.rows.filter((r) => r.status.status !== 'waived' && r.status.status !== 'parked');
  for (const row of turned) expect(row.status).toEqual({ status: 'missing', because: 'place-away' });
  const [after] = (await house.db('clip_rows').max('version')) as { max: string }[];
  expect(after).toEqual(before);
  await house
    .db('places')
    .where({ id: place.id as PlaceId })
    .update({ there: true });
});

test('of two places that come at one moment, the one that is noted last turned last', async () => {
  const folder = at('another drive');
  mkdirSync(folder);
  const other = (await client.post('/places', { path: folder, name: 'OTHER', knownAs: [] }).expect(201))
    .body as PlaceView;
  await house.idle();
  const turn = (db: Database | Transaction, { id }: PlaceView, there: boolean) =>
    db('places')
      .where({ id: id as PlaceId })
      .update({ there });
  await turn(house.db, place, false);
  let [second, known]: [Promise<unknown>, ClipBlock | null] = [Promise.resolve(), null];
  await house.db.transaction(async (trx) => {
    await turn(trx, place, true);
    second = turn(house.db, other, false).then();
    await Promise.race([somebodyWaits(), second]);
    known = await client.get<ClipBlock>(`/projects/${projectId}/clips/block`);
  });
  await second;
  // Whoever looked in between is told of the first, too.
  const { version, turned } = known!;
  const since = await client.get<ClipBlock>(`/projects/${projectId}/clips/since?version=${version}&turned=${turned}`);
  expect(since.rows.filter((r) => r.tied).length).toBeGreaterThan(2);
  await client.send('delete', `/places/${other.id}`).expect(204);
});

test('a document that is taken out while its rows are made anew fails nobody', async () => {
  const list = makeList(names.map((n) => event(`${n} again.mov`)));
  const brought = await client.bring(projectId, list, 'short-lived.edl', { reading: pal }).expect(201);
  const id = (brought.body as { id: DocumentId }).id;
  await Promise.all([renewRows(house.db, projectId), takeOut(house, id), rows(), renewRows(house.db, projectId)]);
  await house.idle();
  expect((await rows()).some((r) => r.documentId === id)).toBe(false);
  expect(await differingRows(house.db, projectId)).toEqual([]);
  await expectTheSameInBlocks();
});

test('rows stand in the list as their documents do, whichever of them comes, goes or is read again', async () => {
  const own = (await client.bring(projectId, makeList([event('salt.mov')]), 'a.edl', { reading: pal }).expect(201))
    .body as { id: DocumentId };
  const more = makeList([event('neck.mov'), event('lip.mov')]);
  const last = (await client.bring(projectId, more, 'b.edl', { reading: pal }).expect(201)).body as { id: DocumentId };
  await house.idle();
  const before = await client.get<ClipBlock>(`/projects/${projectId}/clips/block`);
  expect(before.rows.slice(-3).map((r) => r.name)).toEqual(['salt.mov', 'neck.mov', 'lip.mov']);
  await expectTheSameInBlocks();
  await readAgain(house, own.id, pal);
  expect((await rows()).slice(-3).map((r) => r.name)).toEqual(['salt.mov', 'neck.mov', 'lip.mov']);
  await takeOut(house, own.id);
  const after = await client.get<ClipBlock>(`/projects/${projectId}/clips/block`);
  expect(after.rows.slice(-2).map((r) => r.name)).toEqual(['neck.mov', 'lip.mov']);
  // Whoever has the list as it was learns that it is another.
  expect(after.epoch).not.toBe(before.epoch);
  await expectTheSameInBlocks();
  await takeOut(house, last.id);
  expect((await rows()).some((r) => r.documentId === last.id)).toBe(false);
  await expectTheSameInBlocks();
  await house.idle();
});

test('who only looks does not wait while very many rows are made anew by another, and acts do', async () => {
  await renewRows(house.db, projectId);
  const before = await client.get<ClipBlock>(`/projects/${projectId}/clips/block`);
  const [id] = before.rows.map((r) => r.id);
  let acted = false;
  await house.db.transaction(async (another) => {
    await staleRowStore.takeStale(another, projectId, { patienceMs: null });
    await house
      .db('stale_rows')
      .insert(Array.from({ length: manyRows }, () => ({ project_id: projectId, clip_id: id, uses: false })));
    // As it was, at once.
    expect((await client.get<ClipBlock>(`/projects/${projectId}/clips/block`)).rows).toEqual(before.rows);
    await client.get(`/projects/${projectId}`);
    const act = linkCertain(house, projectId).then(() => (acted = true));
    await somebodyWaits();
    expect(acted).toBe(false);
    await another.commit();
    await act;
  });
  expect(await differingRows(house.db, projectId)).toEqual([]);
});

test('clips that know their media by a reel alone need all others, which are read once however many rows are made anew', async () => {
  const own = (await client.newProject('Reels')) as ProjectId;
  const at25 = (frames: number) => formatTimecode(frames, { num: 25, den: 1 }, 'non-drop');
  const events = Array.from({ length: 1200 }, (_, i) =>
    [String(i + 1).padStart(6, '0'), 'A001 V C', ...[i * 100, i * 100 + 20, i * 20, i * 20 + 20].map(at25)].join(' '),
  );
  await client
    .bring(own, `TITLE: reels\nFCM: NON-DROP FRAME\n${events.join('\n')}\n`, 'reels.edl', { reading: pal })
    .expect(201);
  await house.idle();
  await house.db.raw('insert into stale_rows select project_id, id, false from clips where project_id = ?', [own]);
  const asked: string[] = [];
  const note = ({ sql, bindings }: { sql: string; bindings: unknown[] }) =>
    sql.includes('"clips"."body"') && !sql.includes('any(') && bindings.includes(own) && asked.push(sql);
  house.db.on('query', note);
  await renewRows(house.db, own);
  house.db.removeListener('query', note);
  expect(asked).toHaveLength(1);
  const all = await client.get<ClipBlock>(`/projects/${own}/clips/block`);
  expect(all.total).toBe(1200);
  expect(await differingRows(house.db, own)).toEqual([]);

  // Who looks at very many sees the first of them at once, and all once the worker has made them.
  const note5 = (uses: boolean) =>
    house.db.raw(
      'insert into stale_rows select project_id, id, ? from clips, generate_series(1, 5) where project_id = ?',
      [uses, own],
    );
  const look = async () => {
    await renewRows(house.db, own, { onlyLooks: true });
    return (await clipRowStore.listJson(house.db, own)).map((json) => JSON.parse(json) as ClipRow);
  };
  await house.db('clip_rows').where({ project_id: own }).delete();
  await note5(true);
  expect(await look()).toEqual(all.rows.slice(0, feltRows));
  await renewRows(house.db, own);
  expect(await look()).toEqual(all.rows);
  await house.db('clips').where({ project_id: own }).update({ set_aside: '{"as":"parked","reason":"slates"}' });
  await note5(false);
  const parked = (await look()).filter((r) => r.status.status === 'parked');
  expect(parked.map((r) => r.id)).toEqual(all.rows.slice(0, feltRows).map((r) => r.id));
  await renewShown(house.db, own);
  expect((await look()).filter((r) => r.status.status === 'parked')).toHaveLength(1200);
  expect(await differingRows(house.db, own)).toEqual([]);
});

test('why clips are dark is told before very many rows are made anew, and by what is so now', async () => {
  await renewRows(house.db, projectId);
  // Whoever shows well is not parked.
  const { id } = (await rows()).find((r) => r.status.status === 'missing')!;
  const parked = async () => (await client.get<Causes>(`/projects/${projectId}/causes`)).parked;
  const before = await parked();
  await house
    .db('stale_rows')
    .insert(Array.from({ length: manyRows }, () => ({ project_id: projectId, clip_id: id, uses: false })));
  await house.db('clips').where({ id }).update({ set_aside: '{"as":"parked","reason":"a slate"}' });
  expect(await parked()).toBe(before + 1);
  expect((await staleRowStore.countNoted(house.db, projectId)).notes).toBeGreaterThan(manyRows);
  await house.db('clips').where({ id }).update({ set_aside: null });
  expect(await parked()).toBe(before);
  await renewRows(house.db, projectId);
  expect(await differingRows(house.db, projectId)).toEqual([]);
});

test('rows wait for a change of files that is being written, and are made of what it says; who only looks does not', async () => {
  await renewRows(house.db, projectId);
  const tied = (await rows()).find((r) => r.tied)!;
  const before = await client.get<ClipBlock>(`/projects/${projectId}/clips/block`);
  let renewed = false;
  await house.db.transaction(async (change) => {
    await change('media_files')
      .where({ id: tied.tied!.mediaFileId as MediaFileId })
      .update({ unreadable: '{"code":"file-empty"}' });
    // Something else touches the same clip meanwhile.
    await house.db('stale_rows').insert({ project_id: projectId, clip_id: tied.id, uses: false });
    expect((await client.get<ClipBlock>(`/projects/${projectId}/clips/block`)).rows).toEqual(before.rows);
    const renewing = renewRows(house.db, projectId).then(() => (renewed = true));
    await somebodyWaits();
    expect(renewed).toBe(false);
    await change.commit();
    await renewing;
  });
  expect(await differingRows(house.db, projectId)).toEqual([]);
  await house
    .db('media_files')
    .where({ id: tied.tied!.mediaFileId as MediaFileId })
    .update({ unreadable: null });
});

// Comes last: how it leaves the project is anybody's guess.
test('after random acts nothing that is kept differs from what is derived anew', async () => {
  const clips = await rows();
  const files = (await client.get<{ files: { id: MediaFileId }[] }>(`/places/${place.id}/files?folder=day1`)).files;
  const anyClip = fc.integer({ min: 0, max: clips.length - 1 }).map((i) => clips[i]!.id);
  const anyClips = fc.uniqueArray(anyClip, { minLength: 1 });
  const anyFile = fc.constantFrom(...files.map((f) => f.id));
  const swallow = (error: unknown) => {
    // What is refused changes nothing; that is what is tested.
    if (!(error instanceof UserProblem)) throw error;
  };
  const drive = at('KILN');
  const acts = fc.oneof(
    fc.record({ a: fc.constant('link' as const), clip: anyClip, file: fc.option(anyFile) }),
    fc.record({ a: fc.constant('aside' as const), clips: anyClips, as: fc.constantFrom('parked', 'waived', null) }),
    fc.record({ a: fc.constant('pin' as const), clips: anyClips, pinned: fc.boolean() }),
    fc.record({
      a: fc.constant('bin' as const),
      clips: anyClips,
      bin: fc.constantFrom(['Day 1'], ['Day 1', 'Glass'], []),
    }),
    fc.record({ a: fc.constant('move' as const), to: fc.constantFrom(['Day 2'], ['Yard', 'Day 1']) }),
    fc.record({ a: fc.constant('shift' as const), clips: anyClips, by: fc.integer({ min: -50, max: 50 }) }),
    fc.record({
      a: fc.constantFrom('certain', 'undo', 'redo', 'unplug', 'plug', 'rename', 'accept', 'touch', 'gone', 'log'),
    }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(acts, { minLength: 4, maxLength: 9 }), async (list) => {
      for (const [i, act] of list.entries()) {
        switch (act.a) {
          case 'link':
            await linkClips(house, projectId, { by: 'hand' }, [
              { clipId: act.clip as ClipId, mediaFileId: act.file },
            ]).catch(swallow);
            break;
          case 'aside':
            await setAside(house, projectId, act.clips as ClipId[], act.as as 'parked' | null, 'smoke');
            break;
          case 'pin':
            await setPinned(house, projectId, act.clips as ClipId[], act.pinned);
            break;
          case 'bin':
            await fileClips(house, projectId, act.clips as ClipId[], act.bin);
            break;
          case 'move':
            await moveBin(house, projectId, { bin: ['Day 1'], to: act.to }).catch(swallow);
            break;
          case 'shift':
            await interpretClips(
              house,
              projectId,
              act.clips.map((clipId) => ({
                clipId: clipId as ClipId,
                interpretation: { countedAt: null, shiftInFrames: act.by },
              })),
            ).catch(swallow);
            break;
          case 'certain':
            await linkCertain(house, projectId);
            break;
          case 'undo':
          case 'redo':
            await (act.a === 'undo' ? undo : redo)(house, projectId).catch(swallow);
            break;
          case 'unplug':
          case 'plug': {
            const [from, to] = act.a === 'unplug' ? [drive, `${drive} away`] : [`${drive} away`, drive];
            if (existsSync(from)) renameSync(from, to);
            await sweepPlaces(house);
            break;
          }
          case 'rename':
            await changePlace(house, place.id, { name: `KILN ${i}` });
            break;
          case 'accept':
            await setAcceptance(house, projectId, {
              containers: [],
              codecs: i % 2 ? ['h264'] : ['mjpeg'],
              rates: [],
              largestBitDepth: null,
              chroma: [],
              largestRaster: null,
            });
            break;
          case 'touch':
          case 'gone':
            await house
              .db('media_files')
              .where({ id: files[i % files.length]!.id })
              .update(
                act.a === 'touch' ? { unreadable: i % 2 ? null : '{"code":"file-empty"}' } : { gone: i % 2 === 0 },
              );
            break;
          case 'log': {
            const brought = await client.bring(
              projectId,
              `Name,Reel,Start,End,Rate\r\nnight,A001,03:00:00:00,03:00:02:00,25\r\n`,
              `log ${i}.csv`,
            );
            if (brought.status === 201 && i % 2)
              await takeOut(house, (brought.body as { id: never }).id).catch(swallow);
            break;
          }
        }
        if (i % 3 === 2) expect(await differingRows(house.db, projectId)).toEqual([]);
      }
      await house.idle();
      expect(await differingRows(house.db, projectId)).toEqual([]);
      await expectTheSameInBlocks();
      // What stays at hand of a project is what would be loaded now.
      const [atHand, anew] = [await loadProject(house.db, projectId), await loadClips(house.db, projectId, null)];
      expect(atHand.states.map(withoutTimes)).toEqual(anew.states.map(withoutTimes));
    }),
    { numRuns: Number(process.env.LEGAME_RUNS ?? 12), seed: Number(process.env.LEGAME_SEED ?? Date.now()) },
  );
}, 300_000);
