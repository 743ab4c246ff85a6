import type { Arrangement } from '@legame/core/contract';
import type { ClipColumn } from './columns.ts';

/** Values that a column lets through; a column that is not named lets all through. */
export type Filters = Readonly<Record<string, readonly string[]>>;

/** What stands in a table: rows, and over those of one value its heading. */
export type Item<T> =
  | { readonly kind: 'row'; readonly row: T }
  | { readonly kind: 'heading'; readonly text: string; readonly rows: number };

type Columns<T> = readonly ClipColumn<T>[];
const byText = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Rows that all filters let through, sorted by one column after another. Equal rows stay in the order they came in. */
export function arrangedRows<T>(
  rows: readonly T[],
  columns: Columns<T>,
  { sorts, group }: Pick<Arrangement, 'sorts' | 'group'>,
  filters: Filters = {},
): readonly T[] {
  const columnOf = new Map(columns.map((c) => [c.id, c]));
  const wanted = Object.entries(filters).flatMap(([id, values]) => {
    const text = columnOf.get(id)?.text;
    return text ? [{ text, values: new Set(values) }] : [];
  });
  const shown =
    wanted.length === 0 ? rows : rows.filter((row) => wanted.every(({ text, values }) => values.has(text(row))));
  // What is grouped lies together, and within a group as it is sorted.
  const by = [...(group === null ? [] : [{ column: group, descending: false }]), ...sorts].flatMap(
    ({ column, descending }) => {
      const found = columnOf.get(column);
      return found?.text ? [{ keys: shown.map(keyOf(found)), sign: descending ? -1 : 1 }] : [];
    },
  );
  if (by.length === 0) return shown;
  const places = shown.map((_, place) => place);
  places.sort((a, b) => {
    for (const { keys, sign } of by) {
      const [x, y] = [keys[a]!, keys[b]!];
      if (x === y) continue;
      // Empty cells come last, whichever way it is sorted.
      if (x === null || y === null) return x === null ? 1 : -1;
      return x < y ? -sign : sign;
    }
    return a - b;
  });
  return places.map((place) => shown[place]!);
}

/** What a row is sorted by, made once a row: comparing texts as people read them takes more than twice as long. */
const keyOf =
  <T>({ text, rank }: ClipColumn<T>) =>
  (row: T): string | number | null =>
    rank ? rank(row) : sortKey(text!(row));

const marks = /\p{M}+/gu;
/** A text so that take 2 comes before take 10, and neither capitals nor accents matter; null where it is empty. */
function sortKey(text: string): string | null {
  if (text === '') return null;
  // eslint-disable-next-line no-control-regex -- all that has neither accents nor other scripts
  const plain = /^[\x00-\x7f]*$/.test(text) ? text : text.normalize('NFD').replace(marks, '');
  return plain.toLowerCase().replace(/\d+/g, (digits) => digits.replace(/^0+(?=\d)/, '').padStart(12, '0'));
}

/** Rows, with a heading over each run of one value where they are grouped. */
export function itemsOf<T>(rows: readonly T[], columns: Columns<T>, group: string | null): Item<T>[] {
  const text = columns.find((c) => c.id === group)?.text;
  if (!text) return rows.map((row) => ({ kind: 'row', row }));
  const items: Item<T>[] = [];
  for (let from = 0; from < rows.length;) {
    const value = text(rows[from]!);
    let to = from + 1;
    while (to < rows.length && text(rows[to]!) === value) to += 1;
    items.push({ kind: 'heading', text: value, rows: to - from });
    for (const row of rows.slice(from, to)) items.push({ kind: 'row', row });
    from = to;
  }
  return items;
}

/** Each value of a column once, with how many rows have it, as people look them up. */
export function valuesOf<T>(rows: readonly T[], { text }: ClipColumn<T>): { value: string; rows: number }[] {
  const counts = new Map<string, number>();
  for (const row of rows) counts.set(text!(row), (counts.get(text!(row)) ?? 0) + 1);
  return [...counts]
    .map(([value, n]) => ({ value, rows: n }))
    .sort((a, b) => (a.value === '' ? 1 : b.value === '' ? -1 : byText.compare(a.value, b.value)));
}

/** The sorts after a click on a column's head: it alone, the other way round, or beside those before it. */
export function sortedBy(sorts: Arrangement['sorts'], column: string, isAdded: boolean): Arrangement['sorts'] {
  const known = sorts.find((s) => s.column === column);
  const next = { column, descending: known ? !known.descending : false };
  if (!isAdded) return known?.descending && sorts.length === 1 ? [] : [next];
  return known ? sorts.map((s) => (s === known ? next : s)) : [...sorts, next];
}

/** The shown cells of rows as text, with the heads over them. */
export const cellsOf = <T>(rows: readonly T[], columns: Columns<T>): string[][] => [
  columns.map((c) => c.meta.title),
  ...rows.map((row) => columns.map((c) => c.text?.(row) ?? '')),
];
