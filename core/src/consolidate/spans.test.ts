import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { FrameRange } from '../time/range.ts';
import { divisions, spansOf, type Cutting } from './spans.ts';

const range = (start: number, end: number): FrameRange => ({ start, end });

describe('spans', () => {
  const anywhere: Cutting = { can: 'anywhere' };
  const choice = { division: 'span', handles: 10, gap: 0 } as const;
  const ranges = (...args: Parameters<typeof spansOf>) => spansOf(...args).map((s) => s.range);

  test('uses with their handles, clamped to the file, and how much of a handle it does not hold', () => {
    expect(spansOf([range(4, 20), range(60, 95)], 100, anywhere, choice)).toEqual([
      { range: range(0, 30), uses: [0], handlesCut: { head: 6, tail: 0 } },
      { range: range(50, 100), uses: [1], handlesCut: { head: 0, tail: 5 } },
    ]);
  });

  test('those that overlap or touch are one; those apart stay apart, up to the gap that is joined over', () => {
    const uses = [range(20, 30), range(50, 60), range(85, 90)];
    expect(ranges(uses, 200, anywhere, choice)).toEqual([range(10, 70), range(75, 100)]);
    expect(ranges(uses, 200, anywhere, { ...choice, gap: 5 })).toEqual([range(10, 100)]);
    expect(ranges(uses, 200, anywhere, { ...choice, division: 'source' })).toEqual([range(10, 100)]);
    expect(ranges(uses, 200, anywhere, { ...choice, division: 'use' })).toHaveLength(3);
    expect(ranges([range(5, 9), range(5, 9)], 200, anywhere, { ...choice, division: 'use' })).toHaveLength(1);
  });

  test('where only key frames can begin, edges move outward to them', () => {
    const keys: Cutting = { can: 'at', units: [0, 24, 48, 72] };
    expect(ranges([range(34, 38)], 90, keys, choice)).toEqual([range(24, 48)]);
    expect(ranges([range(80, 85)], 90, keys, choice)).toEqual([range(48, 90)]);
    expect(ranges([range(58, 62)], 90, keys, choice)).toEqual([range(48, 72)]);
  });

  test('whatever is chosen: every use lies whole in one span, edges can be cut, nothing is outside of the file', () => {
    const use = fc.tuple(fc.integer({ min: -20, max: 220 }), fc.integer({ min: 1, max: 60 }));
    const cutting = fc.oneof(
      fc.constant<Exclude<Cutting, { can: 'nowhere' }>>({ can: 'anywhere' }),
      fc
        .uniqueArray(fc.integer({ min: 1, max: 199 }))
        .map((units) => ({ can: 'at' as const, units: [0, ...units.sort((a, b) => a - b)] })),
    );
    const choices = fc.record({
      division: fc.constantFrom(...divisions),
      handles: fc.integer({ min: 0, max: 40 }),
      gap: fc.integer({ min: 0, max: 30 }),
    });
    fc.assert(
      fc.property(fc.array(use, { maxLength: 12 }), cutting, choices, (list, how, chosen) => {
        const uses = list.map(([start, length]) => range(start, start + length));
        const spans = spansOf(uses, 200, how, chosen);
        uses.forEach((u, i) => {
          const held = range(Math.max(0, u.start), Math.min(200, u.end));
          const serving = spans.filter((s) => s.uses.includes(i));
          expect(serving).toHaveLength(held.end > held.start ? 1 : 0);
          for (const s of serving) {
            expect(s.range.start).toBeLessThanOrEqual(Math.max(0, held.start - chosen.handles));
            expect(s.range.end).toBeGreaterThanOrEqual(Math.min(200, held.end + chosen.handles));
          }
        });
        for (const { range: r } of spans) {
          expect(r.start >= 0 && r.end <= 200 && r.start < r.end).toBe(true);
          if (how.can === 'at')
            for (const edge of [r.start, r.end]) expect(edge === 200 || how.units.includes(edge)).toBe(true);
        }
        if (chosen.division === 'span')
          spans.slice(1).forEach((s, i) => expect(s.range.start).toBeGreaterThan(spans[i]!.range.end + chosen.gap));
      }),
      { numRuns: 300 },
    );
  });
});
