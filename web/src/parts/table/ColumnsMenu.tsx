import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Column, Table } from '@tanstack/react-table';
import { Columns3, GripVertical } from 'lucide-react';
import { useState } from 'react';
import { lookOf } from './useColumns.ts';

/** Which columns are shown, and in which order: by ticks, and by dragging or the keys. */
export function ColumnsMenu<T>({ table, onReset }: { table: Table<T>; onReset: () => void }) {
  const [open, setOpen] = useState(false);
  const sensors = useSensors(
    useSensor(PointerSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const columns = table.getAllLeafColumns();
  const ids = columns.map((c) => c.id);
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
          <DndContext
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragEnd={({ active, over }) => {
              if (over)
                table.setColumnOrder(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
            }}
          >
            <SortableContext items={ids} strategy={verticalListSortingStrategy}>
              <ul aria-label="columns">
                {columns.map((column) => (
                  <Choice key={column.id} column={column} />
                ))}
              </ul>
            </SortableContext>
          </DndContext>
          <button type="button" className="btn btn-plain btn-xs mt-1.5" onClick={onReset}>
            As usual
          </button>
        </div>
      )}
    </span>
  );
}

function Choice<T>({ column }: { column: Column<T, unknown> }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: column.id });
  const { title } = lookOf(column.columnDef.meta);
  return (
    <li
      ref={setNodeRef}
      className="flex items-center gap-1.5 bg-base-100 py-0.5"
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <button
        type="button"
        className="cursor-grab touch-none text-quiet"
        {...attributes}
        {...listeners}
        aria-label={`move ${title}`}
      >
        <GripVertical size={13} aria-hidden />
      </button>
      <label className="flex flex-1 items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={column.getIsVisible()}
          disabled={column.getIsVisible() && column.getCanHide() === false}
          onChange={column.getToggleVisibilityHandler()}
        />
        {title}
      </label>
    </li>
  );
}
