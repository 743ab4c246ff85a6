import { sameRate, type Rate } from './rate.ts';

/** Whole frames at a rate known from the context, half-open: `start` is in, `end` is not. */
export type FrameRange = { readonly start: number; readonly end: number };

export const rangeLength = (r: FrameRange): number => r.end - r.start;
export const shiftRange = (r: FrameRange, frames: number): FrameRange => ({
  start: r.start + frames,
  end: r.end + frames,
});
export const rangeContains = (outer: FrameRange, inner: FrameRange): boolean =>
  inner.start >= outer.start && inner.end <= outer.end;

export function intersectRanges(a: FrameRange, b: FrameRange): FrameRange | null {
  const start = Math.max(a.start, b.start);
  const end = Math.min(a.end, b.end);
  return start < end ? { start, end } : null;
}

/** The union of ranges as the fewest sorted, non-touching ranges. Empty ranges vanish. */
export function uniteRanges(ranges: readonly FrameRange[]): FrameRange[] {
  const sorted = ranges.filter((r) => r.end > r.start).sort((a, b) => a.start - b.start);
  const united: FrameRange[] = [];
  for (const next of sorted) {
    const last = united.at(-1);
    if (last && next.start <= last.end)
      united[united.length - 1] = { start: last.start, end: Math.max(last.end, next.end) };
    else united.push(next);
  }
  return united;
}

/** Whether something of a range lies in any of these, which are united: sorted, and none touches another. */
export function overlapsUnited(united: readonly FrameRange[], range: FrameRange): boolean {
  let [low, high] = [0, united.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (united[middle]!.end <= range.start) low = middle + 1;
    else high = middle;
  }
  const first = united[low];
  return first !== undefined && intersectRanges(first, range) !== null;
}

/** What of these ranges none of those holds, as the fewest sorted ranges. */
export function rangesOutside(wanted: readonly FrameRange[], held: readonly FrameRange[]): FrameRange[] {
  const holes = uniteRanges(held);
  return uniteRanges(wanted).flatMap((range) => {
    const left: FrameRange[] = [];
    let { start } = range;
    for (const hole of holes) {
      if (hole.end <= start || hole.start >= range.end) continue;
      if (hole.start > start) left.push({ start, end: hole.start });
      start = hole.end;
    }
    return start < range.end ? [...left, { start, end: range.end }] : left;
  });
}

/**
 * The same addresses a whole number of days on or back, where that meets `held` better: timecode begins again at
 * midnight, and a take that rolls over it goes on counting. `day` in the same frames.
 */
export function nearestDay(wanted: FrameRange, held: FrameRange, day: number): FrameRange {
  const shared = (r: FrameRange) => Math.min(r.end, held.end) - Math.max(r.start, held.start);
  const [on, back] = [shiftRange(wanted, day), shiftRange(wanted, -day)];
  if (shared(on) > 0 && shared(on) > shared(wanted)) return on;
  return shared(back) > 0 && shared(back) > shared(wanted) ? back : wanted;
}

/** Ranges of one take that rolled over midnight, in one run: what lies after it counts on. `day` in the same frames. */
export function acrossMidnight(ranges: readonly FrameRange[], day: number): readonly FrameRange[] {
  const half = day / 2;
  const isAcross = ranges.some((r) => r.start < half) && ranges.some((r) => r.start >= half + half / 2);
  return isAcross ? ranges.map((r) => (r.start < half ? shiftRange(r, day) : r)) : ranges;
}

/** Frames of `wanted` that `available` does not hold. */
export function uncoveredFrames(wanted: FrameRange, available: FrameRange): number {
  const shared = intersectRanges(wanted, available);
  return rangeLength(wanted) - (shared ? rangeLength(shared) : 0);
}

/**
 * The same stretch of time counted at another rate. Exact where it can be; where an edge falls between two frames
 * it moves outward, because this answers "which frames are needed", and one too many is safe where one too few is not.
 */
export function convertRangeOutward(range: FrameRange, from: Rate, to: Rate): FrameRange {
  if (sameRate(from, to)) return range;
  return { start: convertFrames(range.start, from, to, 'down'), end: convertFrames(range.end, from, to, 'up') };
}

/** A count of frames at `from`, counted at `to`, rounded as told. Exact at any size: falls back to big integers. */
export function convertFrames(frames: number, from: Rate, to: Rate, rounding: 'down' | 'up' | 'nearest'): number {
  return scaleFrames(frames, { num: to.num * from.den, den: to.den * from.num }, rounding);
}

/** `frames` × num/den, rounded as told, without floating-point error. */
export function scaleFrames(
  frames: number,
  factor: { readonly num: number; readonly den: number },
  rounding: 'down' | 'up' | 'nearest',
): number {
  const product = frames * factor.num;
  // Whole numbers this small are exact; larger ones are left to big integers.
  if (Number.isSafeInteger(product * 2 + factor.den) && Number.isSafeInteger(factor.den * 2)) {
    if (rounding === 'nearest') return floorOf(product * 2 + factor.den, factor.den * 2);
    const down = floorOf(product, factor.den);
    return rounding === 'up' && down * factor.den !== product ? down + 1 : down;
  }
  const num = BigInt(frames) * BigInt(factor.num);
  const den = BigInt(factor.den);
  const doubled = rounding === 'nearest' ? floorDivide(num * 2n + den, den * 2n) : null;
  if (doubled !== null) return Number(doubled);
  const down = floorDivide(num, den);
  return Number(rounding === 'up' && down * den !== num ? down + 1n : down);
}

/** The quotient rounded down, exact for safe whole numbers, whatever their sign. */
function floorOf(num: number, den: number): number {
  const rest = num % den;
  return (num - (rest < 0 ? rest + den : rest)) / den;
}

function floorDivide(num: bigint, den: bigint): bigint {
  const quotient = num / den;
  return num % den !== 0n && num < 0n !== den < 0n ? quotient - 1n : quotient;
}
