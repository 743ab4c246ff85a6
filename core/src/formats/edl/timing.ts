import { normalSpeed } from '../../model/edit.ts';
import type { Remark } from '../../remarks/remark.ts';
import { rangeLength, scaleFrames, type FrameRange } from '../../time/range.ts';
import { hasDropFrame, nominalRate, type Rate } from '../../time/rate.ts';
import { ratioOf, type Ratio } from '../../time/seconds.ts';
import { framesPerDay, parseTimecode, type ParsedTimecode } from '../../time/timecode.ts';
import type { EdlEvent } from './events.ts';
import { needsMedia } from './grouping.ts';

/** When an event plays and what it reads, in frames at the list's rate. */
export type EventTiming = {
  readonly record: FrameRange;
  /** Speed, and the frames under an outgoing dissolve, included. */
  readonly source: FrameRange;
  readonly speed: Ratio;
  /** Record frames that the source runs on under the line that comes over it. */
  readonly tail: number;
};

/**
 * Where FCM changes in mid-list, writers disagree on whether the new counting is the source's alone or the record's
 * too. The record keeps the first one, unless the other reading makes more events equally long on both sides.
 */
export function settleCounting(events: readonly EdlEvent[], listRate: Rate): void {
  const between = events.filter((e) => e.recordDrop !== e.sourceDrop && !e.speed);
  const agree = (recordDrop: (e: EdlEvent) => boolean) =>
    between.filter((e) => {
      const source = readRange(e.raw.sourceIn, e.raw.sourceOut, e.sourceDrop, listRate).range;
      const record = readRange(e.raw.recordIn, e.raw.recordOut, recordDrop(e), listRate).range;
      return source && record && rangeLength(source) === rangeLength(record);
    }).length;
  if (agree((e) => e.sourceDrop) > agree((e) => e.recordDrop)) for (const e of events) e.recordDrop = e.sourceDrop;
}

/** Works out an event's times. Null, with a remark, when a timecode of it is impossible. */
export function timingOf(event: EdlEvent, listRate: Rate, remarks: Remark[]): EventTiming | null {
  const { raw, line } = event;
  const source = readRange(raw.sourceIn, raw.sourceOut, event.sourceDrop, listRate);
  const record = readRange(raw.recordIn, raw.recordOut, event.recordDrop, listRate);
  for (const { faults } of [record, source])
    for (const fault of faults) remarks.push({ at: { line }, code: 'timecode-impossible', fault });
  if (!source.range || !record.range) return null;
  const [played, stated] = [record.range, source.range];
  const tail = tailOf(event, listRate, rangeLength(played));
  if (event.speed) return withSpeed(event, event.speed, listRate, played, stated, tail, remarks);
  if (needsMedia(event) && rangeLength(stated) !== rangeLength(played)) {
    const [sourceInFrames, recordInFrames] = [rangeLength(stated), rangeLength(played)];
    remarks.push({ at: { line }, code: 'lengths-differ', sourceInFrames, recordInFrames });
  }
  return { record: played, source: { start: stated.start, end: stated.end + tail }, speed: normalSpeed, tail };
}

/**
 * A dissolve or wipe reads its outgoing source on for its length; a key's background without a length of its own is
 * read for as long as the key stands.
 */
function tailOf(event: EdlEvent, listRate: Rate, ownLength: number): number {
  const { over } = event;
  if (!over) return 0;
  if (/^[DW]/.test(over.raw.transition)) return over.raw.transitionLength;
  if (ownLength > 0) return 0;
  const key = readRange(over.raw.recordIn, over.raw.recordOut, over.recordDrop, listRate).range;
  return key ? rangeLength(key) : 0;
}

/**
 * Frames read at the speed of an M2 line, which counts source frames a second from its entry point. Some writers put
 * the true source length on the event line, others the record length: the true one is taken where it fits the speed.
 */
function withSpeed(
  event: EdlEvent,
  { line, framesPerSecond, entry }: NonNullable<EdlEvent['speed']>,
  listRate: Rate,
  record: FrameRange,
  stated: FrameRange,
  tail: number,
  remarks: Remark[],
): EventTiming {
  const speed = speedOf(framesPerSecond, listRate);
  const read = parse(entry, event.sourceDrop, listRate);
  if (!read.ok) remarks.push({ at: { line }, code: 'timecode-impossible', fault: read.fault });
  const start = read.ok ? read.frames : stated.start;
  if (speed.num === 0) return { record, source: { start, end: start + 1 }, speed, tail };
  const factor = { num: Math.abs(speed.num), den: speed.den };
  const [recordLength, sourceLength] = [rangeLength(record), rangeLength(stated)];
  const expected = scaleFrames(recordLength, factor, 'up');
  const fits = sourceLength > 0 && Math.abs(sourceLength - (recordLength * factor.num) / factor.den) <= 1;
  if (!fits && sourceLength !== recordLength) {
    remarks.push({
      at: { line },
      code: 'speed-disagrees',
      sourceInFrames: sourceLength,
      recordInFrames: recordLength,
      framesPerSecond,
      expectedInFrames: expected,
    });
  }
  const length = fits ? sourceLength : expected;
  const under = scaleFrames(tail, factor, 'up');
  if (speed.num > 0) return { record, source: { start, end: start + Math.max(1, length + under) }, speed, tail };
  // Backwards, the entry is the last frame of what is read; where the event line agrees, its own range counts.
  const end = fits && (start === stated.end || start === stated.end - 1) ? stated.end : start + 1;
  return { record, source: { start: end - Math.max(1, length + under), end }, speed, tail };
}

/** M2 writes 23.98 for 24000/1001 and 24 for both; what is within 0.06 of the list's rate runs at normal speed. */
export function speedOf(framesPerSecond: number, listRate: Rate): Ratio {
  const [exact, nominal] = [listRate.num / listRate.den, nominalRate(listRate)];
  const size = Math.abs(framesPerSecond);
  if (Math.min(Math.abs(size - exact), Math.abs(size - nominal)) <= 0.06)
    return framesPerSecond < 0 ? { num: -1, den: 1 } : normalSpeed;
  return ratioOf(framesPerSecond / (Number.isInteger(framesPerSecond) ? nominal : exact)) ?? normalSpeed;
}

type ReadRange = {
  readonly range: FrameRange | null;
  readonly faults: readonly Extract<ParsedTimecode, { ok: false }>['fault'][];
};

export function readRange(from: string, to: string, drop: boolean, listRate: Rate): ReadRange {
  const [start, end] = [parse(from, drop, listRate), parse(to, drop, listRate)];
  if (!start.ok || !end.ok)
    return { range: null, faults: [start, end].flatMap((read) => (read.ok ? [] : [read.fault])) };
  // A recording that runs past midnight ends at a smaller address than it began.
  const day = end.frames < start.frames ? framesPerDay(listRate, drop ? 'drop' : 'non-drop') : 0;
  return { range: { start: start.frames, end: end.frames + day }, faults: [] };
}

/** A timecode that marks itself as drop-frame is; else FCM says so, which means nothing at rates without drop-frame. */
function parse(text: string, drop: boolean, listRate: Rate): ParsedTimecode {
  if (/[;.,]\d+$/.test(text.trim())) return parseTimecode(text, listRate);
  return parseTimecode(text, listRate, drop && hasDropFrame(listRate) ? 'drop' : 'non-drop');
}
