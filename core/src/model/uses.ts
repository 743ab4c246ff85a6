import {
  addSeconds,
  compareSeconds,
  divideSeconds,
  framesTouched,
  intersectWindows,
  scaleSeconds,
  secondsOf,
  subtractSeconds,
  windowOf,
  type TimeWindow,
} from '../time/seconds.ts';
import { intersectRanges, shiftRange, uniteRanges, type FrameRange } from '../time/range.ts';
import type { Rate } from '../time/rate.ts';
import type { Clip, Edit, EditEvent, Timeline } from './edit.ts';

/** One step from a top timeline to a clip: this event of this timeline. */
export type UseStep = { readonly timelineKey: string; readonly event: EditEvent };

/** One showing of a clip, from the top timeline down through every nest to the event that reads it. */
export type ClipUse = {
  readonly clipKey: string;
  /** Frames read of the source, at the clip's rate: only what the nests around it show, exact, rounded outward. */
  readonly source: FrameRange;
  /** Outermost first; the last is the event that reads the clip. */
  readonly steps: readonly UseStep[];
  /** Where it shows in the top timeline, at that timeline's rate, transitions included. */
  readonly record: FrameRange;
};

/** The record frames during which an event's source is read: from cut to cut, and under its transitions. */
export const readDuring = ({ record, head, tail }: EditEvent): FrameRange => ({
  start: record.start - head,
  end: record.end + tail,
});

/** When an event is read at the most: one that was rounded may begin or end within the frame after those it states. */
function windowDuring(event: EditEvent, recordRate: Rate): TimeWindow {
  const { start, end } = readDuring(event);
  return windowOf({ start, end: event.rounded ? end + 1 : end }, recordRate);
}

/** The source time that an event reads during a part of its record time; speed, freeze and direction included. */
function sourceDuring(event: EditEvent, part: TimeWindow, recordRate: Rate, sourceRate: Rate): TimeWindow | null {
  if (!event.source) return null;
  const source = windowOf(event.source, sourceRate);
  if (event.speed.num === 0) return source;
  const begin = secondsOf(readDuring(event).start, recordRate);
  const forwards = event.speed.num > 0;
  const edge = forwards ? source.start : source.end;
  const from = addSeconds(edge, scaleSeconds(subtractSeconds(part.start, begin), event.speed));
  const to = addSeconds(edge, scaleSeconds(subtractSeconds(part.end, begin), event.speed));
  const read = forwards ? { start: from, end: to } : { start: to, end: from };
  if (!event.rounded) return intersectWindows(read, source);
  // It begins within a frame of the record, and what it reads within a frame of its source: both are rounded outward.
  const { num, den } = event.speed;
  const late = scaleSeconds(secondsOf(1, recordRate), { num: Math.abs(num), den });
  const inside = secondsOf(1, sourceRate);
  const [before, after] = forwards ? [late, inside] : [inside, late];
  return intersectWindows({ start: subtractSeconds(read.start, before), end: addSeconds(read.end, after) }, source);
}

/** The record time during which an event shows a part of its source. The reverse of `sourceDuring`. */
function recordDuring(event: EditEvent, part: TimeWindow, recordRate: Rate, sourceRate: Rate): TimeWindow | null {
  const { start, end: stated } = readDuring(event);
  // What is shorter than a frame shows in one.
  const end = Math.max(stated, start + 1);
  const during = windowOf({ start, end }, recordRate);
  const source = event.source && windowOf(event.source, sourceRate);
  const shown = source && intersectWindows(part, source);
  if (!source || !shown) return null;
  if (event.speed.num === 0) return during;
  const edge = event.speed.num > 0 ? source.start : source.end;
  const at = (moment: TimeWindow['start']) =>
    addSeconds(during.start, divideSeconds(subtractSeconds(moment, edge), event.speed));
  const [from, to] = [at(shown.start), at(shown.end)];
  const [first, last] = compareSeconds(from, to) <= 0 ? [from, to] : [to, from];
  // What was rounded may lie a fraction beside: it is shown, so in the frame next to it.
  const next = compareSeconds(first, during.start) < 0 ? start : end - 1;
  return intersectWindows({ start: first, end: last }, during) ?? windowOf({ start: next, end: next + 1 }, recordRate);
}

/**
 * Every use of every clip, reached from the top timelines through nests at any depth. A nest's window, speed and
 * transitions trim what is read inside it, as does a window on a top timeline (record frames at its rate, by its key);
 * positions stay exact fractions until the last step.
 */
export function usesOf(
  { clips, timelines }: Pick<Edit, 'timelines'> & { clips: readonly Pick<Clip, 'key' | 'rate'>[] },
  windows: ReadonlyMap<string, FrameRange> = new Map(),
): ClipUse[] {
  const rates = new Map(clips.map((c) => [c.key, c.rate]));
  const byKey = new Map(timelines.map((t) => [t.key, t]));
  const uses: ClipUse[] = [];
  for (const top of timelines) {
    const window = windows.get(top.key);
    if (top.top) visit(top, window ? windowOf(window, top.rate) : null, [], (shown) => shown);
  }
  return uses;

  function visit(
    timeline: Timeline,
    shown: TimeWindow | null,
    path: readonly UseStep[],
    upward: (window: TimeWindow) => TimeWindow | null,
  ): void {
    for (const event of timeline.events) {
      if (!event.source) continue;
      const sourceRate = event.clipKey === null ? byKey.get(event.nestedKey ?? '')?.rate : rates.get(event.clipKey);
      if (!sourceRate) continue;
      const step = { timelineKey: timeline.key, event };
      // Most of a cut: nothing around it trims it.
      if (shown === null && event.clipKey !== null) {
        uses.push({ clipKey: event.clipKey, source: event.source, steps: [step], record: readDuring(event) });
        continue;
      }
      const steps = [...path, step];
      const all = windowDuring(event, timeline.rate);
      const during = shown ? intersectWindows(all, shown) : all;
      const read = during && sourceDuring(event, during, timeline.rate, sourceRate);
      if (!during || !read) continue;
      if (event.clipKey !== null) {
        const record = upward(during);
        const source = intersectRanges(framesTouched(read, sourceRate), event.source);
        const topRate = byKey.get(steps[0]!.timelineKey)!.rate;
        if (record && source)
          uses.push({ clipKey: event.clipKey, source, steps, record: framesTouched(record, topRate) });
        continue;
      }
      const nested = byKey.get(event.nestedKey!)!;
      // A nest is read from its own zero; its events stand from its start.
      const zero = secondsOf(nested.start, nested.rate);
      visit(nested, { start: addSeconds(read.start, zero), end: addSeconds(read.end, zero) }, steps, (window) => {
        const inner = { start: subtractSeconds(window.start, zero), end: subtractSeconds(window.end, zero) };
        const here = recordDuring(event, inner, timeline.rate, nested.rate);
        return here && upward(here);
      });
    }
  }
}

/** What uses read of each clip, by its key, use by use. */
export function readByClip(uses: readonly Pick<ClipUse, 'clipKey' | 'source'>[]): Map<string, FrameRange[]> {
  const read = new Map<string, FrameRange[]>();
  for (const { clipKey, source } of uses) {
    const known = read.get(clipKey);
    if (known) known.push(source);
    else read.set(clipKey, [source]);
  }
  return read;
}

/** The same clips, each with the union of all that `usesOf` finds read of it, and whether nests trim all of it away. */
export function withUsedRanges(clips: readonly Clip[], timelines: readonly Timeline[]): Clip[] {
  const read = readByClip(usesOf({ clips, timelines }));
  const inEvents = new Set(timelines.flatMap(({ events }) => events.map(({ clipKey, source }) => source && clipKey)));
  return clips.map((clip) => {
    const used = uniteRanges(read.get(clip.key) ?? []);
    return !read.has(clip.key) && inEvents.has(clip.key) ? { ...clip, used, isTrimmedAway: true } : { ...clip, used };
  });
}

/** A range of record frames of a nested timeline, as frames from its zero. */
export const fromNestZero = (range: FrameRange, nest: Timeline): FrameRange => shiftRange(range, -nest.start);

/** Record frames of `timeline` during which `event`, which shows `nest`, shows these record frames of the nest. */
export function shownInParent(
  event: EditEvent,
  timeline: Timeline,
  nest: Timeline,
  range: FrameRange,
): FrameRange | null {
  const record = recordDuring(event, windowOf(fromNestZero(range, nest), nest.rate), timeline.rate, nest.rate);
  return record && framesTouched(record, timeline.rate);
}
