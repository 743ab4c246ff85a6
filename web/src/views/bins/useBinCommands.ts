import { useEffect, useEffectEvent } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { circledValue, readPasted, spreadPasted, writePasted, type BinPath } from '@legame/core/bins';
import { bins } from '../../api/bins.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useCommand } from '../../commands/useCommand.ts';
import { cellsOf } from '../../parts/table/arranged.ts';
import type { ClipColumn } from '../../parts/table/columns.ts';
import { addressOf, nothingChosen, pickMany } from '../../session/selection.ts';
import { count } from '@legame/words/numbers';
import type { BinRow } from './binRows.ts';
import { notedId, notedOf } from './columns.tsx';

type Column = ClipColumn<BinRow>;
export type Shown = {
  readonly projectId: string;
  readonly bin: BinPath;
  /** Rows and columns as they are shown. */
  readonly rows: readonly BinRow[];
  readonly columns: readonly Column[];
  readonly chosen: readonly BinRow[];
  readonly inHand: BinRow | undefined;
  /** The column in hand. */
  readonly column: Column | undefined;
  readonly onColumn: (column: string) => void;
  readonly onWrite: (isWriting: boolean) => void;
  readonly onFile: () => void;
  readonly onMake: (within: BinPath) => void;
};

/** What can be done in a bin by keys, buttons and the menu; gives how cells are written, and what went wrong. */
export function useBinCommands(shown: Shown) {
  const { projectId, rows, columns, chosen, inHand, column } = shown;
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [writeNotes, written] = bins.useWriteNotesMutation();
  const nothing = chosen.length === 0 ? 'No clip is selected.' : null;
  const cannotWrite =
    nothing ??
    (column?.canWrite ? null : 'Only what logs and people say is written: scene, take, notes and columns of logs.');

  /** Writes into rows: whatever clips each stands for. */
  const write = (
    cells: readonly { readonly rows: readonly BinRow[]; readonly values: Readonly<Record<string, string>> }[],
  ) => {
    const changes = cells.map(({ rows: of, values }) => ({
      clipIds: of.flatMap((row) => row.ids),
      values: Object.fromEntries(
        Object.entries(values).flatMap(([id, v]) => {
          const name = notedOf(id);
          return name === null ? [] : [[name, v] as const];
        }),
      ),
    }));
    if (changes.length > 0) void writeNotes({ projectId, written: changes });
  };
  const step = (by: number) => () => {
    const at = columns.findIndex((c) => c.id === column?.id);
    const next = columns[Math.max(0, Math.min(columns.length - 1, at + by))];
    if (next) shown.onColumn(next.id);
  };
  useCommand('next-cell', step(1), nothing);
  useCommand('former-cell', step(-1), nothing);
  useCommand('write-cell', () => shown.onWrite(true), cannotWrite);
  useCommand(
    'fill-down',
    () => {
      const text = column!.text!(chosen[0]!);
      write([{ rows: chosen.slice(1), values: { [column!.id]: text } }]);
    },
    cannotWrite ?? (chosen.length < 2 ? 'Select the clips to fill, the one with the value first.' : null),
  );
  useCommand(
    'circle',
    () => {
      const areAll = chosen.every((row) => row.clip.values.circled === circledValue);
      write([{ rows: chosen, values: { [notedId('circled')]: areAll ? '' : circledValue } }]);
    },
    nothing,
  );
  useCommand(
    'copy-cells',
    () => {
      const text =
        chosen.length > 1 || !column?.text ? writePasted(cellsOf(chosen, columns)) : column.text(inHand ?? chosen[0]!);
      void navigator.clipboard.writeText(text).then(
        () => toast(chosen.length > 1 ? `${count(chosen.length, 'row')} copied.` : 'Copied.'),
        () => toast('The browser does not let this page copy. Allow it the clipboard, and try again.'),
      );
    },
    nothing,
  );
  useCommand('select-bin', () => dispatch(pickMany(rows.map((r) => r.id))), rows.length ? null : 'No clip is shown.');
  useCommand('file-in-bin', shown.onFile, nothing);
  useCommand('new-bin', () => shown.onMake(shown.bin));
  const ids = chosen.flatMap((row) => row.ids);
  const go = (screen: string) => {
    dispatch(pickMany(ids));
    void navigate(`/projects/${projectId}/${screen}`);
  };
  useCommand(
    'show-in-ledger',
    () => {
      const focus = (inHand ?? chosen[0]!).id;
      const address = addressOf({ ...nothingChosen, ids, focus, status: 'all' });
      void navigate(`/projects/${projectId}/ledger?${address}`);
    },
    nothing,
  );
  useCommand(
    'show-in-cut',
    () => go('cut'),
    nothing ?? (chosen.some((row) => row.uses > 0) ? null : 'No timeline uses a selected clip.'),
  );
  useCommand(
    'hand-off',
    () => void navigate(`/projects/${projectId}/handoff`, { state: { clips: ids } }),
    nothing ?? (chosen.some((row) => row.row.tied) ? null : 'No selected clip has a file.'),
  );

  useCommand(
    'rename-files',
    () => void navigate(`/projects/${projectId}/naming`, { state: { clips: ids } }),
    nothing ?? (chosen.some((row) => row.row.tied) ? null : 'No selected clip has a file.'),
  );

  /** Cells from a spreadsheet, from the cell in hand down and to the right. */
  const paste = (text: string) => {
    if (!inHand || !column) return void toast('Choose the cell where it goes first.');
    const byId = new Map(rows.map((row) => [row.id, row]));
    const { written: cells, leftOut } = spreadPasted(readPasted(text), {
      rows: rows.map((row) => row.id),
      columns: columns.map((c) => c.id),
      selected: chosen.map((row) => row.id),
      row: inHand.id,
      column: column.id,
      canWrite: (id) => columns.find((c) => c.id === id)?.canWrite ?? false,
    });
    write(cells.map(({ rows: of, values }) => ({ rows: of.flatMap((id) => byId.get(id) ?? []), values })));
    if (leftOut > 0)
      toast(`${count(leftOut, 'cell')} left out: beyond the rows or columns shown, or not to be written.`);
  };
  usePasted(paste);
  return {
    write: (id: string, columnId: string, text: string) =>
      write([{ rows: rows.filter((row) => row.id === id), values: { [columnId]: text } }]),
    error: written.error,
    onClose: written.reset,
  };
}

/** What is pasted while no field takes it. */
function usePasted(take: (text: string) => void): void {
  const latest = useEffectEvent(take);
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.closest('input, textarea, dialog')) return;
      const text = event.clipboardData?.getData('text/plain');
      if (text) latest(text);
    };
    document.addEventListener('paste', onPaste);
    return () => document.removeEventListener('paste', onPaste);
  }, []);
}
