import type { Edit, TransitionIn } from '../../model/edit.ts';
import { rangeLength, type FrameRange } from '../../time/range.ts';
import { nominalRate } from '../../time/rate.ts';
import { formatTimecode } from '../../time/timecode.ts';
import type { WriteScope } from '../format.ts';
import { partOf, spansOfTrack, tracksOfTimeline, type Span } from '../spans.ts';
import { reelToken } from './relink.ts';

/**
 * One track of one timeline as a list (by default the first track of the first top timeline): a line a cut, two for
 * what comes in over another, M2 for speeds, names and source files as comments. Nests are resolved into what shows.
 * Source timecode of clips at another rate is converted by time.
 */
export function writeEdl(edit: Edit, scope: WriteScope = {}): string {
  const timeline =
    edit.timelines.find((t) => (scope.timelineKey === undefined ? t.top : t.key === scope.timelineKey)) ??
    edit.timelines[0];
  if (!timeline) return `TITLE: ${oneLine(edit.title)}\r\n`;
  const track = scope.track ?? tracksOfTimeline(timeline)[0] ?? 'V1';
  const { rate, counting } = timeline;
  const lines = [`TITLE: ${oneLine(timeline.name)}`, `FCM: ${counting === 'drop' ? 'DROP FRAME' : 'NON-DROP FRAME'}`];
  const times = (source: FrameRange, record: FrameRange) =>
    [source.start, source.end, record.start, record.end].map((f) => formatTimecode(f, rate, counting)).join(' ');
  let number = 0;

  const line = (span: Span | null, how: string, source: FrameRange, record: FrameRange) => {
    const reel = span?.clip ? reelToken(span.clip.reel ?? 'AX') : 'BL';
    lines.push(
      `${String(number).padStart(3, '0')}  ${reel.padEnd(8)} ${trackToken(track).padEnd(5)} ${how.padEnd(8)} ${times(source, record)}`,
    );
  };
  const speed = (span: Span | null, source: FrameRange) => {
    if (!span?.clip || span.speed.num === span.speed.den) return;
    const fps = (span.speed.num / span.speed.den) * nominalRate(rate);
    const entry = span.speed.num < 0 ? source.end - 1 : source.start;
    const shown = `${fps < 0 ? '-' : ''}${trimmed(Math.abs(fps)).padStart(5, '0')}`;
    lines.push(
      `M2   ${reelToken(span.clip.reel ?? 'AX').padEnd(8)}       ${shown.padEnd(10)} ${formatTimecode(entry, rate, counting)}`,
    );
  };
  const files = (...spans: (Span | null)[]) => {
    for (const span of spans) if (span?.clip?.remembered) lines.push(`* SOURCE FILE: ${oneLine(span.clip.remembered)}`);
  };
  const names = (from: Span | null, to: Span | null) => {
    if (from?.clip) lines.push(`* FROM CLIP NAME: ${oneLine(from.clip.name)}`);
    if (to?.clip) lines.push(`* TO CLIP NAME: ${oneLine(to.clip.name)}`);
  };

  /** A dissolve, wipe or key over `from`, whose source runs on for `under` record frames. */
  const pair = (from: Span | null, to: Span | null, how: string, at: number, under: number, toRecord: FrameRange) => {
    number += 1;
    const none = { start: at, end: at };
    const outgoing = from
      ? partOf(from.source, readIn(from), { start: at, end: at + under }, from.speed)
      : { start: 0, end: 0 };
    const edge = from && from.speed.num < 0 ? outgoing.end : outgoing.start;
    line(from, 'C', { start: edge, end: edge }, none);
    // A single source file below both lines would be the second's.
    const isFromsAlone = from?.clip?.remembered && !to?.clip?.remembered;
    if (isFromsAlone) files(from);
    const incoming = to ? partOf(to.source, readIn(to), toRecord, to.speed) : { start: 0, end: rangeLength(toRecord) };
    line(to, how, incoming, toRecord);
    speed(from, outgoing);
    speed(to, incoming);
    names(from, to);
    if (!isFromsAlone) files(from, to);
  };

  const spans = spansOfTrack(edit, timeline, track);
  spans.forEach((span, i) => {
    const before = spans[i - 1] ?? null;
    const after = spans[i + 1];
    // The first line of a pair as it was read: it comes out again with the line that comes in over it.
    if (rangeLength(span.record) === 0 && after?.transition) return;
    const record = {
      start: span.record.start - span.head,
      end: span.record.end - (after?.transition && after.record.start === span.record.end ? after.head : 0),
    };
    const over = span.transition && span.transition.kind !== 'key-background' ? span.transition : null;
    if (over) {
      const touches = before && before.record.end === span.record.start;
      pair(
        touches ? before : null,
        span,
        howOf(over, span),
        record.start,
        over.length || span.head + (touches ? before.tail : 0),
        record,
      );
    } else {
      number += 1;
      const source = partOf(span.source, readIn(span), record, span.speed);
      line(span.clip ? span : null, span.transition ? 'K B' : 'C', source, record);
      speed(span, source);
      names(span, null);
      files(span);
    }
    // A fade out: the source runs on under nothing.
    const fades =
      span.tail > 0 && rangeLength(span.record) > 0 && !(after?.transition && after.record.start === span.record.end);
    if (fades && !span.transition?.kind.startsWith('key')) {
      const { end } = span.record;
      pair(span, null, `D    ${pad3(span.tail)}`, end, span.tail, { start: end, end: end + span.tail });
    }
  });
  return `${lines.join('\r\n')}\r\n`;
}

const readIn = ({ record, head, tail }: Span): FrameRange => ({ start: record.start - head, end: record.end + tail });

function howOf({ kind, wipe, length }: TransitionIn, span: Span): string {
  const shown = pad3(length || span.head);
  switch (kind) {
    case 'wipe':
      return `W${pad3(wipe ?? 1)} ${shown}`;
    case 'key':
    case 'key-background':
      return `K    ${shown}`;
    case 'key-out':
      return `K O  ${shown}`;
    case 'dissolve':
    case 'custom':
      return `D    ${shown}`;
  }
}

/** The first picture track is called V; sound tracks keep their numbers, the first being A. */
const trackToken = (track: string): string => (track === 'V1' ? 'V' : track === 'A1' ? 'A' : track);
const pad3 = (n: number): string => String(n).padStart(3, '0');
const trimmed = (fps: number): string => (Number.isInteger(fps) ? fps.toFixed(1) : String(Number(fps.toFixed(3))));
/** A line end inside a name would make two lines of one. */
const oneLine = (text: string): string => text.replace(/[\r\n]+/g, ' ').trim();
