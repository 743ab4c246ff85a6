import type { Header, Table } from '@tanstack/react-table';
import type { ReactNode } from 'react';
import { SelectAllCell } from './SelectCells.tsx';
import { lookOf } from './useColumns.ts';

/** How rows are sorted: by which columns, first one first; and what a click on a head does. */
export type Sorting = {
  readonly by: readonly { readonly key: string; readonly descending: boolean }[];
  readonly onSort: (key: string, isAdded: boolean) => void;
  /** A column's key; null where it cannot be sorted. */
  readonly keyOf: (columnId: string) => string | null;
};

/** The heads of columns: sorting by a click, with Shift by several; width by pulling the edge. */
export function HeadRow<T>({
  table,
  isAll,
  onAll,
  sorting,
  styleOf,
  filterOf,
}: {
  table: Table<T>;
  isAll: boolean;
  onAll: (isOn: boolean) => void;
  sorting: Sorting;
  styleOf: (columnId: string) => React.CSSProperties | undefined;
  filterOf: (columnId: string) => ReactNode;
}) {
  const heads = table.getHeaderGroups()[0]!.headers;
  return (
    <div
      className="table-columns line-b sticky top-0 z-20 h-7 min-w-[var(--least)] bg-base-100 text-quiet"
      role="row"
      aria-rowindex={1}
    >
      <SelectAllCell isOn={isAll} onChange={onAll} />
      {heads.map((header) => (
        <Head
          key={header.id}
          header={header}
          sorting={sorting}
          style={styleOf(header.column.id)}
          filter={filterOf(header.column.id)}
        />
      ))}
    </div>
  );
}

function Head<T>({
  header,
  sorting,
  style,
  filter,
}: {
  header: Header<T, unknown>;
  sorting: Sorting;
  style: React.CSSProperties | undefined;
  filter: ReactNode;
}) {
  const { title, right } = lookOf(header.column.columnDef.meta);
  const key = sorting.keyOf(header.column.id);
  const at = sorting.by.findIndex((s) => s.key === key);
  const sorted = sorting.by[at];
  const pull = (event: React.PointerEvent<HTMLElement>) => {
    // A column that was never pulled is as wide as it is shown, not as the table believes.
    const cell = event.currentTarget.parentElement!;
    const [begun, width] = [event.clientX, cell.getBoundingClientRect().width];
    const target = event.currentTarget;
    target.setPointerCapture(event.pointerId);
    target.onpointermove = (moved) =>
      header.getContext().table.setColumnSizing((sizes) => ({
        ...sizes,
        [header.column.id]: Math.max(40, Math.round(width + moved.clientX - begun)),
      }));
    target.onpointerup = () => {
      target.onpointermove = null;
    };
  };
  return (
    <span
      role="columnheader"
      aria-sort={sorted ? (sorted.descending ? 'descending' : 'ascending') : 'none'}
      className={`relative flex min-w-0 items-center self-stretch ${right ? 'justify-end' : ''} ${style ? 'bg-base-100' : ''}`}
      style={style}
    >
      {key !== null ? (
        <button
          type="button"
          className="truncate hover:text-base-content"
          title="With Shift, beside what it is sorted by already"
          onClick={(event) => sorting.onSort(key, event.shiftKey)}
        >
          {title}
          {sorted && (sorted.descending ? ' ↓' : ' ↑')}
          {sorted && sorting.by.length > 1 && <sub>{at + 1}</sub>}
        </button>
      ) : (
        <span className="truncate">{title}</span>
      )}
      {filter}
      <span
        aria-hidden
        title="Pull for another width; double-click for the usual one"
        className="absolute inset-y-1 -right-2 w-2 cursor-col-resize touch-none border-r border-transparent hover:border-base-300"
        onPointerDown={pull}
        onDoubleClick={() =>
          header.getContext().table.setColumnSizing(({ [header.column.id]: _, ...others }) => others)
        }
      />
    </span>
  );
}
