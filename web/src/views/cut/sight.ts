import type { FrameRange } from '@legame/core/time';

/** What of a timeline is in sight: record frames, half-open; they need not be whole. */
export type Sight = { readonly from: number; readonly to: number };

/** So few frames fill the width when it is nearest. */
export const nearest = 24;

/** All of a timeline. */
export const allOf = ({ start, length }: { start: number; length: number }): Sight => ({
  from: start,
  to: start + Math.max(1, length),
});

/** Moved and sized so that it lies within the timeline. */
function within({ from, to }: Sight, whole: Sight): Sight {
  const span = Math.min(whole.to - whole.from, Math.max(Math.min(nearest, whole.to - whole.from), to - from));
  const start = Math.min(whole.to - span, Math.max(whole.from, from));
  return { from: start, to: start + span };
}

/** Nearer by a factor greater than one, or farther; the frame at `at` stays where it is. */
export function zoomed(sight: Sight, by: number, at: number, whole: Sight): Sight {
  const span = (sight.to - sight.from) / by;
  const share = (at - sight.from) / (sight.to - sight.from);
  const wanted = Math.min(whole.to - whole.from, Math.max(nearest, span));
  return within({ from: at - share * wanted, to: at + (1 - share) * wanted }, whole);
}

export const moved = ({ from, to }: Sight, by: number, whole: Sight): Sight =>
  within({ from: from + by, to: to + by }, whole);

/** As it is where a frame is well in sight already, else with it in the middle. */
export function showing(sight: Sight, frame: number, whole: Sight): Sight {
  const edge = (sight.to - sight.from) * 0.05;
  if (frame >= sight.from + edge && frame <= sight.to - edge) return sight;
  const half = (sight.to - sight.from) / 2;
  return within({ from: frame - half, to: frame + half }, whole);
}

/** A range with a little around it. */
export function around({ start, end }: FrameRange, whole: Sight): Sight {
  const edge = Math.max(nearest, end - start) * 0.6;
  return within({ from: start - edge, to: end + edge }, whole);
}

/** Steps of a ruler in frames, so that a label has room: frames, then seconds, then minutes. */
export function rulerStep(sight: Sight, width: number, framesPerSecond: number): number {
  const least = ((sight.to - sight.from) / Math.max(1, width)) * 104;
  const steps = [1, 2, 5, 10, ...[1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1200, 3600].map((s) => s * framesPerSecond)];
  return steps.find((step) => step >= least) ?? steps.at(-1)! * Math.ceil(least / steps.at(-1)!);
}

/** A stretch that somebody marked: the first frame of it and the last, either of which may be missing as yet. */
export type Marks = { readonly first: number | null; readonly last: number | null };

/** The stretch between the marks, half-open; null until both are there and in order. */
export const stretchOf = ({ first, last }: Marks): FrameRange | null =>
  first !== null && last !== null && first <= last ? { start: first, end: last + 1 } : null;

/** With one of them set anew; the other goes where the two would cross. */
export function marked({ first, last }: Marks, what: 'first' | 'last', at: number): Marks {
  if (what === 'first') return { first: at, last: last !== null && last < at ? null : last };
  return { first: first !== null && first > at ? null : first, last: at };
}
