import { rate, type Rate } from '../core/src/time/rate.ts';

/** Parts of an OTIO document, as another program writes them. */
export const listRate = rate(25);

const decimal = (r: Rate): number => (r.den === 1 ? r.num : Number((r.num / r.den).toFixed(6)));
export const time = (value: number, r: Rate) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: decimal(r), value });
export const span = (start: number, frames: number, r: Rate) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  duration: time(frames, r),
  start_time: time(start, r),
});

export const gap = (frames: number) => ({
  OTIO_SCHEMA: 'Gap.1',
  metadata: {},
  name: '',
  source_range: span(0, frames, listRate),
  effects: [],
  markers: [],
});
export const dissolve = (frames: number) => ({
  OTIO_SCHEMA: 'Transition.1',
  metadata: {},
  name: '',
  transition_type: 'SMPTE_Dissolve',
  in_offset: time(frames / 2, listRate),
  out_offset: time(frames / 2, listRate),
});

/** A mark from the timeline's zero on, in its frames. */
export const marker = (from: number, frames: number, color: string, name: string, comment = '') => ({
  OTIO_SCHEMA: 'Marker.2',
  metadata: {},
  name,
  color,
  comment,
  marked_range: span(from, frames, listRate),
});
export const track = (name: string, kind: 'Video' | 'Audio', children: unknown[]) => ({
  OTIO_SCHEMA: 'Track.1',
  metadata: {},
  name,
  source_range: null,
  effects: [],
  markers: [],
  kind,
  children,
});
export const stack = (name: string, children: unknown[], markers: unknown[] = []) => ({
  OTIO_SCHEMA: 'Stack.1',
  metadata: {},
  name,
  source_range: null,
  effects: [],
  markers,
  children,
});
export const timeline = (name: string, tracks: unknown[], markers: unknown[] = []) => ({
  OTIO_SCHEMA: 'Timeline.1',
  metadata: { colour_script: { version: 7, untouched: [1.0, 9007199254740993n.toString()] } },
  name,
  global_start_time: time(900_000, listRate),
  tracks: stack('tracks', tracks, markers),
});
export const bin = (name: string, children: unknown[]) => ({
  OTIO_SCHEMA: 'SerializableCollection.1',
  metadata: {},
  name,
  children,
});
