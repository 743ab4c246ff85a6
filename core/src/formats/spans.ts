import type { Clip, Edit, EditEvent, Timeline, TransitionIn } from '../model/edit.ts';
import { tracksOf } from '../model/tracks.ts';
import { usesOf, type ClipUse } from '../model/uses.ts';
import { rangeLength, scaleFrames, type FrameRange } from '../time/range.ts';
import { nominalRate, sameRate, type Rate } from '../time/rate.ts';
import { framesIn, secondsOf, type Ratio } from '../time/seconds.ts';

/** A stretch of one track in which one source plays, nests resolved. All counts are in frames at the timeline's rate. */
export type Span = {
  /** Null for black. */
  readonly clip: Clip | null;
  readonly name: string;
  /** From cut to cut. */
  readonly record: FrameRange;
  readonly head: number;
  readonly tail: number;
  /** All that is read, from `record.start - head` to `record.end + tail`. */
  readonly source: FrameRange;
  readonly speed: Ratio;
  readonly transition: TransitionIn | null;
};

/** The single tracks of a timeline that hold anything, picture first. */
export function tracksOfTimeline(timeline: Timeline): string[] {
  const tracks = new Set(timeline.events.flatMap((e) => tracksOf(e.track)));
  return [...tracks].sort((a, b) => Number(b.startsWith('V')) - Number(a.startsWith('V')) || number(a) - number(b));
}
const number = (track: string): number => Number(track.slice(1));

/**
 * One track of a timeline as spans in record order. A nested timeline becomes the spans that show through its window:
 * of picture the topmost layer, of sound the lowest track, because a list has room for one source at a time.
 */
export function spansOfTrack(edit: Edit, timeline: Timeline, track: string): Span[] {
  const clips = new Map(edit.clips.map((c) => [c.key, c]));
  const spans: Span[] = [];
  const nestedUses = new Map<EditEvent, ClipUse[]>();
  if (timeline.events.some((e) => e.nestedKey !== null)) {
    const top = { ...timeline, top: true };
    const others = edit.timelines.filter((t) => t.key !== timeline.key).map((t) => ({ ...t, top: false }));
    for (const use of usesOf({ clips: edit.clips, timelines: [top, ...others] })) {
      const { event } = use.steps[0]!;
      if (event.nestedKey === null) continue;
      const list = nestedUses.get(event);
      if (list) list.push(use);
      else nestedUses.set(event, [use]);
    }
  }
  for (const event of timeline.events) {
    if (!tracksOf(event.track).includes(track)) continue;
    if (event.nestedKey !== null) {
      spans.push(...spansOfNest(event, nestedUses.get(event) ?? [], clips, timeline.rate));
      continue;
    }
    const clip = event.clipKey === null ? null : (clips.get(event.clipKey) ?? null);
    const { name, record, head, tail, speed, transition } = event;
    const source =
      clip && event.source
        ? countedAt(event.source, clip.rate, timeline.rate)
        : { start: 0, end: rangeLength(record) + tail };
    spans.push({ clip, name, record, head, tail, speed, transition, source });
  }
  return spans.toSorted((a, b) => a.record.start - b.record.start);
}

function spansOfNest(event: EditEvent, uses: readonly ClipUse[], clips: ReadonlyMap<string, Clip>, rate: Rate): Span[] {
  const level = (use: ClipUse) => number(tracksOf(use.steps.at(-1)!.event.track)[0] ?? 'V1');
  const wanted = uses
    .filter((use) => use.steps.every((s) => s.event.trackKind === event.trackKind))
    .toSorted((a, b) => (event.trackKind === 'picture' ? level(b) - level(a) : level(a) - level(b)));
  const covered: FrameRange[] = [];
  const spans: Span[] = [];
  for (const use of wanted) {
    const clip = clips.get(use.clipKey)!;
    const source = countedAt(use.source, clip.rate, rate);
    const speed = use.steps.reduce((all, s) => multiply(all, s.event.speed), { num: 1, den: 1 });
    for (const record of uncovered(clamp(use.record, event.record), covered)) {
      spans.push({
        clip,
        name: use.steps.at(-1)!.event.name,
        record,
        head: 0,
        tail: 0,
        source: partOf(source, use.record, record, speed),
        speed,
        transition: null,
      });
      covered.push(record);
    }
  }
  return spans;
}

const multiply = (a: Ratio, b: Ratio): Ratio => ({ num: a.num * b.num, den: a.den * b.den });
const clamp = (range: FrameRange, to: FrameRange): FrameRange => ({
  start: Math.max(range.start, to.start),
  end: Math.min(range.end, to.end),
});

/** The parts of a range that none of these holds. */
function uncovered(range: FrameRange, covered: readonly FrameRange[]): FrameRange[] {
  let parts = range.end > range.start ? [range] : [];
  for (const { start, end } of covered) {
    parts = parts.flatMap((part) =>
      [
        { start: part.start, end: Math.min(part.end, start) },
        { start: Math.max(part.start, end), end: part.end },
      ].filter((p) => p.end > p.start),
    );
  }
  return parts;
}

/** What of a source plays in a part of the record time in which all of it plays. */
export function partOf(source: FrameRange, whole: FrameRange, part: FrameRange, speed: Ratio): FrameRange {
  if (speed.num === 0) return source;
  const factor = { num: Math.abs(speed.num), den: speed.den };
  const before = scaleFrames(part.start - whole.start, factor, 'down');
  const length = scaleFrames(rangeLength(part), factor, 'up');
  if (speed.num > 0) return { start: source.start + before, end: Math.min(source.end, source.start + before + length) };
  return { start: Math.max(source.start, source.end - before - length), end: source.end - before };
}

/** Timecode numbers frames, so rates of one nominal value share their counts; others are converted by time. */
function countedAt(range: FrameRange, from: Rate, to: Rate): FrameRange {
  if (sameRate(from, to) || nominalRate(from) === nominalRate(to)) return range;
  return {
    start: framesIn(secondsOf(range.start, from), to, 'down'),
    end: framesIn(secondsOf(range.end, from), to, 'up'),
  };
}
