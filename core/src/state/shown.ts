import { convertFrames, rangeLength, type FrameRange } from '../time/range.ts';
import { sameNumbering, type Rate } from '../time/rate.ts';

/** A showing of a clip, as far as it tells which of its frames is seen when. */
export type Showing = {
  /** Frames of the timeline's rate. */
  readonly record: FrameRange;
  /** Frames of the clip's rate. */
  readonly source: FrameRange;
  /** Null where it runs as it was recorded; negative backwards, zero stands still. */
  readonly speed: { readonly num: number; readonly den: number } | null;
};

/**
 * Which of the frames that it reads a showing shows at a record frame, counted from the first of them, at the clip's rate.
 * Exact; before and after the showing it is the first and the last that it shows.
 */
export function frameRead({ record, source, speed }: Showing, at: number, timeline: Rate, clip: Rate): number {
  const { num, den } = speed ?? { num: 1, den: 1 };
  if (num === 0) return 0;
  const last = rangeLength(source) - 1;
  const pace = { num: clip.num * Math.abs(num), den: clip.den * den };
  const read = Math.min(last, Math.max(0, convertFrames(at - record.start, timeline, pace, 'down')));
  return num < 0 ? last - read : read;
}

/** A frame counted from a file's first at the clip's rate, in the file's own count; `own` null where that is not known. */
export const frameOfFile = (frame: number, clip: Rate, own: Rate | null): number =>
  own === null || sameNumbering(own, clip) ? frame : convertFrames(frame, clip, own, 'down');
