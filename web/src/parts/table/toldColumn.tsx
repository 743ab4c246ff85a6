import type { ClipColumn } from './columns.ts';

/** A column that says one thing in words, not shown until somebody wants it. */
export const toldColumn = <T,>(id: string, title: string, width: string, text: (row: T) => string): ClipColumn<T> => ({
  id,
  meta: { title, width, hidden: true },
  text,
  cell: ({ row: { original } }) => (
    <span className="block truncate" title={text(original)}>
      {text(original)}
    </span>
  ),
});
