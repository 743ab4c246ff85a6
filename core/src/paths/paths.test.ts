import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { commonTail, displace, displacementOf } from './displacement.ts';
import { nameKey, reelKey, safeName, splitExtension } from './names.ts';
import { parseRememberedPath, rememberedName } from './remembered.ts';
import { findSequences, frameName, sequenceName } from './sequence.ts';
import { foldersInPlace, pathKeys, placeNames } from './places.ts';
import { buildPlace } from '../testing/build.ts';

describe('remembered paths of any system', () => {
  test.each([
    ['/Volumes/KILN A/day 1/bowl.mov', 'mount', 'KILN A', ['day 1'], 'bowl.mov'],
    ['file:///Volumes/KILN%20A/day%201/b%C3%B6wl.mov', 'mount', 'KILN A', ['day 1'], 'böwl.mov'],
    ['file://localhost/mnt/kiln/bowl.mov', 'mount', 'kiln', [], 'bowl.mov'],
    ['/run/media/rosa/CARD_07/x.mp4', 'mount', 'CARD_07', [], 'x.mp4'],
    ['/media/rosa/CARD_07/x.mp4', 'mount', 'CARD_07', [], 'x.mp4'],
    ['E:\\Saltglass\\day3\\door.mxf', 'drive', 'E:', ['Saltglass', 'day3'], 'door.mxf'],
    ['file:///e:/Saltglass/door.mxf', 'drive', 'E:', ['Saltglass'], 'door.mxf'],
    ['file://E:/Saltglass/door.mxf', 'drive', 'E:', ['Saltglass'], 'door.mxf'],
    ['\\\\KILNHOUSE\\BAY\\sound\\t1.wav', 'share', 'BAY', ['sound'], 't1.wav'],
    ['file://KILNHOUSE/BAY/sound/t1.wav', 'share', 'BAY', ['sound'], 't1.wav'],
    ['/home/rosa/x.mov', 'rooted', null, ['home', 'rosa'], 'x.mov'],
    ['media/x.mov', 'relative', null, ['media'], 'x.mov'],
    ['media\\x.mov', 'relative', null, ['media'], 'x.mov'],
    ['100%.mov', 'relative', null, [], '100%.mov'],
    ['file:///mnt/k/50%25%ZZ.mov', 'mount', 'k', [], '50%%ZZ.mov'],
  ])('%s', (raw, form, volume, folders, name) => {
    expect(parseRememberedPath(raw)).toMatchObject({ raw, form, volume, folders, name });
  });

  test('no text makes it fail', () => {
    fc.assert(fc.property(fc.string(), (raw) => expect(parseRememberedPath(raw).raw).toBe(raw)));
  });

  test('a place is recognised by its name, by other names, and by its own path', () => {
    const kiln = buildPlace('KILN_A', { path: '/bay/KILN_A', knownAs: ['S:', '//KILNHOUSE/BAY', 'E:/Saltglass'] });
    const inside = (raw: string) => foldersInPlace(pathKeys(parseRememberedPath(raw)), placeNames(kiln));
    expect(inside('/Volumes/kiln_a/day1/x.mov')).toEqual(['day1']);
    expect(inside('S:\\day1\\x.mov')).toEqual(['day1']);
    expect(inside('E:\\Saltglass\\Day1\\x.mov')).toEqual(['day1']);
    expect(inside('E:\\other\\x.mov')).toBeNull();
    expect(inside('file:///bay/KILN_A/day%201/x.mov')).toEqual(['day 1']);
    expect(inside('/bay/KILN_AB/x.mov')).toBeNull();
  });
});

describe('displacement', () => {
  test('the level where the paths part, and where it puts others', () => {
    const moved = displacementOf(['KILN_A', 'day2', 'cardA'], ['KILN_B', 'rushes', 'day2', 'CardA']);
    expect(moved).toEqual({ from: ['KILN_A'], to: ['KILN_B', 'rushes'] });
    expect(displace(['kiln_a', 'day7', 'x'], moved)).toEqual(['KILN_B', 'rushes', 'day7', 'x']);
    expect(displace(['KILN_C', 'day7'], moved)).toBeNull();
    expect(commonTail(['a', 'cafe\u0301'], ['b', 'caf\u00e9'])).toBe(1);
  });

  test('displacing the folder it was found from leads where it was found', () => {
    const folders = fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(folders, folders, (from, to) => {
        expect(displace(from, displacementOf(from, to))).toEqual(to);
      }),
    );
  });
});

describe('names', () => {
  test('a safe name is accepted anywhere and keeps its extension', () => {
    expect(safeName('a:b?.mov')).toBe('a_b_.mov');
    expect(safeName('CON.mov')).toBe('_CON.mov');
    expect(safeName('..')).toBe('_');
    expect(safeName('x. .')).toBe('x');
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (name) => {
        const safe = safeName(name);
        expect(safe).not.toMatch(/[<>:"/\\|?*\0]|[. ]$/);
        expect(['', '.', '..']).not.toContain(safe);
        expect(safeName(safe)).toBe(safe);
      }),
    );
    const long = safeName(`${'ü'.repeat(300)}.mov`);
    expect(splitExtension(long).extension).toBe('mov');
    expect(new TextEncoder().encode(long).length).toBeLessThanOrEqual(200);
  });

  test('reels are compared by what survives a list', () => {
    expect(reelKey('a_001-c')).toBe('A001C');
    expect(nameKey('CAFÉ.MOV')).toBe('cafe\u0301.mov'.normalize('NFC'));
  });
});

describe('numbered sequences', () => {
  const names = Array.from({ length: 12 }, (_, i) => `title_${1001 + i}.png`);

  test('a run of numbers is one sequence, with its gaps', () => {
    const { sequences, singles } = findSequences([
      ...names.filter((n) => !n.includes('1005')),
      'notes.txt',
      'scan_01.png',
    ]);
    expect(singles).toEqual(['notes.txt', 'scan_01.png']);
    expect(sequences).toHaveLength(1);
    expect(sequences[0]!.frames).toEqual({
      prefix: 'title_',
      suffix: '.png',
      padding: 4,
      first: 1001,
      last: 1012,
      missing: [1005],
    });
    expect(sequenceName(sequences[0]!.frames)).toBe('title_####.png');
    expect(frameName(sequences[0]!.frames, 1002)).toBe('title_1002.png');
  });

  const numberedFrom = (from: number, to: number, name: (n: number) => string) =>
    Array.from({ length: to - from + 1 }, (_, i) => name(from + i));
  const framesOf = (list: readonly string[]) => findSequences(list).sequences.map((s) => s.frames);

  test('a number that outgrows the padding, or has none, goes on with more digits', () => {
    const past = numberedFrom(9990, 10_005, (n) => `plate.${n}.exr`);
    expect(framesOf(past)).toMatchObject([{ padding: 4, first: 9990, last: 10_005, missing: [] }]);
    expect(past).toEqual(numberedFrom(9990, 10_005, (n) => frameName(framesOf(past)[0]!, n)));
    const bare = numberedFrom(1, 1200, (n) => `frame${n}.png`);
    expect(framesOf(bare.toReversed())).toMatchObject([{ padding: 1, first: 1, last: 1200, missing: [] }]);
    // Few missing where the digits change; many, and they are two.
    expect(framesOf(past.filter((n) => !/\.(9999|10000)\./.test(n)))).toMatchObject([{ missing: [9999, 10_000] }]);
    const apart = [
      ...numberedFrom(9960, 9970, (n) => `p${n}.dpx`),
      ...numberedFrom(10_040, 10_050, (n) => `p${n}.dpx`),
    ];
    expect(framesOf(apart)).toMatchObject([{ padding: 4 }, { padding: 5 }]);
    // Padded otherwise, it is another sequence.
    const padded = [...numberedFrom(90, 99, (n) => `q_${n}.tif`), ...numberedFrom(60, 90, (n) => `q_0${n}.tif`)];
    expect(framesOf(padded)).toMatchObject([{ padding: 2 }, { padding: 3 }]);
  });

  test('there may be more of them than anybody made', () => {
    const many = numberedFrom(1, 300_000, (n) => `frame${n}.dpx`);
    expect(framesOf(many)).toMatchObject([{ padding: 1, last: 300_000 }]);
    const scattered = many.filter((_, i) => i % 3 === 0);
    expect(findSequences(scattered).singles).toHaveLength(scattered.length);
  });

  test('numbers of one digit are no film, nor with a few more', () => {
    const scans = numberedFrom(1, 12, (n) => `scan ${n}.jpg`);
    expect(findSequences(scans.slice(0, 9))).toEqual({ sequences: [], singles: scans.slice(0, 9) });
    expect(findSequences(scans)).toEqual({ sequences: [], singles: scans });
  });

  test('a few numbered stills stay stills, and films stay films', () => {
    const few = names.slice(0, 6);
    const films = Array.from({ length: 20 }, (_, i) => `take_${10 + i}.mov`);
    expect(findSequences([...few, ...films])).toEqual({ sequences: [], singles: [...films, ...few] });
  });
});

test('the name alone is the name of the whole', () => {
  const piece = fc.constantFrom(
    'a',
    'b.mov',
    '/',
    '\\',
    'E:',
    'file://',
    '%20',
    '%',
    '#',
    '?',
    ' ',
    '..',
    'Volumes',
    'ü',
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 8 }), (pieces) => {
      expect(rememberedName(pieces.join(''))).toBe(parseRememberedPath(pieces.join('')).name);
    }),
    { numRuns: 500 },
  );
});
