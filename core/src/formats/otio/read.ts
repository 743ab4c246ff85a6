import { normalSpeed, type Bin, type EditEvent, type Marker, type Timeline } from '../../model/edit.ts';
import { withUsedRanges } from '../../model/uses.ts';
import type { Remark } from '../../remarks/remark.ts';
import { shiftRange } from '../../time/range.ts';
import { rate as makeRate, type Rate } from '../../time/rate.ts';
import {
  addSeconds,
  compareSeconds,
  framesIn,
  framesTouched,
  subtractSeconds,
  zeroSeconds,
  type Seconds,
  type TimeWindow,
} from '../../time/seconds.ts';
import { ClipGatherer } from '../clips.ts';
import { noChoices, type ReadOptions, type ReadResult } from '../format.ts';
import { markersOf, framesMarked, shownOn } from './markers.ts';
import { isWhole, reachOf, readSpan, speedOf, transitionInto } from './effects.ts';
import { isObject, listOf, nestingLimit, parseJson, pointerStep, textOf, type JsonObject } from './json.ts';
import { spellingKey } from '../../paths/remembered.ts';
import { activeReference, assumedCounting, nothingReferenced, ownNotes, readReference } from './references.ts';
import { kindOf, olderThan, schemaOf } from './schemas.ts';
import { frameRange, readRationalTime, readTimeRange, toSeconds, type TimeSpan } from './time.ts';

/**
 * Reads an OpenTimelineIO document: collections become bins, every timeline its own, nested compositions timelines
 * that are not top. What is not understood gets a remark with its JSON pointer and stays in the document untouched.
 */
export function readOtio(text: string, options: ReadOptions): ReadResult {
  const parsed = parseJson(text);
  if (!parsed.ok) return parsed;
  const root = parsed.value;
  if (!isObject(root) || !schemaOf(root)) {
    return { ok: false, fault: { code: 'no-edit-inside', found: 'JSON without an OTIO_SCHEMA at its root' } };
  }
  const reader = new OtioReader(options);
  const fallbackName = options.name.replace(/\.[^.]*$/, '');
  try {
    reader.member(root, '', null, true, fallbackName);
  } catch (error) {
    if (error instanceof NestedTooDeep) return { ok: false, fault: { code: 'nested-too-deep', limit: nestingLimit } };
    throw error;
  }
  const gathered = reader.clips.clips(reader.timelines[0]?.rate ?? makeRate(24));
  if (gathered.length === 0 && reader.timelines.length === 0) {
    const found = `an OTIO document of schema ${schemaOf(root)}, with neither clip nor timeline`;
    return { ok: false, fault: { code: 'no-edit-inside', found } };
  }
  return {
    ok: true,
    remarks: [...parsed.remarks, ...reader.remarks],
    edit: {
      title: textOf(root.name) ?? fallbackName,
      bins: reader.bins,
      clips: withUsedRanges(gathered, reader.timelines),
      timelines: reader.timelines,
    },
    choices: {
      ...noChoices,
      referenceKeys: [...reader.referenceKeys].map(([key, clips]) => ({ key, clips })),
    },
  };
}

class NestedTooDeep extends Error {}

type TrackAt = {
  readonly label: string;
  readonly trackKind: EditEvent['trackKind'];
  readonly rate: Rate;
  /** First record frame of the timeline. */
  readonly start: number;
  readonly events: EditEvent[];
  readonly markers: Marker[];
};

/** An item with its neighbours on the track and the moment at which it begins. */
type ItemAt = {
  readonly track: TrackAt;
  readonly position: Seconds;
  readonly before: unknown;
  readonly after: unknown;
  readonly pointer: string;
};

class OtioReader {
  readonly bins: Bin[] = [];
  readonly timelines: Timeline[] = [];
  readonly remarks: Remark[] = [];
  readonly clips = new ClipGatherer();
  /** Keys of media references, of clips that have several, with the number of clips that have each. */
  readonly referenceKeys = new Map<string, number>();
  readonly #options: ReadOptions;
  #depth = 0;

  constructor(options: ReadOptions) {
    this.#options = options;
  }

  /** One child of a collection, or the root: a bin, a timeline, or a clip that no timeline uses yet. */
  member(value: unknown, pointer: string, binKey: string | null, isRoot = false, fallbackName = ''): void {
    if (!isObject(value)) return this.#notUnderstood(pointer, typeof value);
    this.#checkVersion(value, pointer);
    this.#deeper(() => this.#member(value, pointer, binKey, isRoot, fallbackName));
  }

  #deeper<T>(read: () => T): T {
    this.#depth += 1;
    if (this.#depth > nestingLimit / 2) throw new NestedTooDeep();
    const result = read();
    this.#depth -= 1;
    return result;
  }

  #member(value: JsonObject, pointer: string, binKey: string | null, isRoot: boolean, fallbackName: string): void {
    switch (kindOf(value)) {
      case 'SerializableCollection': {
        // The outermost collection is the project itself, not a bin in it.
        const key = isRoot ? null : `bin-${this.bins.length + 1}`;
        if (key) this.bins.push({ key, name: textOf(value.name) ?? 'unnamed bin', parentKey: binKey });
        listOf(value.children).forEach((child, i) => this.member(child, `${pointer}/children${pointerStep(i)}`, key));
        return;
      }
      case 'Timeline':
      case 'Stack':
      case 'Track':
        this.#timeline(value, pointer, true, fallbackName);
        return;
      case 'Clip':
        this.#seeClip(value, pointer, null, binKey);
        return;
      default:
        this.#unknownSchema(value, pointer);
    }
  }

  /** A timeline, or a composition standing for one. Returns its key, and its length for whoever nests it. */
  #timeline(value: JsonObject, pointer: string, top: boolean, fallbackName: string) {
    const isTimeline = kindOf(value) === 'Timeline';
    const stack = isTimeline ? value.tracks : value;
    const stackPointer = isTimeline ? `${pointer}/tracks` : pointer;
    const globalStart = this.#time(value, 'global_start_time', pointer);
    const rate = globalStart?.rate ?? firstRate(stack) ?? this.#assumeRate(pointer);
    const start = globalStart ? framesIn(toSeconds(globalStart), rate, 'down') : 0;
    const index = this.timelines.length;
    const key = `timeline-${index + 1}`;
    const name = textOf(value.name) ?? (fallbackName || `unnamed ${index + 1}`);
    const events: EditEvent[] = [];
    const markers: Marker[] = [];
    const trackNames: Record<string, string> = {};
    const counting = assumedCounting(rate);
    const timeline = { key, name, rate, counting, start, length: 0, top, events, trackNames, markers };
    this.timelines.push(timeline);
    // A nest's own trim and speed are its parent's to apply; those of a timeline's stack have nobody else.
    const isLayered = isObject(stack) && kindOf(stack) === 'Stack' && !(isTimeline && isTrimmed(stack));
    const tracks = isLayered ? listOf(stack.children) : [stack];
    // From the timeline's own zero on.
    const own = (marked: TimeWindow) => shiftRange(framesMarked(marked, rate), start);
    if (isLayered) markers.push(...markersOf(stack, stackPointer, null, own, this.remarks));
    const counts = { picture: 0, sound: 0 };
    let longest = zeroSeconds;
    tracks.forEach((track, i) => {
      const trackPointer = isLayered ? `${stackPointer}/children${pointerStep(i)}` : stackPointer;
      if (!isObject(track)) return this.#notUnderstood(trackPointer, typeof track);
      const trackKind = track.kind === 'Audio' ? ('sound' as const) : ('picture' as const);
      counts[trackKind] += 1;
      const label = `${trackKind === 'sound' ? 'A' : 'V'}${counts[trackKind]}`;
      const called = kindOf(track) === 'Track' ? textOf(track.name)?.trim() : undefined;
      if (called && called !== label) trackNames[label] = called;
      // A track that is trimmed, or runs at a speed, is a nest of its own.
      const isPlain = kindOf(track) === 'Track' && !(isLayered && isTrimmed(track));
      const items = isPlain ? listOf(track.children) : [track];
      const pointerOf = (n: number) => (isPlain ? `${trackPointer}/children${pointerStep(n)}` : trackPointer);
      if (isPlain) this.#checkVersion(track, trackPointer);
      if (isPlain) markers.push(...markersOf(track, trackPointer, label, own, this.remarks));
      const end = this.#track(items, pointerOf, { label, trackKind, rate, start, events, markers });
      if (compareSeconds(end, longest) > 0) longest = end;
    });
    this.timelines[index] = { ...timeline, length: framesIn(longest, rate, 'up') };
    return { key, length: longest, rate };
  }

  /** The items of one track, laid end to end; a transition has no length of its own but reaches into its neighbours. */
  #track(items: readonly unknown[], pointerOf: (n: number) => string, track: TrackAt): Seconds {
    let position = zeroSeconds;
    for (const [n, item] of items.entries()) {
      const pointer = pointerOf(n);
      if (!isObject(item)) {
        this.#notUnderstood(pointer, typeof item);
        continue;
      }
      this.#checkVersion(item, pointer);
      if (kindOf(item) === 'Transition') {
        this.#time(item, 'in_offset', pointer);
        this.#time(item, 'out_offset', pointer);
        continue;
      }
      const at = { track, position, before: items[n - 1], after: items[n + 1], pointer };
      position = addSeconds(position, this.#item(item, at));
    }
    return position;
  }

  /** One item of a track; returns how long it is on the record side. */
  #item(item: JsonObject, at: ItemAt): Seconds {
    const trimmed = this.#range(item, 'source_range', at.pointer);
    switch (kindOf(item)) {
      case 'Gap':
        if (trimmed) this.#marked(item, at, shownOn(at, trimmed, normalSpeed));
        return trimmed?.length ?? zeroSeconds;
      case 'Clip': {
        const seen = this.#seeClip(item, at.pointer, at.track.trackKind, null);
        const span = trimmed ?? seen?.available ?? null;
        if (!span) {
          this.remarks.push({ at: { path: at.pointer }, code: 'clip-without-range', name: textOf(item.name) ?? '' });
          return zeroSeconds;
        }
        const sourceRate = seen?.rate ?? span.rate;
        this.#marked(item, at, shownOn(at, span, speedOf(item)));
        if (seen && trimmed) this.#remarkFraction(trimmed, sourceRate, at.pointer);
        this.#event(item, at, { clipKey: seen?.key ?? null, nestedKey: null }, span, seen ? sourceRate : null);
        return span.length;
      }
      case 'Stack':
      case 'Track':
      case 'Timeline': {
        const nested = this.#deeper(() => this.#timeline(item, at.pointer, false, `nest on ${at.track.label}`));
        const span = trimmed ?? { start: zeroSeconds, length: nested.length, rate: nested.rate };
        this.#event(item, at, { clipKey: null, nestedKey: nested.key }, span, nested.rate);
        return span.length;
      }
      default:
        this.#unknownSchema(item, at.pointer);
        return trimmed?.length ?? zeroSeconds;
    }
  }

  #marked(item: JsonObject, { track, pointer }: ItemAt, recordOf: Parameters<typeof markersOf>[3]): void {
    track.markers.push(...markersOf(item, pointer, track.label, recordOf, this.remarks));
  }

  #event(
    item: JsonObject,
    at: ItemAt,
    of: Pick<EditEvent, 'clipKey' | 'nestedKey'>,
    span: TimeSpan,
    sourceRate: Rate | null,
  ): void {
    const { track } = at;
    const reach = reachOf(at.before, at.after);
    const speed = speedOf(item);
    const read = readSpan(span, reach, speed);
    const end = addSeconds(at.position, span.length);
    const cuts = { start: at.position, end };
    const shown = { start: subtractSeconds(at.position, reach.head), end: addSeconds(end, reach.tail) };
    const frame = (moment: Seconds) => track.start + framesIn(moment, track.rate, 'down');
    const record = { start: frame(cuts.start), end: frame(cuts.end) };
    track.events.push({
      number: track.events.length + 1,
      name: textOf(item.name) ?? '',
      track: track.label,
      trackKind: track.trackKind,
      ...of,
      source: sourceRate && framesTouched(read, sourceRate),
      record,
      head: record.start - frame(shown.start),
      tail: frame(shown.end) - record.end,
      speed,
      transition: transitionInto(at.before, track.rate),
      rounded:
        !isWhole(cuts, track.rate) ||
        !isWhole(shown, track.rate) ||
        (sourceRate !== null && !isWhole(read, sourceRate)),
      address: at.pointer,
    });
  }

  /** Notes the clip's reference. Null when it needs no media: a generator, or no reference at all. */
  #seeClip(clip: JsonObject, pointer: string, trackKind: EditEvent['trackKind'] | null, binKey: string | null) {
    this.#countKeys(clip);
    const active = activeReference(clip, pointer, this.#options.referenceKey);
    if (!active) this.remarks.push({ at: { path: pointer }, code: 'reference-missing', name: textOf(clip.name) ?? '' });
    else {
      this.#checkVersion(active.value, active.pointer);
      const kind = kindOf(active.value);
      if (kind === 'GeneratorReference') return null;
      // A reference of a kind that nobody here knows may still say what is available, and its clip is as dark as any.
      if (!['ExternalReference', 'ImageSequenceReference', 'MissingReference'].includes(kind))
        this.#unknownSchema(active.value, active.pointer);
      this.#range(active.value, 'available_range', active.pointer);
    }
    const reference = active
      ? readReference(active.value, active.pointer, clip, this.#options.folder)
      : nothingReferenced(clip, pointer);
    const read = readTimeRange(clip.source_range);
    const rate = (reference.available ?? read)?.rate ?? null;
    const name = textOf(clip.name) ?? reference.name ?? 'unnamed clip';
    const key = this.clips.see({
      identity:
        reference.remembered !== null
          ? spellingKey(reference.remembered)
          : `missing\u0000${reference.reel ?? ''}\u0000${reference.name ?? name}`,
      name,
      reel: reference.reel,
      remembered: reference.remembered,
      kind: reference.kind ?? (trackKind === 'sound' && !reference.remembered ? 'sound' : null),
      rate,
      counting: rate ? assumedCounting(rate) : 'non-drop',
      available: reference.available && rate ? frameRange(reference.available, rate) : null,
      used: read && rate && !reference.available ? frameRange(read, rate) : null,
      raster: reference.raster,
      address: reference.pointer,
      binKey,
      metadata: ownNotes(clip),
    });
    return { key, rate, available: reference.available };
  }

  #countKeys({ media_references: references }: JsonObject): void {
    const keys = isObject(references) ? Object.keys(references) : [];
    if (keys.length < 2) return;
    for (const key of keys) this.referenceKeys.set(key, (this.referenceKeys.get(key) ?? 0) + 1);
  }

  /** A time of an object; when it is there and cannot be understood, a remark says so. */
  #time(value: JsonObject, name: string, pointer: string) {
    const read = readRationalTime(value[name]);
    if (!read && isObject(value[name])) this.#timeNotUnderstood(value[name], `${pointer}/${name}`, name);
    return read;
  }

  #range(value: JsonObject, name: 'source_range' | 'available_range', pointer: string): TimeSpan | null {
    const given = value[name];
    const read = readTimeRange(given);
    if (!read && isObject(given)) {
      const part = ['start_time', 'duration'].find((p) => !readRationalTime(given[p])) ?? 'duration';
      this.#timeNotUnderstood(given[part], `${pointer}/${name}/${part}`, name);
    }
    return read;
  }

  #timeNotUnderstood(time: unknown, pointer: string, what: string): void {
    const shown = (part: unknown) => (JSON.stringify(part) ?? 'nothing').slice(0, 40);
    const [value, rate] = isObject(time) ? [shown(time.value), shown(time.rate)] : [shown(time), ''];
    this.remarks.push({ at: { path: pointer }, code: 'time-not-understood', what, value, rate });
  }

  #remarkFraction(span: TimeSpan, rate: Rate, pointer: string): void {
    const whole = isWhole({ start: span.start, end: addSeconds(span.start, span.length) }, rate);
    if (whole) return;
    const value = (Number(span.start.num) * rate.num) / (Number(span.start.den) * rate.den);
    this.remarks.push({ at: { path: pointer }, code: 'fraction-rounded-outward', value: Number(value.toFixed(6)) });
  }

  #checkVersion(value: JsonObject, pointer: string): void {
    const schema = schemaOf(value);
    const known = olderThan(schema);
    if (known !== null)
      this.remarks.push({ at: { path: pointer || '/' }, code: 'schema-version-unknown', schema, known });
  }

  #unknownSchema(value: JsonObject, pointer: string): void {
    this.remarks.push({ at: { path: pointer || '/' }, code: 'schema-unknown', schema: schemaOf(value) || '(none)' });
  }

  #assumeRate(pointer: string): Rate {
    this.remarks.push({ at: { path: pointer || '/' }, code: 'rate-unknown', value: '24' });
    return makeRate(24);
  }

  #notUnderstood(pointer: string, what: string): void {
    this.remarks.push({ at: { path: pointer || '/' }, code: 'child-not-understood', what });
  }
}

/** Whether a composition shows less than all of itself, or at another speed. */
function isTrimmed(composition: JsonObject): boolean {
  const speed = speedOf(composition);
  return readTimeRange(composition.source_range) !== null || speed.num !== speed.den;
}

/** The first rate met in a composition, picture first, which is what people mean by the rate of a timeline without one. */
function firstRate(value: unknown, depth = 0): Rate | null {
  if (!isObject(value) || depth > nestingLimit) return null;
  const own = readTimeRange(value.source_range)?.rate;
  if (kindOf(value) === 'Clip') {
    const reference = activeReference(value, '');
    return own ?? (reference ? (readTimeRange(reference.value.available_range)?.rate ?? null) : null);
  }
  if (own) return own;
  const isSound = (child: unknown) => isObject(child) && child.kind === 'Audio';
  const children = listOf(value.children);
  for (const child of [...children.filter((c) => !isSound(c)), ...children.filter(isSound)]) {
    const found = firstRate(child, depth + 1);
    if (found) return found;
  }
  return firstRate(value.tracks, depth + 1);
}
