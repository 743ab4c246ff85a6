import { isDark, type StatusName } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import type { Selection } from '../../session/selection.ts';

const statusOrder: readonly StatusName[] = ['missing', 'changed', 'unreadable', 'short', 'parked', 'linked', 'waived'];

/** The rows that the filter lets through, in the order asked for. */
export function shownRows(
  rows: readonly ClipRow[],
  { status, text, sort, descending }: Pick<Selection, 'status' | 'text' | 'sort' | 'descending'>,
): ClipRow[] {
  const wanted = text.trim().toLowerCase();
  const filtered = rows.filter(
    (row) =>
      (status === 'all' || (status === 'to-do' ? isDark(row.status.status) : row.status.status === status)) &&
      (!wanted ||
        `${row.fileName} ${row.name} ${row.reel ?? ''} ${row.folder} ${row.bin ?? ''} ${row.candidate?.name ?? ''} ${row.tied?.name ?? ''}`
          .toLowerCase()
          .includes(wanted)),
  );
  if (sort === 'edit') return descending ? filtered.reverse() : filtered;
  const sign = descending ? -1 : 1;
  return filtered.sort((a, b) => sign * compare(a, b, sort));
}

function compare(a: ClipRow, b: ClipRow, sort: Exclude<Selection['sort'], 'edit'>): number {
  switch (sort) {
    case 'status':
      return statusOrder.indexOf(a.status.status) - statusOrder.indexOf(b.status.status);
    case 'name':
      return a.fileName.localeCompare(b.fileName);
    case 'found':
      return foundPath(a).localeCompare(foundPath(b));
    case 'uses':
      return a.uses - b.uses;
  }
}

export const foundPath = (row: ClipRow): string => {
  const found = row.tied ?? row.candidate;
  return found ? [found.placeName, found.folder].filter(Boolean).join('/') : '';
};

/** The next dark row that no rule can mend, after the one in hand. */
export function nextNeedingHand(rows: readonly ClipRow[], focus: string | null): ClipRow | null {
  const from = rows.findIndex((row) => row.id === focus);
  const needs = (row: ClipRow) => isDark(row.status.status) && row.status.status !== 'parked' && !row.certainNow;
  return rows.slice(from + 1).find(needs) ?? rows.slice(0, from + 1).find(needs) ?? null;
}

/** Rows as a spreadsheet takes them: name, reel, remembered path, status, where it was found. */
export const asText = (rows: readonly ClipRow[]): string =>
  rows
    .map((row) =>
      [row.fileName, row.reel ?? '', row.remembered ?? '', row.status.status, foundPath(row)]
        .map((cell) => cell.replace(/[\t\n]/g, ' '))
        .join('\t'),
    )
    .join('\n');
