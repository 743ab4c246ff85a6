import type { Header, Table } from '@tanstack/react-table';
import { SelectAllCell } from './SelectCells.tsx';
import { lookOf } from './useColumns.ts';

type Sort = { readonly key: string; readonly descending: boolean; readonly onSort: (key: string) => void };

/** The heads of columns: sorting by a click, width by pulling the edge. */
export function HeadRow<T>({
  table,
  isAll,
  onAll,
  sort,
}: {
  table: Table<T>;
  isAll: boolean;
  onAll: (isOn: boolean) => void;
  sort?: Sort | undefined;
}) {
  const heads = table.getHeaderGroups()[0]!.headers;
  return (
    <div className="table-columns line-b h-7 min-w-[var(--least)] text-quiet" role="row">
      <SelectAllCell isOn={isAll} onChange={onAll} />
      {heads.map((header) => (
        <Head key={header.id} header={header} sort={sort} />
      ))}
    </div>
  );
}

function Head<T>({ header, sort }: { header: Header<T, unknown>; sort: Sort | undefined }) {
  const { title, right, sortKey } = lookOf(header.column.columnDef.meta);
  const isSorted = sortKey !== undefined && sort?.key === sortKey;
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
      aria-sort={isSorted ? (sort.descending ? 'descending' : 'ascending') : 'none'}
      className={`relative flex min-w-0 items-center self-stretch ${right ? 'justify-end' : ''}`}
    >
      {sortKey && sort ? (
        <button type="button" className="truncate hover:text-base-content" onClick={() => sort.onSort(sortKey)}>
          {title}
          {isSorted && (sort.descending ? ' ↓' : ' ↑')}
        </button>
      ) : (
        <span className="truncate">{title}</span>
      )}
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
