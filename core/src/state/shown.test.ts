import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { rate } from '../time/rate.ts';
import { frameOfFile, frameRead, type Showing } from './shown.ts';

const at25 = rate(25);
const showing = (more: Partial<Showing> = {}): Showing => ({
  record: { start: 1000, end: 1020 },
  source: { start: 90_100, end: 90_120 },
  speed: null,
  ...more,
});
const read = (frame: number, more: Partial<Showing> = {}, timeline = at25) =>
  frameRead(showing(more), frame, timeline, at25);

describe('which frame is shown', () => {
  test('as it was recorded, at double speed, backwards, standing still, on a timeline of another rate', () => {
    expect([read(1000), read(1019)]).toEqual([0, 19]);
    const double = { source: { start: 90_100, end: 90_140 }, speed: { num: 2, den: 1 } };
    expect([read(1000, double), read(1019, double)]).toEqual([0, 38]);
    const backwards = { speed: { num: -1, den: 1 } };
    expect([read(1000, backwards), read(1019, backwards)]).toEqual([19, 0]);
    const still = { source: { start: 90_100, end: 90_101 }, speed: { num: 0, den: 1 } };
    expect([read(1000, still), read(1019, still)]).toEqual([0, 0]);
    expect(read(1010, {}, rate(50))).toBe(5);
  });

  test('always one that is read; forwards never back, and backwards never forth', () => {
    const speeds = fc.tuple(fc.integer({ min: -400, max: 400 }), fc.integer({ min: 1, max: 100 }));
    const frames = fc.integer({ min: 900, max: 1200 });
    fc.assert(
      fc.property(
        speeds,
        frames,
        frames,
        fc.constantFrom(at25, rate(24000, 1001), rate(60)),
        ([num, den], a, b, on) => {
          const [from, to] = [Math.min(a, b), Math.max(a, b)];
          const of = (frame: number) => read(frame, { speed: { num, den } }, on);
          for (const frame of [from, to]) expect(of(frame) >= 0 && of(frame) < 20).toBe(true);
          expect(num < 0 ? of(from) >= of(to) : of(from) <= of(to)).toBe(true);
        },
      ),
    );
  });

  test('in the file’s own count: of a faster one more frames, of the same numbering as many', () => {
    expect(frameOfFile(10, at25, rate(50))).toBe(20);
    expect(frameOfFile(10, rate(24), rate(24000, 1001))).toBe(10);
    expect(frameOfFile(10, at25, null)).toBe(10);
  });
});
