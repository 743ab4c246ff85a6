import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { rename } from 'node:fs/promises';
import { join } from 'node:path';
import type { Bench, BenchRow } from '@legame/core/contract';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import { seeded } from '@legame/core/testing';
import { mendCause } from '../causes/mend.ts';
import { listCauses } from '../causes/views.ts';
import { loadProject } from '../clips/project.ts';
import { differingRows, renewRows } from '../clips/renewal.ts';
import { routes } from '../http/routes/index.ts';
import { interpretClips, setAside, setPinned } from '../links/aside.ts';
import { linkClips } from '../links/link.ts';
import { startIndex } from '../places/change.ts';
import { UserProblem } from '../problems.ts';
import { placeStore } from '../stores/places.ts';
import { clientOf } from '../testing/client.ts';
import { clipsOf, undoAll } from '../testing/clips.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { proposalsAnew, proposalsOf } from '../testing/proposals.ts';
import { redo, undo } from './act.ts';

/**
 * Several people at once, and the drive under them: whatever comes between what, nothing fails, nothing of it is missed,
 * all of it can be taken back, and nobody is shown what is true no more (the house proves each answer it gives again).
 */
let house: House;
let projectId: ProjectId;
let clips: readonly ClipId[];
let files: readonly MediaFileId[];
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
const names = ['bowl', 'door', 'ember', 'flue', 'glory', 'hearth'] as const;

beforeAll(async () => {
  house = await openHouse();
  names.forEach((name, i) => makeFilm(at(`KILN/rushes/day1/${name}.mov`), { timecode: `0${i + 1}:00:00:00` }));
  makeFilm(at('KILN/spare/pipe.mov'), { timecode: '09:00:00:00', reel: 'B007' });
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  await client.post('/places', { path: at('KILN') }).expect(201);
  await house.idle();
  const list = makeList(names.map((name, i) => event(`${name}.mov`, `0${i + 1}:00:00:05`, `0${i + 1}:00:00:20`)));
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
  const known = clipsOf(
    () => house,
    () => projectId,
  );
  clips = await Promise.all(names.map(known.clipId));
  files = await Promise.all([...names, 'pipe'].map(known.fileId));
}, 120_000);
afterAll(() => house.close());

/** Addresses of all views whose answers are kept. */
const views = () =>
  routes.flatMap(({ path, restsOn }) => (restsOn ? [path.replace(':projectId', projectId)] : [])).map((path) =>
    path.endsWith('/since') ? `${path}?version=0&turned=0` : path,
  ); // prettier-ignore

/** Somebody who asks only for what changed since, and what is known by that. */
function follower() {
  let known = { epoch: -1, version: -1, turned: -1 };
  let rows = new Map<string, BenchRow>();
  return {
    follow: async () => {
      const { epoch, version, turned } = known;
      const { clips: told, ...now } = await client.get<Bench>(
        `/projects/${projectId}/timecode?epoch=${epoch}&version=${version}&turned=${turned}`,
      );
      if (now.epoch !== known.epoch) rows = new Map();
      for (const row of told) rows.set(row.clipId, row);
      known = now;
    },
    rows: () => [...rows.values()],
  };
}

const decided = async () =>
  (await loadProject(house.db, projectId)).states.map(({ clip: { id, link, setAside: aside, pinned, ...clip } }) => ({
    ...{ id, file: link?.mediaFileId ?? null, aside, pinned, read: clip.interpretation, offline: clip.takenOffline },
  }));

test('all that many do at once is matched, listed and taken back, in whatever order it came', async () => {
  const before = await decided();
  const seed = Date.now() % 100_000;
  const random = seeded(seed);
  const one = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  const few = () => clips.filter(() => random() < 0.4);
  const refused: string[] = [];
  const failed: unknown[] = [];
  const again = async (times: number, what: () => Promise<unknown>) => {
    for (let n = 0; n < times; n += 1)
      await what().catch((error: unknown) => {
        if (error instanceof UserProblem) refused.push(error.code);
        else failed.push(error);
      });
  };
  const [place] = await placeStore.listPlaces(house.db);
  const { follow, rows: followed } = follower();
  let isMoved = false;
  const people = [
    () =>
      linkClips(
        house,
        projectId,
        { by: 'hand' },
        few().map((clipId) => ({ clipId, mediaFileId: one(files) })),
      ),
    () =>
      linkClips(
        house,
        projectId,
        { by: 'hand' },
        few().map((clipId) => ({ clipId, mediaFileId: null })),
      ),
    () => setAside(house, projectId, few(), one(['parked', 'waived', null]), 'a slate'),
    () => setPinned(house, projectId, few(), random() < 0.3),
    () =>
      interpretClips(
        house,
        projectId,
        few().map((clipId) => ({ clipId, interpretation: one([null, { countedAt: null, shiftInFrames: 25 }]) })),
      ),
    async () => {
      const [cause] = (await listCauses(house, projectId)).causes;
      if (cause) await mendCause(house, projectId, cause.key);
    },
    () => undo(house, projectId),
    () => redo(house, projectId),
  ];
  await Promise.all([
    ...people.map((act) => again(25, act)),
    again(60, () => renewRows(house.db, projectId, { onlyLooks: true })),
    ...[1, 2].map(() => again(80, () => client.get(one(views())))),
    again(60, follow),
    again(6, async () => {
      const [from, to] = isMoved ? ['day2', 'day1'] : ['day1', 'day2'];
      await rename(at('KILN/rushes', from), at('KILN/rushes', to));
      isMoved = !isMoved;
      await startIndex(house, place!.id);
      await renewRows(house.db, projectId);
    }),
  ]);
  expect({ seed, failed }).toEqual({ seed, failed: [] });
  await house.idle();
  expect({ seed, rows: await differingRows(house.db, projectId) }).toEqual({ seed, rows: [] });
  expect({ seed, proposals: await proposalsOf(house.db, projectId) }).toEqual({
    seed,
    proposals: await proposalsAnew(house.db, projectId),
  });
  await follow();
  expect({ seed, followed: followed() }).toEqual({
    seed,
    followed: (await client.get<Bench>(`/projects/${projectId}/timecode`)).clips,
  });
  await undoAll(house, projectId);
  await house.idle();
  expect({ seed, decided: await decided() }).toEqual({ seed, decided: before });
  expect({ seed, rows: await differingRows(house.db, projectId) }).toEqual({ seed, rows: [] });
}, 120_000);
