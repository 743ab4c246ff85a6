import type { ReactNode } from 'react';

/** What a column says beside its cells. Widths are of CSS grid; `narrow` holds where the table has little room. */
export type ColumnLook = {
  readonly title: string;
  readonly width: string;
  readonly narrow?: string;
  readonly right?: boolean;
  /** Not shown until somebody chooses it. */
  readonly hidden?: boolean;
};
export type ClipColumn<T> = {
  readonly id: string;
  readonly meta: ColumnLook;
  readonly enableHiding?: boolean;
  readonly cell: (context: { readonly row: { readonly original: T } }) => ReactNode;
  /** What a cell says as text: columns that have it can be sorted, filtered, grouped by and copied. */
  readonly text?: (row: T) => string;
  /** What it is sorted by where that is no text; null comes last. */
  readonly rank?: (row: T) => number | null;
  /** Somebody may write into its cells. */
  readonly canWrite?: boolean;
};

/** What is selected, and how a hand changes it. */
export type TableSelection = {
  readonly ids: readonly string[];
  readonly focus: string | null;
  readonly onPick: (id: string) => void;
  readonly onToggle: (id: string) => void;
  readonly onExtend: (id: string) => void;
  readonly onMany: (ids: readonly string[]) => void;
};

/** The cell in hand: a column beside the row in hand, and whether it is being written in. */
export type CellInHand = {
  readonly column: string | null;
  readonly isWriting: boolean;
  readonly onColumn: (column: string) => void;
  readonly onWrite: (isWriting: boolean) => void;
  readonly onWritten: (id: string, column: string, text: string) => void;
};
