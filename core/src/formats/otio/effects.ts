import { normalSpeed, type TransitionIn } from '../../model/edit.ts';
import type { Rate } from '../../time/rate.ts';
import {
  addSeconds,
  framesIn,
  isWholeFrame,
  ratioOf,
  scaleSeconds,
  secondsOf,
  subtractSeconds,
  zeroSeconds,
  type Ratio,
  type Seconds,
  type TimeWindow,
} from '../../time/seconds.ts';
import { isObject, listOf, textOf, type JsonObject } from './json.ts';
import { kindOf } from './schemas.ts';
import { readRationalTime, toSeconds, type TimeSpan } from './time.ts';

/** All time effects of an item as one speed: LinearTimeWarp factors multiply, a FreezeFrame stops. */
export function speedOf(item: JsonObject): Ratio {
  let speed = 1;
  for (const effect of listOf(item.effects)) {
    if (!isObject(effect)) continue;
    const kind = kindOf(effect);
    if (kind === 'FreezeFrame') return { num: 0, den: 1 };
    if (kind === 'LinearTimeWarp' && typeof effect.time_scalar === 'number') speed *= effect.time_scalar;
  }
  return ratioOf(speed) ?? normalSpeed;
}

/** How far an item's source is read beyond its cuts: by the transition before it, and by the one after it. */
export type Reach = { readonly head: Seconds; readonly tail: Seconds };

export const reachOf = (before: unknown, after: unknown): Reach => ({
  head: offsetOf(before, 'in_offset'),
  tail: offsetOf(after, 'out_offset'),
});

const isTransition = (value: unknown): value is JsonObject => isObject(value) && kindOf(value) === 'Transition';

function offsetOf(neighbour: unknown, side: 'in_offset' | 'out_offset'): Seconds {
  const offset = isTransition(neighbour) ? readRationalTime(neighbour[side]) : null;
  return offset && offset.millionths > 0n ? toSeconds(offset) : zeroSeconds;
}

/** The transition that brings an item in, with its whole length in frames of the timeline. */
export function transitionInto(before: unknown, rate: Rate): TransitionIn | null {
  if (!isTransition(before)) return null;
  const kind = textOf(before.transition_type) === 'SMPTE_Dissolve' ? 'dissolve' : 'custom';
  const length = addSeconds(offsetOf(before, 'in_offset'), offsetOf(before, 'out_offset'));
  return { kind, wipe: null, length: framesIn(length, rate, 'up') };
}

/**
 * The source time an item really reads. `span` is what lies between its cuts as its source_range says: its length is
 * record time, so speed stretches it. Backwards, the transition before it reads at the far end.
 */
export function readSpan(span: TimeSpan, { head, tail }: Reach, speed: Ratio): TimeWindow {
  if (speed.num === 0) return { start: span.start, end: addSeconds(span.start, secondsOf(1, span.rate)) };
  const factor = { num: Math.abs(speed.num), den: speed.den };
  const [early, late] = speed.num > 0 ? [head, tail] : [tail, head];
  return {
    start: subtractSeconds(span.start, scaleSeconds(early, factor)),
    end: addSeconds(span.start, scaleSeconds(addSeconds(span.length, late), factor)),
  };
}

export const isWhole = (window: TimeWindow, rate: Rate): boolean =>
  isWholeFrame(window.start, rate) && isWholeFrame(window.end, rate);
