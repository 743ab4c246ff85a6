import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { formatRate, hasDropFrame, parseRate, rate, rateFromDecimal, standardRates } from './rate.ts';
import {
  convertFrames,
  convertRangeOutward,
  intersectRanges,
  overlapsUnited,
  rangeContains,
  scaleFrames,
  uncoveredFrames,
  uniteRanges,
} from './range.ts';
import { framesIn, ratioOf, secondsOf } from './seconds.ts';
import { formatPosition, formatTimecode, framesPerDay, parseTimecode, type Counting } from './timecode.ts';

const countings: [string, ReturnType<typeof rate>, Counting][] = standardRates.flatMap((r) =>
  (hasDropFrame(r) ? (['non-drop', 'drop'] as const) : (['non-drop'] as const)).map(
    (c) => [`${formatRate(r)} ${c}`, r, c] as [string, ReturnType<typeof rate>, Counting],
  ),
);

describe('rates', () => {
  test.each([
    [23.976, 24000, 1001],
    [23.98, 24000, 1001],
    [23.976023976023978, 24000, 1001],
    [29.97, 30000, 1001],
    [59.94, 60000, 1001],
    [25, 25, 1],
    [48000, 48000, 1],
    [12.5, 25, 2],
  ])('%d stands for %d/%d', (decimal, num, den) => {
    expect(rateFromDecimal(decimal)).toEqual({ num, den });
  });

  test.each([0, -25, NaN, Infinity, 1e9])('%d is no rate', (value) => {
    expect(rateFromDecimal(value)).toBeNull();
  });

  test('text rates: fractions and decimals, nothing else', () => {
    expect(parseRate('30000/1001')).toEqual({ num: 30000, den: 1001 });
    expect(parseRate(' 25 ')).toEqual({ num: 25, den: 1 });
    expect(parseRate('25/0')).toBeNull();
    expect(parseRate('fast')).toBeNull();
  });
});

describe('timecode', () => {
  // Numbering repeats every ten minutes, so every frame of the first and last ten minutes, and every frame next to
  // each minute of the day, meets all there is; a prime stride over the whole day guards the reasoning.
  test.each(countings)('the frames of a day at %s are written and read back as themselves', (_name, r, counting) => {
    const day = framesPerDay(r, counting);
    const minute = day / 1440;
    const check = (frame: number) => {
      const read = parseTimecode(formatTimecode(frame, r, counting), r, counting);
      if (!read.ok || read.frames !== frame) throw new Error(`frame ${frame} came back as ${JSON.stringify(read)}`);
    };
    for (let frame = 0; frame < minute * 10; frame += 1) check(frame);
    for (let frame = Math.floor(day - minute); frame < day; frame += 1) check(frame);
    for (let m = 1; m < 1440; m += 1) for (let d = -5; d <= 5; d += 1) check(Math.round(m * minute) + d);
    for (let frame = 0; frame < day; frame += 997) check(frame);
    expect(formatTimecode(day, r, counting)).toBe(formatTimecode(0, r, counting));
  });

  test.each([
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [17981, '00:09:59;29'],
    [17982, '00:10:00;00'],
    [107892, '01:00:00;00'],
    [2589407, '23:59:59;29'],
  ])('29.97 drop-frame: %d is %s', (frames, text) => {
    expect(formatTimecode(frames, rate(30000, 1001), 'drop')).toBe(text);
    expect(parseTimecode(text, rate(30000, 1001))).toEqual({ ok: true, frames, counting: 'drop' });
  });

  test('59.94 drop-frame skips four numbers a minute', () => {
    expect(formatTimecode(3600, rate(60000, 1001), 'drop')).toBe('00:01:00;04');
  });

  test('counts wrap at midnight in both directions', () => {
    fc.assert(
      fc.property(fc.constantFrom(...countings), fc.integer({ min: -5, max: 5 }), fc.nat(5000), ([, r, c], days, n) => {
        expect(formatTimecode(n + days * framesPerDay(r, c), r, c)).toBe(formatTimecode(n, r, c));
      }),
    );
    expect(formatTimecode(-1, rate(25))).toBe('23:59:59:24');
  });

  test.each([
    ['01:00:00:25', 'no-such-address'],
    ['24:00:00:00', 'no-such-address'],
    ['01:60:00:00', 'no-such-address'],
    ['1:2:3', 'not-timecode'],
    ['hello', 'not-timecode'],
    ['01:00:00;00', 'rate-has-no-drop-frame'],
  ])('at 25 fps %s is refused as %s', (text, code) => {
    expect(parseTimecode(text, rate(25))).toMatchObject({ ok: false, fault: { code } });
  });

  test('a number that drop-frame skips is refused, not moved', () => {
    expect(parseTimecode('00:01:00;00', rate(30000, 1001))).toMatchObject({
      ok: false,
      fault: { code: 'dropped-number' },
    });
  });
});

const range = fc
  .tuple(fc.integer({ min: -100, max: 100 }), fc.nat(40))
  .map(([start, n]) => ({ start, end: start + n }));

describe('ranges', () => {
  test('a union holds exactly the frames of its parts', () => {
    fc.assert(
      fc.property(fc.array(range, { maxLength: 8 }), (ranges) => {
        const united = uniteRanges(ranges);
        const held = (list: readonly { start: number; end: number }[]) =>
          Array.from({ length: 260 }, (_, i) => list.some((r) => i - 110 >= r.start && i - 110 < r.end));
        expect(held(united)).toEqual(held(ranges));
        united.slice(1).forEach((r, i) => expect(r.start).toBeGreaterThan(united[i]!.end));
      }),
      { numRuns: 50 },
    );
  });

  test('a range that shares a frame with any of many is found among their union, and no other', () => {
    fc.assert(
      fc.property(fc.array(range, { maxLength: 12 }), range, (ranges, one) => {
        expect(overlapsUnited(uniteRanges(ranges), one)).toBe(ranges.some((r) => intersectRanges(r, one) !== null));
      }),
      { numRuns: 200 },
    );
  });

  test('covered and uncovered frames add up', () => {
    fc.assert(
      fc.property(range, range, (wanted, available) => {
        const shared = intersectRanges(wanted, available);
        expect(uncoveredFrames(wanted, available) + (shared ? shared.end - shared.start : 0)).toBe(
          wanted.end - wanted.start,
        );
        expect(uncoveredFrames(wanted, available) === 0).toBe(
          wanted.end === wanted.start || rangeContains(available, wanted),
        );
      }),
    );
  });

  test('conversion between rates is outward, and exact where it can be', () => {
    expect(convertRangeOutward({ start: 24, end: 48 }, rate(24), rate(48000))).toEqual({ start: 48000, end: 96000 });
    expect(convertRangeOutward({ start: 1, end: 2 }, rate(24), rate(25))).toEqual({ start: 1, end: 3 });
    fc.assert(
      fc.property(range, fc.constantFrom(...standardRates), fc.constantFrom(...standardRates), (r, a, b) => {
        const there = convertRangeOutward(r, a, b);
        expect(rangeContains(convertRangeOutward(there, b, a), r)).toBe(true);
      }),
    );
  });

  test('a day of samples times a fraction stays exact', () => {
    const day = 48000 * 86400;
    expect(convertFrames(day, rate(48000), rate(24000, 1001), 'down')).toBe(2_071_528);
    expect(scaleFrames(-3, { num: 1, den: 2 }, 'down')).toBe(-2);
    expect(scaleFrames(-3, { num: 1, den: 2 }, 'up')).toBe(-1);
    expect(scaleFrames(5, { num: 1, den: 2 }, 'nearest')).toBe(3);
  });
});

describe('exact seconds', () => {
  test.each([
    [0.999, 999, 1000],
    [1 / 3, 1, 3],
    [-2, -2, 1],
    [1.5, 3, 2],
    [0.04, 1, 25],
    [0, 0, 1],
    [23.976, 2997, 125],
  ])('%d is %d/%d', (value, num, den) => {
    expect(ratioOf(value)).toEqual({ num, den });
  });

  test.each([NaN, Infinity, 1e9])('%d is no ratio', (value) => {
    expect(ratioOf(value)).toBeNull();
  });

  test('frames are seconds and frames again, at every rate', () => {
    fc.assert(
      fc.property(fc.constantFrom(...standardRates), fc.integer({ min: -1e6, max: 1e7 }), (r, frames) => {
        expect(framesIn(secondsOf(frames, r), r, 'down')).toBe(frames);
        expect(framesIn(secondsOf(frames, r), r, 'up')).toBe(frames);
      }),
    );
  });

  test('a count of samples is shown as a time, for it has no timecode', () => {
    expect(formatPosition(48_000 * 3661 + 24_000, rate(48_000))).toBe('01:01:01.500');
    expect(formatPosition(90_000, rate(25))).toBe('01:00:00:00');
  });
});
