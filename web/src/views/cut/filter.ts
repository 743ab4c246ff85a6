import { rangeLength, uniteRanges } from '@legame/core/time';
import type { StatusName } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import type { ShownTimeline } from '../../api/timelines.ts';
import { isDarkTone, type Tone } from '../../app/drawTracks.ts';
import type { Track } from './tracks.ts';

/** Which events stand in front; the others step back, and nothing is hidden. */
export type CutFilter = { readonly only: 'all' | 'dark' | StatusName; readonly text: string };
export const everything: CutFilter = { only: 'all', text: '' };

/**
 * The places of events that stand in front; null where all do. Text is looked for in name, file, reel and track, by
 * either of its names.
 */
export function inFront(
  { events, trackNames }: Pick<ShownTimeline, 'events' | 'trackNames'>,
  tones: readonly Tone[],
  rows: ReadonlyMap<string, ClipRow>,
  { only, text }: CutFilter,
): ReadonlySet<number> | null {
  const wanted = text.trim().toLowerCase();
  if (only === 'all' && wanted === '') return null;
  return new Set(
    events.flatMap((event, place) => {
      const tone = tones[place]!;
      if (only === 'dark' ? !isDarkTone(tone) : only !== 'all' && tone !== only) return [];
      if (wanted === '') return [place];
      const row = event.clipId === null ? undefined : rows.get(event.clipId);
      const said = [event.name, event.track, trackNames[event.track], row?.fileName, row?.reel];
      return said.some((one) => one?.toLowerCase().includes(wanted)) ? [place] : [];
    }),
  );
}

/** In how many frames of a track something dark shows, each counted once. */
export const darkFramesOf = ({ events }: Track, tones: readonly Tone[]): number =>
  uniteRanges(events.flatMap(({ event, place }) => (isDarkTone(tones[place]!) ? [event.record] : []))).reduce(
    (sum, range) => sum + rangeLength(range),
    0,
  );

/** The kinds of darkness there are among events, as they stand. */
export const darkTonesOf = (tones: readonly Tone[]): StatusName[] =>
  [...new Set(tones)].filter((tone): tone is StatusName => isDarkTone(tone));
