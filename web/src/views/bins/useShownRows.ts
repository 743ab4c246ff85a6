import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useDebounce } from 'use-debounce';
import { binTree, checkBin, type BinPath } from '@legame/core/bins';
import type { BinClip, Bins, ClipRow } from '@legame/core/contract';
import { useAppSelector } from '../../app/store.ts';
import { useArranged } from '../../parts/table/useArranged.ts';
import { useTableSelection } from '../../parts/table/useTableSelection.ts';
import { binAddress } from '../../session/bin.ts';
import { agreeing, binRows, inBin, matches, readAhead, rowsToCheck, type BinRow } from './binRows.ts';
import { binColumns } from './columns.tsx';

export type BinData = { readonly clips: readonly ClipRow[]; readonly said: readonly BinClip[]; readonly desk: Bins };

/** What is shown of a bin: the tree it stands in, its rows through search and filters, and what of them is selected. */
export function useShownRows({ clips, said, desk }: BinData) {
  const [address, setAddress] = useSearchParams();
  const opened = address.getAll('bin').join('\0');
  const bin = useMemo<BinPath>(() => (opened === '' ? [] : opened.split('\0')), [opened]);
  const [text, setText] = useState('');
  const [areGathered, setGathered] = useState(true);

  const columns = useMemo(() => binColumns(desk.labels, desk.columns), [desk.labels, desk.columns]);
  const all = useMemo(() => binRows(clips, said, areGathered), [clips, said, areGathered]);
  const root = useMemo(
    () =>
      binTree(
        desk.bins,
        all.map((r) => r.row.bin),
      ),
    [desk.bins, all],
  );
  const inside = useMemo(() => inBin(all, bin), [all, bin]);
  const among = useMemo(() => {
    const wanted = text.trim().toLowerCase();
    return wanted === '' ? inside : inside.filter((row) => matches(row, wanted));
  }, [inside, text]);
  const arranged = useArranged('bins', columns, among);
  const { rows, arrangement } = arranged;
  const { order, hidden } = arrangement.now;
  const shownColumns = useMemo(
    () => order.filter((id) => !hidden.includes(id)).flatMap((id) => columns.find((c) => c.id === id) ?? []),
    [order, hidden, columns],
  );
  // What is odd about the rows takes longer than to show them: it is told once the hand rests.
  const [rested] = useDebounce(among, 400);
  const checked = useDeferredValue(rested);
  const toCheck = useMemo(() => rowsToCheck(columns), [columns]);
  const findings = useMemo(() => checkBin(checked.map(toCheck), agreeing), [checked, toCheck]);
  useEffect(() => readAhead(all, toCheck), [all, toCheck]);
  const selection = useRowSelection(all, rows);
  const chosen = useMemo(() => {
    const ids = new Set(selection.ids);
    return rows.filter((row) => ids.has(row.id));
  }, [rows, selection.ids]);
  return {
    ...{ bin, root, inside, among, rows, columns, shownColumns, arrangement, findings, selection, chosen },
    ...{ text, setText, areGathered, setGathered, arranged },
    open: (to: BinPath) => setAddress(binAddress(to), { replace: true }),
  };
}

/** The selection that all screens share, by rows: a row is selected where any clip it stands for is. */
function useRowSelection(all: readonly BinRow[], rows: readonly BinRow[]) {
  const { ids, focus } = useAppSelector((state) => state.selection);
  const order = useMemo(() => rows.map((row) => row.id), [rows]);
  const selection = useTableSelection(order);
  const rowOf = useMemo(() => new Map(all.flatMap((row) => row.ids.map((id) => [id, row.id] as const))), [all]);
  const chosen = useMemo(() => [...new Set(ids.flatMap((id) => rowOf.get(id) ?? []))], [ids, rowOf]);
  return { ...selection, ids: chosen, focus: focus === null ? null : (rowOf.get(focus) ?? null) };
}
