import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { join } from 'node:path';
import fc from 'fast-check';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import type { ComparedStates, History, HistoryChange } from '@legame/core/contract';
import { writeNotes } from '../bins/arrange.ts';
import { declineCandidate, interpretClips, setAside, setPinned } from '../links/aside.ts';
import { linkClips } from '../links/link.ts';
import { clientOf } from '../testing/client.ts';
import { undoAll } from '../testing/clips.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { largeAct } from './act.ts';
import { compareCheckpoints, returnToCheckpoint, setCheckpoint } from './checkpoints.ts';
import { history } from './views.ts';

/** A project of so many clips that an act on all of them is a large one, and two films. */
let house: House;
let projectId: ProjectId;
let ids: ClipId[];
let films: MediaFileId[];
const client = clientOf(() => house);

beforeAll(async () => {
  house = await openHouse();
  for (const [i, name] of ['bowl', 'door'].entries())
    makeFilm(join(house.folder, 'KILN', `${name}.mov`), { timecode: `0${i + 1}:00:00:00` });
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  await client.post('/places', { path: join(house.folder, 'KILN') }).expect(201);
  const names = Array.from({ length: largeAct + 5 }, (_, i) => `take ${i}.mov`);
  await client.bring(projectId, makeList(names.map((name) => event(name))), 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
  ids = (await client.rows(projectId)).map((row) => row.id);
  films = ((await house.db('media_files').orderBy('name').select('id')) as { id: MediaFileId }[]).map((row) => row.id);
}, 120_000);
afterAll(() => house.close());

const checkpoints = async () => (await history(house, projectId)).checkpoints;
const compare = (id: number, other?: number) => compareCheckpoints(house, projectId, id, other);
const named = async (name: string) => {
  await setCheckpoint(house, projectId, name);
  return (await checkpoints())[0]!.id;
};

test('a checkpoint keeps all that is decided of clips: right after it nothing is otherwise, and returned to, nothing is again', async () => {
  const some = fc.subarray(
    Array.from({ length: 6 }, (_, i) => i),
    { minLength: 1 },
  );
  const act = fc.record({
    what: fc.constantFrom('pin', 'waive', 'link', 'read', 'decline', 'note', 'untie'),
    of: some,
    film: fc.nat(1),
    on: fc.boolean(),
  });
  const carryOut = async ({ what, of, film, on }: { what: string; of: number[]; film: number; on: boolean }) => {
    const clips = of.map((i) => ids[i]!);
    const media = films[film]!;
    if (what === 'pin') await setPinned(house, projectId, clips, on);
    else if (what === 'waive') await setAside(house, projectId, clips, on ? 'waived' : 'parked', 'a slate');
    else if (what === 'read')
      await interpretClips(house, projectId, clips.map((clipId) => ({ clipId, interpretation: on ? { countedAt: null, shiftInFrames: 25 } : null }))); // prettier-ignore
    else if (what === 'decline') await declineCandidate(house, clips[0]!, media);
    else if (what === 'note') await writeNotes(house, projectId, [{ clipIds: clips, values: { scene: on ? '12' : '' } }]);
    else
      await linkClips(house, projectId, { by: 'hand' }, clips.map((clipId) => ({ clipId, mediaFileId: what === 'link' ? media : null }))); // prettier-ignore
  };
  await fc.assert(
    fc.asyncProperty(
      fc.array(act, { maxLength: 6 }),
      fc.array(act, { minLength: 1, maxLength: 6 }),
      async (first, then) => {
        for (const one of first) await carryOut(one);
        const before = await named('before');
        expect(await compare(before)).toEqual({ count: 0, changes: [] });
        for (const one of then) await carryOut(one);
        const after = await named('after');
        const between = await compare(before, after);
        // Now is what the second one kept.
        expect(await compare(before)).toEqual(between);
        const done = await returnToCheckpoint(house, projectId, before);
        expect(done.count > 0).toBe(between.count > 0);
        expect((await compare(before)).count).toBe(0);
        await undoAll(house, projectId);
      },
    ),
    { numRuns: 12 },
  );
}, 120_000);

test('before an act on many clips the state is kept by itself; before one on few it is not', async () => {
  await undoAll(house, projectId);
  const known = (await checkpoints()).length;
  await setAside(house, projectId, ids.slice(0, 3), 'parked', '');
  expect(await checkpoints()).toHaveLength(known);
  await setAside(house, projectId, ids, 'waived', 'a slate');
  const [kept] = await checkpoints();
  expect(kept).toMatchObject({ name: '', before: { verb: 'waive', count: ids.length } });
  const { count, changes } = await compare(kept!.id);
  expect(count).toBe(ids.length);
  const asides = changes.map((c) => (c as Extract<HistoryChange, { what: 'set-aside' }>).before);
  expect(asides.filter((aside) => aside?.as === 'parked')).toHaveLength(3);
  expect(asides.filter((aside) => aside === null)).toHaveLength(ids.length - 3);
  expect(await returnToCheckpoint(house, projectId, kept!.id)).toMatchObject({ verb: 'return', count: ids.length });
  expect((await compare(kept!.id)).count).toBe(0);
});

test('of those that were kept by themselves the newest ten stay; named ones stay all', async () => {
  const own = await named('mine');
  for (let i = 0; i < 12; i += 1) await setPinned(house, projectId, ids, i % 2 === 0);
  const all = await checkpoints();
  expect(all.filter((c) => c.before !== null)).toHaveLength(10);
  expect(all.filter((c) => c.before === null).map((c) => c.id)).toContain(own);
});

test('over HTTP; a checkpoint of another project, or none, is said not to be there', async () => {
  await undoAll(house, projectId);
  const id = await named('over http');
  await setAside(house, projectId, ids.slice(0, 2), 'parked', '');
  const compared = await client.get<ComparedStates>(`/projects/${projectId}/checkpoints/${id}/compare`);
  expect(compared).toMatchObject({ count: 2, changes: [{ what: 'set-aside', after: { as: 'parked' } }, {}] });
  const later = await named('later');
  expect(await client.get(`/projects/${projectId}/checkpoints/${id}/compare?with=${later}`)).toEqual(compared);
  // The other way round each change is told the other way round.
  expect(await client.get(`/projects/${projectId}/checkpoints/${later}/compare?with=${id}`)).toMatchObject({
    changes: [{ before: { as: 'parked' }, after: null }, {}],
  });
  const other = await client.newProject('Elsewhere');
  const path = (of: string, rest: string) =>
    client.api().get(`/api/projects/${of}/checkpoints/${rest}`).set('Host', 'localhost');
  await path(other, `${id}/compare`).expect(404);
  await path(projectId, `${id}/compare?with=999999`).expect(404);
  await path(projectId, `${id}/compare?with=x`).expect(400);
  expect((await client.get<History>(`/projects/${other}/history`)).checkpoints).toEqual([]);
});
