import { memo, useState, type CSSProperties, type MouseEvent, type PointerEventHandler, type RefObject } from 'react';
import { count } from '@legame/words/numbers';
import type { Item } from './arranged.ts';
import type { CellInHand, ClipColumn, TableSelection } from './columns.ts';
import { SelectCell } from './SelectCells.tsx';

/** How a row is dragged; a hook, and the same for all rows of a table. */
export type UseDragged = (id: string) => {
  readonly ref?: (element: HTMLElement | null) => void;
  readonly onPointerDown?: PointerEventHandler;
};
export const neverDragged: UseDragged = () => notDragged;
const notDragged = {};

/** What a hand does to rows. */
export type Hands<T> = {
  readonly selection: TableSelection;
  readonly cell: CellInHand | undefined;
  readonly onOpen: (row: T) => void;
  readonly onMenu: (at: { x: number; y: number }) => void;
};

type RowProps<T> = {
  readonly row: T;
  readonly id: string;
  readonly name: string;
  readonly columns: readonly ClipColumn<T>[];
  readonly pins: ReadonlyMap<string, CSSProperties>;
  readonly top: number;
  readonly height: number;
  readonly index: number;
  readonly isChosen: boolean;
  readonly isInHand: boolean;
  readonly columnInHand: string | null;
  readonly isWriting: boolean;
  readonly useDragged: UseDragged;
  /** Where what a hand does to a row is found, so that a row that did not change is not drawn again for it. */
  readonly hands: RefObject<Hands<T>>;
};

function PlainRow<T>(props: RowProps<T>) {
  const { row, id, name, columns, pins, top, height, index, isChosen, isInHand, columnInHand, isWriting, hands } =
    props;
  const dragged = props.useDragged(id);
  const click = (event: MouseEvent) => {
    const { selection, cell } = hands.current;
    if (event.shiftKey) selection.onExtend(id);
    else if (event.ctrlKey || event.metaKey) selection.onToggle(id);
    else selection.onPick(id);
    const column = (event.target as HTMLElement).closest<HTMLElement>('[data-column]')?.dataset.column;
    if (column) cell?.onColumn(column);
  };
  const under = isChosen ? 'bg-[var(--bond-wash)]' : 'bg-base-100';
  return (
    <div
      {...dragged}
      role="row"
      aria-selected={isChosen}
      aria-rowindex={index + 2}
      data-clip={name}
      className={`table-columns line-b absolute inset-x-0 cursor-default select-none ${isChosen ? under : 'hover:bg-base-200'} ${isInHand ? 'shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
      style={{ height, transform: `translateY(${top}px)` }}
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
      {columns.map((column) => {
        const isCell = column.id === columnInHand;
        const pin = pins.get(column.id);
        return (
          <div
            key={column.id}
            role="gridcell"
            data-column={column.id}
            aria-current={isCell || undefined}
            className={`grid min-w-0 content-center self-stretch overflow-hidden *:min-w-0 ${column.meta.right ? 'text-right' : ''} ${pin ? under : ''} ${isCell ? 'outline-1 -outline-offset-1 outline-primary' : ''}`}
            style={pin}
          >
            {isCell && isWriting && column.canWrite ? (
              <WrittenCell
                title={`${column.meta.title} of ${name}`}
                text={column.text?.(row) ?? ''}
                onDone={(text) => {
                  const { cell } = hands.current;
                  cell?.onWrite(false);
                  if (text !== null && text !== column.text?.(row)) cell?.onWritten(id, column.id, text);
                }}
              />
            ) : (
              column.cell({ row: { original: row } })
            )}
          </div>
        );
      })}
    </div>
  );
}
/** Scrolling and a moving hand draw the rows that come and change, and no others. */
export const TableRow = memo(PlainRow) as typeof PlainRow;

/** A cell that is being written in: Enter and leaving it keep what was written, Escape what was before. */
function WrittenCell({ title, text, onDone }: { title: string; text: string; onDone: (text: string | null) => void }) {
  const [now, setNow] = useState(text);
  return (
    <input
      // It was just asked for.
      autoFocus
      className="input input-xs w-full"
      aria-label={title}
      value={now}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setNow(event.target.value)}
      onBlur={() => onDone(now)}
      onClick={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => event.stopPropagation()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') onDone(now);
        else if (event.key === 'Escape') onDone(null);
        event.stopPropagation();
      }}
    />
  );
}

/** What stands over the rows of one value. */
export function HeadingRow<T>({
  item: { text, rows },
  top,
  height,
}: {
  item: Extract<Item<T>, { kind: 'heading' }>;
  top: number;
  height: number;
}) {
  return (
    <div
      role="row"
      className="line-b absolute inset-x-0 flex items-center gap-2 bg-base-200 px-3 font-semibold"
      style={{ height, transform: `translateY(${top}px)` }}
    >
      <span role="gridcell">
        {text || '(empty)'} <span className="font-normal text-quiet">{count(rows, 'clip')}</span>
      </span>
    </div>
  );
}
