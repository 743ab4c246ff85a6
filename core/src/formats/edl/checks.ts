import { tracksOf } from '../../model/tracks.ts';
import type { Remark } from '../../remarks/remark.ts';
import type { FrameRange } from '../../time/range.ts';

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
