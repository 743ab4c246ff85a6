import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { rate } from '../time/rate.ts';
import { addressAt, rangeReadAs, readAs, thenReadAs, type Interpretation } from './interpretation.ts';

const at25 = { rate: rate(25), counting: 'non-drop' } as const;
const counted = { ...at25, available: { start: 0, end: 200 }, used: [{ start: 20, end: 100 }] };

describe('reading a clip otherwise than its edit states it', () => {
  test('a shift moves every address and changes no length', () => {
    expect(readAs(counted, { countedAt: null, shiftInFrames: 90_000 })).toEqual({
      ...counted,
      available: { start: 90_000, end: 90_200 },
      used: [{ start: 90_020, end: 90_100 }],
    });
    expect(readAs(counted, null)).toBe(counted);
  });

  test('at another rate the hours, minutes, seconds and frames stay', () => {
    expect(addressAt(86_400 + 12, { rate: rate(24), counting: 'non-drop' }, rate(25))).toBe(90_012);
    expect(readAs({ ...counted, rate: rate(24) }, { countedAt: rate(25), shiftInFrames: 5 }).rate).toEqual(rate(25));
    // Frame 24 of a second does not exist at 24: it ends its second.
    expect(addressAt(24, at25, rate(24))).toBe(23);
    // Drop-frame addresses: 00:01:00;02 is the first of its minute.
    expect(addressAt(1800, { rate: rate(30000, 1001), counting: 'drop' }, rate(30))).toBe(1802);
  });

  test('one reading after another is one reading', () => {
    const some = fc.record({
      countedAt: fc.constantFrom(null, rate(24), rate(25), rate(50)),
      shiftInFrames: fc.integer({ min: 0, max: 100_000 }),
    });
    fc.assert(
      fc.property(some, fc.integer({ min: 0, max: 10_000 }), (first: Interpretation, more) => {
        const then = { countedAt: null, shiftInFrames: more };
        const once = readAs(readAs(counted, first), then);
        expect(readAs(counted, thenReadAs(first, then))).toEqual(once);
      }),
    );
    expect(thenReadAs({ countedAt: null, shiftInFrames: 7 }, { countedAt: null, shiftInFrames: -7 })).toBeNull();
  });

  test('a range keeps its order and never grows when shifted back', () => {
    const there = { countedAt: null, shiftInFrames: 1234 };
    const back = { countedAt: null, shiftInFrames: -1234 };
    expect(rangeReadAs(rangeReadAs({ start: 5, end: 9 }, at25, there), at25, back)).toEqual({ start: 5, end: 9 });
  });
});
