import type { Bin, EditEvent, Timeline } from '../../model/edit.ts';
import type { Remark } from '../../remarks/remark.ts';
import { rate as makeRate, type Rate } from '../../time/rate.ts';
import type { FrameRange } from '../../time/range.ts';
import { ClipGatherer } from '../clips.ts';
import type { ReadOptions, ReadResult } from '../format.ts';
import { isObject, listOf, parseJson, pointerStep, textOf, type JsonObject } from './json.ts';
import { activeReference, assumedCounting, readReference, schemaOf } from './references.ts';
import {
  addSeconds,
  frameRange,
  framesIn,
  readRationalTime,
  readTimeRange,
  toSeconds,
  zeroSeconds,
  type Seconds,
  type TimeSpan,
} from './time.ts';

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
  const reader = new OtioReader();
  const fallbackName = options.name.replace(/\.[^.]*$/, '');
  reader.member(root, '', null, true, fallbackName);
  const clips = reader.clips.clips(reader.uses, reader.timelines[0]?.rate ?? makeRate(24));
  if (clips.length === 0 && reader.timelines.length === 0) {
    return {
      ok: false,
      fault: {
        code: 'no-edit-inside',
        found: `an OTIO document of schema ${schemaOf(root)}, with neither clip nor timeline`,
      },
    };
  }
  return {
    ok: true,
    remarks: reader.remarks,
    edit: { title: textOf(root.name) ?? fallbackName, bins: reader.bins, clips, timelines: reader.timelines },
  };
}

type Placed = { readonly start: Seconds; readonly length: Seconds };

class OtioReader {
  readonly bins: Bin[] = [];
  readonly timelines: Timeline[] = [];
  readonly remarks: Remark[] = [];
  readonly clips = new ClipGatherer();
  readonly uses = new Map<string, FrameRange[]>();

  /** One child of a collection, or the root: a bin, a timeline, or a clip that no timeline uses yet. */
  member(value: unknown, pointer: string, binKey: string | null, isRoot = false, fallbackName = ''): void {
    if (!isObject(value)) return this.#notUnderstood(pointer, typeof value);
    const schema = schemaOf(value);
    const kind = schema.replace(/\.\d+$/, '');
    switch (kind) {
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
        this.remarks.push({ at: { path: pointer || '/' }, code: 'schema-unknown', schema: schema || '(none)' });
    }
  }

  /** A timeline, or a composition standing for one. Returns its key, and its length for whoever nests it. */
  #timeline(
    value: JsonObject,
    pointer: string,
    top: boolean,
    fallbackName: string,
  ): { key: string; length: Seconds; rate: Rate } {
    const isTimeline = schemaOf(value).startsWith('Timeline.');
    const stack = isTimeline ? value.tracks : value;
    const stackPointer = isTimeline ? `${pointer}/tracks` : pointer;
    const rate = readRationalTime(value.global_start_time)?.rate ?? firstRate(stack) ?? this.#assumeRate(pointer);
    const globalStart = readRationalTime(value.global_start_time);
    const start = globalStart ? framesIn(toSeconds(globalStart), rate, 'down') : 0;
    const tracks = isObject(stack) && schemaOf(stack).startsWith('Stack.') ? listOf(stack.children) : [stack];
    const tracksPointer =
      isObject(stack) && schemaOf(stack).startsWith('Stack.')
        ? (i: number) => `${stackPointer}/children${pointerStep(i)}`
        : () => stackPointer;
    const index = this.timelines.length;
    const key = `timeline-${index + 1}`;
    const name = textOf(value.name) ?? (fallbackName || `unnamed ${index + 1}`);
    const counting = assumedCounting(rate);
    this.timelines.push({ key, name, rate, counting, start, length: 0, top, events: [] });
    const events: EditEvent[] = [];
    let longest = zeroSeconds;
    const counts = { picture: 0, sound: 0 };
    tracks.forEach((track, i) => {
      if (!isObject(track)) return this.#notUnderstood(tracksPointer(i), typeof track);
      const trackKind = track.kind === 'Audio' ? ('sound' as const) : ('picture' as const);
      counts[trackKind] += 1;
      const label = `${trackKind === 'sound' ? 'A' : 'V'}${counts[trackKind]}`;
      const isTrack = schemaOf(track).startsWith('Track.');
      const items = isTrack ? listOf(track.children) : [track];
      const end = this.#track(
        items,
        isTrack ? (n) => `${tracksPointer(i)}/children${pointerStep(n)}` : () => tracksPointer(i),
        {
          label,
          trackKind,
          rate,
          start,
          events,
        },
      );
      if (compare(end, longest) > 0) longest = end;
    });
    this.timelines[index] = { key, name, rate, counting, start, length: framesIn(longest, rate, 'up'), top, events };
    return { key, length: longest, rate };
  }

  /** The items of one track, laid end to end; a transition has no length of its own but reaches into its neighbours. */
  #track(
    items: readonly unknown[],
    pointerOf: (n: number) => string,
    track: { label: string; trackKind: 'picture' | 'sound'; rate: Rate; start: number; events: EditEvent[] },
  ): Seconds {
    let position = zeroSeconds;
    items.forEach((item, n) => {
      const pointer = pointerOf(n);
      if (!isObject(item)) return this.#notUnderstood(pointer, typeof item);
      const kind = schemaOf(item).replace(/\.\d+$/, '');
      if (kind === 'Transition') return;
      const placed = this.#item(item, kind, pointer, { ...track, position, before: items[n - 1], after: items[n + 1] });
      position = addSeconds(position, placed);
    });
    return position;
  }

  #item(
    item: JsonObject,
    kind: string,
    pointer: string,
    at: {
      label: string;
      trackKind: 'picture' | 'sound';
      rate: Rate;
      start: number;
      position: Seconds;
      events: EditEvent[];
      before: unknown;
      after: unknown;
    },
  ): Seconds {
    const trimmed = readTimeRange(item.source_range);
    const event = (fields: Pick<EditEvent, 'clipKey' | 'nestedKey' | 'source'>, { start, length }: Placed) => {
      const record = {
        start: at.start + framesIn(start, at.rate, 'down'),
        end: at.start + framesIn(addSeconds(start, length), at.rate, 'down'),
      };
      const number = at.events.length + 1;
      at.events.push({
        number,
        name: textOf(item.name) ?? '',
        track: at.label,
        trackKind: at.trackKind,
        record,
        ...fields,
      });
    };
    switch (kind) {
      case 'Gap':
        return trimmed?.length ?? zeroSeconds;
      case 'Clip': {
        const seen = this.#seeClip(item, pointer, at.trackKind, null);
        const span = trimmed ?? seen?.available ?? null;
        if (!span) {
          this.remarks.push({ at: { path: pointer }, code: 'clip-without-range', name: textOf(item.name) ?? '' });
          return zeroSeconds;
        }
        const source = seen?.rate ? frameRange(usedSpan(span, item, at.before, at.after), seen.rate) : null;
        if (seen && source) this.#use(seen.key, source);
        event({ clipKey: seen?.key ?? null, nestedKey: null, source }, { start: at.position, length: span.length });
        return span.length;
      }
      case 'Stack':
      case 'Track':
      case 'Timeline': {
        const nested = this.#timeline(item, pointer, false, '');
        const length = trimmed?.length ?? nested.length;
        const source = frameRange(trimmed ?? { start: zeroSeconds, length, rate: nested.rate }, nested.rate);
        event({ clipKey: null, nestedKey: nested.key, source }, { start: at.position, length });
        return length;
      }
      default:
        this.remarks.push({ at: { path: pointer }, code: 'schema-unknown', schema: schemaOf(item) || '(none)' });
        return trimmed?.length ?? zeroSeconds;
    }
  }

  /** Notes the clip's active reference. Null when it needs no media: a generator, or no reference at all. */
  #seeClip(clip: JsonObject, pointer: string, trackKind: 'picture' | 'sound' | null, binKey: string | null) {
    const active = activeReference(clip, pointer);
    if (!active) {
      this.remarks.push({ at: { path: pointer }, code: 'reference-missing', name: textOf(clip.name) ?? '' });
      return null;
    }
    const reference = readReference(active.value, active.pointer, clip);
    const schema = reference.schema.replace(/\.\d+$/, '');
    if (schema === 'GeneratorReference') return null;
    if (!['ExternalReference', 'ImageSequenceReference', 'MissingReference'].includes(schema)) {
      this.remarks.push({ at: { path: active.pointer }, code: 'schema-unknown', schema: reference.schema || '(none)' });
      return null;
    }
    const span = reference.available ?? readTimeRange(clip.source_range);
    const rate = span?.rate ?? null;
    const name = textOf(clip.name) ?? reference.name ?? 'unnamed clip';
    const key = this.clips.see({
      identity: reference.remembered ?? `missing\u0000${reference.reel ?? ''}\u0000${reference.name ?? name}`,
      name,
      reel: reference.reel,
      remembered: reference.remembered,
      kind: reference.kind ?? (trackKind === 'sound' && !reference.remembered ? 'sound' : null),
      rate,
      counting: rate ? assumedCounting(rate) : 'non-drop',
      available: reference.available && rate ? frameRange(reference.available, rate) : null,
      raster: reference.raster,
      address: reference.pointer,
      binKey,
    });
    return { key, rate, available: reference.available };
  }

  #use(key: string, range: FrameRange): void {
    const known = this.uses.get(key);
    if (known) known.push(range);
    else this.uses.set(key, [range]);
  }

  #assumeRate(pointer: string): Rate {
    this.remarks.push({ at: { path: pointer || '/' }, code: 'rate-unknown', value: '24' });
    return makeRate(24);
  }

  #notUnderstood(pointer: string, what: string): void {
    this.remarks.push({ at: { path: pointer || '/' }, code: 'child-not-understood', what });
  }
}

/** The source span an item really reads: stretched by its speed, and by the transitions on either side of it. */
function usedSpan(span: TimeSpan, item: JsonObject, before: unknown, after: unknown): TimeSpan {
  const speed = speedOf(item);
  if (speed === 0) return { ...span, length: { num: BigInt(span.rate.den), den: BigInt(span.rate.num) } };
  const head = transitionOffset(before, 'in_offset');
  const tail = transitionOffset(after, 'out_offset');
  const factor = BigInt(Math.round(Math.abs(speed) * 1_000_000));
  const scale = (s: Seconds): Seconds => ({ num: s.num * factor, den: s.den * 1_000_000n });
  const early = scale(head);
  return {
    start: addSeconds(span.start, { num: -early.num, den: early.den }),
    length: addSeconds(early, scale(addSeconds(span.length, tail))),
    rate: span.rate,
  };
}

function transitionOffset(neighbour: unknown, side: 'in_offset' | 'out_offset'): Seconds {
  if (!isObject(neighbour) || !schemaOf(neighbour).startsWith('Transition.')) return zeroSeconds;
  const offset = readRationalTime(neighbour[side]);
  return offset ? toSeconds(offset) : zeroSeconds;
}

function speedOf(item: JsonObject): number {
  let speed = 1;
  for (const effect of listOf(item.effects)) {
    if (!isObject(effect)) continue;
    if (schemaOf(effect).startsWith('FreezeFrame.')) return 0;
    if (
      schemaOf(effect).startsWith('LinearTimeWarp.') &&
      typeof effect.time_scalar === 'number' &&
      Math.abs(effect.time_scalar) < 1e6
    ) {
      speed *= effect.time_scalar;
    }
  }
  return speed;
}

/** The first rate met in a composition, picture first, which is what people mean by the rate of a timeline without one. */
function firstRate(value: unknown): Rate | null {
  if (!isObject(value)) return null;
  const own = readTimeRange(value.source_range)?.rate;
  if (own && !schemaOf(value).startsWith('Clip.')) return own;
  const children = [...listOf(value.children)].sort(
    (a, b) => Number(isObject(a) && a.kind === 'Audio') - Number(isObject(b) && b.kind === 'Audio'),
  );
  if (schemaOf(value).startsWith('Clip.')) {
    const reference = activeReference(value, '');
    return own ?? (reference ? (readTimeRange(reference.value.available_range)?.rate ?? null) : null);
  }
  for (const child of children) {
    const found = firstRate(child);
    if (found) return found;
  }
  return firstRate(value.tracks);
}

const compare = (a: Seconds, b: Seconds): number => {
  const difference = a.num * b.den - b.num * a.den;
  return difference > 0n ? 1 : difference < 0n ? -1 : 0;
};
