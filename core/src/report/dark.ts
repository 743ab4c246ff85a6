import type { Timeline } from '../model/edit.ts';
import { readDuring, shownInParent } from '../model/uses.ts';
import { intersectRanges, rangeLength, uniteRanges, type FrameRange } from '../time/range.ts';

/**
 * Record frames of a timeline in which something dark shows, as united ranges at its rate: dark events with the
 * transitions that show them, and darkness inside a nested timeline where its window, at its speed, shows it.
 */
export function darkRanges(
  timeline: Timeline,
  nested: ReadonlyMap<string, Timeline>,
  isDarkClip: (clipKey: string) => boolean,
): FrameRange[] {
  const whole = { start: timeline.start, end: timeline.start + timeline.length };
  const dark = timeline.events.flatMap((event): FrameRange[] => {
    if (event.clipKey !== null) return isDarkClip(event.clipKey) ? [readDuring(event)] : [];
    const nest = event.nestedKey === null ? undefined : nested.get(event.nestedKey);
    if (!nest) return [];
    return darkRanges(nest, nested, isDarkClip).flatMap((range) => shownInParent(event, timeline, nest, range) ?? []);
  });
  return uniteRanges(dark.flatMap((range) => intersectRanges(range, whole) ?? []));
}

/** How many record frames that is: overlapping dark events are counted once. */
export const darkFrames = (...args: Parameters<typeof darkRanges>): number =>
  darkRanges(...args).reduce((sum, range) => sum + rangeLength(range), 0);
