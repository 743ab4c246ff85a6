import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { MediaFileId } from '../model/ids.ts';
import type { Facts } from '../model/media.ts';
import { buildFacts } from '../testing/index.ts';
import { rate } from '../time/rate.ts';
import {
  binBy,
  binTree,
  checkBin,
  faultOf,
  gatherClips,
  binsAfter,
  emptyBins,
  faultOfMove,
  isWithin,
  movedPath,
  notedValue,
  onReel,
  readPasted,
  spreadPasted,
  uniteBins,
  withValues,
  writePasted,
  type BinNode,
  type BinPath,
  type ClipOnReel,
  type OnReel,
  type RowToCheck,
} from './index.ts';

const name = fc.constantFrom('Day 1', 'Day 2', 'Day 10', 'Camera', 'Sound', 'a/b', ' ', 'é', 'é');
const path = fc.array(name, { minLength: 1, maxLength: 4 }).filter((p) => faultOf(p) === null);

describe('the tree of bins', () => {
  test('has every bin once, in the order people count in, with what lies in it and within', () => {
    const tree = binTree([['Day 10'], ['Empty', 'Inner']], [['Day 2'], ['Day 2', 'Sound'], [], ['Day 1'], ['Day 2']]);
    const flat = (node: BinNode): string[] => [
      `${node.path.join('>')} ${node.clips}/${node.within}`,
      ...node.bins.flatMap(flat),
    ];
    expect(flat(tree)).toEqual([
      ' 1/5',
      'Day 1 1/1',
      'Day 2 2/3',
      'Day 2>Sound 1/1',
      'Day 10 0/0',
      'Empty 0/0',
      'Empty>Inner 0/0',
    ]);
  });

  test('counts every clip once, wherever it lies', () => {
    fc.assert(
      fc.property(fc.array(path), fc.array(path), (own, clips) => {
        const tree = binTree(own, clips);
        const sum = (node: BinNode): number => node.clips + node.bins.reduce((all, bin) => all + sum(bin), 0);
        expect(sum(tree)).toBe(clips.length);
        expect(tree.within).toBe(clips.length);
        expect(uniteBins(uniteBins(own))).toEqual(uniteBins(own));
      }),
    );
  });

  test('a bin that becomes another takes along what stands in it, and nothing else', () => {
    fc.assert(
      fc.property(path, path, path, (any, from, to) => {
        const moved = movedPath(any, from, to);
        if (!isWithin(any, from)) expect(moved).toBe(any);
        else {
          expect(isWithin(moved, to)).toBe(true);
          // And back again: nothing of where it stood inside is lost.
          expect(movedPath(moved, to, from)).toEqual(any);
        }
      }),
    );
  });

  test.each<[BinPath, BinPath, string | null]>([
    [['A'], ['A', 'B'], 'into-itself'],
    [['A'], ['A'], 'is-there'],
    [['A'], ['AB'], null],
    [['A', 'B'], ['B'], null],
    [['A'], ['  '], 'no-name'],
    [['A'], [], 'no-name'],
    [['A'], ['x'.repeat(121)], 'name-too-long'],
    [['A'], Array.from({ length: 13 }, () => 'x'), 'too-deep'],
  ])('%j to %j: %s', (from, to, fault) => {
    expect(faultOfMove(from, to)).toBe(fault);
  });
});

describe('what is noted of a clip', () => {
  const clip = (noted: Parameters<typeof withValues>[0]['noted'] = null) => ({
    metadata: { scene: '12', Lens: '35' },
    noted,
  });

  test('stands over what its document says, also where it empties it, and goes when it says the same', () => {
    const written = withValues(clip(), { scene: '12A', take: '3', Lens: '' });
    expect(written).toEqual({ bin: null, label: null, values: { scene: '12A', take: '3', Lens: '' } });
    expect(notedValue(clip(written), 'Lens')).toBe('');
    expect(notedValue(clip(), 'Lens')).toBe('35');
    expect(notedValue(clip(), 'Filter')).toBe('');
    expect(withValues(clip(written), { scene: '12', take: '', Lens: '35' })).toBeNull();
  });

  test('a bin or a label stays when the last value goes', () => {
    const noted = { bin: ['Day 1'], label: 'l1', values: { take: '2' } };
    expect(withValues(clip(noted), { take: '' })).toEqual({ bin: ['Day 1'], label: 'l1', values: {} });
  });
});

describe('bins by rule', () => {
  const clip = { kind: 'picture', reel: 'A001', folders: [] as string[], writtenMs: null } as const;
  const of = (folders: string[], other: object = {}) => ({ ...clip, folders, ...other });
  test.each([
    ['by-card', of(['Saltglass', 'day1', 'cardA', 'CONTENTS', 'CLIP']), ['cardA']],
    ['by-card', of(['DCIM', '100ABCDE']), null],
    ['by-day', of(['Saltglass', '2026-03-02 furnace', 'cardA']), ['2026-03-02']],
    ['by-day', of(['20260302', 'card']), ['2026-03-02']],
    // No such day, and a number that is none.
    ['by-day', of(['2026-13-40'], { writtenMs: Date.UTC(2026, 2, 5, 23, 59) }), ['2026-03-05']],
    ['by-day', of(['shoot day 07', 'cardA']), ['Day 7']],
    ['by-day', of(['daylight tests']), null],
    ['by-reel', of([]), ['A001']],
    ['by-reel', of([], { reel: ' ' }), null],
    ['by-kind', of([], { kind: 'sequence' }), ['Stills']],
    ['by-kind', of([], { kind: null }), null],
  ] as const)('%s %j: %j', (rule, toFile, bin) => {
    expect(binBy(rule, toFile)).toEqual(bin);
  });
});

describe('checks of a bin', () => {
  const row = (id: string, other: Partial<RowToCheck> = {}): RowToCheck => ({
    ...{ id, values: {}, reel: 'A001', rate: '25', holds: null, shows: other.holds ?? null, recording: id },
    ...{ isPicture: true, isLogged: false, isUsed: false, ...other },
  });
  const many = (n: number, values: (i: number) => Record<string, string>) =>
    Array.from({ length: n }, (_, i) => row(`r${i}`, { values: values(i) }));

  test('these twelve agree in all but one', () => {
    const rows = many(12, (i) => ({ codec: 'prores', rate: i === 7 ? '24' : '25' }));
    expect(checkBin(rows, ['codec', 'rate'])).toEqual([
      { code: 'odd-one-out', column: 'rate', usual: '25', agreeing: 11, ids: ['r7'] },
    ]);
  });
  test.each([
    ['a second camera is not odd', many(12, (i) => ({ rate: i % 3 === 0 ? '50' : '25' })), 0],
    ['two of forty are', many(40, (i) => ({ rate: i < 2 ? '24' : '25' })), 2],
    ['of four nobody can tell', many(4, (i) => ({ rate: i === 0 ? '24' : '25' })), 0],
    ['what is not known is not odd', many(12, (i): Record<string, string> => (i === 0 ? {} : { rate: '25' })), 0],
  ])('%s', (_, rows, odd) => {
    expect(checkBin(rows, ['rate']).flatMap((f) => f.ids)).toHaveLength(odd);
  });

  test('timecode that overlaps within a reel is told; the same recording twice, another rate or another reel is not', () => {
    const holds = (start: number, end: number) => ({ holds: { start, end } });
    const rows = [
      row('a', holds(1, 100)),
      row('b', holds(99, 200)),
      row('same', { ...holds(1, 100), recording: 'a' }),
      row('without timecode', { shows: { start: 1, end: 100 } }),
      row('sound', { ...holds(1, 100), isPicture: false }),
      row('after', holds(200, 300)),
      row('other rate', { ...holds(1, 100), rate: '24' }),
      row('other reel', { ...holds(1, 100), reel: 'B001' }),
      row('blank', { ...holds(0, 100), reel: ' ' }),
      row('sound without reel', { ...holds(0, 100), reel: null, isPicture: false }),
    ];
    const findings = checkBin(rows, []);
    expect(findings.map((f) => f.code)).toEqual(['reel-overlaps', 'reel-blank']);
    expect([...findings[0]!.ids].sort()).toEqual(['a', 'b']);
    expect(findings[1]!.ids).toEqual(['blank']);
  });

  const frames = (start: number, end: number) => ({ start, end });
  const clip: ClipOnReel = {
    ...{ name: 'C0001', remembered: null, reel: null, kind: 'picture', rate: rate(25) },
    ...{ available: frames(90_000, 90_100), used: frames(90_010, 90_020), tied: null },
  };
  const tiedTo = (facts: Partial<Facts> | null) => ({ id: 'f1' as MediaFileId, facts: facts && buildFacts(facts) });

  test.each<[string, Partial<ClipOnReel>, Partial<OnReel>]>([
    ['a dark one by what the edit says', {}, { reel: null, holds: frames(90_000, 90_100), isPicture: true }],
    ['one that counts from zero is not timed', { available: frames(0, 100) }, { holds: null, shows: frames(0, 100) }],
    [
      'what the file carries, however the edit counts it',
      { available: frames(0, 100), tied: tiedTo({ start: 70_000, length: 100 }) },
      { holds: frames(70_000, 70_100), shows: frames(70_000, 70_100) },
    ],
    [
      'at the rate of the file',
      { tied: tiedTo({ rate: rate(50), start: 10, length: 20 }) },
      { rate: '50', holds: frames(10, 30) },
    ],
    [
      'one whose file has none is not timed, whatever the edit counts',
      { tied: tiedTo({ timecodeSource: 'none' }) },
      { holds: null, shows: frames(90_000, 90_100), rate: '25' },
    ],
    [
      'a file that nobody has read says nothing',
      { tied: tiedTo(null) },
      { holds: frames(90_000, 90_100), recording: 'f1' },
    ],
    [
      'of which only events tell, what they use lies on the reel',
      { available: null },
      { holds: null, shows: frames(90_010, 90_020) },
    ],
    ['the reel of the file where the edit has none', { tied: tiedTo({ reel: 'A007' }) }, { reel: 'A007' }],
    ['the reel of the edit before that', { reel: 'B001', tied: tiedTo({ reel: 'A007' }) }, { reel: 'B001' }],
    [
      'a file of sound is sound, whatever the edit takes it for',
      { tied: tiedTo({ kind: 'sound' }) },
      { isPicture: false },
    ],
  ])('%s', (_, given, expected) => {
    expect(onReel({ ...clip, ...given })).toMatchObject(expected);
  });

  test('rows of a log without a clip, and clips of a logged reel without a row', () => {
    const holds = (start: number) => ({ holds: { start, end: start + 50 } });
    const rows = [
      row('log 1', { ...holds(0), isLogged: true }),
      row('log 2', { ...holds(500), isLogged: true }),
      row('clip 1', { ...holds(10), isUsed: true }),
      row('clip 3', { ...holds(900), isUsed: true }),
      row('never logged', { ...holds(900), reel: 'F009', isUsed: true }),
    ];
    expect(checkBin(rows, []).filter((f) => f.code !== 'reel-overlaps')).toEqual([
      { code: 'log-without-clip', ids: ['log 2'] },
      { code: 'clip-without-log', ids: ['clip 3'] },
    ]);
    // A log alone is no fault.
    expect(checkBin(rows.slice(0, 2), [])).toEqual([]);
  });
});

describe('what is pasted', () => {
  const target = {
    rows: ['r1', 'r2', 'r3'],
    columns: ['name', 'scene', 'take', 'codec'],
    selected: ['r1', 'r3'],
    row: 'r2',
    column: 'scene',
    canWrite: (column: string) => column !== 'codec' && column !== 'name',
  };

  test('is read as a spreadsheet means it, and comes back the same', () => {
    expect(readPasted('12\t"a\tb"\r\n"two ""quoted"""\t\r\n')).toEqual([
      ['12', 'a\tb'],
      ['two "quoted"', ''],
    ]);
    const cell = fc
      .string()
      .map((s) => s.trim().replaceAll('\r', ''))
      .filter((s) => s === s.trim() && s !== '');
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 2, maxLength: 2 }), { minLength: 1 }), (cells) => {
        expect(readPasted(writePasted(cells))).toEqual(cells);
      }),
    );
  });

  test('goes down and to the right from the cell in hand; what reaches beyond is counted and left out', () => {
    const cells = readPasted('12\t1\tx\n13\t2\n14\t3');
    expect(spreadPasted(cells, target)).toEqual({
      written: [
        { rows: ['r2'], values: { scene: '12', take: '1' } },
        { rows: ['r3'], values: { scene: '13', take: '2' } },
      ],
      leftOut: 3,
    });
  });

  test('one cell goes into all that is selected, or into the row in hand', () => {
    expect(spreadPasted([['12']], target).written).toEqual([{ rows: ['r1', 'r3'], values: { scene: '12' } }]);
    expect(spreadPasted([['12']], { ...target, selected: [] }).written).toEqual([
      { rows: ['r2'], values: { scene: '12' } },
    ]);
    expect(spreadPasted([['12']], { ...target, column: 'codec' })).toEqual({ written: [], leftOut: 1 });
  });
});

describe('one clip in several documents', () => {
  const clip = (id: string, other: Partial<Parameters<typeof gatherClips>[0][number]> = {}) => ({
    ...{ id, bin: [], tiedTo: null, name: 'a.mov', remembered: '/x/a.mov', reel: 'A001', rate: '25', start: 0 },
    ...other,
  });
  const file = '7d0f7c1e-0000-4000-8000-000000000001' as MediaFileId;

  test('is one row: by its file, or while it is dark by what is said of it to the letter', () => {
    const rows = gatherClips([
      clip('1', { tiedTo: file }),
      clip('2', { tiedTo: file, name: 'other name.mov', reel: null }),
      clip('3'),
      clip('4'),
      clip('another start', { start: 5 }),
      clip('another path', { remembered: '/y/a.mov' }),
      clip('another bin', { bin: ['Day 1'] }),
    ]);
    expect(rows.map((row) => row.map((c) => c.id))).toEqual([
      ['1', '2'],
      ['3', '4'],
      ['another start'],
      ['another path'],
      ['another bin'],
    ]);
  });
});

describe('bins that hold nothing', () => {
  const bin = (key: string, parentKey: string | null = null) => ({ key, name: key, parentKey });
  const of = (...keys: (string | null)[]) => keys.map((binKey) => ({ binKey }));

  test('are those without a clip in them, or in what they hold', () => {
    const bins = [
      bin('day 1'),
      bin('cam A', 'day 1'),
      bin('cam B', 'day 1'),
      bin('day 2'),
      bin('sound', 'day 2'),
      bin(' '),
    ];
    expect(emptyBins(bins, of('cam A', null, 'gone'))).toEqual([['day 1', 'cam B'], ['day 2'], ['day 2', 'sound']]);
    expect(emptyBins(bins, of('sound', 'cam B', 'cam A'))).toEqual([]);
    expect(emptyBins([], of('x'))).toEqual([]);
  });

  test('what came to the list since an act is there after its undo, and what went stays gone', () => {
    const [a, b, c, d] = [['a'], ['b'], ['c'], ['d']];
    // The act made b; then c came, and a went.
    expect(binsAfter([b, c], [a], [a, b])).toEqual([b, c]);
    expect(binsAfter([b, c], [a, b], [a])).toEqual([c]);
    expect(binsAfter([c, d], [a, b], [b, a, d])).toEqual([c, d]);
    const some = fc.uniqueArray(fc.constantFrom<BinPath>(['a'], ['b'], ['c'], ['a', 'b'], ['d']), {
      selector: (path) => JSON.stringify(path),
    });
    fc.assert(
      fc.property(some, some, some, (from, to, now) => {
        // Nothing happened meanwhile: as it is wanted, in its order.
        expect(binsAfter(from, from, to)).toEqual(to);
        const key = (list: readonly BinPath[]) => list.map((path) => JSON.stringify(path));
        const after = key(binsAfter(now, from, to));
        expect(new Set(after).size).toBe(after.length);
        for (const path of key(now)) if (!key(from).includes(path)) expect(after).toContain(path);
        for (const path of key(to)) if (!key(from).includes(path)) expect(after).toContain(path);
        for (const path of key(from)) if (!key(to).includes(path)) expect(after).not.toContain(path);
      }),
    );
  });
});
