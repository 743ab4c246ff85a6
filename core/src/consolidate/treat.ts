import { countingRate } from '../model/media.ts';
import { leastSequenceLength } from '../paths/sequence.ts';
import { convertFrames, rangeLength, type FrameRange } from '../time/range.ts';
import type { Rate } from '../time/rate.ts';
import { framesPerDay } from '../time/timecode.ts';
import { treatmentsBy, type Choices, type PlanFile } from './choices.ts';
import { codedAs, codedBytes, codedSoundAs, noCodingReasons, type Coded } from './coding.ts';
import type { Gathered } from './layout.ts';
import { noCutReasons, spansOf, type Cutting, type NoCutReason, type Span } from './spans.ts';
import type { AcceptanceProfile } from '../model/acceptance.ts';

/** Why a recording goes whole though it was to be trimmed or coded anew; `not-proven` shows only when its part was made. */
export const wholeReasons = [
  ...noCutReasons,
  ...noCodingReasons,
  'all-used',
  'not-used',
  'use-unknown',
  'not-proven',
] as const;
export type WholeReason = (typeof wholeReasons)[number];

/** What goes of a recording. */
export type Treated = {
  /** A single null where it goes whole, as it is. */
  readonly spans: readonly (Span | null)[];
  readonly coded: Coded | null;
  readonly wholeBecause: WholeReason | null;
};

/** A sequence of whose length nothing was measured is as long as its numbers. */
export function lengthOf({ facts, sequence }: PlanFile): number | null {
  if (sequence) return sequence.last - sequence.first + 1;
  return facts?.kind === 'still' ? null : (facts?.length ?? null);
}

export const usesOf = ({ clips }: Gathered): (FrameRange | null)[] => clips.flatMap((c) => c.uses);

/** What goes of each recording: all of it, or spans, as they are or coded anew. What cannot be done falls back to all. */
export function treatmentBy(choices: Choices, accepts: AcceptanceProfile): (one: Gathered) => Treated {
  const treatmentOf = treatmentsBy(choices, accepts);
  return (one) => {
    switch (treatmentOf(one.file)) {
      case 'transcode':
        return transcoded(one, choices, accepts);
      case 'trim':
        return trimmed(one, choices);
      case 'whole':
      case 'leave':
        return whole(null);
    }
  };
}

const whole = (wholeBecause: WholeReason | null): Treated => ({ spans: [null], coded: null, wholeBecause });

function trimmed(one: Gathered, choices: Choices): Treated {
  const { file } = one;
  if (file.cutting.can === 'nowhere') return whole(file.cutting.because);
  const spans = spansIn(one, choices, file.cutting);
  if (typeof spans === 'string') return whole(spans);
  const length = lengthOf(file)!;
  return isAll(spans, length) ? whole('all-used') : { spans, coded: null, wholeBecause: null };
}

/** What only copying packets cannot do: decoded, every frame can be the first. */
const noMatterDecoded: readonly NoCutReason[] = ['open-groups', 'container', 'codec'];

/** One of which it is not known what is used is coded anew from end to end. Frames of sequences stay what they are. */
function transcoded(one: Gathered, choices: Choices, accepts: AcceptanceProfile): Treated {
  const { file } = one;
  const { cutting, facts } = file;
  if (!facts) return whole('no-length');
  // Sound of a WAVE file is what it would become: nothing of it has to be coded, and all beside it is kept.
  if (file.sequence || (facts.kind === 'sound' && cutting.can !== 'nowhere')) return trimmed(one, choices);
  const coded = facts.kind === 'sound' ? codedSoundAs(facts) : codedAs(facts, choices.coding, accepts);
  if ('because' in coded) return whole(coded.because);
  if (cutting.can === 'nowhere' && !noMatterDecoded.includes(cutting.because)) return whole(cutting.because);
  const length = lengthOf(file);
  if (length === null) return whole('no-length');
  const spans = spansIn(one, choices, { can: 'anywhere' });
  if (typeof spans !== 'string') return { spans, coded, wholeBecause: null };
  const all = { range: { start: 0, end: length }, uses: [], handlesCut: { head: 0, tail: 0 } };
  return { spans: [all], coded, wholeBecause: null };
}

const isAll = (spans: readonly Span[], length: number): boolean =>
  spans.some(({ range }) => range.start === 0 && range.end === length);

function spansIn(
  one: Gathered,
  choices: Choices,
  cutting: Exclude<Cutting, { can: 'nowhere' }>,
): Span[] | 'no-length' | 'not-used' | 'use-unknown' {
  const { file } = one;
  const length = lengthOf(file);
  const uses = usesOf(one);
  if (length === null) return 'no-length';
  if (uses.length === 0) return 'not-used';
  const known = uses.filter((u) => u !== null);
  if (known.length < uses.length) return 'use-unknown';
  const { rate } = one.clips[0]!;
  const units = (frames: number) => inUnits(frames, rate, file);
  const spans = spansOf(known, length, cutting, {
    division: choices.division,
    handles: units(choices.handlesInFrames),
    gap: units(choices.gapInFrames),
  }).map((span) => (file.sequence ? longEnough(span, length) : span));
  return spans.length === 0 ? 'not-used' : spans;
}

/** Frames of the edit as units of the file, rounded up. */
function inUnits(frames: number, rate: Rate, { facts }: PlanFile): number {
  const own = facts && countingRate(facts);
  return own ? convertFrames(frames, rate, own, 'up') : frames;
}

/** Few numbered pictures are no sequence to whoever opens the set. */
function longEnough(span: Span, length: number): Span {
  const { start } = span.range;
  const end = Math.min(length, Math.max(span.range.end, start + leastSequenceLength));
  return { ...span, range: { start: Math.max(0, Math.min(start, end - leastSequenceLength)), end } };
}

/** Exact for whole files; of a part, its share of the length; of what is coded anew, what such codings take at most. */
export function bytesOf(file: PlanFile, span: Span | null, coded: Coded | null): number {
  const length = lengthOf(file);
  if (!span || !length) return file.sizeInBytes;
  if (coded) return codedBytes(file.facts!, coded, rangeLength(span.range));
  return Math.min(file.sizeInBytes, Math.ceil((file.sizeInBytes * rangeLength(span.range)) / length));
}

/**
 * A part goes on counting as its source does. Where that has no timecode, the edit says what its first unit is called; if
 * edits disagree, the part stays without as well, and each goes by what its own reference says.
 */
export function startsAt({ file: { facts, sequence }, clips }: Gathered, { range }: Span): number | null {
  const own = facts && countingRate(facts);
  if (!own || sequence) return null;
  // Addresses begin again at midnight.
  const day = facts.kind === 'sound' ? 86_400 * own.num : framesPerDay(own, facts.counting);
  if (facts.timecodeSource !== 'none') return (facts.start + range.start) % day;
  const stated = new Set(clips.map((c) => convertFrames(c.statedStart ?? 0, c.rate, own, 'nearest')));
  return stated.size === 1 ? ([...stated][0]! + range.start) % day : null;
}
