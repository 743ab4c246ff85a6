import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdirSync, readFileSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import type { DroppedFile } from '@legame/core/match';
import type { DroppedAnswer } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import { readHeader } from '@legame/core/headers';
import { whereabouts } from '../disk/whereabouts.ts';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

/**
 * Files that are dropped onto the page: two takes of one name that nothing tells apart, of which the dropped one is
 * meant; one that is certain; and a folder that is no place yet.
 */
let house: House;
let projectId: ProjectId;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

beforeAll(async () => {
  house = await openHouse();
  makeFilm(at('KILN/rushes/bowl.mov'), { timecode: '01:00:00:00' });
  // Two of one name, timecode and length: which is meant, nothing says.
  makeFilm(at('KILN/one/door.mov'), { timecode: '02:00:00:00' });
  makeFilm(at('KILN/two/door.mov'), { timecode: '02:00:00:00', colour: 'blue' });
  makeFilm(at('LATER/new/ember.mov'), { timecode: '03:00:00:00' });
  makeFilm(at('LATER/new/flue.mov'), { timecode: '04:00:00:00' });
  makeFilm(at('LATER/other.mov'), { timecode: '09:00:00:00', reel: 'B007' });
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  await client.post('/places', { path: at('KILN') }).expect(201);
  await house.idle();
  const names = ['bowl', 'door', 'ember', 'flue'] as const;
  const list = makeList(names.map((name, i) => event(`${name}.mov`, `0${i + 1}:00:00:05`, `0${i + 1}:00:00:20`)));
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

/** What a browser would tell of a file that is dropped by itself, or in a folder. */
function drop(path: string, folders: string[] = []): DroppedFile {
  const { size, mtimeMs } = statSync(at(path));
  const bytes = readFileSync(at(path));
  const reading = readHeader({ size, read: (from, length) => bytes.subarray(from, from + length) });
  const facts = reading.kind === 'facts' ? reading.facts : null;
  return { name: basename(path), folders, sizeInBytes: size, modifiedMs: Math.floor(mtimeMs), facts };
}
const look = async (files: DroppedFile[], more: object = {}) =>
  (await client.post(`/projects/${projectId}/dropped`, { files, ...more }).expect(200)).body as DroppedAnswer;
const told = (answer: DroppedAnswer) =>
  answer.members.map((m) => [m.clipName, m.file ? `${m.file.placeName}/${m.file.folder}` : m.leftOut]);

describe('what lies in a place', () => {
  test('is offered for the clips whose matching names it; of two that are alike the dropped one is meant', async () => {
    const answer = await look([drop('KILN/rushes/bowl.mov'), drop('KILN/two/door.mov', ['two'])]);
    expect(answer).toMatchObject({ here: 2, elsewhere: [] });
    expect(told(answer)).toEqual([
      ['bowl.mov', 'KILN/rushes'],
      ['door.mov', 'KILN/two'],
    ]);
    expect(answer.members.every((m) => m.fits && m.after?.status === 'linked')).toBe(true);
    expect(answer.backSeconds).toBeGreaterThan(0);
  });

  test('is known by its name in either Unicode form, and in capitals', async () => {
    makeFilm(at('KILN/rushes/glühen.mov'), { timecode: '07:00:00:00' });
    const [place] = await client.get<{ id: string }[]>('/places');
    await client.post(`/places/${place!.id}/index`, {}).expect(202);
    await house.idle();
    const film = drop('KILN/rushes/glühen.mov');
    for (const name of [film.name.normalize('NFD'), film.name.normalize('NFC'), 'GLÜHEN.MOV'])
      expect(await look([{ ...film, name }])).toMatchObject({ here: 1, elsewhere: [] });
  });

  test('both of two that are alike leave the question open', async () => {
    const answer = await look([drop('KILN/one/door.mov', ['one']), drop('KILN/two/door.mov', ['two'])]);
    expect(told(answer)).toEqual([['door.mov', 'choice']]);
    expect(answer.members[0]!.fits).toBe(false);
  });

  test('for one clip alone nothing is offered to another', async () => {
    const rows = await client.rows(projectId);
    const door = rows.find((r) => r.name === 'door.mov')!;
    const files = [drop('KILN/rushes/bowl.mov'), drop('KILN/one/door.mov', ['one'])];
    expect(told(await look(files, { clipId: door.id }))).toEqual([['door.mov', 'KILN/one']]);
  });

  test('one of its name and size that was written at another time, and measures otherwise, is not it', async () => {
    const bowl = drop('KILN/rushes/bowl.mov');
    const other = { ...bowl, modifiedMs: bowl.modifiedMs + 60_000, facts: { ...bowl.facts!, start: 0 } };
    const answer = await look([other]);
    expect(answer).toMatchObject({ members: [], here: 0 });
    expect(answer.elsewhere).toHaveLength(1);
  });

  test('looking links nothing', async () => {
    expect((await client.rows(projectId)).every((r) => r.status.status === 'missing')).toBe(true);
  });
});

describe('what lies in no place', () => {
  test('is told by the folder that was dropped: what it fits, and where it lies, to be added', async () => {
    const files = [drop('LATER/new/ember.mov', ['new']), drop('LATER/new/flue.mov', ['new']), drop('LATER/other.mov')];
    const { elsewhere, members, here } = await look(files);
    expect([members.length, here]).toEqual([0, 0]);
    expect(elsewhere).toEqual([
      expect.objectContaining({
        folder: 'new',
        files: 2,
        clips: 2,
        names: ['ember.mov', 'flue.mov'],
        lies: [at('LATER/new')],
        inPlace: null,
      }),
      expect.objectContaining({ folder: null, files: 1, clips: 0, lies: [at('LATER')] }),
    ]);
    // Said, and then true: added as a place, the same files lie in it.
    await client.post('/places', { path: elsewhere[0]!.lies[0] }).expect(201);
    await house.idle();
    expect(await look(files.slice(0, 2))).toMatchObject({
      here: 2,
      elsewhere: [],
      members: [{ fits: true }, { fits: true }],
    });
  });

  test('in a place that leaves it out, that is said, and no folder of it is offered', async () => {
    const [place] = await client.get<{ id: string }[]>('/places');
    await client.patch(`/places/${place!.id}`, { excluded: ['late/**'] }).expect(200);
    makeFilm(at('KILN/late/late.mov'), { timecode: '05:00:00:00' });
    await client.post(`/places/${place!.id}/index`, {}).expect(202);
    await house.idle();
    const answer = await look([drop('KILN/late/late.mov', ['late'])]);
    expect(answer).toMatchObject({ here: 0, elsewhere: [{ folder: 'late', inPlace: 'KILN', lies: [] }] });
  });

  test.each([
    ['up', '..'],
    ['here', '.'],
    ['two in one', 'a/b'],
    ['none', ''],
    ['one that ends early', 'a\0b'],
  ])('a step %s is refused', async (_what, step) => {
    const file = { name: 'x.mov', folders: [step], sizeInBytes: 1, modifiedMs: 0, facts: null };
    await client.post(`/projects/${projectId}/dropped`, { files: [file] }).expect(400);
    await client.post(`/projects/${projectId}/dropped`, { files: [{ ...file, folders: [], name: step }] }).expect(400);
  });
});

describe('where on this machine files lie', () => {
  test('by every step and the size; links and hidden folders are not entered', async () => {
    for (const folder of ['seek/a/in', 'seek/.hidden/in', 'outside/in']) {
      mkdirSync(at(folder), { recursive: true });
      writeFileSync(at(folder, 'x.mov'), '12345');
    }
    symlinkSync(at('outside'), at('seek/link'));
    writeFileSync(at('seek/in'), 'a file of the folder’s name');
    const sought = (sizeInBytes: number) => [{ steps: ['in', 'x.mov'], sizeInBytes }];
    expect(await whereabouts([at('seek')], sought(5))).toEqual([[at('seek/a')]]);
    expect(await whereabouts([at('seek')], sought(6))).toEqual([[]]);
    expect(await whereabouts([at('not there')], sought(5))).toEqual([[]]);
  });

  test('no longer than so long: a drive without end does not hold up the answer', async () => {
    let calls = 0;
    const found = await whereabouts(
      [at('seek')],
      [{ steps: ['in', 'x.mov'], sizeInBytes: 5 }],
      () => (calls += 1) * 3000,
    );
    expect(found).toEqual([[]]);
  });
});
