import { addressAt, type Interpretation } from '../model/interpretation.ts';
import type { Clip } from '../model/edit.ts';
import { countingRate, sourceRange, type MediaFile } from '../model/media.ts';
import type { FrameRange } from '../time/range.ts';
import { nominalRate, sameRate, type Rate } from '../time/rate.ts';
import type { Attribute } from './rules.ts';

/**
 * How the addresses of an edit and of a file stand apart, where both are known and disagree.
 * `from-zero`: the edit counts each clip from zero, the file carries its own time. `shifted`: a constant lies between
 * them. `other-rate`: the same hours, minutes, seconds and frames, read at another rate.
 */
export type TimecodeDisplacement =
  | { readonly kind: 'from-zero'; readonly byFrames: number }
  | { readonly kind: 'shifted'; readonly byFrames: number; readonly inHours: number | null }
  | { readonly kind: 'other-rate'; readonly from: Rate; readonly to: Rate };

/**
 * The displacement between a clip and a file of the same length; null where their addresses agree, either is unknown,
 * or the lengths differ, for then they are no one recording. Frames at the clip's rate.
 */
export function timecodeDisplacement(
  { clip, wanted }: { readonly clip: Clip; readonly wanted: FrameRange | null },
  { file }: { readonly file: Pick<MediaFile, 'facts'> },
): TimecodeDisplacement | null {
  const { facts } = file;
  if (!facts || facts.kind === 'still' || facts.timecodeSource === 'none' || facts.length === null) return null;
  const own = countingRate(facts);
  if (!own) return null;
  const stated = clip.available;
  if (facts.kind !== 'sound' && nominalRate(own) !== nominalRate(clip.rate)) {
    const range = stated ?? wanted;
    if (!range) return null;
    const [start, end] = [addressAt(range.start, clip, own), addressAt(range.end, clip, own)];
    const isTheSame = stated
      ? start === facts.start && Math.abs(end - start - facts.length) <= 1
      : start >= facts.start && end <= facts.start + facts.length + 1;
    return isTheSame ? { kind: 'other-rate', from: clip.rate, to: own } : null;
  }
  const held = sourceRange(facts, clip.rate);
  if (!held || !stated) return null;
  const apart = Math.abs(held.end - held.start - (stated.end - stated.start));
  if (apart > (sameRate(own, clip.rate) ? 0 : 1)) return null;
  const byFrames = held.start - stated.start;
  if (byFrames === 0 || (facts.kind === 'sound' && Math.abs(byFrames) === 1)) return null;
  if (stated.start === 0) return { kind: 'from-zero', byFrames };
  const hour = nominalRate(clip.rate) * 3600;
  return { kind: 'shifted', byFrames, inHours: byFrames % hour === 0 ? byFrames / hour : null };
}

/** How the clip is to be read so that its addresses are the file's. */
export function interpretationOf(displacement: TimecodeDisplacement): Interpretation {
  return displacement.kind === 'other-rate'
    ? { countedAt: displacement.to, shiftInFrames: 0 }
    : { countedAt: null, shiftInFrames: displacement.byFrames };
}

/** What reading a clip so accounts for: it differs, and is no difference. */
export function excusedBy(interpretation: Interpretation | null | undefined): readonly Attribute[] {
  if (!interpretation) return [];
  return interpretation.countedAt ? ['timecode', 'rate', 'length'] : ['timecode'];
}
