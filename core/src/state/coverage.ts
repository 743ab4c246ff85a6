import { alignedRange, onItsDay } from '../match/prepare.ts';
import type { Clip } from '../model/edit.ts';
import { countingRate, type MediaFile } from '../model/media.ts';
import {
  acrossMidnight,
  convertFrames,
  convertRangeOutward,
  shiftRange,
  uncoveredFrames,
  type FrameRange,
} from '../time/range.ts';
import { sameNumbering } from '../time/rate.ts';
import { framesPerDay } from '../time/timecode.ts';

/** What coverage asks of a clip: its used frames, at its rate, and whether there are none because nests trim it away. */
export type ClipUsed = Pick<Clip, 'used' | 'isTrimmedAway' | 'available' | 'rate' | 'counting' | 'kind'>;
type Held = Pick<MediaFile, 'facts'> & Partial<Pick<MediaFile, 'sequence'>>;

/** Frames that the edit uses and the file does not hold. Stills hold any; a file of unknown length is not accused. */
export const uncoveredUse = (clip: ClipUsed, file: Held): number =>
  acrossMidnight(clip.used, framesPerDay(clip.rate, clip.counting)).reduce(
    (sum, used) => sum + uncoveredOf(used, clip, file),
    0,
  );

/**
 * The same for one use, in frames at the clip's rate: what lies outside of the file, on whichever side of midnight it
 * counts, and the pictures that a numbered sequence lacks.
 */
export function uncoveredOf(used: FrameRange, clip: Omit<ClipUsed, 'used'>, file: Held): number {
  if (file.facts?.kind === 'still') return 0;
  const held = alignedRange(clip, file);
  if (!held) return 0;
  const range = onItsDay(used, held, clip);
  const { sequence } = file;
  const lacking = sequence
    ? sequence.missing.filter((number) => {
        const at = held.start + number - sequence.first;
        return at >= range.start && at < range.end;
      }).length
    : 0;
  return uncoveredFrames(range, held) + lacking;
}

/** The first used frame, counted from the first frame of the file; null where that is not known. */
export function firstFrameInFile(used: FrameRange, clip: Omit<ClipUsed, 'used'>, file: Held): number | null {
  const held = file.facts?.kind === 'still' ? null : alignedRange(clip, file);
  return held && onItsDay(used, held, clip).start - held.start;
}

/**
 * A used range in the file's own units from its first, frames of picture or samples of sound, edges outward: what has to
 * be kept of the file for it. Null for a still, and where start or length of the file is not known.
 */
export function unitsInFile(used: FrameRange, clip: Omit<ClipUsed, 'used'>, file: Held): FrameRange | null {
  const { facts } = file;
  const held = !facts || facts.kind === 'still' ? null : alignedRange(clip, file);
  if (!facts || !held) return null;
  const range = shiftRange(onItsDay(used, held, clip), -held.start);
  const own = countingRate(facts);
  if (!own || sameNumbering(own, clip.rate)) return range;
  // A recorder that began between two frames of the edit was laid on the nearer one: half a frame on either side.
  const nearest = convertFrames(convertFrames(facts.start, own, clip.rate, 'nearest'), clip.rate, own, 'nearest');
  const loose = nearest === facts.start ? 0 : 1;
  return convertRangeOutward({ start: range.start - loose, end: range.end + loose }, clip.rate, own);
}
