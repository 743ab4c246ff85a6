import { hasDropFrame, nominalRate, type Rate } from '../time/rate.ts';
import { shiftRange, type FrameRange } from '../time/range.ts';
import { formatTimecode, parseTimecode, type Counting } from '../time/timecode.ts';
import type { Clip } from './edit.ts';

/**
 * How a clip's timecode is to be read, where the edit counts otherwise than the file: first its addresses are read at
 * another rate (24 for 25: the same hours, minutes, seconds and frames), then shifted. The edit itself stays as it is.
 */
export type Interpretation = {
  readonly countedAt: Rate | null;
  /** Added to every address, in frames at `countedAt`, else at the clip's rate. */
  readonly shiftInFrames: number;
};

export type Counted = Pick<Clip, 'rate' | 'counting' | 'available' | 'used'>;

/** A clip with all its addresses as the file counts. What shows nothing new comes back as it is. */
export function readAs<C extends Counted>(clip: C, interpretation: Interpretation | null | undefined): C {
  if (!interpretation) return clip;
  const read = (range: FrameRange) => rangeReadAs(range, clip, interpretation);
  const rate = interpretation.countedAt ?? clip.rate;
  return {
    ...clip,
    rate,
    counting: countingAt(rate, clip.counting),
    available: clip.available && read(clip.available),
    used: clip.used.map(read),
  };
}

/** A range of the edit's addresses as the file counts it. Frames that a lower rate does not have end its second. */
export function rangeReadAs(
  range: FrameRange,
  clip: Pick<Clip, 'rate' | 'counting'>,
  { countedAt, shiftInFrames }: Interpretation,
): FrameRange {
  const at = (frame: number) => (countedAt ? addressAt(frame, clip, countedAt) : frame);
  return shiftRange({ start: at(range.start), end: at(range.end) }, shiftInFrames);
}

/** The frame that bears the same address at another rate. */
export function addressAt(frame: number, { rate, counting }: Pick<Clip, 'rate' | 'counting'>, to: Rate): number {
  if (frame < 0 || !isTimecodeRate(rate) || !isTimecodeRate(to)) return frame;
  const parts = formatTimecode(frame, rate, counting).split(/[:;]/).map(Number) as [number, number, number, number];
  const [hours, minutes, seconds, frames] = parts;
  const most = nominalRate(to) - 1;
  const two = (n: number) => String(n).padStart(2, '0');
  const drop = countingAt(to, counting) === 'drop';
  const parsed = parseTimecode(
    `${two(hours)}:${two(minutes)}:${two(seconds)}${drop ? ';' : ':'}${two(Math.min(frames, most))}`,
    to,
  );
  if (parsed.ok) return parsed.frames;
  // An address that drop-frame counting leaves out: the first that exists after it.
  return ((hours * 60 + minutes) * 60 + seconds) * nominalRate(to) + Math.min(frames, most);
}

const isTimecodeRate = (rate: Rate): boolean => nominalRate(rate) <= 120;
const countingAt = (rate: Rate, counting: Counting): Counting =>
  counting === 'drop' && hasDropFrame(rate) ? 'drop' : 'non-drop';

/** One interpretation after another, as one; null when nothing is left of them. */
export function thenReadAs(first: Interpretation | null, then: Interpretation | null): Interpretation | null {
  if (!first || !then) return first ?? then;
  const both = {
    countedAt: then.countedAt ?? first.countedAt,
    shiftInFrames: (then.countedAt ? 0 : first.shiftInFrames) + then.shiftInFrames,
  };
  return both.countedAt === null && both.shiftInFrames === 0 ? null : both;
}
