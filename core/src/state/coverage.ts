import { alignedRange, onItsDay } from '../match/prepare.ts';
import type { Clip } from '../model/edit.ts';
import type { MediaFile } from '../model/media.ts';
import { acrossMidnight, uncoveredFrames, type FrameRange } from '../time/range.ts';
import { framesPerDay } from '../time/timecode.ts';

/** What coverage asks of a clip: its used frames, at its rate. */
export type ClipUsed = Pick<Clip, 'used' | 'available' | 'rate' | 'counting' | 'kind'>;
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
