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
import { GripVertical } from 'lucide-react';
import { lookOf } from './useColumns.ts';

/** The columns of a table, to be ticked, and moved by dragging or by the keys. */
export function ColumnOrder({ table }: { table: Table<unknown> }) {
  const sensors = useSensors(
    useSensor(PointerSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const columns = table.getAllLeafColumns();
  const ids = columns.map((c) => c.id);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        if (over) table.setColumnOrder(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
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
          disabled={column.getIsVisible() && !column.getCanHide()}
          onChange={column.getToggleVisibilityHandler()}
        />
        {title}
      </label>
    </li>
  );
}
