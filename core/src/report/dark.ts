import type { Timeline } from '../model/edit.ts';
import { rangeLength, uniteRanges } from '../time/range.ts';

/** Record frames of a timeline in which at least one event is dark: overlapping dark events are counted once. */
export function darkFrames(timeline: Pick<Timeline, 'events'>, isDarkClip: (clipKey: string) => boolean): number {
  const dark = timeline.events.filter((event) => event.clipKey !== null && isDarkClip(event.clipKey)).map((event) => event.record);
  return uniteRanges(dark).reduce((sum, range) => sum + rangeLength(range), 0);
}
