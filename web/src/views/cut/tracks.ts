import type { ShownTimeline } from '../../api/timelines.ts';
import type { Sight } from './sight.ts';

export type CutEvent = ShownTimeline['events'][number];

/** A track as it lies on the screen: its events in order, with their places in the timeline. */
export type Track = {
  readonly name: string;
  /** What the document calls it besides; null where it calls it nothing else. */
  readonly called: string | null;
  readonly kind: CutEvent['trackKind'];
  readonly top: number;
  readonly height: number;
  readonly events: readonly { readonly event: CutEvent; readonly place: number }[];
  /** How far these and all before them reach: events of a list may lie over one another. */
  readonly reach: readonly number[];
};

const heights = { picture: 46, sound: 26 } as const;
const apart = 6;

/** Pictures above, the uppermost first; sound below. Of many tracks each is lower, down to a line. */
export function tracksOf(
  events: readonly CutEvent[],
  most: number,
  names: ShownTimeline['trackNames'] = {},
): readonly Track[] {
  const byName = new Map<string, { event: CutEvent; place: number }[]>();
  events.forEach((event, place) => {
    const list = byName.get(event.track);
    if (list) list.push({ event, place });
    else byName.set(event.track, [{ event, place }]);
  });
  const found = [...byName].map(([name, of]) => ({
    name,
    called: calledBesides(name, names[name] ?? ''),
    kind: of[0]!.event.trackKind,
    events: of.toSorted((a, b) => a.event.record.start - b.event.record.start),
  }));
  // A list may name its tracks in any order.
  const byNumber = found.toSorted((a, b) => inOrder.compare(a.name, b.name));
  const ordered = [
    ...byNumber.filter((t) => t.kind === 'picture').reverse(),
    ...byNumber.filter((t) => t.kind === 'sound'),
  ];
  const wanted = ordered.reduce((sum, t) => sum + heights[t.kind] + apart, 0);
  const scale = Math.min(1, most / Math.max(1, wanted));
  let top = 0;
  return ordered.map((track) => {
    const height = Math.max(3, heights[track.kind] * scale);
    const at = top;
    top += height + apart * scale;
    let end = -Infinity;
    const reach = track.events.map(({ event }) => (end = Math.max(end, event.record.end)));
    return { ...track, top: at, height, reach };
  });
}

const inOrder = new Intl.Collator('en', { numeric: true });

/** "A1 talk" is the A1 that is called talk. */
function calledBesides(name: string, called: string): string | null {
  const rest = called.slice(name.length);
  const isItsNumber = called.startsWith(name) && !/^[\p{L}\p{N}]/u.test(rest);
  return (isItsNumber ? rest.replace(/^[^\p{L}\p{N}]+/u, '') : called) || null;
}

export const heightOf = (tracks: readonly Track[]): number => {
  const last = tracks.at(-1);
  return last ? last.top + last.height : 0;
};

/** The events of a track of which something is in sight, one after another: of tens of thousands no list is made. */
export function* inSight({ events, reach }: Track, { from, to }: Sight): Generator<Track['events'][number], void> {
  let [low, high] = [0, events.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (reach[middle]! <= from) low = middle + 1;
    else high = middle;
  }
  for (let i = low; i < events.length && events[i]!.event.record.start < to; i += 1)
    if (events[i]!.event.record.end > from) yield events[i]!;
}

/** The event at a frame of the track that lies at this height. */
export function eventAt(tracks: readonly Track[], y: number, frame: number, slack: number): CutEvent | null {
  const track = tracks.find((t) => y >= t.top && y < t.top + t.height);
  const near = track ? [...inSight(track, { from: frame - slack, to: frame + slack })] : [];
  return (
    near.find(({ event: { record } }) => record.start <= frame && frame < record.end)?.event ?? near[0]?.event ?? null
  );
}

/** The clips of the events in sight, each once, as they begin from left to right; those above before those below. */
export function clipsInSight(tracks: readonly Track[], sight: Sight, most: number): string[] {
  const begun = new Map<string, number>();
  for (const track of tracks) {
    // A track's events come as they begin: after so many clips of it, none of its others is among the first.
    const ofTrack = new Set<string>();
    for (const { event } of inSight(track, sight)) {
      if (!event.clipId) continue;
      if (ofTrack.add(event.clipId).size > most) break;
      const at = Math.max(sight.from, event.record.start);
      if (at < (begun.get(event.clipId) ?? Infinity)) begun.set(event.clipId, at);
    }
  }
  return [...begun]
    .sort((a, b) => a[1] - b[1])
    .slice(0, most)
    .map(([id]) => id);
}

const ascending = (frames: readonly number[]): readonly number[] => [...new Set(frames)].sort((a, b) => a - b);

/** The edges of events, ascending, each once; and where they start. */
export const edgesOf = (events: readonly CutEvent[]): readonly number[] =>
  ascending(events.flatMap((e) => [e.record.start, e.record.end]));
export const startsOf = (events: readonly CutEvent[]): readonly number[] =>
  ascending(events.map((e) => e.record.start));

/** The next one after a frame, or the last before it; null where there is none. */
export function nextOf(frames: readonly number[], frame: number, way: 1 | -1): number | null {
  if (way === 1) return frames.find((at) => at > frame) ?? null;
  return frames.findLast((at) => at < frame) ?? null;
}
