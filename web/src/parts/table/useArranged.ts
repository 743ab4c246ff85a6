import { useMemo, useState } from 'react';
import { arrangedRows, type Filters } from './arranged.ts';
import type { ClipColumn } from './columns.ts';
import { useColumns, type TableArrangement } from './useColumns.ts';

/** Rows as a table shows them, and what a hand may change of that. */
export type ArrangedRows<T> = {
  readonly rows: readonly T[];
  readonly arrangement: TableArrangement;
  readonly filtering: {
    readonly filters: Filters;
    /** The rows among which values are chosen. */
    readonly among: readonly T[];
    readonly onFilter: (column: string, values: readonly string[] | null) => void;
  };
};

/** Rows through the filters of their columns, sorted and grouped as somebody left the table of this name. */
export function useArranged<T>(name: string, columns: readonly ClipColumn<T>[], among: readonly T[]): ArrangedRows<T> {
  const arrangement = useColumns(name, columns);
  const [filters, setFilters] = useState<Filters>({});
  const rows = useMemo(
    () => arrangedRows(among, columns, arrangement.now, filters),
    [among, columns, arrangement.now, filters],
  );
  const onFilter = (id: string, values: readonly string[] | null) =>
    setFilters(({ [id]: _, ...others }) => (values === null ? others : { ...others, [id]: values }));
  return { rows, arrangement, filtering: { filters, among, onFilter } };
}

/** A layout that comes with Legame: these columns first, the others hidden. */
export const layoutOf = <T>(
  columns: readonly ClipColumn<T>[],
  name: string,
  shown: readonly string[],
  group: string | null = null,
) => ({
  name,
  arrangement: {
    order: [...shown, ...columns.map((c) => c.id).filter((id) => !shown.includes(id))],
    hidden: columns.map((c) => c.id).filter((id) => !shown.includes(id)),
    widths: {},
    pinned: [],
    sorts: [],
    group,
  },
});
