import Papa from 'papaparse';

/** Cells as a spreadsheet has them on the clipboard: lines, and values between tabs; quoted where they hold either. */
export function readPasted(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t', quoteChar: '"' });
  return data.map((line) => line.map((cell) => cell.trim()));
}

/** Cells as a spreadsheet takes them from the clipboard. */
export const writePasted = (cells: readonly (readonly string[])[]): string =>
  Papa.unparse(cells as string[][], { delimiter: '\t', newline: '\n' });

/** What is written where: a value for each column of each row. */
export type Written = { readonly rows: readonly string[]; readonly values: Readonly<Record<string, string>> };

/**
 * What a paste writes: cell by cell from the row and column in hand, down and to the right, as spreadsheets do. One cell
 * alone goes into that column of all that is selected. What reaches beyond the rows or columns shown is left out, and
 * counted; so are cells of columns that cannot be written.
 */
export function spreadPasted(
  cells: readonly (readonly string[])[],
  { rows, columns, selected, row, column, canWrite }: PasteTarget,
): { readonly written: Written[]; readonly leftOut: number } {
  const first = cells[0]?.[0];
  const isOne = cells.length === 1 && cells[0]!.length === 1;
  if (isOne && first !== undefined && canWrite(column))
    return { written: [{ rows: selected.length > 0 ? selected : [row], values: { [column]: first } }], leftOut: 0 };
  const [top, left] = [rows.indexOf(row), columns.indexOf(column)];
  let leftOut = 0;
  const written = cells.flatMap((line, down): Written[] => {
    const id = rows[top + down];
    const values: Record<string, string> = {};
    for (const [right, cell] of line.entries()) {
      const into = columns[left + right];
      if (id === undefined || into === undefined || !canWrite(into)) leftOut += 1;
      else values[into] = cell;
    }
    return id === undefined || Object.keys(values).length === 0 ? [] : [{ rows: [id], values }];
  });
  return { written, leftOut };
}

export type PasteTarget = {
  /** Ids of rows and of columns in the order in which they are shown. */
  readonly rows: readonly string[];
  readonly columns: readonly string[];
  readonly selected: readonly string[];
  readonly row: string;
  readonly column: string;
  readonly canWrite: (column: string) => boolean;
};
