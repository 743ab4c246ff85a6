/** Small edits, written as other programs write them. Frames and times at 25 fps. */

export const pal = { rate: { num: 25, den: 1 } };
export const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: 25, value });
export const span = (start: number, length: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start),
  duration: time(length),
});

type ListEvent = { reel: string; from: string; to: string; name: string; file: string };

/** An event of a list: a second of a film of reel A001, remembered on a drive that has another name here. */
export const event = (name: string, from = '01:00:00:05', to = '01:00:01:05'): ListEvent => ({
  reel: 'A001',
  from,
  to,
  name,
  file: `/Volumes/KILN/day1/${name}`,
});

/** An EDL of single cuts. */
export function makeList(events: readonly ListEvent[]): string {
  const lines = events.flatMap((e, i) => [
    `${String(i + 1).padStart(3, '0')}  ${e.reel} V C ${e.from} ${e.to} 10:00:${String(i).padStart(2, '0')}:00 10:00:${String(i + 1).padStart(2, '0')}:00`,
    `* FROM CLIP NAME: ${e.name}`,
    `* SOURCE FILE: ${e.file}`,
  ]);
  return ['TITLE: TEST', ...lines, ''].join('\n');
}

/** A clip of twenty frames, of a file of fifty that begins at one hour. */
export const clipOf = (target_url: string, { start = 90_000, frames = 50, reel = '' } = {}) => ({
  OTIO_SCHEMA: 'Clip.2',
  name: target_url.split('/').at(-1),
  source_range: span(start + 5, 20),
  media_references: {
    DEFAULT_MEDIA: {
      OTIO_SCHEMA: 'ExternalReference.1',
      target_url,
      available_range: span(start, frames),
      ...(reel && { metadata: { camera: { reel } } }),
    },
  },
  active_media_reference_key: 'DEFAULT_MEDIA',
});

/** A timeline of one picture track. */
export const timelineOf = (...clips: readonly object[]) =>
  JSON.stringify({
    OTIO_SCHEMA: 'Timeline.1',
    name: 'cut',
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: clips }],
    },
  });
export const cutOf = (...urls: readonly string[]) => timelineOf(...urls.map((url) => clipOf(url)));
