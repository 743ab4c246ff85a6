import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import {
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  realpathSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { excluder } from './exclusions.ts';
import { folderInsideRoots, isInside } from './fence.ts';
import { useFence, withFileOf } from './held.ts';
import { walkPlace, type Walked } from './walk.ts';
import { writeProblem } from './failures.ts';
import { FencedFolder, moveInside } from './writing.ts';

let root: string;
let outside: string;
const put = (path: string, text = 'x') => {
  mkdirSync(join(root, path, '..'), { recursive: true });
  writeFileSync(join(root, path), text);
};
beforeEach(() => {
  root = realpathSync(mkdtempSync(join(tmpdir(), 'legame-place-')));
  outside = realpathSync(mkdtempSync(join(tmpdir(), 'legame-outside-')));
  useFence([root]);
  writeFileSync(join(outside, 'canary.txt'), 'secret');
});
afterEach(() => {
  rmSync(root, { recursive: true, force: true });
  rmSync(outside, { recursive: true, force: true });
});

describe('the fence around reading', () => {
  test('inside is told from beside', () => {
    expect(isInside('/bay/KILN', '/bay/KILN/a')).toBe(true);
    expect(isInside('/bay/KILN', '/bay/KILN')).toBe(true);
    expect(isInside('/bay/KILN', '/bay/KILN_B')).toBe(false);
    expect(isInside('/bay/KILN', '/bay/KILN/../x')).toBe(false);
    expect(isInside('/bay/KILN', '/bay/KILN/..x')).toBe(true);
  });

  test('a folder outside the roots is refused, by its text and by where a link leads', async () => {
    symlinkSync(outside, join(root, 'way-out'));
    for (const path of [outside, join(root, 'way-out'), join(root, '..'), 'relative', `${root}/\0`]) {
      await expect(folderInsideRoots(path, [root])).rejects.toMatchObject({ code: 'outside-roots' });
    }
    await expect(folderInsideRoots(join(root, 'nothing'), [root])).rejects.toMatchObject({ code: 'folder-not-there' });
    put('file.txt');
    await expect(folderInsideRoots(join(root, 'file.txt'), [root])).rejects.toMatchObject({
      code: 'not-a-folder',
    });
    expect(await folderInsideRoots(root, [root])).toBe(root);
  });

  test('a file of a place is never one outside it', async () => {
    symlinkSync(join(outside, 'canary.txt'), join(root, 'link.txt'));
    put('a/b.mov');
    symlinkSync(outside, join(root, 'a/way-out'));
    const text = (path: string) => withFileOf({ path: root }, path, async (file) => (await file.readFile()).toString());
    for (const path of ['link.txt', 'a/way-out/canary.txt'])
      await expect(text(path)).rejects.toMatchObject({ code: 'outside-roots' });
    for (const path of [`../${basename(outside)}/canary.txt`, 'a/../../x', '/etc/passwd', 'a\0'])
      await expect(text(path)).rejects.toMatchObject({ code: 'outside-folder' });
    expect(await text('a/b.mov')).toBe('x');
  });
});

describe('the walk', () => {
  const walk = async (options: Partial<Parameters<typeof walkPlace>[1]> = {}) => {
    const files: Walked[] = [];
    const skipped = await walkPlace({ path: root }, { onFiles: (found) => files.push(...found), ...options });
    return { files, skipped };
  };

  test('lists files with size; hidden, system, links and pipes are counted and passed over; loops end', async () => {
    put('day1/bowl.mov', '12345');
    put('day1/.hidden.mov');
    put('day1/.DS_Store');
    put('day1/._a.mov');
    put('day1/._frame.0001.dpx');
    put('day1/._frame.0002.dpx');
    put('System Volume Information/x.mov');
    put('Legame holding/2026-01-01/cleared.mov');
    put('odd/na\nme "quoted" é.mov');
    put(`odd/${'x'.repeat(251)}.mov`);
    symlinkSync(root, join(root, 'day1/loop'));
    symlinkSync(outside, join(root, 'out'));
    execFileSync('mkfifo', [join(root, 'day1/pipe.mov')]);
    const { files, skipped } = await walk();
    expect(files.map((f) => [f.folder, f.name, f.sizeInBytes]).sort()).toEqual([
      // A file under a hidden name is media if it is called so; what systems write beside files is not.
      ['day1', '.hidden.mov', 1],
      ['day1', 'bowl.mov', 5],
      ['odd', 'na\nme "quoted" é.mov', 1],
      ['odd', `${'x'.repeat(251)}.mov`, 1],
    ]);
    expect(skipped).toMatchObject({ hidden: 6, links: 2, special: 1, excluded: 0, unlisted: [] });
  });

  test('names in both Unicode forms are kept as they are; one that is no text is told', async () => {
    put('caf\u00e9.mov');
    put('cafe\u0301.mov');
    const raw = Buffer.concat([Buffer.from(`${root}/bad`), Buffer.from([0xff, 0xfe]), Buffer.from('.mov')]);
    writeFileSync(raw, 'x');
    const { files, skipped } = await walk();
    expect(files.map((f) => f.name).sort()).toEqual(['cafe\u0301.mov', 'caf\u00e9.mov']);
    expect(skipped.unnameable).toHaveLength(1);
  });

  test('patterns leave files and whole folders out', async () => {
    put('a.mov');
    put('a.TMP');
    put('proxies/deep/b.mov');
    put('day1/render_01.mov');
    const { files, skipped } = await walk({ excluded: ['*.tmp', 'proxies/**', 'day1/render*'] });
    expect(files.map((f) => f.name)).toEqual(['a.mov']);
    expect(skipped.excluded).toBe(3);
  });

  test('from a folder down, and nothing beside it', async () => {
    put('day1/a.mov');
    put('day10/b.mov');
    expect((await walk({ from: 'day1' })).files.map((f) => f.name)).toEqual(['a.mov']);
  });

  test('a numbered sequence is one entry of all its bytes', async () => {
    for (let n = 0; n < 10; n += 1) if (n !== 4) put(`titles/t_${1001 + n}.png`, '123');
    const { files } = await walk();
    expect(files).toHaveLength(1);
    expect(files[0]).toMatchObject({
      folder: 'titles',
      name: 't_####.png',
      sizeInBytes: 27,
      sequence: { first: 1001, last: 1010, missing: [1005] },
    });
  });

  test('it stops when told to', async () => {
    for (let n = 0; n < 300; n += 1) put(`d${n}/x.mov`);
    await walk({ signal: AbortSignal.abort() }).then(
      // A small tree may be done within one slice; then it simply ends.
      ({ files }) => expect(files).toHaveLength(300),
      (error: unknown) => expect(error).toMatchObject({ name: 'AbortError' }),
    );
  });
});

describe('exclusions', () => {
  test.each([
    ['*.{tmp,part}', 'day1/A.PART', true],
    ['*.{tmp,part}', 'day1/a.mov', false],
    ['proxies/**', 'proxies', true],
    ['**/render_[0-9]?.mov', 'a/b/render_12.mov', true],
    ['**/render_[!0-9]?.mov', 'a/b/render_12.mov', false],
    ['(a+)+b', '(a+)+b', true],
  ])('%s and %s: %s', (pattern, path, isLeftOut) => {
    expect(excluder([pattern])(path)).toBe(isLeftOut);
  });

  test('no pattern takes longer than its length times that of the path', () => {
    const patterns = ['(a+)+b', `${'*a'.repeat(180)}b`, `${'**/'.repeat(130)}x`, `${'{a,b}'.repeat(70)}`];
    for (const pattern of patterns) expect(excluder([pattern])('a'.repeat(255))).toBe(false);
  });
});

describe('writing', () => {
  test('never over anything, never outside', async () => {
    put('handoff/media/a.mov', 'theirs');
    await expect(FencedFolder.make({ path: root }, 'handoff', { intended: false })).rejects.toMatchObject({
      code: 'target-exists',
    });
    const folder = await FencedFolder.of({ path: join(root, 'handoff') });
    expect(() => folder.resolve('../x')).toThrow('outside-folder');
    await expect(folder.create('media/a.mov')).rejects.toMatchObject({ code: 'EEXIST' });
    await folder.writeAside('media/.legame-a.part', 'mine');
    await expect(folder.publish('media/.legame-a.part', 'media/a.mov')).rejects.toMatchObject({
      code: 'target-exists',
    });
    await folder.discard('media/.legame-a.part');
    await expect(folder.discard('media/a.mov')).rejects.toThrow('no name that only Legame knows');
    expect(readFileSync(join(root, 'handoff/media/a.mov'), 'utf8')).toBe('theirs');
    symlinkSync(outside, join(root, 'handoff/trap'));
    await expect(folder.create('trap/x')).rejects.toMatchObject({ code: 'link-leads-out' });
    await folder.writeAside('new/.legame-b.part', 'whole');
    await folder.publish('new/.legame-b.part', 'new/b.txt');
    expect(readFileSync(join(root, 'handoff/new/b.txt'), 'utf8')).toBe('whole');
    expect(readdirSync(join(root, 'handoff/new'))).toEqual(['b.txt']);
  });

  test('a file is moved inside its root only, to a name that is free, with the folders above it made', async () => {
    put('day1/a.mov', 'theirs');
    put('day1/taken.mov', 'another');
    await moveInside({ path: root }, 'day1/a.mov', 'Legame holding/today/day1/a.mov');
    expect(readFileSync(join(root, 'Legame holding/today/day1/a.mov'), 'utf8')).toBe('theirs');
    await expect(moveInside({ path: root }, 'Legame holding/today/day1/a.mov', 'day1/taken.mov')).rejects.toMatchObject(
      {
        code: 'target-exists',
      },
    );
    expect(readFileSync(join(root, 'day1/taken.mov'), 'utf8')).toBe('another');
    symlinkSync(outside, join(root, 'trap'));
    for (const [to, code] of [
      ['trap/new/a.mov', 'link-leads-out'],
      ['../a.mov', 'outside-folder'],
    ] as const)
      await expect(moveInside({ path: root }, 'day1/taken.mov', to)).rejects.toMatchObject({ code });
    expect(readdirSync(outside)).toEqual(['canary.txt']);
  });

  test.each([
    ['ENOSPC', 'drive-full'],
    ['EROFS', 'target-not-writable'],
    ['EACCES', 'target-not-writable'],
    ['ENOENT', 'folder-not-there'],
  ])('%s becomes %s, and says where', (code, expected) => {
    const problem = writeProblem(Object.assign(new Error('x'), { code }), '/drive/x.mov');
    expect(problem).toMatchObject({ code: expected, problem: { path: '/drive/x.mov' } });
  });
});
