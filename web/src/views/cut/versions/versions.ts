import type { Comparison } from '@legame/core/contract';
import type { FrameRange } from '@legame/core/time';
import { allOf, type Sight } from '../sight.ts';

export type ComparedTimeline = Comparison['timelines'][number];
export type Change = ComparedTimeline['changes'][number];
type Event = NonNullable<Change['event']>;

/** What became of an event; `kept` where both versions have it alike. */
export type Mark = 'kept' | Change['kind'];

/** An event as it lies in one of the two versions. `change`: its place among the changes; null for what was kept. */
export type Placed = {
  readonly event: Event;
  readonly mark: Mark;
  readonly isDark: boolean;
  readonly change: number | null;
};

/** A track of one version: `top` and `height` in dots from the top of both. */
export type VersionTrack = {
  readonly side: 'before' | 'now';
  readonly name: string;
  readonly kind: Event['trackKind'];
  readonly top: number;
  readonly height: number;
  readonly events: readonly Placed[];
};

/** One event in both versions, joined by a line. */
export type Joined = { readonly before: FrameRange; readonly now: FrameRange; readonly change: number };

export type Versions = {
  readonly tracks: readonly VersionTrack[];
  /** Where the older version ends and the newer begins, in dots: lines lead from one to the other. */
  readonly gap: { readonly top: number; readonly height: number };
  readonly height: number;
  readonly joined: readonly Joined[];
  /** From the first frame of either to the last. */
  readonly whole: Sight;
};

const heights = { picture: 30, sound: 16 } as const;
const apart = 3;
const gapHeight = 40;

/**
 * Two versions of a timeline, the older above. Tracks lie as on the cut, pictures above; the newer version has them the other
 * way round, so that the pictures of both lie next to each other.
 */
export function layOutVersions({ kept, changes }: ComparedTimeline): Versions {
  const before: Placed[] = kept.map((event) => ({ event, mark: 'kept', isDark: false, change: null }));
  const now: Placed[] = kept.map((event) => ({ event, mark: 'kept', isDark: event.isDark, change: null }));
  const joined: Joined[] = [];
  changes.forEach(({ kind: mark, event, before: was, isDark }, change) => {
    if (was) before.push({ event: was, mark, isDark: false, change });
    if (event) now.push({ event, mark, isDark, change });
    if (was && event) joined.push({ before: was.record, now: event.record, change });
  });
  const above = stacked('before', before, 0);
  const gap = { top: heightOf(above), height: gapHeight };
  const below = stacked('now', now, gap.top + gap.height);
  const all = [...before, ...now].map(({ event }) => event.record);
  const start = all.reduce((least, r) => Math.min(least, r.start), Infinity);
  const end = all.reduce((most, r) => Math.max(most, r.end), -Infinity);
  return {
    tracks: [...above, ...below],
    gap,
    height: heightOf([...above, ...below]),
    joined: joined.toSorted((a, b) => a.now.start - b.now.start),
    whole: allOf(all.length > 0 ? { start, length: end - start } : { start: 0, length: 1 }),
  };
}

const heightOf = (tracks: readonly VersionTrack[]): number => {
  const last = tracks.at(-1);
  return last ? last.top + last.height : 0;
};

function stacked(side: VersionTrack['side'], all: readonly Placed[], from: number): VersionTrack[] {
  const byName = new Map<string, Placed[]>();
  for (const placed of all) {
    const list = byName.get(placed.event.track);
    if (list) list.push(placed);
    else byName.set(placed.event.track, [placed]);
  }
  const order = new Intl.Collator('en', { numeric: true });
  const found = [...byName].map(([name, list]) => ({
    name,
    kind: list[0]!.event.trackKind,
    events: list.toSorted((a, b) => a.event.record.start - b.event.record.start),
  }));
  const pictures = found.filter((t) => t.kind === 'picture').sort((a, b) => order.compare(a.name, b.name));
  const sounds = found.filter((t) => t.kind === 'sound').sort((a, b) => order.compare(a.name, b.name));
  // The first picture track is what most people look for: it lies next to the other version's.
  const ordered = side === 'before' ? [...sounds.reverse(), ...pictures.reverse()] : [...pictures, ...sounds];
  let top = from;
  return ordered.map((track) => {
    const at = top;
    top += heights[track.kind] + apart;
    return { side, ...track, top: at, height: heights[track.kind] };
  });
}

/** The event that lies at these dots; of several the last, which is drawn over the others. */
export function placedAt(
  { tracks }: Versions,
  {
    frame,
    y,
    slack,
  }: { frame: number; y: number; /** In frames; what is narrower than a dot is hit all the same. */ slack: number },
): Placed | null {
  const track = tracks.find((t) => y >= t.top && y < t.top + t.height);
  return (
    track?.events.findLast(({ event: { record } }) => record.start - slack <= frame && frame < record.end + slack) ??
    null
  );
}

/** Where a change lies in either version, for it to be brought into sight. */
export function stretchOfChange({ event, before }: Change): FrameRange {
  const [a, b] = [(event ?? before)!.record, (before ?? event)!.record];
  return { start: Math.min(a.start, b.start), end: Math.max(a.end, b.end) };
}

/** The address of a timeline's two versions, on the cut. */
export const versionsInAddress = (timeline: string): string =>
  new URLSearchParams({ timeline, versions: 'both' }).toString();
