import { getCoreRowModel, useReactTable, type ColumnDef } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useMemo, useRef, useState, type CSSProperties, type MouseEvent, type RefObject } from 'react';
import type { CommandId } from '../../commands/definitions.ts';
import { CommandMenu } from '../../commands/CommandMenu.tsx';
import type { ClipColumn, TableSelection } from './columns.ts';
import { ColumnsMenu } from './ColumnsMenu.tsx';
import { HeadRow } from './HeadRow.tsx';
import { SelectCell } from './SelectCells.tsx';
import { useColumns } from './useColumns.ts';
import { rowHeight, useTableKeys } from './useTableKeys.ts';

const noRows: never[] = [];

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
  const table = useReactTable({
    // It keeps the columns. Rows are drawn by themselves: of tens of thousands it would make something for each.
    data: noRows,
    columns: columns as readonly unknown[] as ColumnDef<never, unknown>[],
    getCoreRowModel: getCoreRowModel(),
    ...arrangement.options,
  });
  const order = useMemo(() => rows.map(idOf), [rows, idOf]);
  useTableKeys(order, selection, scroller);
  useEffect(() => {
    const focusAt = selection.focus ? order.indexOf(selection.focus) : -1;
    if (focusAt >= 0) virtual.scrollToIndex(focusAt, { align: 'auto' });
    // Only when the focus moves: a list must not jump because its rows were loaded again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [selection.focus]);

  const chosen = useMemo(() => new Set(selection.ids), [selection.ids]);
  const shownColumns = table.getVisibleLeafColumns();
  const shownIds = shownColumns.map((c) => c.id).join(' ');
  const drawn = useMemo(
    () => shownIds.split(' ').flatMap((id) => columns.find((c) => c.id === id) ?? []),
    [columns, shownIds],
  );
  const hands = useRef({ selection, onOpen: props.onOpen, onMenu: setMenuAt });
  useEffect(() => {
    hands.current = { selection, onOpen: props.onOpen, onMenu: setMenuAt };
  }, [selection, props.onOpen]);
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div
        className="@container flex min-h-0 flex-1 flex-col overflow-x-auto bg-base-100"
        style={arrangement.template(shownColumns.map((c) => c.id)) as CSSProperties}
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
            {virtual.getVirtualItems().flatMap((item) => {
              const row = rows[item.index];
              if (row === undefined) return [];
              const id = idOf(row);
              return (
                <TableRow
                  key={id}
                  row={row}
                  id={id}
                  name={props.nameOf(row)}
                  columns={drawn}
                  top={item.start}
                  index={item.index}
                  isChosen={chosen.has(id)}
                  isInHand={id === selection.focus}
                  hands={hands}
                />
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

type RowProps<T> = {
  readonly row: T;
  readonly id: string;
  readonly name: string;
  readonly columns: readonly ClipColumn<T>[];
  readonly top: number;
  readonly index: number;
  readonly isChosen: boolean;
  readonly isInHand: boolean;
  /** Where what a hand does to a row is found, so that a row that did not change is not drawn again for it. */
  readonly hands: RefObject<Hands<T>>;
};
type Hands<T> = Pick<Props<T>, 'selection' | 'onOpen'> & { readonly onMenu: (at: { x: number; y: number }) => void };

function PlainRow<T>({ row, id, name, columns, top, index, isChosen, isInHand, hands }: RowProps<T>) {
  const click = (event: MouseEvent) => {
    const { selection } = hands.current;
    if (event.shiftKey) selection.onExtend(id);
    else if (event.ctrlKey || event.metaKey) selection.onToggle(id);
    else selection.onPick(id);
  };
  return (
    <div
      role="row"
      aria-selected={isChosen}
      aria-rowindex={index + 2}
      data-clip={name}
      className={`table-columns line-b absolute inset-x-0 cursor-default select-none ${isChosen ? 'bg-[var(--bond-wash)]' : 'hover:bg-base-200'} ${isInHand ? 'shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
      style={{ height: rowHeight, transform: `translateY(${top}px)` }}
      onClick={click}
      onDoubleClick={() => hands.current.onOpen(row)}
      onContextMenu={(event) => {
        event.preventDefault();
        // What is under the pointer is what is meant, unless it is one of many that are selected.
        if (!isChosen) hands.current.selection.onPick(id);
        hands.current.onMenu({ x: event.clientX, y: event.clientY });
      }}
    >
      <SelectCell name={name} isOn={isChosen} onToggle={() => hands.current.selection.onToggle(id)} />
      {columns.map((column) => (
        <div
          key={column.id}
          role="gridcell"
          className={`min-w-0 overflow-hidden ${column.meta.right ? 'text-right' : ''}`}
        >
          {column.cell({ row: { original: row } })}
        </div>
      ))}
    </div>
  );
}
/** Scrolling and a moving hand draw the rows that come and change, and no others. */
const TableRow = memo(PlainRow) as typeof PlainRow;
