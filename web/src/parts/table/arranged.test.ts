import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { arrangedRows, cellsOf, itemsOf, sortedBy, valuesOf } from './arranged.ts';
import type { ClipColumn } from './columns.ts';
import { knownAmong } from './useColumns.ts';

type Thing = { readonly name: string; readonly reel: string; readonly frames: number | null };
const column = (
  id: string,
  text: (row: Thing) => string,
  more: Partial<ClipColumn<Thing>> = {},
): ClipColumn<Thing> => ({
  id,
  meta: { title: id.toUpperCase(), width: '1fr' },
  cell: () => null,
  text,
  ...more,
});
const columns = [
  column('name', (r) => r.name),
  column('reel', (r) => r.reel),
  column('frames', (r) => String(r.frames ?? ''), { rank: (r) => r.frames }),
  { id: 'mark', meta: { title: 'Mark', width: '20px' }, cell: () => null },
];
const thing = (name: string, reel = '', frames: number | null = null): Thing => ({ name, reel, frames });
const things = [thing('b10', 'A', 9), thing('b2', 'B', 10), thing('a', '', null), thing('c', 'A', 100)];
const names = (rows: readonly Thing[]) => rows.map((r) => r.name).join(' ');
const by = (...sorts: string[]) => ({
  sorts: sorts.map((s) => ({ column: s.replace('-', ''), descending: s.startsWith('-') })),
  group: null,
});

describe('rows as they are arranged', () => {
  test.each([
    [by(), 'b10 b2 a c'],
    [by('name'), 'a b2 b10 c'],
    // By number and not by digit; what has none comes last either way.
    [by('frames'), 'b10 b2 c a'],
    [by('-frames'), 'c b2 b10 a'],
    [by('reel', '-name'), 'c b10 b2 a'],
    [by('-reel', 'name'), 'b2 b10 c a'],
    // A column that has no text, or is gone, sorts nothing.
    [by('mark', 'gone', 'name'), 'a b2 b10 c'],
  ])('%j: %s', (arrangement, order) => {
    expect(names(arrangedRows(things, columns, arrangement))).toBe(order);
  });

  test('what is grouped lies together and has its heading, with what stands under it', () => {
    const grouped = arrangedRows(things, columns, { ...by('name'), group: 'reel' });
    expect(
      itemsOf(grouped, columns, 'reel').map((i) => (i.kind === 'row' ? i.row.name : `${i.text} ${i.rows}`)),
    ).toEqual(['A 2', 'b10', 'c', 'B 1', 'b2', ' 1', 'a']);
    expect(itemsOf(things, columns, 'mark')).toHaveLength(4);
  });

  test('filters let through what every one of them names; none of them loses a row for good', () => {
    expect(names(arrangedRows(things, columns, by(), { reel: ['A'] }))).toBe('b10 c');
    expect(names(arrangedRows(things, columns, by(), { reel: ['A', ''], name: ['a', 'c'] }))).toBe('a c');
    expect(arrangedRows(things, columns, by(), { reel: [] })).toEqual([]);
    expect(valuesOf(things, columns[1]!)).toEqual([
      { value: 'A', rows: 2 },
      { value: 'B', rows: 1 },
      { value: '', rows: 1 },
    ]);
    const anyThing = fc.record({ name: fc.string(), reel: fc.constantFrom('A', 'B', ''), frames: fc.constant(null) });
    fc.assert(
      fc.property(fc.array(anyThing), fc.subarray(['A', 'B', '']), (rows, values) => {
        const passed = arrangedRows(rows, columns, by(), { reel: values });
        const rest = arrangedRows(rows, columns, by(), { reel: ['A', 'B', ''].filter((v) => !values.includes(v)) });
        expect(passed.length + rest.length).toBe(rows.length);
        expect(valuesOf(rows, columns[1]!).reduce((sum, v) => sum + v.rows, 0)).toBe(rows.length);
      }),
    );
  });

  test('a click sorts by a column, the other way, and not at all; with Shift beside what was there', () => {
    let sorts = sortedBy([], 'name', false);
    expect(sorts).toEqual([{ column: 'name', descending: false }]);
    sorts = sortedBy(sorts, 'name', false);
    expect(sorts).toEqual([{ column: 'name', descending: true }]);
    expect(sortedBy(sorts, 'name', false)).toEqual([]);
    sorts = sortedBy(sorts, 'reel', true);
    sorts = sortedBy(sorts, 'reel', true);
    expect(sorts).toEqual([
      { column: 'name', descending: true },
      { column: 'reel', descending: true },
    ]);
    expect(sortedBy(sorts, 'frames', false)).toEqual([{ column: 'frames', descending: false }]);
  });

  test('cells go out as text under their heads', () => {
    expect(cellsOf(things.slice(0, 1), columns)).toEqual([
      ['NAME', 'REEL', 'FRAMES', 'Mark'],
      ['b10', 'A', '9', ''],
    ]);
  });
});

describe('an arrangement over the columns there are', () => {
  const kept = {
    order: ['gone', 'frames', 'name'],
    hidden: ['name', 'gone'],
    widths: { name: 9 },
    pinned: ['name', 'gone'],
  };
  test('forgets those that are gone, puts new ones last and pinned ones first', () => {
    const now = knownAmong({ ...kept, sorts: by('gone', 'name').sorts, group: 'gone' }, columns);
    expect(now).toMatchObject({
      order: ['name', 'frames', 'reel', 'mark'],
      hidden: ['name'],
      pinned: ['name'],
      sorts: [{ column: 'name', descending: false }],
      group: null,
    });
  });
  test('a new column that is not usual stays hidden, and one that names the row never is', () => {
    const own = [
      column('name', (r) => r.name, { enableHiding: false }),
      { ...columns[1]!, meta: { title: 'Reel', width: '1fr', hidden: true } },
    ];
    expect(knownAmong({ ...kept, sorts: [], group: null }, own).hidden).toEqual(['reel']);
  });
});
