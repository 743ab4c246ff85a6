import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { join } from 'node:path';
import { defaultRules } from '@legame/core/match';
import type { DocumentId, Facts, ProjectId } from '@legame/core/model';
import { bringIn, readAgain, takeOut } from '../documents/bringIn.ts';
import { startWorker } from '../jobs/worker.ts';
import { linkCertain, linkClips } from '../links/link.ts';
import { undo } from '../history/act.ts';
import { setRules } from '../projects/change.ts';
import { clipStore } from '../stores/clips.ts';
import { documentStore } from '../stores/documents.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { clientOf } from '../testing/client.ts';
import { clipsOf, undoAll } from '../testing/clips.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { proposalsAnew, proposalsOf } from '../testing/proposals.ts';
import { matchProject } from './matchProject.ts';

/** What was certain before somebody decided otherwise links nothing until it is matched anew. No worker: the test matches. */
let house: House;
let projectId: ProjectId;
let documentId: DocumentId;
const client = clientOf(() => house);
const { clipId, fileId } = clipsOf(
  () => house,
  () => projectId,
);
const at = (...parts: string[]) => join(house.folder, ...parts);
const matched = (report: () => Promise<void> = () => Promise.resolve()) =>
  matchProject({ db: house.db, report }, projectId);
const linkedByRule = async () => (await linkCertain(house, projectId)).count;
const otherRules = { ...defaultRules, weights: { ...defaultRules.weights, codec: 'counts' } } as const;
const ntsc = { rate: { num: 30, den: 1 }, counting: 'non-drop' } as const;
const films = [
  ['bowl', '07'],
  ['door', '23'],
  ['pipe', '47'],
] as const;
const list = makeList([
  ...films.map(([name, minute]) => event(`${name}.mov`, `13:${minute}:11:05`, `13:${minute}:12:05`)),
  // Lies where the edit says.
  event('flue.mov', '09:00:00:05', '09:00:01:05'),
]);

beforeAll(async () => {
  house = await openHouse({ worker: false });
  for (const [name, minute] of films) makeFilm(at(`KILN/moved/${name}.mov`), { timecode: `13:${minute}:11:00` });
  makeFilm(at('KILN/day1/flue.mov'), { timecode: '09:00:00:00' });
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  const worker = await startWorker(house, house.databaseUrl);
  await client.post('/places', { path: at('KILN') }).expect(201);
  await house.idle();
  await worker.stop();
}, 120_000);
afterAll(() => house.close());

beforeEach(async () => {
  await undoAll(house, projectId);
  for (const { id } of await documentStore.listDocuments(house.db, projectId)) await takeOut(house, id);
  documentId = await bringIn(house, projectId, { name: 'reel.edl', bytes: Buffer.from(list), reading: pal });
  await setRules(house, projectId, defaultRules);
  await matched();
  expect(await client.row(projectId, 'bowl.mov')).toMatchObject({ certainNow: true });
});

describe('what was certain', () => {
  test('of a clip that its document is read to mean otherwise, links nothing until it is matched anew', async () => {
    await readAgain(house, documentId, ntsc);
    expect(await client.row(projectId, 'bowl.mov')).toMatchObject({ certainNow: false, decision: 'not-matched-yet' });
    expect(await client.row(projectId, 'flue.mov')).toMatchObject({ tied: { name: 'flue.mov' }, decision: 'nothing' });
    expect(await linkedByRule()).toBe(0);
    await matched();
    expect(await client.row(projectId, 'flue.mov')).toMatchObject({ tied: { name: 'flue.mov' } });
    expect(await client.row(projectId, 'bowl.mov')).not.toMatchObject({ decision: 'not-matched-yet' });
    await readAgain(house, documentId, pal);
    await matched();
    expect(await linkedByRule()).toBe(films.length);
  });

  test('by other rules links nothing until it is so by these', async () => {
    await setRules(house, projectId, otherRules);
    expect(await linkedByRule()).toBe(0);
    const links = [{ clipId: await clipId('bowl'), mediaFileId: await fileId('bowl') }];
    expect(await linkClips(house, projectId, { by: 'rule' }, links)).toMatchObject({
      skipped: [{ why: 'not-certain' }],
    });
    await matched();
    expect(await linkedByRule()).toBe(films.length);
  });

  test('is not kept where meanwhile a document was read otherwise, or the rules were changed', async () => {
    await matched(() => readAgain(house, documentId, ntsc));
    expect(await client.row(projectId, 'bowl.mov')).toMatchObject({ decision: 'not-matched-yet' });
    await readAgain(house, documentId, pal);
    await matched(async () => void (await setRules(house, projectId, otherRules)));
    expect(await linkedByRule()).toBe(0);
    await matched();
    expect(await linkedByRule()).toBe(films.length);
  });

  test('of a file that was read anew since, and is another recording now, links nothing', async () => {
    const [film] = await mediaFileStore.listByIds(house.db, [await fileId('bowl')]);
    const save = (facts: Facts) =>
      mediaFileStore.saveReadings(house.db, [{ id: film!.id, facts, fingerprint: null, unreadable: null }]);
    await save({ ...film!.facts!, start: film!.facts!.start! + 90_000 });
    const act = await linkCertain(house, projectId);
    expect(act).toMatchObject({ count: films.length - 1, skipped: [{ clipId: await clipId('bowl'), why: 'differs' }] });
    await save(film!.facts!);
    expect(await linkedByRule()).toBe(1);
  });
});

test('what is linked while clips are looked at, and unlinked again, is nothing to the matching that comes after', async () => {
  const [bowl, door] = await Promise.all([clipId('bowl'), fileId('door')]);
  const list = clipStore.listVersions.bind(clipStore);
  const link = (mediaFileId: typeof door | null) =>
    linkClips(house, projectId, { by: 'hand' }, [{ clipId: bowl, mediaFileId }]);
  await setRules(house, projectId, otherRules);
  clipStore.listVersions = async (db, id) => {
    clipStore.listVersions = list;
    const versions = await list(db, id);
    await link(door);
    return versions;
  };
  await matched();
  await undo(house, projectId);
  await matched();
  expect(await proposalsOf(house.db, projectId)).toEqual(await proposalsAnew(house.db, projectId));
});
