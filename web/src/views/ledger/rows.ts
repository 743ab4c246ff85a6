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

/** What of a row is searched, in small letters; made once a row, for a keystroke goes through all of them. */
const texts = new WeakMap<ClipRow, string>();

function textOf(row: ClipRow): string {
  const known = texts.get(row);
  if (known !== undefined) return known;
  const made =
    `${row.fileName} ${row.name} ${row.reel ?? ''} ${row.folder} ${row.bin.join(' ')} ${row.candidate?.name ?? ''} ${row.tied?.name ?? ''}`.toLowerCase();
  texts.set(row, made);
  return made;
}

/** Makes what a keystroke needs of each row while nothing else is to be done, some rows at a time. Gives how to stop. */
export function prepareRows(rows: readonly ClipRow[]): () => void {
  let at = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const some = () => {
    for (const until = Math.min(rows.length, at + 500); at < until; at += 1) textOf(rows[at]!);
    if (at < rows.length) timer = setTimeout(some, 10);
  };
  timer = setTimeout(some, 200);
  return () => clearTimeout(timer);
}

/** The rows that the filter lets through. */
export function shownRows(rows: readonly ClipRow[], { status, text }: Pick<Selection, 'status' | 'text'>): ClipRow[] {
  const wanted = text.trim().toLowerCase();
  return rows.filter(
    (row) =>
      (status === 'all' || (status === 'to-do' ? isDark(row.status.status) : row.status.status === status)) &&
      (!wanted || textOf(row).includes(wanted)),
  );
}

const rankOf = new Map(statusOrder.map((status, i) => [status, i]));
/** By what is to do first. */
export const statusRank = ({ status }: ClipRow): number => rankOf.get(status.status)!;

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
