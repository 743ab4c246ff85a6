import type { ColumnSizingState, VisibilityState } from '@tanstack/react-table';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import type { ClipColumn, ColumnLook } from './columns.ts';

const keptSchema = z.object({
  order: z.array(z.string()),
  hidden: z.array(z.string()),
  widths: z.record(z.string(), z.number()),
});

/** Which columns a table shows, in which order and how wide: as a person left it. */
export function useColumns<T>(name: string, columns: readonly ClipColumn<T>[]) {
  const [kept] = useState(() => read(name));
  const ids = columns.map((c) => c.id);
  const [columnOrder, setColumnOrder] = useState<string[]>([
    ...(kept?.order ?? []).filter((id) => ids.includes(id)),
    ...ids.filter((id) => !kept?.order.includes(id)),
  ]);
  const [columnVisibility, setColumnVisibility] = useState<VisibilityState>(() =>
    Object.fromEntries(columns.map((c) => [c.id, kept ? !kept.hidden.includes(c.id) : !c.meta.hidden])),
  );
  const [columnSizing, setColumnSizing] = useState<ColumnSizingState>(kept?.widths ?? {});
  useEffect(() => {
    const hidden = Object.keys(columnVisibility).filter((id) => !columnVisibility[id]);
    localStorage.setItem(keyOf(name), JSON.stringify({ order: columnOrder, hidden, widths: columnSizing }));
  }, [name, columnOrder, columnVisibility, columnSizing]);

  return {
    options: {
      state: { columnOrder, columnVisibility, columnSizing },
      onColumnOrderChange: setColumnOrder,
      onColumnVisibilityChange: setColumnVisibility,
      onColumnSizingChange: setColumnSizing,
    },
    reset: () => {
      setColumnOrder([...ids]);
      setColumnVisibility(Object.fromEntries(columns.map((c) => [c.id, !c.meta.hidden])));
      setColumnSizing({});
    },
    /** The grid's columns as CSS variables: a width that was pulled holds; the others share what is left. */
    template: (shown: readonly string[]) => {
      const look = (id: string) => columns.find((c) => c.id === id)!.meta;
      const of = (id: string, usual: string) => (columnSizing[id] === undefined ? usual : `${columnSizing[id]}px`);
      const narrow = shown.map((id) => of(id, look(id).narrow ?? look(id).width));
      return {
        '--columns': ['26px', ...shown.map((id) => of(id, look(id).width))].join(' '),
        '--columns-narrow': ['18px', ...narrow].join(' '),
        '--least': `${narrow.reduce((sum, width) => sum + leastOf(width) + 6, 40)}px`,
      };
    },
  };
}

const keyOf = (name: string) => `legame.columns.${name}`;
function read(name: string): z.infer<typeof keptSchema> | null {
  try {
    return keptSchema.parse(JSON.parse(localStorage.getItem(keyOf(name)) ?? ''));
  } catch {
    return null;
  }
}

/** The first length in pixels of a grid width. */
const leastOf = (width: string): number => Number(/(\d+)px/.exec(width)?.[1] ?? 60);

export const lookOf = (meta: unknown): ColumnLook => meta as ColumnLook;
