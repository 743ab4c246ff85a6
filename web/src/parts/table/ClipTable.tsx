import { flexRender, getCoreRowModel, useReactTable, type ColumnDef, type Row } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type CSSProperties, type MouseEvent } from 'react';
import type { CommandId } from '../../commands/definitions.ts';
import { CommandMenu } from '../../commands/CommandMenu.tsx';
import type { ClipColumn, ColumnLook, TableSelection } from './columns.ts';
import { ColumnsMenu } from './ColumnsMenu.tsx';
import { HeadRow } from './HeadRow.tsx';
import { SelectCell } from './SelectCells.tsx';
import { useColumns } from './useColumns.ts';
import { rowHeight, useTableKeys } from './useTableKeys.ts';

type Props<T> = {
  /** Names the table, and what is remembered of its columns. */
  readonly name: string;
  readonly label: string;
  readonly rows: readonly T[];
  readonly idOf: (row: T) => string;
  readonly nameOf: (row: T) => string;
  readonly columns: readonly ClipColumn<T>[];
  readonly selection: TableSelection;
  readonly sort?: { readonly key: string; readonly descending: boolean; readonly onSort: (key: string) => void };
  readonly empty: string;
  readonly onOpen: (row: T) => void;
  /** What a right-click offers. */
  readonly menu: readonly CommandId[];
};

/**
 * The one table of clips: selection by pointer and keys, sorting, columns that are chosen, ordered and sized and stay
 * so. A virtual list: only the rows in sight exist, however many there are.
 */
export function ClipTable<T>(props: Props<T>) {
  const { name, label, rows, idOf, columns, selection, empty } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const arrangement = useColumns(name, columns);
  const [menuAt, setMenuAt] = useState<{ x: number; y: number } | null>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    initialRect: { width: 800, height: 600 },
  });
  // Only what is in sight is given to the table: of tens of thousands it would make something for each.
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? -1];
  const sight = useMemo(() => rows.slice(first, last + 1), [rows, first, last]);
  const table = useReactTable({
    data: sight as T[],
    columns: columns as readonly unknown[] as ColumnDef<T, unknown>[],
    getRowId: idOf,
    getCoreRowModel: getCoreRowModel(),
    ...arrangement.options,
  });
  const order = useMemo(() => rows.map(idOf), [rows, idOf]);
  useTableKeys(order, selection, scroller);
  const at = useMemo(() => new Map(order.map((id, i) => [id, i])), [order]);
  const focusAt = selection.focus ? (at.get(selection.focus) ?? -1) : -1;
  useEffect(() => {
    if (focusAt >= 0) virtual.scrollToIndex(focusAt, { align: 'auto' });
    // Only when the focus moves: a list must not jump because its rows were loaded again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [selection.focus]);

  const chosen = useMemo(() => new Set(selection.ids), [selection.ids]);
  const all = table.getRowModel().rows;
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div
        className="@container flex min-h-0 flex-1 flex-col overflow-x-auto bg-base-100"
        style={arrangement.template(table.getVisibleLeafColumns().map((c) => c.id)) as CSSProperties}
        role="grid"
        aria-multiselectable
        aria-label={label}
        aria-rowcount={rows.length + 1}
      >
        <HeadRow
          table={table}
          isAll={rows.length > 0 && chosen.size >= rows.length && order.every((id) => chosen.has(id))}
          onAll={(isOn) => selection.onMany(isOn ? order : [])}
          sort={props.sort}
        />
        {rows.length === 0 && <p className="p-4 text-quiet">{empty}</p>}
        <div
          ref={scroller}
          role={rows.length > 0 ? 'rowgroup' : undefined}
          className="min-h-0 min-w-[var(--least)] flex-1 overflow-x-hidden overflow-y-auto"
          tabIndex={rows.length > 0 ? 0 : -1}
        >
          <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
            {items.flatMap((item) => {
              const row = all[item.index - first];
              return row ? (
                <TableRow
                  key={row.id}
                  {...props}
                  row={row}
                  top={item.start}
                  index={item.index}
                  isChosen={chosen.has(row.id)}
                  onMenu={setMenuAt}
                />
              ) : (
                []
              );
            })}
          </div>
        </div>
      </div>
      {/* Beside the grid, whose rows hold nothing but cells. */}
      <ColumnsMenu table={table} onReset={arrangement.reset} />
      {menuAt && <CommandMenu at={menuAt} ids={props.menu} onClose={() => setMenuAt(null)} />}
    </div>
  );
}

function TableRow<T>({
  row,
  top,
  index,
  isChosen,
  nameOf,
  selection,
  onOpen,
  onMenu,
}: Props<T> & {
  row: Row<T>;
  top: number;
  index: number;
  isChosen: boolean;
  onMenu: (at: { x: number; y: number }) => void;
}) {
  const click = (event: MouseEvent) => {
    if (event.shiftKey) selection.onExtend(row.id);
    else if (event.ctrlKey || event.metaKey) selection.onToggle(row.id);
    else selection.onPick(row.id);
  };
  return (
    <div
      role="row"
      aria-selected={isChosen}
      aria-rowindex={index + 2}
      data-clip={nameOf(row.original)}
      className={`table-columns line-b absolute inset-x-0 cursor-default select-none ${isChosen ? 'bg-[var(--bond-wash)]' : 'hover:bg-base-200'} ${row.id === selection.focus ? 'shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
      style={{ height: rowHeight, transform: `translateY(${top}px)` }}
      onClick={click}
      onDoubleClick={() => onOpen(row.original)}
      onContextMenu={(event) => {
        event.preventDefault();
        // What is under the pointer is what is meant, unless it is one of many that are selected.
        if (!isChosen) selection.onPick(row.id);
        onMenu({ x: event.clientX, y: event.clientY });
      }}
    >
      <SelectCell name={nameOf(row.original)} isOn={isChosen} onToggle={() => selection.onToggle(row.id)} />
      {row.getVisibleCells().map((cell) => (
        <div
          key={cell.id}
          role="gridcell"
          className={`min-w-0 overflow-hidden ${(cell.column.columnDef.meta as ColumnLook).right ? 'text-right' : ''}`}
        >
          {flexRender(cell.column.columnDef.cell, cell.getContext())}
        </div>
      ))}
    </div>
  );
}
