import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createHash } from 'node:crypto';
import {
  appendFileSync,
  cpSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Handoff, SetCheck, SetFile } from '@legame/core/contract';
import { c4Of, readChain } from '@legame/core/mhl';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';

/** Sets as they come back: whole, damaged, moved, tampered with, and made by others. */
let house: House;
let projectId: string;
let handedOver: string;
let set: string;
let copies = 0;
const client = clientOf(() => house);
const { get, post } = client;
const at = (...parts: string[]) => join(house.folder, ...parts);

beforeAll(async () => {
  house = await openHouse();
  ({ projectId } = await kilnIn(house));
  await post(`/projects/${projectId}/links/certain`, {}).expect(200);
  const asked = { targetFolder: at('OUT'), name: 'to colour' };
  const { id } = (await post(`/projects/${projectId}/handoffs`, asked).expect(201)).body as Handoff;
  await post(`/handoffs/${id}/run`).expect(202);
  await house.idle();
  handedOver = (await get<Handoff>(`/handoffs/${id}`)).folder;
}, 120_000);
afterAll(() => house.close());
beforeEach(() => {
  copies += 1;
  set = at(`RECEIVED ${copies}`, 'to colour');
  cpSync(handedOver, set, { recursive: true, preserveTimestamps: true });
});

const check = async (more: object = {}, folder = set): Promise<SetCheck> => {
  const { id } = (await post('/set-checks', { folder, ...more }).expect(201)).body as SetCheck;
  await house.idle();
  return get<SetCheck>(`/set-checks/${id}`);
};
const filesOf = async ({ id }: SetCheck, query = ''): Promise<SetFile[]> =>
  (await get<{ files: SetFile[] }>(`/set-checks/${id}/files${query}`)).files;
const states = async (of: SetCheck) => Object.fromEntries((await filesOf(of)).map((f) => [f.path, f.state]));
const amounts = ({ counts }: SetCheck) =>
  Object.fromEntries(Object.entries(counts).flatMap(([state, { files }]) => (files > 0 ? [[state, files]] : [])));
const listOf = (folder = set) =>
  join(
    folder,
    'ascmhl',
    readdirSync(join(folder, 'ascmhl'))
      .filter((n) => n.endsWith('.mhl'))
      .sort()[0]!,
  );
const bytesOf = (folder: string) =>
  Object.fromEntries(
    readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((e) =>
      e.isFile() ? [[join(e.parentPath, e.name), readFileSync(join(e.parentPath, e.name), 'base64')]] : [],
    ),
  );

describe('what lies in a set', () => {
  test('beside media and documents: these as they came in, what is still to be fetched, and a report to print', () => {
    const read = (...path: string[]) => readFileSync(join(set, ...path), 'utf8');
    expect(read('originals/cut.edl')).toContain('/Volumes/KILN/day1/bowl.mov');
    expect(read('cut.edl')).toContain('SOURCE FILE: media/bowl.mov');
    const otio = JSON.parse(read('cut.otio')) as object;
    expect(JSON.stringify(otio)).toContain('"target_url":"media/bowl.mov"');
    expect(read('pull list.csv')).toMatch(/lost\.mov/);
    expect(read('pull list.csv')).not.toContain('bowl.mov');
    const page = read('report.html');
    for (const said of ['media/bowl.mov', 'lost.mov', 'no file is linked', 'src="data:image/jpeg;base64,'])
      expect(page).toContain(said);
    expect(page).not.toMatch(/<script|http:/);
  });
});

describe('a set that is as it was handed over', () => {
  test('is verified file by file, knows the handoff it came from, and is not touched', async () => {
    const before = bytesOf(set);
    const found = await check();
    expect(found.job).toMatchObject({ state: 'done' });
    expect(amounts(found)).toEqual({ verified: 9 });
    expect(found.lists).toMatchObject([{ tool: 'Legame', chain: 'same', fault: null, files: 9 }]);
    expect(found.handoff).toMatchObject({ projectId, project: 'Saltglass', listedOtherwise: 0 });
    expect(bytesOf(set)).toEqual(before);
  });

  test('opens as a project of its own in which everything is linked into the set', async () => {
    const { id } = await check();
    const opened = (await post(`/set-checks/${id}/open`, {}).expect(201)).body as { id: string; name: string };
    await house.idle();
    expect(opened.name).toBe('to colour');
    const rows = await client.rows(opened.id);
    const linked = rows.filter((r) => r.fileName !== 'lost.mov');
    expect(linked.map((r) => r.status.status)).toEqual(['linked', 'linked', 'linked']);
    const detail = await client.detail(opened.id, 'bowl.mov');
    expect(detail.tied).toMatchObject({ by: 'remembered' });
    expect(detail.tiedFile!.file).toMatchObject({ folder: 'media', name: 'bowl.mov' });
  });

  test('of which no timeline can be read leaves no project behind', async () => {
    const before = await get<object[]>('/projects');
    for (const name of readdirSync(set).filter((n) => /\.(edl|otio)$/.test(n)))
      writeFileSync(join(set, name), 'spoilt');
    const { id } = await check();
    await post(`/set-checks/${id}/open`, {}).expect(422);
    for (const name of readdirSync(set).filter((n) => /\.(edl|otio)$/.test(n))) rmSync(join(set, name));
    expect((await post(`/set-checks/${id}/open`, {}).expect(422)).body).toMatchObject({ code: 'set-has-no-timeline' });
    expect(await get<object[]>('/projects')).toEqual(before);
  });
});

describe('a set that is not', () => {
  test('names what is changed, missing, elsewhere and new, the worst first', async () => {
    const bowl = join(set, 'media/bowl.mov');
    const { mtime, size } = statSync(bowl);
    const bytes = readFileSync(bowl);
    bytes[Math.floor(size / 2)]! ^= 1;
    writeFileSync(bowl, bytes);
    utimesSync(bowl, mtime, mtime);
    appendFileSync(join(set, 'report.csv'), 'one more line\n');
    mkdirSync(join(set, 'media/day1'));
    renameSync(join(set, 'media/door.mov'), join(set, 'media/day1/the door.mov'));
    rmSync(join(set, 'media/pipe.mov'));
    writeFileSync(join(set, '.hidden'), 'new');
    writeFileSync(join(set, '.DS_Store'), 'ignored');
    const found = await check();
    expect(amounts(found)).toEqual({ changed: 2, missing: 1, moved: 1, new: 1, verified: 5 });
    const files = await filesOf(found);
    expect(files.map((f) => [f.state, f.path, f.listedPath])).toEqual([
      ['changed', 'media/bowl.mov', null],
      ['changed', 'report.csv', null],
      ['missing', 'media/pipe.mov', null],
      ['moved', 'media/day1/the door.mov', 'media/door.mov'],
      ['new', '.hidden', null],
      ['verified', 'cut.edl', null],
      ['verified', 'cut.otio', null],
      ...['originals/cut.edl', 'pull list.csv', 'report.html'].map((path) => ['verified', path, null]),
    ]);
    expect(files[0]).toMatchObject({ listedInBytes: size, foundInBytes: size });
    expect(files[0]!.found.xxh64).not.toBe(files[0]!.listed!.xxh64);
    expect(await filesOf(found, '?state=missing')).toMatchObject([{ path: 'media/pipe.mov', foundInBytes: null }]);
  });

  test('whose list was changed after it was made is not believed, whatever the files say', async () => {
    const wrong = 'f'.repeat(16);
    const list = readFileSync(listOf(), 'utf8');
    const path = /<path[^>]*>(media\/bowl\.mov)</.exec(list)!;
    const hash = /<xxh64[^>]*>([0-9a-f]{16})</.exec(list.slice(path.index))![1]!;
    writeFileSync(listOf(), list.replaceAll(hash, wrong));
    const found = await check();
    expect(found.lists).toMatchObject([{ chain: 'other' }]);
    expect(found.handoff).toMatchObject({ listedOtherwise: 1 });
    expect(await states(found)).toMatchObject({ 'media/bowl.mov': 'changed' });
  });

  test('whose chain cannot be read is not believed either', async () => {
    writeFileSync(join(set, 'ascmhl/ascmhl_chain.xml'), 'spoilt');
    expect((await check()).lists).toMatchObject([{ chain: 'chain-broken' }]);
    expect((await check({ addGeneration: true })).job).toMatchObject({ problem: { code: 'hash-chain-broken' } });
  });

  test.each<[string, (list: string) => string, object]>([
    ['is cut off', (list) => list.slice(0, 900), { code: 'hash-list-broken', fault: { code: 'broken' } }],
    [
      'leads out',
      (list) => list.replace('media/bowl.mov', '../../KILN/day1/bowl.mov'),
      { code: 'hash-list-broken', fault: { code: 'leads-out' } },
    ],
  ])('whose list %s says so, and proves nothing', async (_, spoil, problem) => {
    writeFileSync(listOf(), spoil(readFileSync(listOf(), 'utf8')));
    expect((await check()).job).toMatchObject({ state: 'failed', problem });
  });

  test('without a list, outside the roots, or gone is refused with the reason', async () => {
    rmSync(join(set, 'ascmhl'), { recursive: true });
    expect((await check()).job).toMatchObject({ state: 'failed', problem: { code: 'no-hash-list' } });
    await post('/set-checks', { folder: '/etc' }).expect(403);
    await post('/set-checks', { folder: at('nowhere') }).expect(404);
  });

  test('that was swapped for another folder while it waited is not read', async () => {
    const { id } = await check();
    renameSync(set, `${set} aside`);
    cpSync(handedOver, set, { recursive: true });
    await post(`/set-checks/${id}/run`).expect(202);
    await house.idle();
    expect((await get<SetCheck>(`/set-checks/${id}`)).job).toMatchObject({
      state: 'failed',
      problem: { code: 'another-folder-there' },
    });
  });

  test('goes on after it was stopped where it was, and reads no byte twice', async () => {
    const { id } = await check();
    await house
      .db('set_check_files')
      .where({ check_id: id, path: 'media/bowl.mov' })
      .update({
        ...{ state: 'waiting', found: '{}', to_reckon: ['xxh64'] },
      });
    // What was read before stays as it was found, though it would be found otherwise now.
    rmSync(join(set, 'media/door.mov'));
    await post(`/set-checks/${id}/run`).expect(202);
    await house.idle();
    expect(amounts(await get<SetCheck>(`/set-checks/${id}`))).toEqual({ verified: 9 });
  });
});

describe('a generation that is added', () => {
  test('tells of every file by what became of it, keeps the chain to the letter, and verifies afterwards', async () => {
    const before = bytesOf(set);
    const chainPath = join(set, 'ascmhl/ascmhl_chain.xml');
    const chain = readFileSync(chainPath, 'utf8');
    mkdirSync(join(set, 'media/day1'));
    renameSync(join(set, 'media/door.mov'), join(set, 'media/day1/the door.mov'));
    writeFileSync(join(set, 'notes.txt'), 'came back');
    const found = await check({ addGeneration: true });
    expect(found.job).toMatchObject({ state: 'done' });
    expect(found.generation).toMatch(/^0002_to colour_.*\.mhl$/);
    const longer = readFileSync(chainPath, 'utf8');
    expect(longer.startsWith(chain.slice(0, chain.indexOf('</ascmhldirectory>')))).toBe(true);
    const [, second] = readChain(longer)!;
    const written = readFileSync(join(set, 'ascmhl', found.generation!));
    expect(second).toEqual({
      name: found.generation,
      c4: c4Of(createHash('sha512').update(written).digest()),
    });
    const after = bytesOf(set);
    for (const [path, bytes] of Object.entries(before))
      if (path !== chainPath && !path.endsWith('door.mov')) expect(after[path]).toBe(bytes);
    expect(readdirSync(join(set, 'ascmhl')).filter((n) => n.startsWith('.'))).toEqual([]);

    const again = await check();
    expect(amounts(again)).toEqual({ verified: 10 });
    expect(again.lists!.map((l) => l.chain)).toEqual(['same', 'same']);
  });
});

describe('lists of others', () => {
  const md5 = (text: string) => createHash('md5').update(text).digest('hex');
  const receive = (files: Readonly<Record<string, string>>, lists: Readonly<Record<string, string>>) => {
    const folder = at(`OTHERS ${copies}`);
    for (const [path, text] of [...Object.entries(files), ...Object.entries(lists)]) {
      mkdirSync(join(folder, path, '..'), { recursive: true });
      writeFileSync(join(folder, path), text);
    }
    return folder;
  };
  const hash = (path: string, inside: string) => `<hash><path>${path}</path>${inside}</hash>`;
  const asList = (...hashes: string[]) => `<hashlist version="2.0"><hashes>${hashes.join('')}</hashes></hashlist>`;

  test('of the version before, by md5, and with letters composed otherwise', async () => {
    const files = { 'A/gl\u00fchen.mov': 'glow', 'A/other.mov': 'other' };
    const list = `<hashlist version="1.1">${Object.entries(files)
      .map(
        ([p, text]) =>
          `<hash><file>${p.normalize('NFD')}</file><size>${text.length}</size><md5>${md5(text)}</md5></hash>`,
      )
      .join('')}</hashlist>`;
    const found = await check({}, receive(files, { 'set.mhl': list }));
    expect(amounts(found)).toEqual({ verified: 2 });
    expect(found.lists).toMatchObject([{ path: 'set.mhl', chain: 'unchained' }]);
  });

  test('several generations: what was said first counts, what had failed does not, a renamed file keeps its proof', async () => {
    const files = { 'new name.mov': 'one', 'kept.mov': 'changed since' };
    const found = await check(
      {},
      receive(files, {
        'ascmhl/0001_a.mhl': asList(
          hash('old name.mov', `<md5 action="original">${md5('one')}</md5>`),
          hash('kept.mov', `<md5 action="original">${md5('as it was')}</md5>`),
        ),
        'ascmhl/0002_a.mhl': asList(
          hash('new name.mov', `<previousPath>old name.mov</previousPath>`),
          hash('kept.mov', `<md5 action="failed">${md5('changed since')}</md5>`),
        ),
      }),
    );
    expect(await states(found)).toEqual({ 'new name.mov': 'verified', 'kept.mov': 'changed' });
  });

  test.each(['md5', 'sha1', 'c4', 'xxh64', 'xxh3', 'xxh128'] as const)('by %s', async (name) => {
    const known = {
      md5: '900150983cd24fb0d6963f7d28e17f72',
      sha1: 'a9993e364706816aba3e25717850c26c9cd0d89d',
      c4: c4Of(createHash('sha512').update('abc').digest()),
      xxh64: '44bc2cf5ad770999',
      xxh3: '78af5f94892f3950',
      xxh128: '06b05ab6733a618578af5f94892f3950',
    };
    const list = (value: string) => asList(hash('a.mov', `<${name}>${value}</${name}>`));
    const folder = receive({ 'a.mov': 'abc' }, { 'ascmhl/0001_a.mhl': list(known[name]) });
    expect(amounts(await check({}, folder))).toEqual({ verified: 1 });
    writeFileSync(join(folder, 'a.mov'), 'abd');
    expect(amounts(await check({}, folder))).toEqual({ changed: 1 });
  });

  test('of sets inside a set count for what lies in them', async () => {
    const folder = receive(
      { 'a.mov': 'one', 'card/b.mov': 'two' },
      {
        'ascmhl/0001_a.mhl': asList(hash('a.mov', `<md5>${md5('one')}</md5>`)),
        'card/ascmhl/0001_card.mhl': asList(hash('b.mov', `<md5>${md5('two')}</md5>`)),
      },
    );
    expect(await states(await check({}, folder))).toEqual({ 'a.mov': 'verified', 'card/b.mov': 'verified' });
  });
});
