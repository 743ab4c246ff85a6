import type { Timeline } from '../model/edit.ts';
import {
  convertRangeOutward,
  intersectRanges,
  rangeLength,
  shiftRange,
  uniteRanges,
  type FrameRange,
} from '../time/range.ts';

/**
 * Record frames of a timeline in which at least one event is dark, as united ranges at its rate. Darkness inside a
 * nested timeline counts where its window shows it; rates between nest and parent are converted outward.
 */
export function darkRanges(
  timeline: Timeline,
  nested: ReadonlyMap<string, Timeline>,
  isDarkClip: (clipKey: string) => boolean,
): FrameRange[] {
  const dark = timeline.events.flatMap((event): FrameRange[] => {
    if (event.clipKey !== null) return isDarkClip(event.clipKey) ? [event.record] : [];
    const inner = event.nestedKey === null ? undefined : nested.get(event.nestedKey);
    if (!inner || !event.source) return [];
    const window = shiftRange(event.source, inner.start);
    return darkRanges(inner, nested, isDarkClip).flatMap((range) => {
      const seen = intersectRanges(range, window);
      if (!seen) return [];
      const inWindow = convertRangeOutward(shiftRange(seen, -window.start), inner.rate, timeline.rate);
      return intersectRanges(shiftRange(inWindow, event.record.start), event.record) ?? [];
    });
  });
  return uniteRanges(dark);
}

/** How many record frames that is: overlapping dark events are counted once. */
export const darkFrames = (...args: Parameters<typeof darkRanges>): number =>
  darkRanges(...args).reduce((sum, range) => sum + rangeLength(range), 0);
