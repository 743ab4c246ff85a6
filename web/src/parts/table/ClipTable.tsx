import { getCoreRowModel, useReactTable, type ColumnDef } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type CSSProperties, type ReactNode } from 'react';
import type { CommandId } from '../../commands/definitions.ts';
import { CommandMenu } from '../../commands/CommandMenu.tsx';
import { itemsOf, sortedBy, valuesOf } from './arranged.ts';
import { ColumnFilter } from './ColumnFilter.tsx';
import type { CellInHand, ClipColumn, TableSelection } from './columns.ts';
import { ColumnsMenu, type KeptLayouts } from './ColumnsMenu.tsx';
import { HeadRow, type Sorting } from './HeadRow.tsx';
import { HeadingRow, neverDragged, TableRow, type UseDragged } from './TableRow.tsx';
import type { ArrangedRows } from './useArranged.ts';
import { leastOf, type TableArrangement } from './useColumns.ts';
import { useAppSelector } from '../../app/store.ts';
import { closeRowHeight, rowHeight as usualRowHeight, useTableKeys } from './useTableKeys.ts';

const noRows: never[] = [];
const headHeight = 28;
const headingHeight = 26;

type Props<T> = {
  readonly label: string;
  /** Rows as `useArranged` gives them. */
  readonly arranged: ArrangedRows<T>;
  readonly idOf: (row: T) => string;
  readonly nameOf: (row: T) => string;
  readonly columns: readonly ClipColumn<T>[];
  readonly selection: TableSelection;
  readonly empty: string;
  readonly onOpen: (row: T) => void;
  /** What a right-click offers. */
  readonly menu: readonly CommandId[];
  readonly rowHeight?: number;
  readonly cell?: CellInHand;
  /** Arrangements that are kept under names. */
  readonly layouts?: KeptLayouts;
  /** How rows are dragged; what takes them, and where to, is told by whoever wraps the table. */
  readonly useDragged?: UseDragged;
};

/**
 * The one table of clips: selection by pointer and keys; columns that are chosen, ordered, sized, pinned, sorted, filtered
 * and grouped, and stay so. A virtual list: only the rows in sight exist, however many there are.
 */
export function ClipTable<T>(props: Props<T>) {
  const { label, idOf, columns, selection, empty, rowHeight: given } = props;
  const { rows, arrangement, filtering } = props.arranged;
  const isClose = useAppSelector((state) => state.preferences.mine.density === 'close');
  const rowHeight = given ?? (isClose ? closeRowHeight : usualRowHeight);
  const scroller = useRef<HTMLDivElement>(null);
  const [menuAt, setMenuAt] = useState<{ x: number; y: number } | null>(null);
  const { group } = arrangement.now;
  const items = useMemo(() => itemsOf(rows, columns, group), [rows, columns, group]);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (items[i]!.kind === 'row' ? rowHeight : headingHeight),
    scrollMargin: headHeight,
    scrollPaddingStart: headHeight,
    overscan: 6,
    initialRect: { width: 800, height: 600 },
  });
  useEffect(() => virtual.measure(), [virtual, items]);
  const table = useReactTable({
    // It keeps the columns. Rows are drawn by themselves: of tens of thousands it would make something for each.
    data: noRows,
    columns: columns as readonly unknown[] as ColumnDef<never, unknown>[],
    getCoreRowModel: getCoreRowModel(),
    ...arrangement.options,
  });
  const order = useMemo(() => rows.map(idOf), [rows, idOf]);
  useTableKeys(order, selection, scroller, rowHeight);
  const focusAt = useMemo(
    () => items.findIndex((item) => item.kind === 'row' && idOf(item.row) === selection.focus),
    [items, idOf, selection.focus],
  );
  const isFocusShown = focusAt >= 0;
  useEffect(() => {
    if (isFocusShown) virtual.scrollToIndex(focusAt, { align: 'auto' });
    // Only when the focus moves or comes to be shown: a list must not jump because its rows were loaded again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [selection.focus, isFocusShown]);

  const chosen = useMemo(() => new Set(selection.ids), [selection.ids]);
  const shownIds = table
    .getVisibleLeafColumns()
    .map((c) => c.id)
    .join('\n');
  const drawn = useMemo(
    () => shownIds.split('\n').flatMap((id) => columns.find((c) => c.id === id) ?? []),
    [columns, shownIds],
  );
  const pins = usePins(arrangement, drawn);
  const hands = useRef({ selection, cell: props.cell, onOpen: props.onOpen, onMenu: setMenuAt });
  useEffect(() => {
    hands.current = { selection, cell: props.cell, onOpen: props.onOpen, onMenu: setMenuAt };
  }, [selection, props.cell, props.onOpen]);
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div
        ref={scroller}
        className="@container min-h-0 flex-1 overflow-auto bg-base-100"
        style={arrangement.template(drawn.map((c) => c.id)) as CSSProperties}
        role="grid"
        aria-multiselectable
        aria-label={label}
        aria-rowcount={rows.length + 1}
        tabIndex={rows.length > 0 ? 0 : -1}
      >
        <HeadRow
          table={table}
          isAll={rows.length > 0 && chosen.size >= rows.length && order.every((id) => chosen.has(id))}
          onAll={(isOn) => selection.onMany(isOn ? order : [])}
          sorting={sortingOf(columns, arrangement)}
          styleOf={(id) => pins.get(id)}
          filterOf={(id) => filterOf(columns, filtering, id)}
        />
        {rows.length === 0 && <p className="p-4 text-quiet">{empty}</p>}
        <div
          className="relative min-w-[var(--least)]"
          role={rows.length > 0 ? 'rowgroup' : 'presentation'}
          style={{ height: virtual.getTotalSize() }}
        >
          {virtual.getVirtualItems().flatMap(({ index, start }) => {
            const item = items[index];
            const top = start - headHeight;
            if (item === undefined) return [];
            if (item.kind === 'heading')
              return <HeadingRow key={`over ${item.text}`} item={item} top={top} height={headingHeight} />;
            const id = idOf(item.row);
            const isInHand = id === selection.focus;
            const isWriting = isInHand && (props.cell?.isWriting ?? false);
            return (
              <TableRow
                // What is drawn anew in its place costs a third of what comes and goes; only what is being written stays
                // with its row wherever that goes.
                key={isWriting ? id : index}
                row={item.row}
                id={id}
                name={props.nameOf(item.row)}
                columns={drawn}
                pins={pins}
                top={top}
                height={rowHeight}
                index={index}
                isChosen={chosen.has(id)}
                isInHand={isInHand}
                columnInHand={isInHand ? (props.cell?.column ?? null) : null}
                isWriting={isWriting}
                useDragged={props.useDragged ?? neverDragged}
                hands={hands}
              />
            );
          })}
        </div>
      </div>
      {/* Beside the grid, whose rows hold nothing but cells. */}
      <ColumnsMenu
        table={table}
        arrangement={arrangement.now}
        onArrange={arrangement.change}
        onReset={arrangement.reset}
        layouts={props.layouts}
      />
      {menuAt && <CommandMenu at={menuAt} ids={props.menu} onClose={() => setMenuAt(null)} />}
    </div>
  );
}

/** Sorted by any columns that have text. */
const sortingOf = <T,>(columns: readonly ClipColumn<T>[], { now, change }: TableArrangement): Sorting => ({
  by: now.sorts.map(({ column, descending }) => ({ key: column, descending })),
  onSort: (column, isAdded) => change({ sorts: sortedBy(now.sorts, column, isAdded) }),
  keyOf: (id) => (columns.find((c) => c.id === id)?.text ? id : null),
});

function filterOf<T>(
  columns: readonly ClipColumn<T>[],
  filtering: ArrangedRows<T>['filtering'],
  id: string,
): ReactNode {
  const column = columns.find((c) => c.id === id);
  if (!column?.text) return null;
  return (
    <ColumnFilter
      title={column.meta.title}
      values={() => valuesOf(filtering.among, column)}
      chosen={filtering.filters[id]}
      onChoose={(values) => filtering.onFilter(id, values)}
    />
  );
}

/** Where columns that stay in sight stand, when the others are moved aside. */
function usePins<T>(
  { now: { pinned, widths } }: TableArrangement,
  drawn: readonly ClipColumn<T>[],
): ReadonlyMap<string, CSSProperties> {
  return useMemo(() => {
    let left = 50;
    const pins = new Map<string, CSSProperties>();
    for (const { id, meta } of drawn) {
      if (!pinned.includes(id)) break;
      pins.set(id, { position: 'sticky', left, zIndex: 10 });
      left += (widths[id] ?? leastOf(meta.width)) + 12;
    }
    return pins;
  }, [pinned, widths, drawn]);
}
