import { useMemo } from 'react';
import type { ClipRow } from '@legame/core/contract';
import type { ShownTimeline } from '../../api/timelines.ts';
import { toneOf } from '../../app/drawTracks.ts';
import { marksOf } from './markers.ts';
import { edgesOf, tracksOf } from './tracks.ts';

/** So much of the screen's height is for tracks. */
const mostForTracks = 260;

/** What of a timeline is drawn, and the frames that keys go to: edges of events, and what is noted. */
export function useDrawn(timeline: ShownTimeline, rows: ReadonlyMap<string, ClipRow>) {
  const tracks = useMemo(() => tracksOf(timeline.events, mostForTracks, timeline.trackNames), [timeline]);
  // One list for all renders, or the strip of the whole timeline would be drawn anew at each turn of the wheel.
  const order = useMemo(() => tracks.map((track) => track.name), [tracks]);
  const tones = useMemo(() => timeline.events.map((e, i) => toneOf(e, i, timeline, rows)), [timeline, rows]);
  const edges = useMemo(() => edgesOf(timeline.events), [timeline]);
  const noted = useMemo(() => marksOf(timeline.markers), [timeline]);
  return { tracks, order, tones, edges, noted };
}
