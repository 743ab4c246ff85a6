import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Facts, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import { produce, seeded } from '@legame/core/testing';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { jobStore } from '../stores/jobs.ts';
import { beginWalk } from '../stores/walks.ts';
import { openHouse, type House } from '../testing/house.ts';
import { proposalsAnew, proposalsOf } from '../testing/proposals.ts';
import { bringIn } from '../documents/bringIn.ts';
import { FilesAtHand } from './filesAtHand.ts';
import { setAside } from '../links/aside.ts';
import { linkClips } from '../links/link.ts';
import { matchingsAtHand } from './matchingsAtHand.ts';
import { matchProject } from './matchProject.ts';
import { addPlace } from '../places/change.ts';

/** A production of which every file stands in the database, over real tables; no worker, so that nothing runs but this. */
let house: House;
let projectId: ProjectId;
const { input } = produce({ days: 5, cards: 2, takes: 12, batches: 8, used: 7 }, 4);
const random = seeded(7);
const one = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;

type Walked = { folder: string; name: string; sizeInBytes: number };
/** What a walk would find in each place now. */
const found = new Map<PlaceId, Map<string, Walked>>();
const keyOf = ({ folder, name }: Pick<Walked, 'folder' | 'name'>) => `${folder}\u0000${name}`;

async function walk(placeId: PlaceId): Promise<void> {
  const walking = await beginWalk(house.db, placeId);
  walking.add(
    [...found.get(placeId)!.values()].map((file) => ({
      ...file,
      modifiedMs: 1,
      touchedMs: null,
      inode: null,
      sequence: null,
    })),
  );
  await walking.finish([]);
}
const read = (id: MediaFileId, facts: Facts | null) =>
  mediaFileStore.saveReadings(house.db, [{ id, facts, fingerprint: null, unreadable: null }]);

beforeAll(async () => {
  house = await openHouse({ worker: false });
  const project = await projectStore.createProject(house.db, 'Saltglass');
  projectId = project.id;
  const list = { OTIO_SCHEMA: 'Timeline.1', name: 'none', tracks: { OTIO_SCHEMA: 'Stack.1', children: [] } };
  const documentId = await bringIn(house, projectId, {
    name: 'cut.otio',
    bytes: Buffer.from(JSON.stringify(list)),
    reading: {},
  });
  const clips = input.clips.map(({ id: _id, linkedTo: _linkedTo, declined: _declined, ...clip }) => clip);
  await house.db.transaction((trx) => clipStore.insertClips(trx, projectId, documentId, clips));
  for (const { id, name } of input.places) {
    mkdirSync(join(house.folder, name));
    const place = await addPlace(house, { path: join(house.folder, name), knownAs: [] });
    const own = input.files.filter((file) => file.placeId === id);
    found.set(
      place.id,
      new Map(
        own.map(({ folder, name: file, sizeInBytes }) => [
          keyOf({ folder, name: file }),
          { folder, name: file, sizeInBytes },
        ]),
      ),
    );
    await walk(place.id);
    const known = new Map(own.map((file) => [keyOf(file), file]));
    const files = await mediaFileStore.listUnder(house.db, place.id, '');
    await mediaFileStore.saveReadings(
      house.db,
      files.map((file) => {
        const { facts, fingerprint, unreadable } = known.get(keyOf(file))!;
        return { id: file.id, facts, fingerprint, unreadable };
      }),
    );
  }
}, 120_000);
afterAll(() => house.close());

const matched = () => matchProject({ db: house.db, report: () => Promise.resolve() }, projectId);
const proposals = () => proposalsOf(house.db, projectId);
const anew = () => proposalsAnew(house.db, projectId);

/** Something that people, drives and readers do. */
async function somethingHappens(): Promise<string> {
  const place = one([...found.keys()].filter((id) => found.get(id)!.size > 1));
  const files = found.get(place)!;
  const file = one([...files.values()]);
  const present = await mediaFileStore.listPresent(house.db);
  const clip = one(await clipStore.listClips(house.db, projectId));
  switch (Math.floor(random() * 9)) {
    case 0:
      files.delete(keyOf(file));
      await walk(place);
      return 'a file went';
    case 1: {
      const to = { ...file, folder: `${file.folder}/moved` };
      files.delete(keyOf(file));
      files.set(keyOf(to), to);
      await walk(place);
      return 'a file was moved';
    }
    case 2:
      files.set(keyOf(file), { ...file, sizeInBytes: file.sizeInBytes + 1 });
      await walk(place);
      return 'a file was written anew';
    case 3:
      await read(one(present).id, random() < 0.2 ? null : one(present).facts);
      return 'a file was read, and is another';
    case 4:
      await linkClips(house, projectId, { by: 'hand' }, [{ clipId: clip.id, mediaFileId: one(present).id }]);
      return 'a clip was linked';
    case 5:
      await linkClips(house, projectId, { by: 'hand' }, [{ clipId: clip.id, mediaFileId: null }]);
      return 'a clip was unlinked';
    case 6: {
      const interpretation = { countedAt: null, shiftInFrames: one([-25, 0, 1, 90_000]) };
      await clipStore.setInterpretations(house.db, [{ clipId: clip.id, interpretation }]);
      return 'a clip is read otherwise';
    }
    case 7:
      await setAside(house, projectId, [clip.id], one(['parked', 'waived', null]), 'a slate');
      return 'a clip was set aside, or is so no more';
    default:
      await clipStore.decline(house.db, clip.id, one(present).id);
      return 'a file was declined';
  }
}

test('what is kept in memory and renewed by parts is what matching anew finds, whatever happens', async () => {
  await matched();
  const { matching } = matchingsAtHand(house.db).of(projectId)!;
  for (let turn = 0; turn < 40; turn += 1) {
    const happened: string[] = [];
    for (let n = 0; n < 1 + (turn % 3); n += 1) happened.push(await somethingHappens());
    await matched();
    expect({ turn, happened, proposals: await proposals() }).toEqual({ turn, happened, proposals: await anew() });
  }
  // By parts it was, all the time.
  expect(matchingsAtHand(house.db).of(projectId)!.matching).toBe(matching);
}, 120_000);

test('a change that was not committed when this worker looked is seen the next time', async () => {
  const places = await placeStore.listPlaces(house.db);
  const [file, other] = await mediaFileStore.listPresent(house.db);
  const atHand = new FilesAtHand();
  const first = await atHand.look(house.db, places, null);
  const late = await house.db.transaction();
  await late('media_files').where({ id: file!.id }).update({ gone: true });
  await read(other!.id, null);
  const second = await atHand.look(house.db, places, first.number);
  expect(second.changes!.files.map((f) => [f.id, f.facts])).toEqual([[other!.id, null]]);
  await late.commit();
  const third = await atHand.look(house.db, places, second.number);
  expect(third.changes).toEqual({ files: [], gone: [file!.id] });
  // Who looked the first time is told of both; who looked before all was let go of must begin anew.
  expect((await atHand.look(house.db, places, first.number)).changes!.gone).toEqual([file!.id]);
  atHand.forget();
  expect((await atHand.look(house.db, places, third.number)).changes).toBeNull();
  await house.db('media_files').where({ id: file!.id }).update({ gone: false });
});

test('what went is told once, however long somebody else holds a change open', async () => {
  const places = await placeStore.listPlaces(house.db);
  const [file, other] = await mediaFileStore.listPresent(house.db);
  const atHand = new FilesAtHand();
  const first = await atHand.look(house.db, places, null);
  await house.db.transaction(async (open) => {
    await open('media_files').where({ id: other!.id }).update({ name: other!.name });
    await house.db('media_files').where({ id: file!.id }).update({ gone: true });
    const second = await atHand.look(house.db, places, first.number);
    expect(second.changes!.gone).toEqual([file!.id]);
    expect((await atHand.look(house.db, places, second.number)).changes).toEqual({ files: [], gone: [] });
  });
  await house.db('media_files').where({ id: file!.id }).update({ gone: false });
});

test('files that were read ahead are not read once more, and what changes after that is seen', async () => {
  const atHand = matchingsAtHand(house.db);
  atHand.forget();
  await atHand.readAhead(house.db);
  const [file] = await mediaFileStore.listPresent(house.db);
  await read(file!.id, null);
  const asked: string[] = [];
  const listen = ({ sql }: { readonly sql: string }) => void asked.push(sql);
  house.db.on('query', listen);
  await matched();
  house.db.off('query', listen);
  const ofFiles = asked.filter((sql) => sql.includes('from "media_files"'));
  expect(ofFiles.some((sql) => sql.includes('changed_in >='))).toBe(true);
  expect(ofFiles.filter((sql) => sql.includes('"gone" = ') && sql.includes('*'))).toEqual([]);
  expect(atHand.files.known(file!.id)!.facts).toBeNull();
  expect(await proposals()).toEqual(await anew());
});

test('what another worker matched in the meantime is not built upon', async () => {
  await matched();
  const { matching } = matchingsAtHand(house.db).of(projectId)!;
  await projectStore.setMatchedBy(house.db, projectId, randomUUID());
  await house.db('proposals').delete();
  await matched();
  expect(matchingsAtHand(house.db).of(projectId)!.matching).not.toBe(matching);
  expect(await proposals()).toEqual(await anew());
});

test('rules and places that changed are matched anew; a place that went takes its files with it', async () => {
  await matched();
  const { rules } = await projectStore.getProject(house.db, projectId);
  await projectStore.setRules(house.db, projectId, { ...rules, weights: { ...rules.weights, folder: 'must' } });
  await matched();
  expect(await proposals()).toEqual(await anew());
  const [place] = await placeStore.listPlaces(house.db);
  await placeStore.updatePlace(house.db, place!.id, { there: false });
  await matched();
  expect(await proposals()).toEqual(await anew());
  await placeStore.deletePlace(house.db, place!.id);
  await matched();
  expect(await proposals()).toEqual(await anew());
});

test('a place that is forgotten while its files are matched fails nothing: it is matched once more', async () => {
  await matched();
  const remembered = async () => (await proposals()).filter((p) => p.proposal?.whereRemembered).length;
  expect(await remembered()).toBeGreaterThan(0);
  await house.db('proposals').delete();
  matchingsAtHand(house.db).forget();
  // The first report comes once all files are known, and before anything is found of them.
  const report = async () => {
    for (const { id } of await placeStore.listPlaces(house.db)) await placeStore.deletePlace(house.db, id);
  };
  await matchProject({ db: house.db, report }, projectId);
  expect(await remembered()).toBe(0);
  expect(await jobStore.hasActive(house.db, 'match-project', { projectId })).toBe(true);
  await matched();
  expect(await proposals()).toEqual(await anew());
});

test('how long it took is told by the processor and not by the clock, which others can hold up', async () => {
  const heldUpMs = 1500;
  const report = () => new Promise<void>((resolve) => setTimeout(resolve, heldUpMs));
  const begun = process.cpuUsage();
  await matchProject({ db: house.db, report }, projectId);
  const { user, system } = process.cpuUsage(begun);
  const { matchingTookMs } = await projectStore.getProject(house.db, projectId);
  // It is held up twice, and asks nothing of the processor then.
  expect(matchingTookMs).toBeLessThanOrEqual(Math.ceil((user + system) / 1000));
});
