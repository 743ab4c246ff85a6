/** One line of a list, with its number (from 1), its text and its own line end, so that nothing is lost on the way out. */
export type EdlLine = { readonly line: number; readonly text: string; readonly end: string } & (
  | { readonly kind: 'title'; readonly title: string }
  | { readonly kind: 'counting'; readonly drop: boolean }
  | { readonly kind: 'event'; readonly event: RawEvent }
  | { readonly kind: 'speed'; readonly reel: string; readonly framesPerSecond: number; readonly entry: string }
  | { readonly kind: 'comment'; readonly label: string; readonly value: string }
  | { readonly kind: 'blank' }
  | { readonly kind: 'unknown' }
);

export type RawEvent = {
  readonly number: number;
  readonly reel: string;
  readonly track: string;
  readonly transition: string;
  /** Length of a dissolve, wipe or key in record frames; 0 for a cut. */
  readonly transitionLength: number;
  readonly sourceIn: string;
  readonly sourceOut: string;
  readonly recordIn: string;
  readonly recordOut: string;
};

const timecode = /^\d{1,2}[:;.,]\d{1,2}[:;.,]\d{1,2}[:;.,]\d{1,3}$/;
const transition = /^(C|D|W\d{1,3}|K|KB|KO)$/i;
const labels = [
  'FROM CLIP NAME',
  'TO CLIP NAME',
  'SOURCE FILE',
  'LOC',
  'COMMENT',
  'ASC_SOP',
  'ASC_SAT',
  'KEY CLIP NAME',
];

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

function parseLine(text: string, end: string, line: number): EdlLine {
  const base = { line, text, end };
  const trimmed = text.trim();
  if (trimmed === '' || trimmed === '\u001a') return { ...base, kind: 'blank' };
  const title = /^TITLE:\s*(.*)$/i.exec(trimmed);
  if (title) return { ...base, kind: 'title', title: title[1]! };
  const counting = /^FCM:\s*(NON[- ]?DROP|DROP)/i.exec(trimmed);
  if (counting) return { ...base, kind: 'counting', drop: /^drop/i.test(counting[1]!) };
  if (trimmed.startsWith('*')) return { ...base, ...parseComment(trimmed) };
  const speed = /^M2\s+(.+?)\s+(-?\d+(?:\.\d+)?)\s+(\S+)$/i.exec(trimmed);
  if (speed && timecode.test(speed[3]!)) {
    return { ...base, kind: 'speed', reel: speed[1]!, framesPerSecond: Number(speed[2]), entry: speed[3]! };
  }
  const event = trimmed.length < 1000 ? parseEvent(trimmed.split(/\s+/)) : null;
  return event ? { ...base, kind: 'event', event } : { ...base, kind: 'unknown' };
}

function parseComment(trimmed: string): { kind: 'comment'; label: string; value: string } {
  const body = trimmed.slice(1).trim();
  const label = labels.find((l) => body.toUpperCase().startsWith(`${l}:`) || body.toUpperCase().startsWith(`${l} `));
  if (!label) return { kind: 'comment', label: '', value: body };
  return { kind: 'comment', label, value: body.slice(label.length).replace(/^\s*:?\s*/, '') };
}

function parseEvent(parts: string[]): RawEvent | null {
  if (parts.length < 8 || !/^\d+$/.test(parts[0]!)) return null;
  const times = parts.slice(-4);
  if (!times.every((t) => timecode.test(t))) return null;
  const middle = parts.slice(2, -4);
  const at = middle.findIndex((part, i) => i > 0 && transition.test(part));
  if (at < 0) return null;
  const length = middle[at + 1];
  if (length !== undefined && !/^\d+$/.test(length)) return null;
  const [sourceIn, sourceOut, recordIn, recordOut] = times as [string, string, string, string];
  return {
    number: Number(parts[0]),
    reel: parts[1]!,
    track: middle.slice(0, at).join(' ').toUpperCase(),
    transition: middle[at]!.toUpperCase(),
    transitionLength: length === undefined ? 0 : Number(length),
    sourceIn,
    sourceOut,
    recordIn,
    recordOut,
  };
}

/** An event line with everything that belongs to it: its counting, speed, name and source file. */
export type EdlEvent = {
  readonly line: number;
  readonly raw: RawEvent;
  readonly drop: boolean;
  clipName: string | null;
  sourceFile: { line: number; value: string } | null;
  speed: { framesPerSecond: number; entry: string } | null;
};

/**
 * Ties comments and speeds to their events. A dissolve, wipe or key is two lines of one number, from and to:
 * FROM CLIP NAME is the first line's, TO CLIP NAME the last's; source files go by order, a single one to the last,
 * unless it stands between the two lines. Lines before the first event, and speeds of no event, come back as stray.
 */
export function gatherEvents(lines: readonly EdlLine[]): { events: EdlEvent[]; strays: EdlLine[] } {
  const events: EdlEvent[] = [];
  const strays: EdlLine[] = [];
  let drop = false;
  let group: EdlEvent[] = [];
  let sourceFiles: { line: number; value: string }[] = [];
  const close = () => {
    const open = group.filter((e) => !e.sourceFile);
    sourceFiles.slice(-open.length).forEach((file, i, all) => {
      const target = open[open.length - all.length + i];
      if (target) target.sourceFile = file;
    });
    sourceFiles = [];
  };
  for (const line of lines) {
    if (line.kind === 'counting') drop = line.drop;
    else if (line.kind === 'event') {
      const event: EdlEvent = { line: line.line, raw: line.event, drop, clipName: null, sourceFile: null, speed: null };
      const previous = group.at(-1);
      if (
        previous &&
        previous.raw.number === line.event.number &&
        group.length === 1 &&
        line.event.transition !== 'C'
      ) {
        previous.sourceFile = sourceFiles.at(-1) ?? null;
        sourceFiles = [];
        group.push(event);
      } else {
        close();
        group = [event];
      }
      events.push(event);
    } else if (line.kind === 'speed') {
      const target = group.findLast((e) => e.raw.reel.toUpperCase() === line.reel.toUpperCase()) ?? null;
      if (target) target.speed = { framesPerSecond: line.framesPerSecond, entry: line.entry };
      else strays.push(line);
    } else if (line.kind === 'comment' && group.length > 0) {
      if (line.label === 'FROM CLIP NAME') group[0]!.clipName = line.value;
      else if (line.label === 'TO CLIP NAME') group.at(-1)!.clipName = line.value;
      else if (line.label === 'SOURCE FILE') sourceFiles.push({ line: line.line, value: line.value });
    } else if (line.kind === 'unknown') strays.push(line);
  }
  close();
  return { events, strays };
}
