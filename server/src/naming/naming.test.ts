import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, readdirSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type {
  Act,
  ClipRow,
  Handoff,
  History,
  HistoryChange,
  NamedFile,
  NamingPreview,
  Problem,
} from '@legame/core/contract';
import type { PlaceId } from '@legame/core/model';
import { type FileIdentity, nameAside } from '../disk/writing.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { renameStore } from '../stores/renames.ts';
import { beginWalk } from '../stores/walks.ts';
import { clientOf } from '../testing/client.ts';
import { makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';
import { settleRenames } from './carry.ts';

let house: House;
let projectId: string;
let kiln: string;
const { get, post, bring, newProject, rows, index } = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

beforeEach(async () => {
  house = await openHouse();
  ({ projectId, kiln } = await kilnIn(house));
  writeFileSync(at('KILN/day1/bowl.xml'), '<camera lens="35"/>');
  await index(kiln);
  await post(`/projects/${projectId}/links/certain`).expect(200);
  await house.idle();
}, 120_000);
afterEach(() => house.close());

const clipsOf = async (...names: string[]) =>
  (await rows(projectId)).filter((r) => names.includes(r.name)).map((r) => r.id);
const preview = async (clips: readonly string[], more: object): Promise<readonly NamedFile[]> =>
  ((await post(`/projects/${projectId}/renames/preview`, { clips, ...more }).expect(200)).body as NamingPreview).files;
const asked = (files: readonly NamedFile[]) => ({
  files: files.filter((f) => f.to !== f.from).map(({ mediaFileId, from, to }) => ({ mediaFileId, from, to })),
});
const rename = async (body: object): Promise<Act> =>
  (await post(`/projects/${projectId}/renames`, body).expect(200)).body as Act;
const refused = async (body: object): Promise<Problem> =>
  (await post(`/projects/${projectId}/renames`, body).expect(409)).body as Problem;
/** What lies in a folder: names, and what each holds. */
const holds = (folder: string) =>
  Object.fromEntries(
    readdirSync(at(folder))
      .sort()
      .filter((name) => statSync(at(folder, name)).isFile())
      .map((name) => [name, readFileSync(at(folder, name)).toString('base64')]),
  );
const tiedTo = async (project = projectId) =>
  Object.fromEntries((await rows(project)).map((r: ClipRow) => [r.name, [r.status.status, r.tied?.name ?? null]]));

describe('renaming the files of clips', () => {
  test('is proposed by a pattern, with sidecars, users and what stands in the way', async () => {
    const files = await preview(await clipsOf('bowl.mov', 'door.mov', 'pipe.mov'), { pattern: 'SG_{reel}_{n:2}' });
    expect(files.map((f) => [f.folder, f.from, f.to, f.fault, f.isSidecar])).toEqual([
      ['day1', 'bowl.mov', 'SG_A001_01.mov', null, false],
      ['day1', 'door.mov', 'SG_A001_02.mov', null, false],
      ['day2', 'pipe.mov', 'SG_A001_03.mov', null, false],
      ['day1', 'bowl.xml', 'SG_A001_01.xml', null, true],
    ]);
    expect(files[0]).toMatchObject({ placeName: 'KILN', clips: ['bowl.mov'], elsewhere: [] });
    const [bowl, door] = files;
    const written = [
      { mediaFileId: bowl!.mediaFileId, name: 'notes.tmp' },
      { mediaFileId: door!.mediaFileId, name: 'a/b.mov' },
    ];
    const again = await preview(await clipsOf('bowl.mov', 'door.mov'), { pattern: '{name}', written });
    expect(again.map((f) => [f.to, f.fault])).toEqual([
      ['notes.tmp', 'taken'],
      ['a/b.mov', 'empty'],
      // It goes with a recording that keeps its name.
      ['bowl.xml', null],
    ]);
    await post(`/projects/${projectId}/renames/preview`, { clips: [files[0]!.mediaFileId], pattern: '{nmae}' }).expect(
      400,
    );
  });

  test('keeps every clip tied and every byte, is one act, and undo and redo rename back and again', async () => {
    const [before, ties] = [{ ...holds('KILN/day1'), ...holds('KILN/day2') }, await tiedTo()];
    const act = await rename(
      asked(await preview(await clipsOf('bowl.mov', 'door.mov', 'pipe.mov'), { pattern: 'SG_{n:2}' })),
    );
    expect(act.verb).toBe('rename');
    const moved = {
      'SG_01.mov': 'bowl.mov',
      'SG_02.mov': 'door.mov',
      'SG_03.mov': 'pipe.mov',
      'SG_01.xml': 'bowl.xml',
    };
    const after = () => ({ ...holds('KILN/day1'), ...holds('KILN/day2') });
    const renamed = Object.fromEntries(
      Object.entries(before).map(([name, bytes]) => [
        Object.entries(moved).find(([, was]) => was === name)?.[0] ?? name,
        bytes,
      ]),
    );
    expect(after()).toEqual(renamed);
    await house.idle();
    const tied = await tiedTo();
    expect([tied['bowl.mov'], tied['door.mov'], tied['pipe.mov']]).toEqual([
      ['linked', 'SG_01.mov'],
      ['linked', 'SG_02.mov'],
      ['linked', 'SG_03.mov'],
    ]);
    const [entry] = (await get<History>(`/projects/${projectId}/history`)).entries;
    expect(entry).toMatchObject({ verb: 'rename', about: { code: 'files', files: 4 }, state: 'done' });
    const changes = await get<HistoryChange[]>(`/projects/${projectId}/history/${entry!.id}`);
    expect(changes).toContainEqual({ what: 'rename', folder: 'KILN/day1', before: 'bowl.mov', after: 'SG_01.mov' });
    expect((await house.db('media_files').where({ gone: true })).length).toBe(0);

    await post(`/projects/${projectId}/undo`, {}).expect(200);
    expect(after()).toEqual(before);
    await house.idle();
    expect(await tiedTo()).toEqual(ties);
    await post(`/projects/${projectId}/redo`, {}).expect(200);
    expect(after()).toEqual(renamed);
    await house.idle();
    expect(await tiedTo()).toEqual(tied);
    expect(await renameStore.listBegun(house.db)).toEqual(new Map());
  });

  test('a handoff that was planned before finds its files under their new names', async () => {
    mkdirSync(at('OUT'), { recursive: true });
    const plan = { targetFolder: at('OUT'), name: 'before' };
    const { id } = (await post(`/projects/${projectId}/handoffs`, plan).expect(201)).body as Handoff;
    const hashes = holds('KILN/day1');
    await rename(asked(await preview(await clipsOf('bowl.mov', 'door.mov'), { pattern: 'SG_{name}' })));
    await house.idle();
    await post(`/handoffs/${id}/run`).expect(202);
    await house.idle();
    expect(await get<Handoff>(`/handoffs/${id}`)).toMatchObject({ state: 'done', problem: null });
    expect(holds('OUT/before/media')).toMatchObject({ 'bowl.mov': hashes['bowl.mov'], 'door.mov': hashes['door.mov'] });
  });

  test('names may go round in a circle, or change in their letters only', async () => {
    const before = holds('KILN/day1');
    const [bowl, door] = await preview(await clipsOf('bowl.mov', 'door.mov'), { pattern: '{name}' });
    const to = (file: NamedFile | undefined, name: string) => ({
      mediaFileId: file!.mediaFileId,
      from: file!.from,
      to: name,
    });
    await rename({ files: [to(bowl, 'door.mov'), to(door, 'bowl.mov')] });
    expect(holds('KILN/day1')).toEqual({ ...before, 'door.mov': before['bowl.mov'], 'bowl.mov': before['door.mov'] });
    await house.idle();
    expect((await tiedTo())['bowl.mov']).toEqual(['linked', 'door.mov']);
    await rename({ files: [{ mediaFileId: bowl!.mediaFileId, from: 'door.mov', to: 'Door.MOV' }] });
    expect(Object.keys(holds('KILN/day1'))).toContain('Door.MOV');
    for (let n = 0; n < 2; n += 1) await post(`/projects/${projectId}/undo`, {}).expect(200);
    expect(holds('KILN/day1')).toEqual(before);
  });
});

test('what was listed or read before a renaming is not believed after it, nor while one is not settled', async () => {
  const walk = await beginWalk(house.db, kiln as PlaceId, 'day1');
  const [bowl, door] = await preview(await clipsOf('bowl.mov', 'door.mov'), { pattern: '{name}' });
  const swapped = [
    { mediaFileId: bowl!.mediaFileId, from: 'bowl.mov', to: 'door.mov' },
    { mediaFileId: door!.mediaFileId, from: 'door.mov', to: 'bowl.mov' },
  ];
  await rename({ files: swapped });
  expect(await walk.finish([])).toBe('overtaken');
  const factsOf = async () => (await mediaFileStore.listByIds(house.db, [bowl!.mediaFileId]))[0]!.facts;
  const reading = { id: bowl!.mediaFileId, facts: null, unreadable: null, fingerprint: 'of another' };
  await mediaFileStore.saveReadings(house.db, [{ ...reading, name: 'bowl.mov' }]);
  expect(await factsOf()).not.toBeNull();
  await house.idle();
  const later = await beginWalk(house.db, kiln as PlaceId, 'day1');
  const identity = identityOf(at('KILN/day1/bowl.mov'));
  const note = { folder: 'day1', from: 'bowl.mov', to: 'x.mov', aside: nameAside(), identity };
  await renameStore.note(house.db, randomUUID(), [{ ...note, ground: { path: at('KILN') } }]);
  expect(await later.finish([])).toBe('overtaken');
  await settleRenames(house);
  await house.idle();
  expect((await tiedTo())['bowl.mov']).toEqual(['linked', 'door.mov']);
});

describe('nothing is renamed', () => {
  test('where a name is taken, was changed meanwhile, or its file is another now; all stay as they are called', async () => {
    const before = holds('KILN/day1');
    const [bowl, door] = await preview(await clipsOf('bowl.mov', 'door.mov'), { pattern: '{name}' });
    const files = (first: string, second: string) => ({
      files: [
        { mediaFileId: bowl!.mediaFileId, from: 'bowl.mov', to: first },
        { mediaFileId: door!.mediaFileId, from: 'door.mov', to: second },
      ],
    });
    expect(await refused(files('a.mov', 'NOTES.tmp'))).toMatchObject({ code: 'rename-refused', why: 'taken' });
    expect(await refused(files('a.mov', 'A.mov'))).toMatchObject({ code: 'rename-refused', why: 'twice' });
    const stale = { files: [{ mediaFileId: bowl!.mediaFileId, from: 'bowl2.mov', to: 'x.mov' }] };
    expect(await refused(stale)).toMatchObject({ code: 'rename-overtaken', name: 'bowl2.mov' });
    // The index does not know of it yet; the disk does.
    writeFileSync(at('KILN/day1/late.mov'), 'came in between');
    expect(await refused(files('a.mov', 'late.mov'))).toMatchObject({ code: 'target-exists' });
    expect(holds('KILN/day1')).toEqual({ ...before, 'late.mov': Buffer.from('came in between').toString('base64') });
    writeFileSync(at('KILN/day1/door.mov'), 'another film');
    expect(await refused(files('a.mov', 'b.mov'))).toMatchObject({ code: 'source-changed' });
    expect(Object.keys(holds('KILN/day1'))).toEqual(['bowl.mov', 'bowl.xml', 'door.mov', 'late.mov', 'notes.tmp']);
    expect(await renameStore.listBegun(house.db)).toEqual(new Map());
    expect((await get<History>(`/projects/${projectId}/history`)).entries.filter((e) => e.verb === 'rename')).toEqual(
      [],
    );
  });

  test('that another project uses, unless that is said; then its clips stay tied as well', async () => {
    const other = await newProject('Trailer');
    const event = {
      reel: 'A001',
      from: '01:00:00:05',
      to: '01:00:01:05',
      name: 'bowl.mov',
      file: at('KILN/day1/bowl.mov'),
    };
    await bring(other, makeList([event]), 'trailer.edl', { reading: pal }).expect(201);
    await house.idle();
    expect((await tiedTo(other))['bowl.mov']).toEqual(['linked', 'bowl.mov']);
    const files = await preview(await clipsOf('bowl.mov'), { pattern: 'SG_{name}' });
    expect(files[0]!.elsewhere).toEqual(['Trailer']);
    expect(await refused(asked(files))).toMatchObject({ code: 'rename-of-others', files: 1, by: ['Trailer'] });
    await rename({ ...asked(files), alsoOfOthers: true });
    await house.idle();
    expect((await tiedTo(other))['bowl.mov']).toEqual(['linked', 'SG_bowl.mov']);
    await post(`/projects/${projectId}/undo`, {}).expect(200);
    await house.idle();
    expect((await tiedTo(other))['bowl.mov']).toEqual(['linked', 'bowl.mov']);
  });

  test('back, when the name of before is somebody else’s by now; it stays as it is called, and undo can be asked again', async () => {
    await rename(asked(await preview(await clipsOf('bowl.mov', 'door.mov'), { pattern: 'SG_{name}' })));
    writeFileSync(at('KILN/day1/door.mov'), 'somebody put it here');
    const after = holds('KILN/day1');
    await post(`/projects/${projectId}/undo`, {}).expect(409);
    expect(holds('KILN/day1')).toEqual(after);
    renameSync(at('KILN/day1/door.mov'), at('KILN/elsewhere.mov'));
    await index(kiln);
    await post(`/projects/${projectId}/undo`, {}).expect(200);
    expect(Object.keys(holds('KILN/day1'))).toEqual(['bowl.mov', 'bowl.xml', 'door.mov', 'notes.tmp']);
  });
});

function identityOf(path: string): FileIdentity {
  const { dev, ino, size, mtimeMs, ctimeMs } = statSync(path);
  return { device: dev, inode: ino, sizeInBytes: size, modifiedMs: mtimeMs, changedMs: ctimeMs };
}

describe('a renaming that ended anywhere in between', () => {
  /** Every step of a circle of three with one that goes to a free name; each may have been half done. */
  const names = ['a.mov', 'b.mov', 'c.mov', 'd.mov'];
  const wanted = ['b.mov', 'c.mov', 'a.mov', 'free.mov'];
  const asideOf = names.map(() => nameAside());
  const steps = [
    ...[0, 1, 2].map((i) => [names[i]!, asideOf[i]!] as const),
    ...[0, 1, 2].map((i) => [asideOf[i]!, wanted[i]!] as const),
    ['d.mov', 'free.mov'] as const,
  ];
  const stops = steps.flatMap((_, i) => [[i, false] as const, [i, true] as const]);

  test('goes back to the names that the database says, after whatever step, be it half done', async () => {
    for (const [i, [done, isHalf]] of [...stops, [steps.length, false] as const].entries()) {
      const folder = at('KILN', `circle${i}`);
      mkdirSync(folder);
      for (const name of names) writeFileSync(join(folder, name), `the film ${name}`);
      const noted = names.map((from, n) => {
        const to = { from, to: wanted[n]!, aside: asideOf[n]! };
        return { ground: { path: at('KILN') }, folder: `circle${i}`, ...to, identity: identityOf(join(folder, from)) };
      });
      await renameStore.note(house.db, randomUUID(), noted);
      for (const [from, to] of steps.slice(0, done)) renameSync(join(folder, from), join(folder, to));
      if (isHalf) linkSync(join(folder, steps[done]![0]), join(folder, steps[done]![1]));
      await settleRenames(house);
      expect([done, isHalf, holds(`KILN/circle${i}`)]).toEqual([
        done,
        isHalf,
        Object.fromEntries(names.map((name) => [name, Buffer.from(`the film ${name}`).toString('base64')])),
      ]);
      expect(readdirSync(folder)).toHaveLength(names.length);
      expect(await renameStore.listBegun(house.db)).toEqual(new Map());
    }
  });

  test('keeps its note while the drive is away, and is brought back when it can', async () => {
    const identity = identityOf(at('KILN/day1/bowl.mov'));
    const note = { folder: 'day1', from: 'bowl.mov', to: 'x.mov', aside: nameAside(), identity };
    await renameStore.note(house.db, randomUUID(), [{ ...note, ground: { path: at('KILN') } }]);
    renameSync(at('KILN/day1/bowl.mov'), at('KILN/day1', note.aside));
    renameSync(at('KILN'), at('.away'));
    await settleRenames(house);
    expect((await renameStore.listBegun(house.db)).size).toBe(1);
    renameSync(at('.away'), at('KILN'));
    await settleRenames(house);
    expect(Object.keys(holds('KILN/day1'))).toContain('bowl.mov');
    expect((await renameStore.listBegun(house.db)).size).toBe(0);
  });
});
