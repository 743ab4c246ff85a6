import type { Bin } from '../../model/edit.ts';
import { nameKey } from '../../paths/names.ts';
import { rememberedName } from '../../paths/remembered.ts';
import type { ColumnRole, LogColumns, RateProposal, Remark, RowFault } from '../../remarks/remark.ts';
import type { FrameRange } from '../../time/range.ts';
import { hasDropFrame, parseRate, rate as makeRate, sameRate, type Rate } from '../../time/rate.ts';
import { framesPerDay, parseTimecode, type Counting } from '../../time/timecode.ts';
import { ClipGatherer, kindOfName } from '../clips.ts';
import { noChoices, type OutPoints, type ReadOptions, type ReadResult } from '../format.ts';
import { proposeRates, type RateSigns } from '../rates.ts';
import { namesRate, naming, recogniseColumns } from './columns.ts';
import { parseRows, type LogRow, type LogTable } from './rows.ts';

/** Rows shown to judge the columns by. */
const sampleRows = 6;

/**
 * Reads a shot log: every row a clip with what the media holds from start to end, in a bin of its reel. Times without
 * a rate column need `options.rate`. Rows that cannot become clips are remarked, with the reason; the others come in.
 */
export function readLog(text: string, options: ReadOptions): ReadResult {
  const table = parseRows(text);
  if (!table) return { ok: false, fault: { code: 'no-edit-inside', found: 'a table without a header row' } };
  const given = options.columns?.length === table.headers.length ? options.columns : null;
  const roles = given ?? recogniseColumns(table.headers);
  const columns: LogColumns = {
    headers: table.headers,
    roles,
    samples: table.rows.slice(0, sampleRows).map((r) => table.headers.map((_, i) => (r.cells[i] ?? '').slice(0, 200))),
    rows: table.rows.length,
  };
  if (!roles.some((role) => naming.includes(role))) return { ok: false, fault: { code: 'columns-needed', columns } };
  if (table.rows.length === 0)
    return { ok: false, fault: { code: 'no-edit-inside', found: 'a log with a header row and no rows' } };
  const stated = statedRate(table);
  const proposed = proposeRates(rateSigns(table, roles, options.otherRates ?? []));
  const rates = stated ? [stated, ...proposed.filter((p) => !sameRate(p.rate, stated.rate))] : proposed;
  const rate = options.rate ?? stated?.rate ?? null;
  const outPoints = outPointsOf(table, roles, rate);
  const isLastFrame = options.outIsLastFrame ?? outPoints[0]?.isLastFrame ?? false;
  const reader = new LogReader(table, roles, rate, isLastFrame);
  const asksRate = table.rows.some((row) => reader.needsRate(row));
  if (asksRate && !rate) return { ok: false, fault: { code: 'rate-needed', proposals: rates } };
  for (const row of table.rows) reader.row(row);
  return {
    ok: true,
    remarks: reader.remarks,
    edit: {
      title: options.name.replace(/\.[^.]*$/, ''),
      bins: [...reader.bins.values()],
      clips: reader.clips.clips(rate ?? options.otherRates?.[0] ?? makeRate(24)),
      timelines: [],
    },
    choices: { ...noChoices, rates: asksRate ? rates : [], columns, outPoints },
  };
}

/** A rate that stands before the columns: "Frame rate, 25", or "FPS: 23.976" in one cell. */
function statedRate({ preamble }: LogTable): RateProposal | null {
  for (const { cells, line } of preamble) {
    const texts = cells.flatMap((cell) => cell.split(/[:=]/)).map((text) => text.trim());
    const at = texts.findIndex(namesRate);
    const text = at < 0 ? '' : (texts.slice(at + 1).find((t) => t !== '') ?? '');
    const rate = parseRate(text.replace(/\s*(fps|p)$/i, ''));
    if (rate) return { rate, reason: { code: 'stated', line } };
  }
  return null;
}

/** What out points may mean, likeliest first, by what the log's own durations say; none where it has no out points. */
function outPointsOf(table: LogTable, roles: readonly ColumnRole[], rate: Rate | null): OutPoints[] {
  const cell = (row: LogRow, role: ColumnRole) => (row.cells[roles.indexOf(role)] ?? '').trim();
  if (!rate || !roles.includes('start') || !roles.includes('end')) return [];
  let [after, last, of] = [0, 0, 0];
  for (const row of table.rows.slice(0, 2000)) {
    const [start, end] = [readMoment(cell(row, 'start'), rate), readMoment(cell(row, 'end'), rate)];
    const length = start.ok ? readDuration(cell(row, 'duration'), rate, start.counting) : null;
    if (!start.ok || !end.ok || length === null) continue;
    of += 1;
    if (end.frames - start.frames === length) after += 1;
    if (end.frames - start.frames + 1 === length) last += 1;
  }
  const both = [
    { isLastFrame: false, agree: after, of },
    { isLastFrame: true, agree: last, of },
  ];
  return last > after ? both.reverse() : both;
}

const isTimecode = (text: string): boolean => /^\d{1,2}([:;.,]\d{1,2}){2}[:;.,]\d{1,3}$/.test(text);

class LogReader {
  readonly clips = new ClipGatherer();
  readonly bins = new Map<string, Bin>();
  readonly remarks: Remark[] = [];
  readonly #table: LogTable;
  readonly #roles: readonly ColumnRole[];
  readonly #rate: Rate | null;

  readonly #isLastFrame: boolean;

  constructor(table: LogTable, roles: readonly ColumnRole[], rate: Rate | null, isLastFrame: boolean) {
    this.#isLastFrame = isLastFrame;
    this.#table = table;
    this.#roles = roles;
    this.#rate = rate;
  }

  needsRate(row: LogRow): boolean {
    const times = [this.#cell(row, 'start'), this.#cell(row, 'end'), this.#cell(row, 'duration')];
    return times.some((t) => t !== '') && this.#cell(row, 'rate') === '';
  }

  row(row: LogRow): void {
    const skip = (reason: RowFault) => this.remarks.push({ at: { line: row.line }, code: 'row-skipped', reason });
    const { headers } = this.#table;
    if (row.quoteOpen) return void skip({ code: 'quote-not-closed' });
    const cells = row.cells.findLastIndex((c) => c.trim() !== '') + 1;
    if (cells > headers.length) return void skip({ code: 'too-many-cells', cells, columns: headers.length });
    const [file, folder, reel] = [this.#cell(row, 'file'), this.#cell(row, 'folder'), this.#cell(row, 'reel')];
    const remembered = file === '' ? null : isPath(file) || folder === '' ? file : inFolder(folder, file);
    const name = this.#cell(row, 'name') || (remembered ? rememberedName(remembered) : reel);
    if (name === '') return void skip({ code: 'no-name' });
    const times = this.#times(row);
    if (!times.ok) return void skip(times.fault);
    const kind = kindOfName(remembered ? rememberedName(remembered) : name);
    this.clips.see({
      identity: [reel, name, remembered ?? '', times.available?.start ?? ''].join('\u0000'),
      name,
      reel: reel || null,
      remembered,
      kind,
      rate: times.rate,
      counting: times.counting,
      available: times.available,
      used: null,
      raster: null,
      address: String(row.line),
      binKey: this.#bin(reel),
      metadata: this.#metadata(row),
    });
  }

  /** What the media holds: from start to end, or for the duration; null where the log tells no length. */
  #times(
    row: LogRow,
  ):
    { ok: true; rate: Rate | null; counting: Counting; available: FrameRange | null } | { ok: false; fault: RowFault } {
    const [start, end, duration] = [this.#cell(row, 'start'), this.#cell(row, 'end'), this.#cell(row, 'duration')];
    const rateText = this.#cell(row, 'rate');
    const rate = rateText === '' ? this.#rate : parseRate(rateText.replace(/\s*(fps|p)$/i, ''));
    if (rateText !== '' && !rate)
      return { ok: false, fault: { code: 'rate-not-understood', column: this.#header('rate'), text: rateText } };
    const none = { ok: true, rate, counting: 'non-drop', available: null } as const;
    if (!rate || (start === '' && end === '' && duration === '')) return none;
    const first = readMoment(start || '0', rate);
    const last = readMoment(end || '0', rate);
    for (const [read, column] of [
      [first, 'start'],
      [last, 'end'],
    ] as const)
      if (!read.ok)
        return { ok: false, fault: { code: 'timecode-impossible', column: this.#header(column), fault: read.fault } };
    if (!first.ok || !last.ok) return none;
    const { counting } = first;
    if (end !== '') {
      const day = framesPerDay(rate, counting);
      const wraps = last.frames < first.frames;
      // A take past midnight is plausible; one of more than twelve hours is a slip.
      if (wraps && first.frames - last.frames < day / 2)
        return { ok: false, fault: { code: 'ends-before-start', start, end } };
      return {
        ok: true,
        rate,
        counting,
        available: { start: first.frames, end: last.frames + (wraps ? day : 0) + (this.#isLastFrame ? 1 : 0) },
      };
    }
    if (duration === '') return { ...none, counting };
    const frames = readDuration(duration, rate, counting);
    if (frames === null)
      return {
        ok: false,
        fault: { code: 'duration-not-understood', column: this.#header('duration'), text: duration },
      };
    return { ok: true, rate, counting, available: { start: first.frames, end: first.frames + frames } };
  }

  #bin(reel: string): string | null {
    if (reel === '') return null;
    const known = this.bins.get(nameKey(reel));
    if (known) return known.key;
    const bin = { key: `bin-${this.bins.size + 1}`, name: reel, parentKey: null };
    this.bins.set(nameKey(reel), bin);
    return bin.key;
  }

  #metadata(row: LogRow): Record<string, string> {
    const told = this.#roles.flatMap((role, i): [string, string][] => {
      const value = unescaped((row.cells[i] ?? '').trim());
      if (value === '') return [];
      if (role === 'scene' || role === 'take' || role === 'notes') return [[role, value]];
      return role === 'metadata' ? [[this.#table.headers[i]!, value]] : [];
    });
    return Object.fromEntries(told);
  }

  readonly #header = (role: ColumnRole): string => this.#table.headers[this.#roles.indexOf(role)] ?? role;
  readonly #cell = (row: LogRow, role: ColumnRole): string => {
    const at = this.#roles.indexOf(role);
    return at < 0 ? '' : unescaped((row.cells[at] ?? '').trim());
  };
}

/** Cells that a table program might take for formulas are written with an apostrophe before them; it is no text. */
const unescaped = (text: string): string => (/^'[=+\-@]/.test(text) ? text.slice(1) : text);

const inFolder = (folder: string, file: string): string =>
  `${folder.replace(/[\\/]+$/, '')}${folder.includes('\\') ? '\\' : '/'}${file}`;
const isPath = (text: string): boolean => /[\\/]/.test(text);

function readMoment(text: string, rate: Rate): ReturnType<typeof parseTimecode> {
  if (/^\d+$/.test(text)) return { ok: true, frames: Number(text), counting: 'non-drop' };
  return parseTimecode(text, rate);
}

/** "00:00:10:12", "262" frames or "10.5 s"; null when it is none of these. */
function readDuration(text: string, rate: Rate, counting: Counting): number | null {
  if (/^\d+$/.test(text)) return Number(text);
  const seconds = /^(\d+(?:\.\d+)?)\s*s(?:ec(?:onds?)?)?\.?$/i.exec(text);
  if (seconds) return Math.round((Number(seconds[1]) * rate.num) / rate.den);
  // A length is counted, not numbered: it skips nothing.
  const read = parseTimecode(text, rate, 'non-drop');
  return read.ok ? (counting === 'drop' && hasDropFrame(rate) ? dropped(text, rate, read.frames) : read.frames) : null;
}

/** A duration written beside drop-frame timecode is numbered like it, where that number exists. */
function dropped(text: string, rate: Rate, counted: number): number {
  const read = parseTimecode(text, rate, 'drop');
  return read.ok ? read.frames : counted;
}

function rateSigns(table: LogTable, roles: readonly ColumnRole[], otherRates: readonly Rate[]): RateSigns {
  const at = (role: ColumnRole) => roles.indexOf(role);
  const timed = (row: LogRow, role: ColumnRole) => (row.cells[at(role)] ?? '').trim();
  let largest = { frame: -1, line: 0 };
  let statesDrop = false;
  for (const row of table.rows) {
    for (const role of ['start', 'end', 'duration'] as const) {
      const text = timed(row, role);
      if (!isTimecode(text)) continue;
      const frame = Number(/\d+$/.exec(text)![0]);
      if (frame > largest.frame && frame < 60) largest = { frame, line: row.line };
      statesDrop ||= /;\d+$/.test(text);
    }
  }
  const lengthsAt = (nominal: number) => {
    const rate = makeRate(nominal);
    let [agree, of] = [0, 0];
    for (const row of table.rows.slice(0, 2000)) {
      const [start, end] = [parseTimecode(timed(row, 'start'), rate), parseTimecode(timed(row, 'end'), rate)];
      const length = readDuration(timed(row, 'duration'), rate, 'non-drop');
      if (length === null) continue;
      of += 1;
      if (start.ok && end.ok && end.frames - start.frames === length) agree += 1;
    }
    return { agree, of };
  };
  return { statesDrop, largest, lengthsAt, otherRates };
}
