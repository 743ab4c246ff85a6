import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { buildFile } from '../testing/build.ts';
import type { FrameRange } from '../time/range.ts';
import { rate } from '../time/rate.ts';
import { framesPerDay } from '../time/timecode.ts';
import { firstFrameInFile, uncoveredOf, uncoveredUse, unitsInFile, type ClipUsed } from './coverage.ts';

const at25 = rate(25);
const day = framesPerDay(at25, 'non-drop');
const clip = (used: FrameRange[], more: Partial<ClipUsed> = {}): ClipUsed => ({
  used,
  available: null,
  rate: at25,
  counting: 'non-drop',
  kind: 'picture',
  ...more,
});
const film = (start: number, length: number) => buildFile('KILN/a.mov', { start, length });
const frames = ({ start, end }: FrameRange) => Array.from({ length: end - start }, (_, i) => start + i);

/** Frame by frame: a frame of the day is held when any frame of the file has its address. */
const lackingOf = (used: FrameRange, start: number, length: number): number => {
  const held = new Set(frames({ start, end: start + length }).map((f) => ((f % day) + day) % day));
  return frames(used).filter((f) => !held.has(((f % day) + day) % day)).length;
};

describe('used frames that a file does not hold', () => {
  test('are those that are counted one by one, across midnight too', () => {
    const nearMidnight = fc.integer({ min: day - 60, max: day - 1 });
    const length = fc.integer({ min: 1, max: 50 });
    fc.assert(
      fc.property(
        fc.oneof(fc.nat(200), nearMidnight),
        length,
        fc.integer({ min: -40, max: 80 }),
        length,
        fc.constantFrom(0, 0, -day, day),
        (start, held, offset, used, days) => {
          const range = { start: start + offset + days, end: start + offset + days + used };
          expect(uncoveredUse(clip([range]), film(start, held))).toBe(lackingOf(range, start, held));
        },
      ),
      { numRuns: 500 },
    );
  });

  test('a take that rolls over midnight: what lies after it counts on', () => {
    const rolled = film(day - 100, 200);
    const used = [
      { start: day - 50, end: day - 40 },
      { start: 20, end: 40 },
    ];
    expect(uncoveredUse(clip(used), rolled)).toBe(0);
    expect(uncoveredUse(clip([...used, { start: 90, end: 120 }]), rolled)).toBe(20);
  });

  test('pictures that a numbered sequence lacks are not held', () => {
    const sequence = { prefix: 'a_', suffix: '.exr', padding: 4, first: 1001, last: 1100, missing: [1003, 1004, 1090] };
    const file = buildFile('VFX/a_####.exr', { kind: 'sequence', start: 0, length: 100 }, { sequence });
    const of = (start: number, end: number) => uncoveredOf({ start, end }, clip([], { kind: 'sequence' }), file);
    expect(of(0, 2)).toBe(0);
    expect(of(0, 4)).toBe(2);
    expect(of(3, 4)).toBe(1);
    expect(of(50, 100)).toBe(1);
    expect(of(88, 110)).toBe(11);
  });

  test('a still holds any; a file of which nothing is known is not accused', () => {
    const used = [{ start: 90_000, end: 91_000 }];
    expect(uncoveredUse(clip(used), buildFile('KILN/a.png', { kind: 'still', length: null, rate: null }))).toBe(0);
    expect(uncoveredUse(clip(used), buildFile('KILN/a.mov', null))).toBe(0);
    expect(uncoveredUse(clip(used), buildFile('KILN/a.mov', { length: null }))).toBe(0);
  });

  test('a file of another rate holds a stretch of time, not a number of frames', () => {
    // Four seconds of 50 frames a second are a hundred frames of the edit.
    const file = buildFile('KILN/a.mov', { rate: rate(50), start: 180_000, length: 200 });
    expect(uncoveredUse(clip([{ start: 90_000, end: 90_100 }]), file)).toBe(0);
    expect(uncoveredUse(clip([{ start: 90_000, end: 90_103 }]), file)).toBe(3);
  });
});

describe('the first used frame in the file', () => {
  test('is counted from the file’s first, on its day', () => {
    expect(firstFrameInFile({ start: 90_010, end: 90_020 }, clip([]), film(90_000, 100))).toBe(10);
    expect(firstFrameInFile({ start: 5, end: 9 }, clip([]), film(day - 100, 200))).toBe(105);
    expect(firstFrameInFile({ start: 89_990, end: 90_020 }, clip([]), film(90_000, 100))).toBe(-10);
  });
  test('is not known of a still, nor of a file nobody read', () => {
    expect(firstFrameInFile({ start: 0, end: 1 }, clip([]), buildFile('K/a.png', { kind: 'still' }))).toBeNull();
    expect(firstFrameInFile({ start: 0, end: 1 }, clip([]), buildFile('K/a.mov', null))).toBeNull();
  });
});

describe('what has to be kept of a file for a use', () => {
  const sound = (start: number, length = 48_000 * 60) =>
    buildFile('SND/a.wav', { kind: 'sound', rate: null, sampleRate: 48_000, start, length, raster: null });

  test('no sample that sounds during the used frames is left out, and less than two frames are kept beside', () => {
    const rates = [at25, rate(24), rate(24_000, 1001), rate(30_000, 1001)];
    fc.assert(
      fc.property(
        fc.constantFrom(...rates),
        fc.nat(48_000 * 3600),
        fc.nat(1000),
        fc.integer({ min: 1, max: 200 }),
        (r, began, offset, length) => {
          // Where the recorder began, in frames of the edit, on the nearer one.
          const first = Math.round((began * r.num) / (48_000 * r.den));
          const used = { start: first + offset, end: first + offset + length };
          const kept = unitsInFile(used, clip([], { kind: 'sound', rate: r }), sound(began))!;
          const sampleOf = (frame: number) => (frame * 48_000 * r.den) / r.num - began;
          expect(kept.start).toBeLessThanOrEqual(Math.ceil(sampleOf(used.start)));
          expect(kept.end).toBeGreaterThanOrEqual(Math.floor(sampleOf(used.end)));
          const frame = (48_000 * r.den) / r.num;
          expect(sampleOf(used.start) - kept.start).toBeLessThan(2 * frame);
          expect(kept.end - sampleOf(used.end)).toBeLessThan(2 * frame);
        },
      ),
      { numRuns: 500 },
    );
  });

  test('a recorder that began on a frame is cut at the sample', () => {
    const kept = unitsInFile({ start: 90_010, end: 90_020 }, clip([], { kind: 'sound' }), sound(3600 * 48_000));
    expect(kept).toEqual({ start: 10 * 1920, end: 20 * 1920 });
  });

  test('frames of picture from its first; nothing of a still', () => {
    expect(unitsInFile({ start: 90_010, end: 90_020 }, clip([]), film(90_000, 100))).toEqual({ start: 10, end: 20 });
    expect(unitsInFile({ start: 0, end: 5 }, clip([]), buildFile('K/a.png', { kind: 'still' }))).toBeNull();
    expect(unitsInFile({ start: 0, end: 5 }, clip([]), buildFile('K/a.mov', null))).toBeNull();
  });
});
