import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { join } from 'node:path';
import { setTimeout as aWhile } from 'node:timers/promises';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import { seenOf } from '@legame/core/state';
import { loadProject } from '../clips/project.ts';
import { act, undo } from '../history/act.ts';
import { setAside, setPinned } from '../links/aside.ts';
import { changeFolder } from '../links/changeFolder.ts';
import { linkClips } from '../links/link.ts';
import { previewCarry, resolveFolder } from '../links/previews.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';
import { clientOf } from '../testing/client.ts';
import { clipsOf } from '../testing/clips.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { explainDark } from './explained.ts';
import { mendCause } from './mend.ts';
import { listCauses, previewCause } from './views.ts';

/**
 * One decision over many, while others decide as well: a folder that moved, and one take of each name that lies in two
 * folders, of which nothing says which is meant.
 */
let house: House;
let projectId: ProjectId;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
const moved = ['bowl', 'door', 'ember', 'flue'] as const;

beforeAll(async () => {
  house = await openHouse();
  moved.forEach((name, i) => makeFilm(at(`KILN/rushes/day1/${name}.mov`), { timecode: `0${i + 1}:00:00:00` }));
  makeFilm(at('KILN/spare/pipe.mov'), { timecode: '09:00:00:00', reel: 'B007' });
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  await client.post('/places', { path: at('KILN') }).expect(201);
  await house.idle();
  const list = makeList(moved.map((name, i) => event(`${name}.mov`, `0${i + 1}:00:00:05`, `0${i + 1}:00:00:20`)));
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());
const { state, clipId, fileId, undoAll } = clipsOf(
  () => house,
  () => projectId,
);
afterEach(undoAll);
const folderCause = async () => (await listCauses(house, projectId)).causes.find((c) => c.kind.code === 'displaced')!;
/** Somebody else decides while this is under way: after it was worked out, and before it is done. */
async function meanwhile<T>(
  begin: () => Promise<T>,
  decide: (trx: Parameters<typeof act>[0]) => Promise<unknown>,
  isWorkedOut: () => Promise<unknown> = () => explainDark(house.db, projectId),
) {
  return projectStore.inTurn(house.db, projectId, async (trx) => {
    const going = begin();
    await isWorkedOut();
    await decide(trx);
    // A promise in an object is not waited for here: it needs the turn that this one holds.
    return { going };
  });
}
async function tie(trx: Parameters<typeof act>[0], id: ClipId, mediaFileId: MediaFileId) {
  const [file] = await mediaFileStore.listByIds(trx, [mediaFileId]);
  const after = { mediaFileId, by: 'hand' as const, seen: seenOf(file!), because: null };
  return act(trx, projectId, 'link', [{ what: 'link', clipId: id, before: null, after }]);
}

describe('a cause that is mended', () => {
  test('links what its preview says, clip by clip, in one act', async () => {
    const cause = await folderCause();
    const preview = await previewCause(house, projectId, cause.key);
    const fitting = preview.members.filter((m) => m.fits);
    expect(fitting.map((m) => m.clipName).sort()).toEqual(moved.map((name) => `${name}.mov`));
    expect(await mendCause(house, projectId, cause.key)).toMatchObject({ verb: 'mend', count: 4, skipped: [] });
    for (const { clipId: id, file } of fitting) {
      const { states } = await loadProject(house.db, projectId);
      expect(states.find((s) => s.clip.id === id)?.tied?.file.id).toBe(file!.mediaFileId);
    }
    expect((await listCauses(house, projectId)).causes).toEqual([]);
  });

  test('is not mended twice: what is gone is said to be gone', async () => {
    const { key } = await folderCause();
    const twice = await Promise.allSettled([mendCause(house, projectId, key), mendCause(house, projectId, key)]);
    const counts = twice.map((t) => (t.status === 'fulfilled' ? t.value.count : 0));
    expect(counts.sort()).toEqual([0, 4]);
    await expect(mendCause(house, projectId, key)).rejects.toMatchObject({ problem: { code: 'cause-gone' } });
  });

  test('leaves alone what somebody linked by hand meanwhile', async () => {
    const { key } = await folderCause();
    const [bowl, pipe] = [await clipId('bowl'), await fileId('pipe')];
    const { going } = await meanwhile(
      () => mendCause(house, projectId, key),
      (trx) => tie(trx, bowl, pipe),
    );
    expect(await going).toMatchObject({ count: 3, skipped: [{ clipId: bowl, why: 'decided-since' }] });
    expect((await state('bowl')).tied).toMatchObject({ by: 'hand', file: { name: 'pipe.mov' } });
    expect((await state('door')).tied).toMatchObject({ by: 'cause' });
  });

  test('leaves alone what was waived or read otherwise meanwhile', async () => {
    const { key } = await folderCause();
    const [bowl, door] = [await clipId('bowl'), await clipId('door')];
    const { going } = await meanwhile(
      () => mendCause(house, projectId, key),
      (trx) =>
        act(trx, projectId, 'waive', [
          { what: 'set-aside', clipId: bowl, before: null, after: { as: 'waived', reason: 'a slate' } },
          { what: 'interpret', clipId: door, before: null, after: { countedAt: null, shiftInFrames: 25 } },
        ]),
    );
    expect((await going).skipped.map((s) => s.why)).toEqual(['decided-since', 'decided-since']);
    expect((await state('bowl')).clip).toMatchObject({ link: null, setAside: { as: 'waived' } });
    expect((await state('door')).clip.link).toBeNull();
  });

  test('of pinned clips changes none, and of all left out makes no act', async () => {
    const cause = await folderCause();
    await setPinned(house, projectId, [await clipId('flue')], true);
    const { key } = await folderCause();
    expect(await mendCause(house, projectId, key)).toMatchObject({ count: 3, skipped: [{ why: 'pinned' }] });
    await undo(house, projectId);
    await expect(mendCause(house, projectId, key, { except: cause.clipIds })).rejects.toMatchObject({
      problem: { code: 'cause-needs-a-person' },
    });
  });

  test('of a key that nobody knows, or a folder that is none of its, nothing is done', async () => {
    await expect(mendCause(house, projectId, 'ffffffffffffffff')).rejects.toMatchObject({
      problem: { code: 'cause-gone' },
    });
    const { key } = await folderCause();
    await expect(mendCause(house, projectId, key, { alternative: 'KILN/nowhere' })).rejects.toMatchObject({
      problem: { code: 'cause-needs-a-person' },
    });
    for (const name of moved) expect((await state(name)).tied).toBeNull();
  });
});

describe('a decision that is carried', () => {
  const carried = async (from: string) => {
    const [clip, file] = [await clipId(from), await fileId(from)];
    const { members } = await previewCarry(house, projectId, clip, file);
    const others = members.filter((m) => m.fits).map((m) => ({ clipId: m.clipId, mediaFileId: m.file!.mediaFileId }));
    return { from: clip, links: [{ clipId: clip, mediaFileId: file }, ...others] };
  };

  test('reaches the others only while they are dark; the one it comes from is somebody’s decision', async () => {
    const { from, links } = await carried('bowl');
    expect(links).toHaveLength(4);
    // Between the preview and the act: one is linked to another film, and so is the one that is carried from.
    await linkClips(house, projectId, { by: 'hand' }, [
      { clipId: await clipId('door'), mediaFileId: await fileId('pipe') },
    ]);
    const body = { by: 'carry', from, links };
    const done = await client.post(`/projects/${projectId}/links`, body).expect(200);
    expect(done.body).toMatchObject({ count: 4 });
    await undo(house, projectId);
    await linkClips(house, projectId, { by: 'hand' }, [
      { clipId: await clipId('door'), mediaFileId: await fileId('door') },
    ]);
    await linkClips(house, projectId, { by: 'hand' }, [{ clipId: from, mediaFileId: await fileId('pipe') }]);
    const again = await client.post(`/projects/${projectId}/links`, body).expect(200);
    expect(again.body).toMatchObject({ count: 3, skipped: [{ clipId: await clipId('door'), why: 'decided-since' }] });
    expect((await state('door')).tied).toMatchObject({ by: 'hand' });
    expect((await state('bowl')).tied).toMatchObject({ by: 'carry', file: { name: 'bowl.mov' } });
  });
});

test('what is certain to be another file is not carried along, unless the first one passes over what is certain of it', async () => {
  const [bowl, door, pipe] = [await clipId('bowl'), await clipId('door'), await fileId('pipe')];
  const decided = JSON.stringify({ kind: 'certain', mediaFileId: pipe, grounds: 'content', second: null, copies: [] });
  const known = await house.db('proposals').whereIn('clip_id', [bowl, door]).select('clip_id', 'decision');
  const carriedTo = async () => {
    const { members } = await previewCarry(house, projectId, bowl, await fileId('bowl'));
    return members.find((m) => m.clipId === door);
  };
  expect(await carriedTo()).toMatchObject({ fits: true, leftOut: null });
  await house.db('proposals').where({ clip_id: door }).update({ decision: decided });
  expect(await carriedTo()).toMatchObject({ fits: false, leftOut: 'other-file', after: null, differs: [] });
  const change = { from: 'KILN/day1', to: 'KILN/rushes/day1' };
  const { members } = await resolveFolder(house.db, projectId, change);
  expect(members.filter((m) => m.fits).map((m) => m.clipId)).not.toContain(door);
  await house.db('proposals').where({ clip_id: bowl }).update({ decision: decided });
  expect(await carriedTo()).toMatchObject({ fits: true, leftOut: null });
  for (const { clip_id: id, decision } of known)
    await house
      .db('proposals')
      .where({ clip_id: id })
      .update({ decision: JSON.stringify(decision) });
});

test('a folder that is changed leaves alone what somebody linked by hand meanwhile', async () => {
  const change = { from: 'KILN/day1', to: 'KILN/rushes/day1' };
  const [bowl, pipe] = [await clipId('bowl'), await fileId('pipe')];
  const { going } = await meanwhile(
    () => changeFolder(house, projectId, change),
    (trx) => tie(trx, bowl, pipe),
    // Asked for after the one that is held up, it is worked out after it.
    () => resolveFolder(house.db, projectId, change),
  );
  expect(await going).toMatchObject({ verb: 'change-folder', count: 3 });
  expect((await state('bowl')).tied).toMatchObject({ by: 'hand', file: { name: 'pipe.mov' } });
  expect((await state('door')).tied).toMatchObject({ by: 'carry', file: { name: 'door.mov' } });
});

test('what is worked out from what was worked out before is what is worked out anew', async () => {
  const [bowl, door, flue] = [await clipId('bowl'), await clipId('door'), await clipId('flue')];
  const pipe = await fileId('pipe');
  const aside = { as: 'parked' as const, reason: 'later' };
  const decide = (...[verb, changes]: [Parameters<typeof act>[2], Parameters<typeof act>[3]]) =>
    projectStore.inTurn(house.db, projectId, (trx) => act(trx, projectId, verb, changes));
  const [kiln] = (await loadProject(house.db, projectId)).places.keys();
  const acts: readonly (() => Promise<unknown>)[] = [
    () => decide('park', [{ what: 'set-aside', clipId: bowl, before: null, after: aside }]),
    () => projectStore.inTurn(house.db, projectId, (trx) => tie(trx, door, pipe)),
    () => setPinned(house, projectId, [flue], true),
    () =>
      decide('interpret', [
        { what: 'interpret', clipId: flue, before: null, after: { countedAt: null, shiftInFrames: 9 } },
      ]),
    () => undo(house, projectId),
    async () => {
      makeFilm(at('KILN/spare/ember.mov'), { timecode: '03:00:00:00' });
      await client.post(`/places/${kiln}/index`).expect(202);
      await house.idle();
    },
    async () => mendCause(house, projectId, (await folderCause()).key),
    () => undo(house, projectId),
  ];
  const shown: unknown[] = [];
  for (const decision of acts) {
    await explainDark(house.db, projectId);
    await decision();
    // Another handle of the same database knows nothing of before. What is matched after the act may come in between.
    const anew = () => listCauses({ ...house, db: house.db.withUserParams({}) }, projectId);
    const [first, renewed, last] = [await anew(), await listCauses(house, projectId), await anew()];
    expect([first, last]).toContainEqual(renewed);
    await house.idle();
    expect(await listCauses(house, projectId)).toEqual(await anew());
    shown.push(first);
  }
  expect(new Set(shown.map((s) => JSON.stringify(s))).size).toBeGreaterThan(3);
});

async function collectGarbage() {
  setFlagsFromString('--expose-gc');
  const collect = runInNewContext('gc') as () => void;
  // What a turn has looked at is kept to its end.
  await aWhile(1);
  collect();
}

test('what was worked out before is held by nobody once it is worked out anew', async () => {
  const weakly = async () => new WeakRef(await explainDark(house.db, projectId));
  const before = await weakly();
  await setPinned(house, projectId, [await clipId('bowl')], true);
  await explainDark(house.db, projectId);
  await collectGarbage();
  expect(before.deref()).toBeUndefined();
});

test('how a clip was that is not dark is held by nobody once it is looked at anew', async () => {
  const id = await clipId('bowl');
  await setAside(house, projectId, [id], 'parked', '');
  const now = async () => (await loadProject(house.db, projectId)).states.find((s) => s.clip.id === id)!;
  const before = new WeakRef(await now());
  expect(before.deref()!.status.status).toBe('parked');
  await explainDark(house.db, projectId);
  await setPinned(house, projectId, [id], true);
  expect((await now()).clip.pinned).toBe(true);
  await collectGarbage();
  expect(before.deref()).toBeUndefined();
});
