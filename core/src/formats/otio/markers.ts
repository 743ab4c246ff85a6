import type { Marker } from '../../model/edit.ts';
import type { Remark } from '../../remarks/remark.ts';
import type { FrameRange } from '../../time/range.ts';
import type { Rate } from '../../time/rate.ts';
import {
  addSeconds,
  compareSeconds,
  divideSeconds,
  framesIn,
  subtractSeconds,
  type Ratio,
  type Seconds,
  type TimeWindow,
} from '../../time/seconds.ts';
import { isObject, listOf, pointerStep, textOf, type JsonObject } from './json.ts';
import { kindOf } from './schemas.ts';
import { readTimeRange, type TimeSpan } from './time.ts';

/**
 * The markers of an item or a composition. `recordOf` says which record frames a stretch of its own time shows as; null where
 * none, and then the marker is not shown either.
 */
export function markersOf(
  item: JsonObject,
  pointer: string,
  track: string | null,
  recordOf: (marked: TimeWindow) => FrameRange | null,
  remarks: Remark[],
): Marker[] {
  return listOf(item.markers).flatMap((value, i) => {
    const address = `${pointer}/markers${pointerStep(i)}`;
    if (!isObject(value)) remarks.push({ at: { path: address }, code: 'child-not-understood', what: typeof value });
    if (!isObject(value) || kindOf(value) !== 'Marker') return [];
    const marked = readTimeRange(value.marked_range);
    if (!marked) remarks.push(notUnderstood(value, address));
    const record = marked && recordOf({ start: marked.start, end: addSeconds(marked.start, marked.length) });
    if (!record) return [];
    const [name = '', comment = '', color = ''] = [value.name, value.comment, value.color].map((v) => textOf(v) ?? '');
    return [{ name, comment, color, record, track, address }];
  });
}

const notUnderstood = ({ marked_range: range }: JsonObject, pointer: string): Remark => {
  const value = (JSON.stringify(range) ?? 'nothing').slice(0, 40);
  return { at: { path: pointer }, code: 'time-not-understood', what: 'marked_range', value, rate: '' };
};

/** The frames on which a stretch is marked: from the one it begins in, and at least that one. */
export function framesMarked({ start, end }: TimeWindow, rate: Rate): FrameRange {
  const first = framesIn(start, rate, 'down');
  return { start: first, end: Math.max(first + 1, framesIn(end, rate, 'up')) };
}

/**
 * Where a stretch of an item's own time stands on the record side, for an item that shows `span` of it from `position` on.
 * What it does not show of it is nowhere; a stretch that reaches beyond is marked as far as it is shown.
 */
export function shownOn(
  { track: { rate, start }, position }: { track: { rate: Rate; start: number }; position: Seconds },
  span: TimeSpan,
  speed: Ratio,
): (marked: TimeWindow) => FrameRange | null {
  const end = addSeconds(position, span.length);
  const at = (moment: Seconds): Seconds => {
    const into = subtractSeconds(moment, span.start);
    if (speed.num === 0) return position;
    return addSeconds(speed.num > 0 ? position : end, divideSeconds(into, speed));
  };
  return (marked) => {
    const [a, b] = [at(marked.start), at(marked.end)];
    const [from, to] = compareSeconds(a, b) <= 0 ? [a, b] : [b, a];
    if (compareSeconds(from, end) >= 0 || compareSeconds(to, position) < 0) return null;
    const first = compareSeconds(from, position) < 0 ? position : from;
    const last = compareSeconds(to, end) > 0 ? end : to;
    const frames = framesMarked({ start: first, end: last }, rate);
    return { start: start + frames.start, end: start + frames.end };
  };
}
