import type { ShownTimeline } from '../../api/timelines.ts';
import { across } from './drawCut.ts';
import type { Sight } from './sight.ts';

export type Marker = ShownTimeline['markers'][number];
/** Markers that stand too close to be told apart, under one flag. */
export type Flag = readonly [Marker, ...Marker[]];

/** In dots. */
const apart = 10;
/** A flag tells so many; more is no tooltip any more. */
const mostTold = 12;

/** The flags of what is in sight, from the left. */
export function flagsIn(markers: readonly Marker[], sight: Sight, width: number): Flag[] {
  const x = across(sight, width);
  const flags: [Marker, ...Marker[]][] = [];
  for (const marker of inOrder(markers)) {
    const { start, end } = marker.record;
    if (end <= sight.from || start >= sight.to) continue;
    const last = flags.at(-1);
    if (last && x(start) - Math.max(0, x(last[0].record.start)) < apart) {
      if (last.length < mostTold) last.push(marker);
    } else flags.push([marker]);
  }
  return flags;
}

const inOrder = (markers: readonly Marker[]) => markers.toSorted((a, b) => a.record.start - b.record.start);

/** The frames that markers begin on, once each, in order. */
export const marksOf = (markers: readonly Marker[]): number[] => [
  ...new Set(inOrder(markers).map((marker) => marker.record.start)),
];

/** What stands at a frame. */
export const markersAt = (markers: readonly Marker[], frame: number): Marker[] =>
  markers.filter(({ record }) => record.start <= frame && frame < record.end);

/** What a marker says, in a line. */
export const markerText = ({ name, comment, track, color }: Marker): string =>
  [track, [name, comment].filter(Boolean).join(': ') || (color ? `${color.toLowerCase()} marker` : 'marker')]
    .filter(Boolean)
    .join(' · ');
