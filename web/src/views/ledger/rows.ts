import { isDark, type StatusName } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import type { Selection } from '../../session/selection.ts';

const statusOrder: readonly StatusName[] = [
  'missing',
  'changed',
  'unreadable',
  'short',
  'parked',
  'linked',
  'waived',
  'unshown',
];

/** What of a row is searched and sorted by, in small letters; made once a row, for a keystroke goes through all of them. */
type Keys = { readonly text: string; readonly name: string; readonly found: string };
const keys = new WeakMap<ClipRow, Keys>();

function keysOf(row: ClipRow): Keys {
  const known = keys.get(row);
  if (known) return known;
  const made = {
    text: `${row.fileName} ${row.name} ${row.reel ?? ''} ${row.folder} ${row.bin.join(' ')} ${row.candidate?.name ?? ''} ${row.tied?.name ?? ''}`.toLowerCase(),
    name: row.fileName.toLowerCase(),
    found: foundPath(row).toLowerCase(),
  };
  keys.set(row, made);
  return made;
}

/** Makes what a keystroke needs of each row while nothing else is to be done, some rows at a time. Gives how to stop. */
export function prepareRows(rows: readonly ClipRow[]): () => void {
  let at = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const some = () => {
    for (const until = Math.min(rows.length, at + 500); at < until; at += 1) keysOf(rows[at]!);
    if (at < rows.length) timer = setTimeout(some, 10);
  };
  timer = setTimeout(some, 200);
  return () => clearTimeout(timer);
}

/** The rows that the filter lets through, in the order asked for. */
export function shownRows(
  rows: readonly ClipRow[],
  { status, text, sort, descending }: Pick<Selection, 'status' | 'text' | 'sort' | 'descending'>,
): ClipRow[] {
  const wanted = text.trim().toLowerCase();
  const filtered = rows.filter(
    (row) =>
      (status === 'all' || (status === 'to-do' ? isDark(row.status.status) : row.status.status === status)) &&
      (!wanted || keysOf(row).text.includes(wanted)),
  );
  if (sort === 'edit') return descending ? filtered.reverse() : filtered;
  const sign = descending ? -1 : 1;
  return filtered.sort((a, b) => sign * compare(a, b, sort));
}

const order = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
const rankOf = new Map(statusOrder.map((status, i) => [status, i]));

function compare(a: ClipRow, b: ClipRow, sort: Exclude<Selection['sort'], 'edit'>): number {
  switch (sort) {
    case 'status':
      return rankOf.get(a.status.status)! - rankOf.get(b.status.status)!;
    case 'name':
      return order(keysOf(a).name, keysOf(b).name);
    case 'found':
      return order(keysOf(a).found, keysOf(b).found);
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
  for (let i = 1; i <= rows.length; i += 1) {
    const row = rows[(from + i + rows.length) % rows.length]!;
    if (needs(row)) return row;
  }
  return null;
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
