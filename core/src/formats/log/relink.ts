import Papa from 'papaparse';
import { frameName } from '../../paths/sequence.ts';
import type { NewReference, Reading } from '../format.ts';
import { recogniseColumns } from './columns.ts';
import { parseRows } from './rows.ts';

/**
 * Changes the file of the rows at these lines: the cell of the file column, or a new last column "File" where the log
 * has none. Only rows that change are written anew; every other row stays byte for byte.
 */
export function relinkLog(text: string, changes: ReadonlyMap<string, NewReference>, reading: Reading): string {
  const table = parseRows(text);
  if (!table || changes.size === 0) return text;
  const roles = reading.columns?.length === table.headers.length ? reading.columns : recogniseColumns(table.headers);
  const [fileAt, reelAt] = [roles.indexOf('file'), roles.indexOf('reel')];
  const column = fileAt < 0 ? table.headers.length : fileAt;
  let result = '';
  let done = 0;
  const rewrite = (from: number, to: number, cells: readonly string[]) => {
    const end = /(\r\n|\n|\r)?$/.exec(text.slice(from, to))![0];
    result += text.slice(done, from) + Papa.unparse([[...cells]], { delimiter: table.delimiter }) + end;
    done = to;
  };
  if (fileAt < 0) rewrite(table.header.from, table.header.to, [...table.header.cells, 'File']);
  for (const row of table.rows) {
    const change = changes.get(String(row.line));
    if (!change) continue;
    const cells = padded(row.cells, Math.max(column + 1, row.cells.length));
    cells[column] = change.sequence
      ? change.path.replace(/[^/]*$/, () => frameName(change.sequence!, change.sequence!.first))
      : change.path;
    if (change.reel !== undefined && reelAt >= 0) cells[reelAt] = change.reel;
    rewrite(row.from, row.to, cells);
  }
  return result + text.slice(done);
}

const padded = (cells: readonly string[], length: number): string[] =>
  Array.from({ length: Math.max(length, cells.length) }, (_, i) => cells[i] ?? '');
