import { describe, expect, test } from '@jest/globals';
import { fileId } from '../testing/build.ts';
import { comparePlans, type Gone } from './comparePlans.ts';

const gone = (
  name: string,
  sizeInBytes: number,
  ranges: readonly (readonly [number, number] | null)[] = [null],
): Gone => ({
  mediaFileId: fileId(name),
  placeName: 'KILN',
  source: name,
  length: 100,
  sizeInBytes,
  coded: null,
  outs: ranges.map((r) => ({ range: r && { start: r[0], end: r[1] } })),
  sidecars: [],
});
const told = (one: readonly Gone[], other: readonly Gone[]) =>
  comparePlans(one, other).map((d) => [d.one?.source ?? null, d.other?.source ?? null, d.moreInBytes]);

describe('two plans held against one another', () => {
  test('what both take alike is not told, however it is divided into files', () => {
    expect(told([gone('a', 10)], [gone('a', 10)])).toEqual([]);
    expect(
      told(
        [
          gone('a', 6, [
            [0, 30],
            [30, 60],
          ]),
        ],
        [gone('a', 6, [[0, 60]])],
      ),
    ).toEqual([]);
    expect(told([gone('a', 10, [[0, 100]])], [gone('a', 10)])).toEqual([]);
  });

  test('what one takes alone, more of, or in another coding is told, the largest difference first', () => {
    const coded = { ...gone('c', 10), coded: { coding: 'ffv1' } };
    expect(
      told(
        [gone('a', 10), gone('b', 4, [[0, 40]]), gone('c', 10), gone('d', 1)],
        [gone('a', 2, [[0, 20]]), gone('b', 5, [[0, 50]]), coded, gone('e', 70)],
      ),
    ).toEqual([
      [null, 'e', 70],
      ['a', 'a', -8],
      ['b', 'b', 1],
      ['d', null, -1],
      ['c', 'c', 0],
    ]);
  });

  test('sidecars count, and held the other way round every difference is turned', () => {
    const beside = { ...gone('a', 10), sidecars: [{ sizeInBytes: 3 }] };
    expect(told([gone('a', 10)], [beside])).toEqual([['a', 'a', 3]]);
    expect(told([beside], [gone('a', 10)])).toEqual([['a', 'a', -3]]);
  });
});
