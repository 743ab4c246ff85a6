import { rangeLength, uniteRanges, type FrameRange } from '../time/range.ts';

/** What becomes files of their own: each span, the whole stretch from first to last use, or each use by itself. */
export const divisions = ['span', 'source', 'use'] as const;
export type Division = (typeof divisions)[number];

export type SpanChoice = {
  readonly division: Division;
  /** Kept before and after each use, in the file's own units. */
  readonly handles: number;
  /** Spans this far apart or less become one, in the file's own units. Of `span` only. */
  readonly gap: number;
};

/** Where a file can be cut without loss. `at`: only from one of these units on (key frames), ascending, the first is 0. */
export type Cutting =
  | { readonly can: 'anywhere' }
  | { readonly can: 'at'; readonly units: readonly number[] }
  | { readonly can: 'nowhere'; readonly because: NoCutReason };

export const noCutReasons = [
  'open-groups',
  'rate-varies',
  'no-length',
  'container',
  'codec',
  'no-timecode-at-rate',
  'unreadable-index',
] as const;
export type NoCutReason = (typeof noCutReasons)[number];

/** A continuous part of a file that is kept, in units from its first: frames of picture, samples of sound. */
export type Span = {
  readonly range: FrameRange;
  /** The uses that it serves, by their place in what was given. */
  readonly uses: readonly number[];
  /** Of each wanted handle, how much the file does not hold. */
  readonly handlesCut: { readonly head: number; readonly tail: number };
};

/**
 * The spans of a file of `length` units that serve these uses, ascending. Each use gets its handles, clamped to the
 * file; edges move outward to where the file can be cut. A use that lies outside of the file altogether is served by
 * none. Every use lies whole in one span, so that one reference can stand for it.
 */
export function spansOf(
  uses: readonly FrameRange[],
  length: number,
  cutting: Exclude<Cutting, { can: 'nowhere' }>,
  { division, handles, gap }: SpanChoice,
): Span[] {
  const wanted = uses.flatMap((use, i): Span[] => {
    const held = { start: Math.max(0, use.start), end: Math.min(length, use.end) };
    if (held.end <= held.start) return [];
    const range = {
      start: Math.max(0, held.start - handles),
      end: Math.min(length, held.end + handles),
    };
    const handlesCut = {
      head: Math.min(handles, Math.max(0, handles - held.start)),
      tail: Math.min(handles, Math.max(0, held.end + handles - length)),
    };
    return [{ range: outward(range, length, cutting), uses: [i], handlesCut }];
  });
  const sorted = wanted.sort((a, b) => a.range.start - b.range.start || a.range.end - b.range.end);
  const joined: Span[] = [];
  for (const next of sorted) {
    const last = joined.at(-1);
    if (last && joins(last.range, next.range, division, gap)) joined[joined.length - 1] = both(last, next);
    else joined.push(next);
  }
  return joined;
}

function joins(last: FrameRange, next: FrameRange, division: Division, gap: number): boolean {
  switch (division) {
    case 'source':
      return true;
    case 'use':
      // The same frames twice are one file.
      return last.start === next.start && last.end === next.end;
    case 'span':
      return next.start <= last.end + gap;
  }
}

const both = (a: Span, b: Span): Span => ({
  range: { start: Math.min(a.range.start, b.range.start), end: Math.max(a.range.end, b.range.end) },
  uses: [...a.uses, ...b.uses],
  handlesCut: {
    head: Math.max(a.handlesCut.head, b.handlesCut.head),
    tail: Math.max(a.handlesCut.tail, b.handlesCut.tail),
  },
});

/** The least range around this one whose edges the file can be cut at. */
function outward(range: FrameRange, length: number, cutting: Exclude<Cutting, { can: 'nowhere' }>): FrameRange {
  if (cutting.can === 'anywhere') return range;
  const { units } = cutting;
  const after = firstAtOrAfter(units, range.start);
  const start = units[after] === range.start ? range.start : (units[after - 1] ?? 0);
  return { start, end: units[firstAtOrAfter(units, range.end)] ?? length };
}

/** The place of the first that is not less, in ascending numbers. */
function firstAtOrAfter(units: readonly number[], wanted: number): number {
  let [from, to] = [0, units.length];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (units[middle]! < wanted) from = middle + 1;
    else to = middle;
  }
  return from;
}

/** Units that spans keep, each counted once. */
export const unitsKept = (ranges: readonly FrameRange[]): number =>
  uniteRanges(ranges).reduce((sum, r) => sum + rangeLength(r), 0);
