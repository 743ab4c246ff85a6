import type { Edit, EditEvent, Timeline } from '../model/edit.ts';
import { convertRangeOutward, intersectRanges, rangeLength, type FrameRange } from '../time/range.ts';
import { sameRate, type Rate } from '../time/rate.ts';
import type { Counting } from '../time/timecode.ts';
import { sameClips } from './clips.ts';

/** An event as a comparison shows it, in frames at the newer timeline's rate, also where the older counts otherwise. */
export type ComparedEvent = {
  readonly number: number;
  readonly name: string;
  readonly track: string;
  readonly trackKind: EditEvent['trackKind'];
  readonly clipKey: string | null;
  readonly record: FrameRange;
};

/** One difference between two versions of a timeline. `event` is of the newer version, `before` of the older. */
export type EventChange =
  | { readonly kind: 'added'; readonly event: ComparedEvent }
  | { readonly kind: 'removed'; readonly before: ComparedEvent }
  | { readonly kind: 'moved'; readonly event: ComparedEvent; readonly before: ComparedEvent; readonly byFrames: number }
  | {
      readonly kind: 'trimmed';
      readonly event: ComparedEvent;
      readonly before: ComparedEvent;
      /** Source frames gained (positive) or lost (negative) at the start and at the end, at the clip's rate. */
      readonly headFrames: number;
      readonly tailFrames: number;
    }
  | { readonly kind: 're-sourced'; readonly event: ComparedEvent; readonly before: ComparedEvent };

export type TimelineChanges = {
  /** Of the newer version; null where that has no such timeline. */
  readonly key: string | null;
  readonly name: string;
  readonly rate: Rate;
  readonly counting: Counting;
  /** A timeline that only one version has. */
  readonly only: 'newer' | 'older' | null;
  /** Events that both versions have, in the same place and reading the same source. */
  readonly kept: readonly ComparedEvent[];
  readonly changes: readonly EventChange[];
};

/**
 * What changed from an older version of an edit to a newer one, timeline by timeline (by name, else by order), as
 * people speak of it: an event that reads the same source elsewhere was moved, one that reads overlapping source was
 * trimmed, one in the same place with another source was re-sourced; the rest was added or removed.
 */
export function compareEdits(older: Edit, newer: Edit): TimelineChanges[] {
  const oldKeys = sameClips(older.clips, newer.clips);
  const rest = [...older.timelines];
  const take = (fits: (t: Timeline) => boolean): Timeline | undefined => {
    const at = rest.findIndex(fits);
    return at < 0 ? undefined : rest.splice(at, 1)[0];
  };
  const named = newer.timelines.map((timeline) => ({
    timeline,
    before: take((t) => t.name === timeline.name && t.top === timeline.top),
  }));
  const pairs = named.map(({ timeline, before }) => ({
    timeline,
    before: before ?? take((t) => t.top && timeline.top),
  }));
  const changed = pairs.map(({ timeline, before }) => compareTimelines(before, timeline, oldKeys));
  const gone = rest.map(({ name, rate, counting, events }): TimelineChanges => {
    return {
      key: null,
      name,
      rate,
      counting,
      only: 'older',
      kept: [],
      changes: events.map((e) => ({ kind: 'removed', before: shown(e) })),
    };
  });
  return [...changed, ...gone];
}

/** An event not yet paired, with its clip under the key that both versions share. */
type Open = { readonly event: EditEvent; readonly clip: string; isPaired: boolean };

function compareTimelines(
  before: Timeline | undefined,
  timeline: Timeline,
  oldKeys: ReadonlyMap<string, string>,
): TimelineChanges {
  const { key, name, rate, counting } = timeline;
  if (!before) {
    const changes = timeline.events.map((e): EventChange => ({ kind: 'added', event: shown(e) }));
    return { key, name, rate, counting, only: 'newer', kept: [], changes };
  }
  const identity = (event: EditEvent, clipKey: string | null) =>
    clipKey ?? (event.nestedKey === null ? 'black' : `nest ${event.name}`);
  const olds = before.events.map((event): Open => ({ event, clip: identity(event, event.clipKey), isPaired: false }));
  const news = timeline.events.map((event): Open => {
    const clipKey = event.clipKey === null ? null : (oldKeys.get(event.clipKey) ?? `new ${event.clipKey}`);
    return { event, clip: identity(event, clipKey), isPaired: false };
  });
  // Versions at different rates are compared by time.
  const recordOf = (event: EditEvent): FrameRange =>
    sameRate(before.rate, rate) ? event.record : convertRangeOutward(event.record, before.rate, rate);
  const shownBefore = (event: EditEvent): ComparedEvent => ({ ...shown(event), record: recordOf(event) });
  const changes: EventChange[] = [];
  const paired = (
    identityOf: (open: Open, record: FrameRange) => string,
    tell: (event: EditEvent, was: EditEvent) => EventChange | null,
  ) => {
    const waiting = new Map<string, Open[]>();
    for (const old of olds) {
      if (old.isPaired) continue;
      const id = identityOf(old, recordOf(old.event));
      waiting.set(id, [...(waiting.get(id) ?? []), old]);
    }
    for (const open of news) {
      if (open.isPaired) continue;
      const list = waiting.get(identityOf(open, open.event.record));
      const old = list?.shift();
      if (!old) continue;
      const change = tell(open.event, old.event);
      open.isPaired = old.isPaired = true;
      if (change) changes.push(change);
    }
  };
  const source = ({ source, speed }: EditEvent) => `${source?.start} ${source?.end} ${speed.num}/${speed.den}`;
  const kept: ComparedEvent[] = [];
  paired(
    (o, r) => [o.clip, o.event.track, source(o.event), r.start, r.end].join('|'),
    (event) => {
      kept.push(shown(event));
      return null;
    },
  );
  paired(
    (o, r) => [o.clip, o.event.track, source(o.event), r.end - r.start].join('|'),
    (event, was) => moved(event, shownBefore(was)),
  );
  paired(
    (o, r) => [o.clip, source(o.event), r.end - r.start].join('|'),
    (event, was) => moved(event, shownBefore(was)),
  );
  pairOverlaps(olds, news, (event, was) => changes.push(trimmed(event, was, shownBefore(was))));
  paired(
    (o, r) => [o.event.track, r.start].join('|'),
    (event, was) => ({ kind: 're-sourced', event: shown(event), before: shownBefore(was) }),
  );
  for (const { event, isPaired } of news) if (!isPaired) changes.push({ kind: 'added', event: shown(event) });
  for (const { event, isPaired } of olds) if (!isPaired) changes.push({ kind: 'removed', before: shownBefore(event) });
  const place = (c: EventChange) => (c.kind === 'removed' ? c.before : c.event).record.start;
  return { key, name, rate, counting, only: null, kept, changes: changes.toSorted((a, b) => place(a) - place(b)) };
}

/** Of events of one clip, each takes the one whose source overlaps its own the most, in record order. */
function pairOverlaps(
  olds: readonly Open[],
  news: readonly Open[],
  tell: (event: EditEvent, was: EditEvent) => void,
): void {
  const byClip = new Map<string, Open[]>();
  for (const old of olds) if (!old.isPaired) byClip.set(old.clip, [...(byClip.get(old.clip) ?? []), old]);
  for (const open of news) {
    if (open.isPaired || !open.event.source) continue;
    let best: { old: Open; shared: number } | null = null;
    for (const old of byClip.get(open.clip) ?? []) {
      const both = old.isPaired || !old.event.source ? null : intersectRanges(old.event.source, open.event.source);
      const shared = both ? rangeLength(both) + (old.event.track === open.event.track ? 0.5 : 0) : 0;
      if (shared > (best?.shared ?? 0)) best = { old, shared };
    }
    if (!best) continue;
    open.isPaired = best.old.isPaired = true;
    tell(open.event, best.old.event);
  }
}

const shown = ({ number, name, track, trackKind, clipKey, record }: EditEvent): ComparedEvent => ({
  number,
  name,
  track,
  trackKind,
  clipKey,
  record,
});

const moved = (event: EditEvent, before: ComparedEvent): EventChange => ({
  kind: 'moved',
  event: shown(event),
  before,
  byFrames: event.record.start - before.record.start,
});

const trimmed = (event: EditEvent, was: EditEvent, before: ComparedEvent): EventChange => ({
  kind: 'trimmed',
  event: shown(event),
  before,
  headFrames: (was.source?.start ?? 0) - (event.source?.start ?? 0),
  tailFrames: (event.source?.end ?? 0) - (was.source?.end ?? 0),
});
