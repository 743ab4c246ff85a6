import type { EditEvent, Marker } from '../../model/edit.ts';
import type { Remark } from '../../remarks/remark.ts';
import type { Rate } from '../../time/rate.ts';
import { parseTimecode, type Counting } from '../../time/timecode.ts';
import type { EdlLine } from './lines.ts';

/** `record timecode, colour, words`, as several programs write what stands behind LOC. */
const located = /^(\S+)(?:\s+(\S+)(?:\s+(.*))?)?$/;

/**
 * What a list says beside its events: LOC lines at their record timecode, comments where the event above them begins. Those
 * whose timecode is none are remarked.
 */
export function markersIn(
  lines: readonly EdlLine[],
  events: readonly EditEvent[],
  { rate, counting }: { readonly rate: Rate; readonly counting: Counting },
  remarks: Remark[],
): Marker[] {
  const byLine = new Map(events.map((event) => [event.address, event]));
  const markers: Marker[] = [];
  let above: EditEvent | undefined;
  for (const line of lines) {
    if (line.kind === 'event') above = byLine.get(String(line.line)) ?? above;
    if (line.kind !== 'comment' || line.value === '') continue;
    const address = String(line.line);
    if (line.label === 'COMMENT' && above) {
      const { start } = above.record;
      markers.push({ name: '', comment: line.value, color: '', record: oneFrame(start), track: above.track, address });
    }
    if (line.label !== 'LOC') continue;
    const [, at = '', color = '', words = ''] = located.exec(line.value) ?? [];
    const parsed = parseTimecode(at, rate, counting);
    if (parsed.ok)
      markers.push({ name: words.trim(), comment: '', color, record: oneFrame(parsed.frames), track: null, address });
    else remarks.push({ at: { line: line.line }, code: 'line-not-understood', text: line.text.slice(0, 200) });
  }
  return markers;
}

const oneFrame = (start: number) => ({ start, end: start + 1 });
