import { tracksOf } from '../../model/tracks.ts';
import type { Remark } from '../../remarks/remark.ts';
import type { FrameRange } from '../../time/range.ts';
import { nominalRate, type Rate } from '../../time/rate.ts';

/** So many seconds of timecode apart hardly any device goes on recording into one file. */
const far = 3600;

type Reading = {
  readonly line: number;
  readonly key: string;
  readonly name: string;
  readonly stretch: FrameRange | null;
};

/** Clips of one name of which more is read further on than one recording reaches: each at the line where that is. */
export function checkStretches(readings: readonly Reading[], rate: Rate): Remark[] {
  const byKey = new Map<string, (Reading & { stretch: FrameRange })[]>();
  for (const reading of readings) {
    if (!reading.stretch) continue;
    const list = byKey.get(reading.key) ?? [];
    byKey.set(reading.key, list);
    list.push({ ...reading, stretch: reading.stretch });
  }
  return [...byKey.values()].flatMap((list) => {
    list.sort((a, b) => a.stretch.start - b.stretch.start || a.line - b.line);
    let last = list[0]!;
    return list.slice(1).flatMap((reading): Remark[] => {
      const { line, name, stretch } = reading;
      const [apartInSeconds, afterLine] = [(stretch.start - last.stretch.end) / nominalRate(rate), last.line];
      if (stretch.end > last.stretch.end) last = reading;
      return apartInSeconds > far ? [{ at: { line }, code: 'name-far-apart', name, apartInSeconds, afterLine }] : [];
    });
  });
}

type Placed = { readonly line: number; readonly track: string; readonly record: FrameRange; readonly isOver: boolean };

/**
 * Gaps on the first picture track, and overlaps on any, each at the line of the later event. Lists are checked in record
 * order, whatever order they are written in. What is keyed over a background overlaps it by nature.
 */
export function checkRecord(events: readonly Placed[]): Remark[] {
  const byTrack = new Map<string, Placed[]>();
  for (const event of events) {
    if (event.isOver || event.record.end === event.record.start) continue;
    for (const track of tracksOf(event.track)) {
      const list = byTrack.get(track);
      if (list) list.push(event);
      else byTrack.set(track, [event]);
    }
  }
  const remarks: Remark[] = [];
  const said = new Set<string>();
  for (const [track, list] of byTrack) {
    list.sort((a, b) => a.record.start - b.record.start || a.line - b.line);
    let last: Placed | null = null;
    for (const event of list) {
      const between: number = last ? event.record.start - last.record.end : 0;
      const at = { line: event.line };
      if (last && between < 0 && !said.has(`${event.line} ${last.line}`)) {
        said.add(`${event.line} ${last.line}`);
        remarks.push({ at, code: 'record-overlap', overlapInFrames: -between, withLine: last.line });
      }
      if (last && between > 0 && track === 'V1')
        remarks.push({ at, code: 'record-gap', gapInFrames: between, afterLine: last.line });
      if (!last || event.record.end > last.record.end) last = event;
    }
  }
  return remarks;
}
