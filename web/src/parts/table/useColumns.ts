import type { OnChangeFn } from '@tanstack/react-table';
import { useEffect, useMemo, useState } from 'react';
import { arrangementSchema, type Arrangement } from '@legame/core/contract';
import type { ClipColumn, ColumnLook } from './columns.ts';

/** How a table is arranged, and how a hand changes that. */
export type TableArrangement = ReturnType<typeof useColumns>;

/** Which columns a table shows, in which order, how wide, and how it is sorted and grouped: as a person left it. */
export function useColumns<T>(name: string, columns: readonly ClipColumn<T>[]) {
  const [kept, setKept] = useState<Arrangement>(() => read(name) ?? usual(columns));
  const now = useMemo(() => knownAmong(kept, columns), [kept, columns]);
  useEffect(() => localStorage.setItem(keyOf(name), JSON.stringify(kept)), [name, kept]);
  const change = (part: Partial<Arrangement>) => setKept((before) => ({ ...before, ...part }));

  const visibility = Object.fromEntries(columns.map((c) => [c.id, !now.hidden.includes(c.id)]));
  return {
    now,
    change,
    options: {
      state: { columnOrder: [...now.order], columnVisibility: visibility, columnSizing: now.widths },
      onColumnOrderChange: changing([...now.order], (order) => change({ order })),
      onColumnVisibilityChange: changing<Record<string, boolean>>(visibility, (shown) =>
        change({ hidden: Object.keys(shown).filter((id) => !shown[id]) }),
      ),
      onColumnSizingChange: ((next) =>
        setKept((before) => ({
          ...before,
          widths: typeof next === 'function' ? next(before.widths) : next,
        }))) as OnChangeFn<Record<string, number>>,
    },
    reset: () => setKept(usual(columns)),
    /** The grid's columns as CSS variables: a width that was pulled holds; the others share what is left. */
    template: (shown: readonly string[]) => {
      const look = (id: string) => columns.find((c) => c.id === id)!.meta;
      const of = (id: string, width: string) => (now.widths[id] === undefined ? width : `${now.widths[id]}px`);
      const narrow = shown.map((id) => of(id, look(id).narrow ?? look(id).width));
      return {
        '--columns': ['26px', ...shown.map((id) => of(id, look(id).width))].join(' '),
        '--columns-narrow': ['18px', ...narrow].join(' '),
        '--least': `${narrow.reduce((sum, width) => sum + leastOf(width) + 6, 40)}px`,
      };
    },
  };
}

const changing =
  <S>(before: S, take: (next: S) => void): OnChangeFn<S> =>
  (next) =>
    take(typeof next === 'function' ? (next as (old: S) => S)(before) : next);

const usual = <T>(columns: readonly ClipColumn<T>[]): Arrangement => ({
  order: columns.map((c) => c.id),
  hidden: columns.filter((c) => c.meta.hidden).map((c) => c.id),
  widths: {},
  pinned: [],
  sorts: [],
  group: null,
});

/** An arrangement over the columns that there are: those it does not know come last and as usual; pinned ones first. */
export function knownAmong<T>(kept: Arrangement, columns: readonly ClipColumn<T>[]): Arrangement {
  const ids = columns.map((c) => c.id);
  const isKnown = (id: string) => ids.includes(id);
  const isNew = (id: string) => !kept.order.includes(id);
  const pinned = kept.pinned.filter(isKnown);
  const order = [...kept.order.filter(isKnown), ...ids.filter(isNew)];
  return {
    ...kept,
    order: [...order.filter((id) => pinned.includes(id)), ...order.filter((id) => !pinned.includes(id))],
    hidden: [
      ...kept.hidden.filter((id) => isKnown(id) && columns.find((c) => c.id === id)?.enableHiding !== false),
      ...columns.filter((c) => c.meta.hidden && isNew(c.id)).map((c) => c.id),
    ],
    pinned,
    sorts: kept.sorts.filter((s) => isKnown(s.column)),
    group: kept.group !== null && isKnown(kept.group) ? kept.group : null,
  };
}

const keyOf = (name: string) => `legame.columns.${name}`;
function read(name: string): Arrangement | null {
  try {
    // What an older Legame kept says less.
    const before = { pinned: [], sorts: [], group: null };
    return arrangementSchema.parse({ ...before, ...JSON.parse(localStorage.getItem(keyOf(name)) ?? '') });
  } catch {
    return null;
  }
}

/** The first length in pixels of a grid width. */
export const leastOf = (width: string): number => Number(/(\d+)px/.exec(width)?.[1] ?? 60);

export const lookOf = (meta: unknown): ColumnLook => meta as ColumnLook;
