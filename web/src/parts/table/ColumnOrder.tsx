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
import { GripVertical, Pin } from 'lucide-react';
import { lookOf } from './useColumns.ts';

/** The columns of a table, to be ticked, pinned, and moved by dragging or by the keys. */
export function ColumnOrder({
  table,
  pinned,
  onPin,
}: {
  table: Table<unknown>;
  pinned: readonly string[];
  onPin: (pinned: readonly string[]) => void;
}) {
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
            <Choice
              key={column.id}
              column={column}
              isPinned={pinned.includes(column.id)}
              onPin={(isOn) => onPin(isOn ? [...pinned, column.id] : pinned.filter((id) => id !== column.id))}
            />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}

function Choice<T>({
  column,
  isPinned,
  onPin,
}: {
  column: Column<T, unknown>;
  isPinned: boolean;
  onPin: (isOn: boolean) => void;
}) {
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
      <button
        type="button"
        className={isPinned ? 'text-primary' : 'text-quiet opacity-60'}
        aria-label={`keep ${title} in sight`}
        aria-pressed={isPinned}
        title="Keep it in sight when the others are moved aside"
        onClick={() => onPin(!isPinned)}
      >
        <Pin size={12} aria-hidden fill={isPinned ? 'currentColor' : 'none'} />
      </button>
    </li>
  );
}
