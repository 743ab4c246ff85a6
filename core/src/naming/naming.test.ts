import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { nameKey, safeName } from '../paths/names.ts';
import { fillPattern, hasToken, strangeTokens } from './pattern.ts';
import { namesBy, proposeNames, versionIn, type ToName } from './rename.ts';

const file = (name: string, parts: Partial<ToName['parts']> = {}, more: Partial<ToName> = {}): ToName => ({
  id: name,
  folder: 'K/day1',
  name,
  isSequence: false,
  parts: { date: '20260412', project: 'Saltglass', reel: 'A001', scene: '12', take: '3', ...parts },
  ...more,
});
const named = (files: readonly ToName[], pattern: string, first = 1) => [...namesBy(files, pattern, first).values()];

describe('a pattern', () => {
  test.each([
    ['{reel}_sc{scene}_t{take:2}', { reel: 'A1', scene: '7', take: '3' }, 'A1_sc7_t03'],
    ['{reel}_sc{scene}_t{take:2}', { reel: 'A1', scene: '', take: '3' }, 'A1_t03'],
    ['{reel}_sc{scene}_t{take:2}', { reel: '', scene: '7B', take: '' }, 'sc7B'],
    ['{scene:3}', { scene: '7B' }, '7B'],
    ['day {what}', {}, 'day {what}'],
  ])('%s of %j is “%s”', (pattern, parts: Record<string, string>, name) => {
    expect(fillPattern(pattern, parts)).toBe(name);
  });

  test('tells what is no token, and whether it numbers', () => {
    expect(strangeTokens('{reel}_{nmae}_{n:3}_{n:x}_}', ['reel', 'n'])).toEqual(['nmae', 'n:x', '}']);
    expect([hasToken('{n}', 'n'), hasToken('x{n:4}', 'n'), hasToken('{name}', 'n')]).toEqual([true, true, false]);
  });

  test('the version of a name stands by itself', () => {
    expect(['cut_v03', 'v2', 'cut v12 b', 'cutv3', 'cut_v3b', 'Cut-V007'].map(versionIn)).toEqual([
      '03',
      '2',
      '12',
      '',
      '',
      '007',
    ]);
  });
});

describe('names by a pattern', () => {
  test('are made of what is known of a file, and keep its extension', () => {
    expect(named([file('bowl.MOV'), file('x_v2.wav', { scene: '' })], '{date}_{scene}_{name}_v{version:2}')).toEqual([
      '20260412_12_bowl.MOV',
      '20260412_x_v2_v02.wav',
    ]);
  });

  test('are numbered in the order of the files; what fits already keeps its number, which no other gets', () => {
    const files = [file('b.mov'), file('A001_02.mov'), file('c.mov'), file('A001_2.mov'), file('A001_007.mov')];
    expect(named(files, '{reel}_{n:2}')).toEqual([
      'A001_01.mov',
      'A001_02.mov',
      'A001_03.mov',
      'A001_04.mov',
      'A001_05.mov',
    ]);
    expect(named([file('b.mov')], '{reel}.{n:2}', 41)).toEqual(['A001.41.mov']);
  });

  test('done twice, nothing is renamed the second time', () => {
    const name = fc.stringMatching(/^[A-Za-z0-9_ .-]{1,12}$/).map((stem) => `${stem}x.mov`);
    const pattern = fc.constantFrom('{reel}_{n:3}', '{scene}-{take}', '{date}{n}', '{project} {n:2}', 'x_{take}_{n}');
    fc.assert(
      fc.property(fc.uniqueArray(name, { maxLength: 8 }), pattern, (names, by) => {
        const first = namesBy(
          names.map((n) => file(n)),
          by,
          1,
        );
        const again = names.map((n) => ({ ...file(n), name: first.get(n)! }));
        expect(named(again, by)).toEqual([...first.values()]);
      }),
    );
  });
});

describe('wanted names', () => {
  const propose = (names: readonly string[], wanted: Record<string, string>, others: readonly string[] = []) =>
    proposeNames(
      names.map((n) => file(n)),
      new Map(Object.entries(wanted)),
      new Map([['K/day1', others]]),
    ).map((p) => [p.to, p.fault]);

  test('that another file has, or two want, or that are none, are refused; all that goes away makes room', () => {
    expect(propose(['a.mov', 'b.mov'], { 'a.mov': 'B.mov', 'b.mov': 'a.mov' })).toEqual([
      ['B.mov', null],
      ['a.mov', null],
    ]);
    expect(propose(['a.mov'], { 'a.mov': 'c.mov' }, ['C.MOV'])).toEqual([['c.mov', 'taken']]);
    expect(propose(['a.mov', 'b.mov'], { 'a.mov': 'B.mov' })).toEqual([
      ['B.mov', 'twice'],
      ['b.mov', null],
    ]);
    expect(propose(['a.mov'], { 'a.mov': '' })).toEqual([['', 'empty']]);
    for (const name of ['x/y.mov', 'con.mov', 'a?.mov', 'a.mov.'])
      expect(propose(['a.mov'], { 'a.mov': name })).toEqual([[name, 'empty']]);
    expect(propose(['a.mov'], { 'a.mov': 'A.mov' })).toEqual([['A.mov', null]]);
    expect(
      proposeNames([file('f_####.exr', {}, { isSequence: true })], new Map([['f_####.exr', 'g.exr']]), new Map())[0]!
        .fault,
    ).toBe('sequence');
  });

  test('whatever is wanted: done all at once, no two files of a folder are called alike, and all names are safe', () => {
    const name = fc.constantFrom('a.mov', 'A.mov', 'b.mov', 'e\u0301.mov', 'é.mov', 'con.mov', 'x/y.mov', 'c.mov', '');
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom('a.mov', 'b.mov', 'c.mov', 'é.mov'), { minLength: 1 }),
        fc.array(name, { minLength: 4, maxLength: 4 }),
        fc.subarray(['d.mov', 'B.MOV']),
        (names, wanted, lying) => {
          const others = lying.filter((o) => !names.some((n) => nameKey(n) === nameKey(o)));
          const all = proposeNames(
            names.map((n) => file(n)),
            new Map(names.map((n, i) => [n, wanted[i]!])),
            new Map([['K/day1', others]]),
          );
          // Those at fault stay as they are called.
          const after = [...others, ...all.map((p) => (p.fault ? p.from : p.to))].map(nameKey);
          expect(new Set(after).size).toBe(after.length);
          for (const p of all) if (!p.fault) expect(safeName(p.to)).toBe(p.to);
        },
      ),
    );
  });
});
