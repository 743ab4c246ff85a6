import { rateFromDecimal, type Rate } from '../../time/rate.ts';
import type { FrameRange } from '../../time/range.ts';
import { isObject } from './json.ts';

/** An exact length of time as a fraction of seconds: OTIO mixes rates freely, so positions are summed in this. */
export type Seconds = { readonly num: bigint; readonly den: bigint };

export const zeroSeconds: Seconds = { num: 0n, den: 1n };

export const addSeconds = (a: Seconds, b: Seconds): Seconds => lowest(a.num * b.den + b.num * a.den, a.den * b.den);

function lowest(num: bigint, den: bigint): Seconds {
  let [a, b] = [num < 0n ? -num : num, den];
  while (b !== 0n) [a, b] = [b, a % b];
  return a > 1n ? { num: num / a, den: den / a } : { num, den };
}

/** A RationalTime as read: its value kept to a millionth of a frame, its rate as the fraction that it stands for. */
export type RationalTime = { readonly millionths: bigint; readonly rate: Rate };

export function readRationalTime(value: unknown): RationalTime | null {
  if (!isObject(value) || typeof value.value !== 'number' || typeof value.rate !== 'number') return null;
  const rate = rateFromDecimal(value.rate);
  if (!rate || !Number.isFinite(value.value) || Math.abs(value.value) > 1e12) return null;
  const whole = Math.trunc(value.value);
  return { millionths: BigInt(whole) * 1_000_000n + BigInt(Math.round((value.value - whole) * 1e6)), rate };
}

export const toSeconds = (t: RationalTime): Seconds =>
  lowest(t.millionths * BigInt(t.rate.den), 1_000_000n * BigInt(t.rate.num));

/** Seconds as a count of frames at `rate`, rounded down or up. */
export function framesIn(seconds: Seconds, rate: Rate, rounding: 'down' | 'up'): number {
  const num = seconds.num * BigInt(rate.num);
  const den = seconds.den * BigInt(rate.den);
  const quotient = num / den;
  const exact = quotient * den === num;
  const down = !exact && num < 0n ? quotient - 1n : quotient;
  return Number(rounding === 'up' && !exact ? down + 1n : down);
}

export type TimeSpan = { readonly start: Seconds; readonly length: Seconds; readonly rate: Rate };

/** A TimeRange; its rate is that of its start. Null when it is absent or cannot be understood. */
export function readTimeRange(value: unknown): TimeSpan | null {
  if (!isObject(value)) return null;
  const start = readRationalTime(value.start_time);
  const length = readRationalTime(value.duration);
  return start && length ? { start: toSeconds(start), length: toSeconds(length), rate: start.rate } : null;
}

/** The frames that a span touches at `rate`: outward, so that nothing used is left out. */
export const frameRange = (span: TimeSpan, rate: Rate): FrameRange => ({
  start: framesIn(span.start, rate, 'down'),
  end: framesIn(addSeconds(span.start, span.length), rate, 'up'),
});
