import type { Table } from '@tanstack/react-table';
import { Columns3 } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import type { Arrangement, TableName } from '@legame/core/contract';

/** What comes with libraries of its own is fetched when somebody looks at the columns. */
const ColumnOrder = lazy(async () => ({ default: (await import('./ColumnOrder.tsx')).ColumnOrder }));

const Layouts = lazy(async () => ({ default: (await import('./Layouts.tsx')).Layouts }));

/** Arrangements that are kept under names: which table of which project, and those that come with Legame. */
export type KeptLayouts = {
  readonly projectId: string;
  readonly table: TableName;
  readonly shipped: readonly { readonly name: string; readonly arrangement: Arrangement }[];
};

/** Which columns are shown, in which order, and which of them stay in sight: by ticks, and by dragging or the keys. */
export function ColumnsMenu<T>({
  table,
  arrangement,
  onArrange,
  onReset,
  layouts,
}: {
  table: Table<T>;
  arrangement: Arrangement;
  onArrange: (part: Partial<Arrangement>) => void;
  onReset: () => void;
  layouts: KeptLayouts | undefined;
}) {
  const [room, setRoom] = useState<number | null>(null);
  const open = room !== null;
  const setOpen = (isOn: boolean, below = 0) => setRoom(isOn ? window.innerHeight - below - 40 : null);
  const grouped = table.getAllLeafColumns().filter((c) => 'text' in c.columnDef && c.columnDef.text !== undefined);
  return (
    <span
      className="absolute top-0 right-0 z-30"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) setOpen(false);
      }}
    >
      <button
        type="button"
        className="btn btn-ghost btn-xs mt-0.5 bg-base-100 px-1"
        aria-label="columns"
        aria-expanded={open}
        title="Which columns are shown, and in which order"
        onClick={(event) => setOpen(!open, event.currentTarget.getBoundingClientRect().bottom)}
      >
        <Columns3 size={13} aria-hidden />
      </button>
      {open && (
        <div
          className="sheet absolute top-full right-1 z-30 w-64 overflow-auto p-2 text-base-content"
          style={{ maxHeight: Math.max(180, room) }}
          tabIndex={-1}
        >
          {layouts && (
            <Suspense fallback={null}>
              <Layouts {...layouts} now={arrangement} onTake={onArrange} />
            </Suspense>
          )}
          {grouped.length > 0 && (
            <label className="mb-1.5 flex items-center gap-2">
              <span className="text-quiet">grouped by</span>
              <select
                className="select select-xs flex-1"
                value={arrangement.group ?? ''}
                onChange={(event) => onArrange({ group: event.target.value || null })}
              >
                <option value="">nothing</option>
                {grouped.map((column) => (
                  <option key={column.id} value={column.id}>
                    {(column.columnDef.meta as { title: string }).title}
                  </option>
                ))}
              </select>
            </label>
          )}
          <Suspense fallback={null}>
            <ColumnOrder
              table={table as Table<unknown>}
              pinned={arrangement.pinned}
              onPin={(pinned) => onArrange({ pinned })}
            />
          </Suspense>
          <button type="button" className="btn btn-plain btn-xs mt-1.5" onClick={onReset}>
            As usual
          </button>
        </div>
      )}
    </span>
  );
}
