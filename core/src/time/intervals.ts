import { nominalRate, type Rate } from './rate.ts';

/** Counts as timecode numbers them, in whole milliseconds: near enough for finding, never for judging. */
export const toMilliseconds = (frames: number, rate: Rate): number => Math.floor((frames * 1000) / nominalRate(rate));

/** Something that lasts from `from` up to and including `to`. */
export type Interval<T> = { readonly from: number; readonly to: number; readonly item: T };

/**
 * Intervals that are asked again and again which of them meet a stretch. Sorted by their beginning, with the latest end
 * below every node of the balanced tree that the order makes; an answer costs its own length and a logarithm.
 */
export class IntervalIndex<T> {
  readonly #sorted: readonly Interval<T>[];
  /** By the middle of each half, quarter and so on: the latest end in it. */
  readonly #latest: Float64Array;

  constructor(intervals: readonly Interval<T>[]) {
    this.#sorted = [...intervals].sort((a, b) => a.from - b.from);
    this.#latest = new Float64Array(this.#sorted.length);
    this.#build(0, this.#sorted.length);
  }

  #build(low: number, high: number): number {
    if (low >= high) return -Infinity;
    const middle = (low + high) >> 1;
    const latest = Math.max(this.#sorted[middle]!.to, this.#build(low, middle), this.#build(middle + 1, high));
    this.#latest[middle] = latest;
    return latest;
  }

  /** Calls back with everything that meets the stretch, in the order of beginnings, until it is told `false`. */
  meeting(from: number, to: number, found: (item: T) => boolean | void): void {
    const visit = (low: number, high: number): boolean => {
      if (low >= high) return true;
      const middle = (low + high) >> 1;
      if (this.#latest[middle]! < from) return true;
      if (!visit(low, middle)) return false;
      const own = this.#sorted[middle]!;
      if (own.from > to) return true;
      if (own.to >= from && found(own.item) === false) return false;
      return visit(middle + 1, high);
    };
    visit(0, this.#sorted.length);
  }

  /** Everything that begins from `from` up to and including `to`. */
  beginning(from: number, to: number): T[] {
    let [low, high] = [0, this.#sorted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.#sorted[middle]!.from < from) low = middle + 1;
      else high = middle;
    }
    const found: T[] = [];
    for (; low < this.#sorted.length && this.#sorted[low]!.from <= to; low += 1) found.push(this.#sorted[low]!.item);
    return found;
  }
}
