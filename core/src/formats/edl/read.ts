import type { EditEvent } from '../../model/edit.ts';
import { parseRememberedPath } from '../../paths/remembered.ts';
import type { RateProposal, Remark } from '../../remarks/remark.ts';
import { rangeLength, scaleFrames, type FrameRange } from '../../time/range.ts';
import { rate, rateFromDecimal, type Rate } from '../../time/rate.ts';
import { framesPerDay, parseTimecode } from '../../time/timecode.ts';
import { ClipGatherer, kindOfName } from '../clips.ts';
import type { ReadOptions, ReadResult } from '../format.ts';
import { gatherEvents, parseLines, type EdlEvent, type EdlLine } from './lines.ts';

/**
 * Reads a list as one timeline. An EDL states no rate, so without `options.rate` the answer is a fault that proposes
 * the likely ones. Clips are events of one reel and one source file (or clip name); black needs no media; AX says no reel.
 */
export function readEdl(text: string, options: ReadOptions): ReadResult {
  const lines = parseLines(text);
  const { events: found, strays } = gatherEvents(lines);
  const remarks: Remark[] = strays.map(remarkOfStray);
  if (found.length === 0)
    return { ok: false, fault: { code: 'no-edit-inside', found: 'an EDL without an event line' } };
  if (!options.rate) return { ok: false, fault: { code: 'rate-needed', proposals: proposeRates(lines, found) } };

  const listRate = options.rate;
  const clips = new ClipGatherer();
  const uses = new Map<string, FrameRange[]>();
  const events: EditEvent[] = [];
  const lastOnTrack = new Map<string, { line: number; end: number }>();
  for (const [at, event] of found.entries()) {
    const { raw, line } = event;
    const record = readRange(raw.recordIn, raw.recordOut, event, listRate, remarks);
    const source = readRange(raw.sourceIn, raw.sourceOut, event, listRate, remarks);
    if (!record || !source) continue;
    if (!event.speed && rangeLength(source) !== rangeLength(record)) {
      remarks.push({
        at: { line },
        code: 'lengths-differ',
        sourceInFrames: rangeLength(source),
        recordInFrames: rangeLength(record),
      });
    }
    const before = lastOnTrack.get(raw.track);
    if (before && rangeLength(record) > 0 && record.start < before.end) {
      remarks.push({
        at: { line },
        code: 'record-overlap',
        overlapInFrames: before.end - record.start,
        withLine: before.line,
      });
    }
    if (rangeLength(record) > 0) lastOnTrack.set(raw.track, { line, end: record.end });
    const used = usedRange(event, found[at + 1], source, record, listRate);
    const clipKey = /^(BL|BLACK)$/i.test(raw.reel) ? null : clips.see(referenceOf(event, listRate));
    if (clipKey) {
      const known = uses.get(clipKey);
      if (known) known.push(used);
      else uses.set(clipKey, [used]);
    }
    events.push({
      number: raw.number,
      name: event.clipName ?? raw.reel,
      track: raw.track,
      trackKind: /^(NONE|V|V\d+|B|.*\/V)$/.test(raw.track) ? 'picture' : 'sound',
      clipKey,
      nestedKey: null,
      source: used,
      record,
    });
  }
  if (events.length === 0) {
    return {
      ok: false,
      fault: { code: 'no-edit-inside', found: 'an EDL in which no event has a possible timecode at this rate' },
    };
  }
  const title = lines.find((l) => l.kind === 'title')?.title || options.name.replace(/\.[^.]*$/, '');
  const start = Math.min(...events.map((e) => e.record.start));
  const end = Math.max(...events.map((e) => e.record.end));
  const drop = found.some((e) => e.drop);
  return {
    ok: true,
    remarks: remarks.sort((a, b) => lineOf(a) - lineOf(b)),
    edit: {
      title,
      bins: [],
      clips: clips.clips(uses, listRate),
      timelines: [
        {
          key: 'timeline-1',
          name: title,
          rate: listRate,
          counting: drop ? 'drop' : 'non-drop',
          start: start,
          length: end - start,
          top: true,
          events,
        },
      ],
    },
  };
}

function referenceOf(event: EdlEvent, listRate: Rate) {
  const { raw, clipName, sourceFile } = event;
  const reel = /^(AX|AUX)$/i.test(raw.reel) ? null : raw.reel;
  const remembered = sourceFile?.value || null;
  const name = clipName ?? (remembered ? parseRememberedPath(remembered).name : raw.reel);
  return {
    identity: `${reel ?? ''}\u0000${remembered ?? name}`,
    name,
    reel,
    remembered,
    kind: kindOfName(remembered ? parseRememberedPath(remembered).name : name),
    rate: listRate,
    counting: event.drop ? ('drop' as const) : ('non-drop' as const),
    available: null,
    raster: null,
    address: String(event.line),
    binKey: null,
  };
}

/** Frames read of the source: by the line itself, by M2 speed, or under a dissolve for the outgoing line of zero length. */
function usedRange(
  event: EdlEvent,
  next: EdlEvent | undefined,
  source: FrameRange,
  record: FrameRange,
  listRate: Rate,
): FrameRange {
  if (event.speed) {
    const entry = parseTimecode(event.speed.entry, listRate, event.drop ? 'drop' : 'non-drop');
    const start = entry.ok ? entry.frames : source.start;
    if (event.speed.framesPerSecond === 0) return { start, end: start + 1 };
    const speed = {
      num: Math.round(Math.abs(event.speed.framesPerSecond) * 1000) * listRate.den,
      den: 1000 * listRate.num,
    };
    const length = Math.max(1, scaleFrames(rangeLength(record), speed, 'up'));
    return event.speed.framesPerSecond < 0
      ? { start: start - length + 1, end: start + 1 }
      : { start, end: start + length };
  }
  const outgoing =
    next && next.raw.number === event.raw.number && next.raw.transition !== 'C' ? next.raw.transitionLength : 0;
  return { start: source.start, end: Math.max(source.end, source.start + rangeLength(source) + outgoing) };
}

function readRange(from: string, to: string, event: EdlEvent, listRate: Rate, remarks: Remark[]): FrameRange | null {
  const counting = event.drop ? 'drop' : 'non-drop';
  const [start, end] = [parseTimecode(from, listRate, counting), parseTimecode(to, listRate, counting)];
  for (const read of [start, end]) {
    if (!read.ok) remarks.push({ at: { line: event.line }, code: 'timecode-impossible', fault: read.fault });
  }
  if (!start.ok || !end.ok) return null;
  // A recording that runs past midnight ends at a smaller address than it began.
  const wraps = end.frames < start.frames;
  return { start: start.frames, end: wraps ? end.frames + framesPerDay(listRate, counting) : end.frames };
}

/** Which rates a list may be counting at: drop-frame exists at 29.97 only, and a frame number shows the least nominal rate. */
function proposeRates(lines: readonly EdlLine[], events: readonly EdlEvent[]): RateProposal[] {
  if (lines.some((l) => l.kind === 'counting' && l.drop)) {
    return [
      { rate: rate(30000, 1001), reason: { code: 'drop-frame-stated' } },
      { rate: rate(60000, 1001), reason: { code: 'drop-frame-stated' } },
    ];
  }
  let largest = { frame: -1, line: 0 };
  for (const { raw, line } of events) {
    for (const text of [raw.sourceIn, raw.sourceOut, raw.recordIn, raw.recordOut]) {
      const frame = Number(/\d+$/.exec(text)![0]);
      if (frame > largest.frame) largest = { frame, line };
    }
  }
  const possible = [24, 25, 29.97, 30, 23.976, 50, 59.94, 60].filter((r) => Math.ceil(r) > largest.frame);
  const least = Math.min(...possible.map((r) => Math.ceil(r)));
  const likely = possible.filter((r) => Math.ceil(r) === least);
  return [...likely, ...possible.filter((r) => !likely.includes(r))].map((r) => ({
    rate: rateFromDecimal(r)!,
    reason: likely.includes(r) ? { code: 'largest-frame' as const, ...largest } : { code: 'common' as const },
  }));
}

function remarkOfStray(line: EdlLine): Remark {
  const code = line.kind === 'speed' ? 'speed-without-event' : 'line-not-understood';
  return { at: { line: line.line }, code, text: line.text.slice(0, 200) };
}

const lineOf = (remark: Remark): number => ('line' in remark.at ? remark.at.line : 0);
