import Papa from 'papaparse';
import { isRecognised, recogniseColumns } from './columns.ts';

/** One row with the text it stands in: its first line (from 1) and where it begins and ends. */
export type LogRow = {
  readonly line: number;
  readonly from: number;
  readonly to: number;
  readonly cells: readonly string[];
  readonly quoteOpen: boolean;
};

export type LogTable = {
  readonly delimiter: string;
  readonly headers: readonly string[];
  /** What stands before the header: production, day, unit, frame rate. */
  readonly preamble: readonly LogRow[];
  readonly header: LogRow;
  readonly rows: readonly LogRow[];
};

/** Lines before the header that a log may carry: production, day, unit. */
const longestPreamble = 20;

/** The delimiter under which a line of the head names the most known columns, else makes the most cells. */
function delimiterOf(text: string): string {
  let best = { delimiter: ',', score: 0 };
  for (const delimiter of [',', '\t', ';', '|']) {
    const { data } = Papa.parse<string[]>(text.slice(0, 20_000), { delimiter, preview: longestPreamble });
    const score = Math.max(0, ...data.map((c) => recogniseColumns(c).filter(isRecognised).length * 100 + c.length));
    if (score > best.score) best = { delimiter, score };
  }
  return best.delimiter;
}

/** Splits a log into its header and rows (RFC 4180, any usual delimiter). The header is the first line that names columns. */
export function parseRows(text: string): LogTable | null {
  const rows: LogRow[] = [];
  const delimiter = delimiterOf(text);
  let from = 0;
  let line = 1;
  Papa.parse<string[]>(text, {
    skipEmptyLines: false,
    delimiter,
    step: ({ data, errors, meta }) => {
      const to = meta.cursor;
      rows.push({ line, from, to, cells: data, quoteOpen: errors.some((e) => e.type === 'Quotes') });
      line += text.slice(from, to).match(/\r\n|\n|\r/g)?.length ?? 0;
      from = to;
    },
  });
  const filled = rows.filter((row) => row.cells.some((c) => c.trim() !== ''));
  const head = filled.slice(0, longestPreamble);
  const header =
    head.find((row) => recogniseColumns(row.cells).filter(isRecognised).length >= 2) ??
    head.find((row) => row.cells.filter((c) => c.trim() !== '').length >= 2);
  if (!header) return null;
  return {
    delimiter,
    headers: header.cells.map((c) => c.trim()),
    preamble: filled.filter((row) => row.line < header.line),
    header,
    rows: filled.filter((row) => row.line > header.line),
  };
}
