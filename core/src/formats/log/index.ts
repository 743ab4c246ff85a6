import type { Format } from '../format.ts';
import { isRecognised, recogniseColumns } from './columns.ts';
import { readLog } from './read.ts';
import { relinkLog } from './relink.ts';
import { parseRows } from './rows.ts';
import { writeLog } from './write.ts';

/** Shot log: comma, tab, semicolon or bar separated, with a header row (RFC 4180). */
export const log: Format = {
  id: 'log',
  title: 'shot log (CSV, TSV)',
  extensions: ['csv', 'tsv', 'txt'],
  detect: looksLikeLog,
  read: readLog,
  write: writeLog,
  relink: relinkLog,
};

/** A header with a column that is known, or rows that are all as wide as the header: prose is neither. */
function looksLikeLog(text: string): boolean {
  const head = text.slice(0, 20_000);
  const table = parseRows(head.length < text.length ? head.slice(0, head.lastIndexOf('\n') + 1) : head);
  if (!table) return false;
  const width = table.headers.filter((h) => h !== '').length;
  const isEven =
    width >= 3 && table.rows.length > 0 && table.rows.every((r) => r.cells.length === table.headers.length);
  return width >= 2 && (recogniseColumns(table.headers).some(isRecognised) || isEven);
}
