import type { FrameRange } from './range.ts';
import type { Rate } from './rate.ts';

/** An exact length of time as a fraction of seconds: edits mix rates freely, so positions are summed in this. */
export type Seconds = { readonly num: bigint; readonly den: bigint };

/** An exact factor, such as a speed: negative runs backwards, 0 stands still. The denominator is positive. */
export type Ratio = { readonly num: number; readonly den: number };

export const zeroSeconds: Seconds = { num: 0n, den: 1n };

export const addSeconds = (a: Seconds, b: Seconds): Seconds =>
  a.den === b.den ? lowest(a.num + b.num, a.den) : lowest(a.num * b.den + b.num * a.den, a.den * b.den);
export const subtractSeconds = (a: Seconds, b: Seconds): Seconds => addSeconds(a, { num: -b.num, den: b.den });
export const scaleSeconds = (a: Seconds, by: Ratio): Seconds => lowest(a.num * BigInt(by.num), a.den * BigInt(by.den));
/** How many seconds of source a stretch of record time reads, or the way back. The factor must not be 0. */
export const divideSeconds = (a: Seconds, by: Ratio): Seconds =>
  by.num < 0
    ? lowest(-a.num * BigInt(by.den), a.den * BigInt(-by.num))
    : lowest(a.num * BigInt(by.den), a.den * BigInt(by.num));

/** Negative when a comes first, 0 when they are the same moment. */
export function compareSeconds(a: Seconds, b: Seconds): number {
  const difference = a.num * b.den - b.num * a.den;
  return difference > 0n ? 1 : difference < 0n ? -1 : 0;
}
export const earlier = (a: Seconds, b: Seconds): Seconds => (compareSeconds(a, b) <= 0 ? a : b);
export const later = (a: Seconds, b: Seconds): Seconds => (compareSeconds(a, b) >= 0 ? a : b);

/** A fraction of seconds in lowest terms. The denominator must be positive. */
export function lowest(num: bigint, den: bigint): Seconds {
  if (den === 1n) return { num, den };
  let [a, b] = [num < 0n ? -num : num, den];
  while (b !== 0n) [a, b] = [b, a % b];
  return a > 1n ? { num: num / a, den: den / a } : { num, den };
}

/** Whole frames at `rate` as seconds. */
export const secondsOf = (frames: number, rate: Rate): Seconds =>
  lowest(BigInt(frames) * BigInt(rate.den), BigInt(rate.num));

/** Seconds as a count of frames at `rate`, rounded down or up. */
export function framesIn(seconds: Seconds, rate: Rate, rounding: 'down' | 'up'): number {
  const num = seconds.num * BigInt(rate.num);
  const den = seconds.den * BigInt(rate.den);
  const quotient = num / den;
  const exact = quotient * den === num;
  const down = !exact && num < 0n ? quotient - 1n : quotient;
  return Number(rounding === 'up' && !exact ? down + 1n : down);
}

/** Whether a moment falls on the edge of a frame at `rate`. */
export const isWholeFrame = (seconds: Seconds, rate: Rate): boolean =>
  (seconds.num * BigInt(rate.num)) % (seconds.den * BigInt(rate.den)) === 0n;

/** A half-open stretch of exact time. */
export type TimeWindow = { readonly start: Seconds; readonly end: Seconds };

/** The frames at `rate` that a stretch of time touches: outward, so that nothing is left out. */
export const framesTouched = ({ start, end }: TimeWindow, rate: Rate): FrameRange => ({
  start: framesIn(start, rate, 'down'),
  end: framesIn(end, rate, 'up'),
});
export const windowOf = (range: FrameRange, rate: Rate): TimeWindow => ({
  start: secondsOf(range.start, rate),
  end: secondsOf(range.end, rate),
});
export function intersectWindows(a: TimeWindow, b: TimeWindow): TimeWindow | null {
  const start = later(a.start, b.start);
  const end = earlier(a.end, b.end);
  return compareSeconds(start, end) < 0 ? { start, end } : null;
}

/**
 * The fraction that a decimal stands for: the simplest one that is the same number to nine digits, so 0.999 is
 * 999/1000 and 0.3333333333 a third. Null for what is not finite or beyond a million.
 */
export function ratioOf(value: number): Ratio | null {
  if (!Number.isFinite(value) || Math.abs(value) > 1e6) return null;
  const sign = value < 0 ? -1 : 1;
  const target = Math.abs(value);
  // Continued fraction: each convergent is the best fraction of its size.
  let [numBefore, num, denBefore, den] = [0, 1, 1, 0];
  let rest = target;
  for (let turn = 0; turn < 40; turn += 1) {
    const whole = Math.floor(rest);
    [numBefore, num] = [num, whole * num + numBefore];
    [denBefore, den] = [den, whole * den + denBefore];
    if (den > 1e9 || num > 1e12) break;
    if (Math.abs(num / den - target) <= Math.max(1e-12, target * 1e-9)) return { num: num === 0 ? 0 : sign * num, den };
    rest = 1 / (rest - whole);
  }
  return { num: sign * Math.round(target * 1e6), den: 1_000_000 };
}
