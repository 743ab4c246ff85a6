import { useMemo, useState } from 'react';
import type { ClipRow } from '@legame/core/contract';
import type { ShownTimeline } from '../../api/timelines.ts';
import { isDarkTone, type Tone } from '../../app/drawTracks.ts';
import { everything, inFront, type CutFilter } from './filter.ts';
import { startsOf } from './tracks.ts';

/** Which events stand in front, as somebody asked, and where of those the dark ones begin. */
export function useFront(timeline: ShownTimeline, tones: readonly Tone[], rows: ReadonlyMap<string, ClipRow>) {
  const [filter, setFilter] = useState<CutFilter>(everything);
  const front = useMemo(() => inFront(timeline, tones, rows, filter), [timeline, tones, rows, filter]);
  const isDarkInFront = useMemo(
    () => (place: number) => isDarkTone(tones[place]!) && (front === null || front.has(place)),
    [tones, front],
  );
  const dark = useMemo(
    () => startsOf(timeline.events.filter((_, place) => isDarkInFront(place))),
    [timeline, isDarkInFront],
  );
  return { filter, setFilter, front, dark, isDarkInFront };
}
