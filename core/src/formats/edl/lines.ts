/** One line of a list, with its number (from 1), its text and its own line end, so that nothing is lost on the way out. */
export type EdlLine = { readonly line: number; readonly text: string; readonly end: string } & (
  | { readonly kind: 'title'; readonly title: string }
  | { readonly kind: 'counting'; readonly drop: boolean }
  | { readonly kind: 'event'; readonly event: RawEvent }
  | { readonly kind: 'speed'; readonly reel: string; readonly framesPerSecond: number; readonly entry: string }
  | { readonly kind: 'audio'; readonly channels: string }
  | { readonly kind: 'split' }
  | { readonly kind: 'comment'; readonly label: string; readonly value: string }
  | { readonly kind: 'blank' }
  | { readonly kind: 'unknown' }
);

export type RawEvent = {
  readonly number: number;
  readonly reel: string;
  readonly track: string;
  /** C, D, Wnnn, K, KB, KO, or what stands there instead. */
  readonly transition: string;
  /** Length of a dissolve, wipe or key in record frames; 0 for a cut. */
  readonly transitionLength: number;
  readonly sourceIn: string;
  readonly sourceOut: string;
  readonly recordIn: string;
  readonly recordOut: string;
};

const timecode = /^\d{1,2}[:;.,]\d{1,2}[:;.,]\d{1,2}[:;.,]\d{1,3}$/;
export const knownTransition = /^(C|D|W\d{1,3}|K|KB|KO)$/;
const track = /^(?:V\d*|B|NONE|A{1,4}|A\d{1,3})(?:[/+](?:V\d*|A{1,4}|A\d{1,3}))*$/i;
const labels = [
  'FROM CLIP NAME',
  'TO CLIP NAME',
  'KEY CLIP NAME',
  'SOURCE FILE',
  'LOC',
  'COMMENT',
  'ASC_SOP',
  'ASC_SAT',
];
/** Event lines are under a hundred characters; an endless one is not taken apart. */
const longestLine = 4000;

/** Splits a list into lines of known kinds. LF, CRLF and CR all end a line. */
export function parseLines(text: string): EdlLine[] {
  const lines: EdlLine[] = [];
  const ends = /\r\n|\n|\r/g;
  let from = 0;
  while (from < text.length) {
    ends.lastIndex = from;
    const end = ends.exec(text);
    const to = end ? end.index : text.length;
    lines.push(parseLine(text.slice(from, to), end?.[0] ?? '', lines.length + 1));
    from = to + (end?.[0].length ?? 0);
    if (!end) break;
  }
  return lines;
}

// Lists are long: each kind is one plain object, for spreading a common base into it takes longer than the rest.
function parseLine(text: string, end: string, line: number): EdlLine {
  if (text.length > longestLine) return { line, text, end, kind: 'unknown' };
  const trimmed = text.trim();
  if (trimmed === '' || trimmed === '\u001a') return { line, text, end, kind: 'blank' };
  const first = trimmed.charCodeAt(0);
  if (first === 42) {
    const label = labelOf(trimmed);
    const value = label === '' ? trimmed.slice(1).trimStart() : trimmed.replace(afterLabel, '');
    return { line, text, end, kind: 'comment', label, value };
  }
  if (first >= 48 && first <= 57) {
    const event = parseEvent(trimmed.split(/\s+/));
    return event ? { line, text, end, kind: 'event', event } : { line, text, end, kind: 'unknown' };
  }
  const title = /^TITLE:\s*(.*)$/i.exec(trimmed);
  if (title) return { line, text, end, kind: 'title', title: title[1]! };
  const counting = /^FCM:\s*(NON[- ]?DROP|DROP)/i.exec(trimmed);
  if (counting) return { line, text, end, kind: 'counting', drop: /^drop/i.test(counting[1]!) };
  const speed = /^M2\s+(\S.*?)\s+([+-]?\d+(?:\.\d+)?)\s+(\S+)$/i.exec(trimmed);
  if (speed && timecode.test(speed[3]!)) {
    const [, reel = '', framesPerSecond, entry = ''] = speed;
    return { line, text, end, kind: 'speed', reel, framesPerSecond: Number(framesPerSecond), entry };
  }
  const audio = /^AUD\s+(\d{1,3}(?:[\s,]+\d{1,3})*)$/i.exec(trimmed);
  if (audio) return { line, text, end, kind: 'audio', channels: audio[1]! };
  return { line, text, end, kind: /^SPLIT\b/i.test(trimmed) ? 'split' : 'unknown' };
}

const label = new RegExp(`^\\*\\s*(${labels.join('|')})(?=:|\\s|$)`, 'i');
const afterLabel = new RegExp(`${label.source}\\s*:?\\s*`, 'i');
const labelOf = (trimmed: string): string => label.exec(trimmed)?.[1]?.toUpperCase() ?? '';

/** `NNN reel track transition [length] src-in src-out rec-in rec-out`; reels may hold spaces, keys a second letter. */
function parseEvent(parts: readonly string[]): RawEvent | null {
  if (parts.length < 8 || !/^\d+$/.test(parts[0]!)) return null;
  const times = parts.slice(-4);
  if (!times.every((t) => timecode.test(t))) return null;
  const middle = parts.slice(1, -4);
  const hasLength = middle.length > 3 && /^\d{1,6}$/.test(middle.at(-1)!) && !/^AUD$/i.test(middle.at(-2)!);
  const length = hasLength ? Number(middle.pop()) : 0;
  let transition = middle.pop()!.toUpperCase();
  // "K B" and "K O" are written apart as well; a lone B or O before them would be a track without a transition.
  if (/^[BO]$/.test(transition) && /^K$/i.test(middle.at(-1) ?? ''))
    transition = middle.pop()!.toUpperCase() + transition;
  const at = middle.findIndex((part, i) => i > 0 && track.test(part) && isTrackTail(middle.slice(i + 1)));
  const trackFrom = at < 0 ? 1 : at;
  const [reel, trackText] = [middle.slice(0, trackFrom).join(' '), middle.slice(trackFrom).join(' ')];
  if (reel === '' || trackText === '') return null;
  const [sourceIn, sourceOut, recordIn, recordOut] = times as [string, string, string, string];
  return {
    number: Number(parts[0]),
    reel,
    track: trackText.toUpperCase(),
    transition,
    transitionLength: length,
    sourceIn,
    sourceOut,
    recordIn,
    recordOut,
  };
}

const isTrackTail = (rest: readonly string[]): boolean => rest.length === 0 || /^AUD( \d{1,3})+$/i.test(rest.join(' '));
