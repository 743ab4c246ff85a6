import type { MediaFileId } from '../model/ids.ts';
import type { FrameRange } from '../time/range.ts';
import { uniteRanges } from '../time/range.ts';
import { keptUnits } from './plan.ts';

/** What a plan says of a recording, as far as plans are held against one another. */
export type Gone = {
  readonly mediaFileId: MediaFileId;
  readonly placeName: string;
  readonly source: string;
  readonly length: number | null;
  readonly sizeInBytes: number;
  readonly coded: { readonly coding: string } | null;
  readonly outs: readonly { readonly range: FrameRange | null }[];
  readonly sidecars: readonly { readonly sizeInBytes: number }[];
};

/** A recording of which two plans take something else; null where one of them takes nothing of it. */
export type PlanDifference<R extends Gone = Gone> = {
  readonly one: R | null;
  readonly other: R | null;
  /** Bytes that the other takes beyond the one; below zero where it takes fewer. */
  readonly moreInBytes: number;
};

const bytesOf = (of: Gone | null): number =>
  of ? of.sizeInBytes + of.sidecars.reduce((sum, s) => sum + s.sizeInBytes, 0) : 0;

/** What goes of it: the units kept, however they are divided into files, and how they are coded. */
const goes = (of: Gone): string => {
  const ranges = of.outs.map((out) => out.range ?? { start: 0, end: of.length ?? 0 });
  const isWhole = of.outs.some((out) => out.range === null) || (of.length !== null && keptUnits(of) >= of.length);
  return JSON.stringify([of.coded?.coding ?? null, isWhole ? 'whole' : uniteRanges(ranges), of.sidecars.length]);
};

/** Recordings of which two plans take something else, the largest difference in bytes first; same ones are not told. */
export function comparePlans<R extends Gone>(one: readonly R[], other: readonly R[]): PlanDifference<R>[] {
  const others = new Map(other.map((r) => [r.mediaFileId, r]));
  const ones = new Set(one.map((r) => r.mediaFileId));
  const pairs = [
    ...one.map((r) => ({ one: r, other: others.get(r.mediaFileId) ?? null })),
    ...other.filter((r) => !ones.has(r.mediaFileId)).map((r) => ({ one: null, other: r })),
  ];
  return pairs
    .filter((p) => !p.one || !p.other || goes(p.one) !== goes(p.other))
    .map((p) => ({ ...p, moreInBytes: bytesOf(p.other) - bytesOf(p.one) }))
    .sort((a, b) => Math.abs(b.moreInBytes) - Math.abs(a.moreInBytes) || compareText(nameOf(a), nameOf(b)));
}

const nameOf = ({ one, other }: PlanDifference): string => {
  const { placeName, source } = (one ?? other)!;
  return `${placeName}/${source}`;
};
const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
