import { rateFromDecimal, type Rate } from '../../time/rate.ts';
import type { FrameRange } from '../../time/range.ts';
import { addSeconds, framesTouched, lowest, type Seconds } from '../../time/seconds.ts';
import { isObject } from './json.ts';

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

export type TimeSpan = { readonly start: Seconds; readonly length: Seconds; readonly rate: Rate };

/** A TimeRange; its rate is that of its start. Null when it is absent, cannot be understood, or runs backwards. */
export function readTimeRange(value: unknown): TimeSpan | null {
  if (!isObject(value)) return null;
  const start = readRationalTime(value.start_time);
  const length = readRationalTime(value.duration);
  return start && length && length.millionths >= 0n
    ? { start: toSeconds(start), length: toSeconds(length), rate: start.rate }
    : null;
}

/** The frames that a span touches at `rate`: outward, so that nothing used is left out. */
export const frameRange = (span: TimeSpan, rate: Rate): FrameRange =>
  framesTouched({ start: span.start, end: addSeconds(span.start, span.length) }, rate);
