import type { Table } from '@tanstack/react-table';
import { Columns3 } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';

/** Dragging comes with a library of its own, fetched when somebody looks at the columns. */
const ColumnOrder = lazy(async () => ({ default: (await import('./ColumnOrder.tsx')).ColumnOrder }));

/** Which columns are shown, and in which order: by ticks, and by dragging or the keys. */
export function ColumnsMenu<T>({ table, onReset }: { table: Table<T>; onReset: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <span
      className="absolute top-0 right-0 z-10"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) setOpen(false);
      }}
    >
      <button
        type="button"
        className="btn btn-ghost btn-xs mt-0.5 px-1"
        aria-label="columns"
        aria-expanded={open}
        title="Which columns are shown, and in which order"
        onClick={() => setOpen(!open)}
      >
        <Columns3 size={13} aria-hidden />
      </button>
      {open && (
        <div className="sheet absolute top-full right-1 z-30 w-56 p-2 text-base-content" tabIndex={-1}>
          <Suspense fallback={null}>
            <ColumnOrder table={table as Table<unknown>} />
          </Suspense>
          <button type="button" className="btn btn-plain btn-xs mt-1.5" onClick={onReset}>
            As usual
          </button>
        </div>
      )}
    </span>
  );
}
