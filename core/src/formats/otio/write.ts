import type { Clip, Edit, EditEvent, Marker, Timeline } from '../../model/edit.ts';
import { tracksOf } from '../../model/tracks.ts';
import { parseRememberedPath } from '../../paths/remembered.ts';
import { rangeLength, shiftRange, type FrameRange } from '../../time/range.ts';
import type { Rate } from '../../time/rate.ts';
import { addSeconds, scaleSeconds, secondsOf, type Seconds } from '../../time/seconds.ts';
import type { WriteScope } from '../format.ts';
import { fileUrl } from './relink.ts';

/**
 * An edit as a new OTIO document: one timeline by itself, or a collection with its bins, timelines and clips. Events
 * that overlap on one track go to tracks above it. Reels, rasters and notes stand in the metadata under "legame".
 */
export function writeOtio(edit: Edit, scope: WriteScope = {}): string {
  return `${JSON.stringify(otioOf(edit, scope), null, 4)}\n`;
}

/** The same as a value, for whoever puts it into a larger document. */
export function otioOf(edit: Edit, { timelineKey }: WriteScope = {}): object {
  const writer = new OtioWriter(edit);
  const chosen =
    timelineKey === undefined
      ? edit.timelines.filter((t) => t.top)
      : edit.timelines.filter((t) => t.key === timelineKey);
  const used = new Set(edit.timelines.flatMap((t) => t.events.map((e) => e.clipKey)));
  const loose = timelineKey === undefined ? edit.clips.filter((c) => c.binKey !== null || !used.has(c.key)) : [];
  if (chosen.length === 1 && loose.length === 0 && (edit.bins.length === 0 || timelineKey !== undefined))
    return writer.timeline(chosen[0]!);
  return {
    OTIO_SCHEMA: 'SerializableCollection.1',
    metadata: {},
    name: edit.title,
    children: [
      ...writer.bins(null, loose),
      ...chosen.map((t) => writer.timeline(t)),
      ...loose.filter((c) => c.binKey === null).map((c) => writer.clip(c, null)),
    ],
  };
}

class OtioWriter {
  readonly #clips: ReadonlyMap<string, Clip>;
  readonly #timelines: ReadonlyMap<string, Timeline>;
  readonly #edit: Edit;

  constructor(edit: Edit) {
    this.#edit = edit;
    this.#clips = new Map(edit.clips.map((c) => [c.key, c]));
    this.#timelines = new Map(edit.timelines.map((t) => [t.key, t]));
  }

  bins(parentKey: string | null, loose: readonly Clip[]): object[] {
    return this.#edit.bins
      .filter((bin) => bin.parentKey === parentKey)
      .map((bin) => ({
        OTIO_SCHEMA: 'SerializableCollection.1',
        metadata: {},
        name: bin.name,
        children: [
          ...this.bins(bin.key, loose),
          ...loose.filter((c) => c.binKey === bin.key).map((c) => this.clip(c, null)),
        ],
      }));
  }

  timeline(timeline: Timeline): object {
    return {
      OTIO_SCHEMA: 'Timeline.1',
      metadata: {},
      name: timeline.name,
      global_start_time: rationalTime(secondsOf(timeline.start, timeline.rate), timeline.rate),
      tracks: this.#stack(timeline, 'tracks', null, []),
    };
  }

  clip(
    clip: Clip,
    range: object | null,
    { name, effects }: { name?: string; effects?: readonly object[] } = {},
  ): object {
    const notes = Object.keys(clip.metadata).length > 0 ? { legame: { clip: clip.metadata } } : {};
    return {
      OTIO_SCHEMA: 'Clip.2',
      metadata: notes,
      name: name || clip.name,
      source_range: range,
      effects: effects ?? [],
      markers: [],
      enabled: true,
      media_references: { DEFAULT_MEDIA: referenceOf(clip) },
      active_media_reference_key: 'DEFAULT_MEDIA',
    };
  }

  #stack(timeline: Timeline, name: string, range: object | null, effects: readonly object[]): object {
    return {
      OTIO_SCHEMA: 'Stack.1',
      metadata: {},
      name,
      source_range: range,
      effects,
      markers: (timeline.markers ?? []).map((marker) => markerOf(marker, timeline)),
      enabled: true,
      children: this.#layers(timeline).map(({ label, events }) => ({
        OTIO_SCHEMA: 'Track.1',
        metadata: {},
        name: timeline.trackNames?.[label] ?? label,
        source_range: null,
        effects: [],
        markers: [],
        enabled: true,
        kind: label.startsWith('A') ? 'Audio' : 'Video',
        children: this.#items(events, timeline),
      })),
    };
  }

  /** The tracks in order, gaps in their numbering filled, and what overlaps on one moved to new ones of its kind. */
  #layers(timeline: Timeline): { label: string; events: EditEvent[] }[] {
    const layers: { label: string; events: EditEvent[] }[] = [];
    for (const kind of ['V', 'A']) {
      const events = timeline.events.flatMap((event) =>
        tracksOf(event.track)
          .filter((t) => t.startsWith(kind))
          .map((t) => ({ event, number: Number(t.slice(1)) })),
      );
      const tracks: EditEvent[][] = Array.from(
        { length: Math.min(999, Math.max(0, ...events.map((e) => e.number))) },
        () => [],
      );
      const overlapping: EditEvent[] = [];
      const inOrder = events.toSorted((a, b) => a.event.record.start - b.event.record.start);
      for (const { event, number } of inOrder) {
        const track = tracks[number - 1];
        if (track && fits(event, track)) track.push(event);
        else overlapping.push(event);
      }
      for (const event of overlapping) {
        const free = tracks.slice(-overlapping.length).find((t) => fits(event, t));
        if (free) free.push(event);
        else tracks.push([event]);
      }
      layers.push(...tracks.map((list, i) => ({ label: `${kind}${i + 1}`, events: list })));
    }
    return layers;
  }

  #items(events: readonly EditEvent[], timeline: Timeline): object[] {
    const items: object[] = [];
    const { rate } = timeline;
    const frames = (count: number) => rationalTime(secondsOf(count, rate), rate);
    const transition = (event: EditEvent | null, inOffset: number, outOffset: number) => ({
      OTIO_SCHEMA: 'Transition.1',
      metadata: {},
      name: event?.transition?.kind === 'wipe' ? `wipe ${event.transition.wipe ?? ''}`.trim() : '',
      transition_type: event && event.transition?.kind !== 'dissolve' ? 'Custom_Transition' : 'SMPTE_Dissolve',
      in_offset: frames(inOffset),
      out_offset: frames(outOffset),
    });
    let position = timeline.start;
    let [before, lastItem]: [EditEvent | null, EditEvent | null] = [null, null];
    events.forEach((event, i) => {
      const next = events[i + 1];
      // The from line of a list's dissolve says again what lies before it; only the reach of its source is new.
      if (rangeLength(event.record) === 0 && lastItem && next?.transition && goesOn(lastItem, event)) {
        before = event;
        return;
      }
      if (event.record.start > position) items.push(gap(event.record.start - position, rate));
      const touches = before !== null && before.record.end === event.record.start;
      if (event.transition && event.transition.kind !== 'key-background') {
        const out = touches ? before!.tail : event.transition.length - event.head;
        items.push(transition(event, event.head, Math.max(0, out)));
      }
      items.push(this.#item(event, timeline));
      const leads = next?.transition && next.record.start === event.record.end;
      if (event.tail > 0 && !leads) items.push(transition(null, 0, event.tail));
      position = event.record.end;
      before = event;
      lastItem = event;
    });
    return items;
  }

  #item(event: EditEvent, timeline: Timeline): object {
    const clip = event.clipKey === null ? undefined : this.#clips.get(event.clipKey);
    const nested = event.nestedKey === null ? undefined : this.#timelines.get(event.nestedKey);
    const sourceRate = clip?.rate ?? nested?.rate;
    if (!sourceRate || !event.source) return gap(rangeLength(event.record), timeline.rate);
    const range = {
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: rationalTime(startBetweenCuts(event, event.source, sourceRate, timeline.rate), sourceRate),
      duration: rationalTime(secondsOf(rangeLength(event.record), timeline.rate), timeline.rate),
    };
    const effects = effectsOf(event);
    return clip
      ? this.clip(clip, range, { name: event.name, effects })
      : this.#stack(nested!, event.name || nested!.name, range, effects);
  }
}

/** Whether an event is what its predecessor's source would go on with. */
const goesOn = (before: EditEvent, event: EditEvent): boolean =>
  before.clipKey === event.clipKey &&
  before.record.end === event.record.start &&
  before.speed.num * event.speed.den === event.speed.num * before.speed.den &&
  before.source !== null &&
  before.source.end === event.source?.start;

function fits(event: EditEvent, track: readonly EditEvent[]): boolean {
  const last = track.at(-1);
  return !last || event.record.start >= last.record.end;
}

/** Where the source stands at the first cut: what transitions read before it is not in a source_range. */
function startBetweenCuts(event: EditEvent, source: FrameRange, sourceRate: Rate, rate: Rate): Seconds {
  const before = event.speed.num < 0 ? event.tail : event.head;
  const factor = { num: Math.abs(event.speed.num), den: event.speed.den };
  return addSeconds(secondsOf(source.start, sourceRate), scaleSeconds(secondsOf(before, rate), factor));
}

function effectsOf({ speed }: EditEvent): object[] {
  if (speed.num === speed.den) return [];
  const isFrozen = speed.num === 0;
  return [
    {
      OTIO_SCHEMA: isFrozen ? 'FreezeFrame.1' : 'LinearTimeWarp.1',
      metadata: {},
      name: '',
      effect_name: isFrozen ? 'FreezeFrame' : 'LinearTimeWarp',
      time_scalar: speed.num / speed.den,
    },
  ];
}

const gap = (length: number, rate: Rate): object => ({
  OTIO_SCHEMA: 'Gap.1',
  metadata: {},
  name: '',
  source_range: timeRange({ start: 0, end: length }, rate),
  effects: [],
  markers: [],
  enabled: true,
});

function rationalTime(seconds: Seconds, rate: Rate): object {
  const frames = (seconds.num * BigInt(rate.num) * 1_000_000n) / (seconds.den * BigInt(rate.den));
  return { OTIO_SCHEMA: 'RationalTime.1', rate: rate.num / rate.den, value: Number(frames) / 1e6 };
}

const timeRange = (range: FrameRange, rate: Rate): object => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: rationalTime(secondsOf(range.start, rate), rate),
  duration: rationalTime(secondsOf(rangeLength(range), rate), rate),
});

/** A marker from the timeline's own zero on. One without a colour says none. */
const markerOf = ({ name, comment, color, record }: Marker, { start, rate }: Timeline): object => ({
  OTIO_SCHEMA: 'Marker.2',
  metadata: {},
  name,
  comment,
  ...(color ? { color } : {}),
  marked_range: timeRange(shiftRange(record, -start), rate),
});

function referenceOf(clip: Clip): object {
  const { reel, raster, remembered, available, rate } = clip;
  const own = { ...(reel === null ? {} : { reel }), ...(raster ?? {}) };
  const common = {
    metadata: Object.keys(own).length > 0 ? { legame: own } : {},
    available_range: available && timeRange(available, rate),
    available_image_bounds: null,
  };
  if (remembered === null) return { OTIO_SCHEMA: 'MissingReference.1', ...common, name: clip.name };
  const sequence = clip.kind === 'sequence' ? sequencePattern(remembered) : null;
  if (!sequence) return { OTIO_SCHEMA: 'ExternalReference.1', ...common, name: '', target_url: urlOf(remembered) };
  return {
    OTIO_SCHEMA: 'ImageSequenceReference.1',
    ...common,
    name: '',
    target_url_base: sequence.base,
    name_prefix: sequence.prefix,
    name_suffix: sequence.suffix,
    start_frame: available?.start ?? 0,
    frame_step: 1,
    rate: rate.num / rate.den,
    frame_zero_padding: sequence.padding,
    missing_frame_policy: 'error',
  };
}

/** The parts of a remembered sequence, whose frame number stands as a run of "#". */
function sequencePattern(remembered: string) {
  const { name } = parseRememberedPath(remembered);
  const match = /^(.*?)(#+)(.*)$/s.exec(name);
  if (!match) return null;
  const [, prefix = '', marks = '', suffix = ''] = match;
  const base = urlOf(remembered.replace(/[^/\\]*$/, ''));
  return { base, prefix, suffix, padding: marks.length };
}

/** A remembered path as a reference may state it: URLs as they are, paths of any system as file URLs. */
function urlOf(remembered: string): string {
  if (/^[a-z][a-z\d+.-]+:/i.test(remembered)) return remembered;
  return fileUrl(/^(?:[A-Za-z]:|\\\\)/.test(remembered) ? remembered.replaceAll('\\', '/') : remembered);
}
