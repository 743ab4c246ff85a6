import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useDndContext,
  useDraggable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useParams } from 'react-router';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import type { BinPath } from '@legame/core/bins';
import { writeCsv } from '@legame/core/formats';
import { binText } from '@legame/words/bins';
import { count } from '@legame/words/numbers';
import { bins } from '../../api/bins.ts';
import { lists } from '../../api/clipList.ts';
import { useAppDispatch } from '../../app/store.ts';
import type { CommandId } from '../../commands/definitions.ts';
import { runCommand } from '../../commands/useCommand.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { saveAs } from '../../parts/saveAs.ts';
import { cellsOf } from '../../parts/table/arranged.ts';
import { ClipTable } from '../../parts/table/ClipTable.tsx';
import type { UseDragged } from '../../parts/table/TableRow.tsx';
import { clear, pickMany } from '../../session/selection.ts';
import { BinDialogs, type Asked } from './BinDialogs.tsx';
import type { BinRow } from './binRows.ts';
import { BinTools } from './BinTools.tsx';
import { BinTree } from './BinTree.tsx';
import { shippedLayouts } from './columns.tsx';
import { Findings } from './Findings.tsx';
import { printRows } from './printRows.ts';
import { useBinActs } from './useBinActs.ts';
import { useBinCommands } from './useBinCommands.ts';
import { useShownRows, type BinData } from './useShownRows.ts';

const menu: readonly CommandId[] = [
  'write-cell',
  'fill-down',
  'copy-cells',
  'circle',
  'file-in-bin',
  'show-in-ledger',
  'show-in-cut',
  'hand-off',
  'rename-files',
];
const rowHeight = 30;
const idOf = (row: BinRow) => row.id;
const nameOf = (row: BinRow) => row.row.name;
const idsOf = (some: readonly BinRow[]) => some.flatMap((row) => row.ids);

const useDragged: UseDragged = (id) => {
  const { setNodeRef, listeners } = useDraggable({ id: `row ${id}`, data: { row: id } });
  // The keys of rows are the table's.
  return { ref: setNodeRef, onPointerDown: listeners?.onPointerDown as React.PointerEventHandler };
};

/** Bins on the left, the clips of one on the right with all that is known of them, and written where people know more. */
export function BinsView() {
  const { projectId = '' } = useParams();
  const clips = lists.useClipsQuery(projectId);
  const said = bins.useBinClipsQuery(projectId);
  const desk = bins.useBinsQuery(projectId);
  if (!clips.data || !said.data || !desk.data)
    return <Waiting what="bins" error={clips.error ?? said.error ?? desk.error} />;
  if (clips.data.length === 0)
    return (
      <p className="p-6 text-quiet">
        No clips yet. Bring in an edit or a log at Intake (g i); its clips lie here in the bins of its document.
      </p>
    );
  return <OpenBin projectId={projectId} data={{ clips: clips.data, said: said.data, desk: desk.data }} />;
}

function OpenBin({ projectId, data }: { projectId: string; data: BinData }) {
  const dispatch = useAppDispatch();
  const shown = useShownRows(data);
  const { bin, root, rows, chosen, columns, shownColumns, selection } = shown;
  const [asked, setAsked] = useState<Asked>(null);
  const [cell, setCell] = useState<{ column: string | null; isWriting: boolean }>({ column: null, isWriting: false });
  const column = shownColumns.find((c) => c.id === cell.column) ?? shownColumns.find((c) => c.canWrite);
  const acts = useBinActs(projectId, root, shown.open);
  const toColumn = (id: string) => setCell({ column: id, isWriting: false });
  const toWrite = (isWriting: boolean) => setCell({ column: column?.id ?? null, isWriting });
  const commands = useBinCommands({
    ...{ projectId, bin, rows, columns: shownColumns, chosen, column },
    inHand: rows.find((row) => row.id === selection.focus),
    onColumn: toColumn,
    onWrite: toWrite,
    onFile: () => setAsked('file'),
    onMake: acts.make,
  });
  useHotkeys('esc', () => (asked ? setAsked(null) : dispatch(clear())));
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const layout = useDefaultLayout({ id: 'legame-bins', storage: localStorage });
  const title = bin.length === 0 ? 'All of the project' : binText(bin);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragEnd={(event) => dropped(event, rows, chosen, acts)}
    >
      <Group
        orientation="horizontal"
        className="relative h-full"
        defaultLayout={layout.defaultLayout}
        onLayoutChanged={layout.onLayoutChanged}
      >
        <Panel id="tree" defaultSize="220px" minSize="130px" maxSize="45%" className="flex flex-col bg-base-100">
          <BinTree
            root={root}
            open={bin}
            onOpen={shown.open}
            onMake={acts.make}
            onRename={acts.rename}
            onRemove={acts.remove}
          />
        </Panel>
        <Separator className="w-[5px] border-l border-base-300 bg-base-100 hover:bg-[var(--bond-wash)]" />
        <Panel id="clips" minSize="320px" className="flex min-w-0 flex-col">
          <BinTools
            text={shown.text}
            onText={shown.setText}
            areGathered={shown.areGathered}
            onGather={shown.setGathered}
            shown={rows.length}
            of={shown.inside.length}
            chosen={chosen.length}
            labels={data.desk.labels}
            onLabel={(label) => acts.label(idsOf(chosen), label)}
            onLabels={() => setAsked('labels')}
            onFileBy={(rule) => acts.fileBy(idsOf(chosen.length > 0 ? chosen : rows), rule, bin)}
            onSave={() => {
              const [heads, ...cells] = cellsOf(rows, shownColumns);
              saveAs(new Blob([writeCsv(heads!, cells)], { type: 'text/csv' }), `${title}.csv`);
            }}
            onPrint={() => printRows(title, cellsOf(rows, shownColumns))}
          />
          <ProblemNote error={acts.error ?? commands.error} onClose={acts.error ? acts.onClose : commands.onClose} />
          <Findings
            findings={shown.findings}
            titleOf={(id) => columns.find((c) => c.id === id)?.meta.title.toLowerCase() ?? id}
            onShow={({ ids }) => dispatch(pickMany(ids))}
          />
          <ClipTable
            {...{ columns, selection, idOf, nameOf, rowHeight, menu, useDragged }}
            label={`clips of ${title}`}
            arranged={shown.arranged}
            cell={{
              column: column?.id ?? null,
              isWriting: cell.isWriting,
              onColumn: toColumn,
              onWrite: toWrite,
              onWritten: commands.write,
            }}
            layouts={{ projectId, table: 'bins', shipped: shippedLayouts(columns) }}
            empty={
              shown.inside.length > 0
                ? 'No clip of this bin passes the filters.'
                : 'Nothing lies here. Drag clips onto the bin, or select some and press b.'
            }
            onOpen={() => runCommand(column?.canWrite ? 'write-cell' : 'show-in-ledger')}
          />
        </Panel>
        <BinDialogs
          {...{ asked, root, bin }}
          clips={chosen.length}
          labels={data.desk.labels}
          onFile={(to) => acts.file(idsOf(chosen), to)}
          onLabels={acts.setLabels}
          onClose={() => setAsked(null)}
        />
      </Group>
      <DragOverlay dropAnimation={null}>
        <Dragged rows={rows} chosen={chosen} />
      </DragOverlay>
    </DndContext>
  );
}

/** What hangs on the pointer while it is dragged. */
function Dragged({ rows, chosen }: { rows: readonly BinRow[]; chosen: readonly BinRow[] }) {
  const what = useDndContext().active?.data.current as { row: string } | { branch: BinPath } | undefined;
  if (!what) return null;
  const ids = 'row' in what ? idsOf(meant(what.row, rows, chosen)) : [];
  return (
    <span className="sheet inline-block px-2 py-1 font-semibold whitespace-nowrap shadow">
      {'row' in what ? count(ids.length, 'clip') : binText(what.branch)}
    </span>
  );
}

/** What is under the pointer is what is meant, unless it is one of many that are selected. */
const meant = (id: string, rows: readonly BinRow[], chosen: readonly BinRow[]): readonly BinRow[] =>
  chosen.some((row) => row.id === id) ? chosen : rows.filter((row) => row.id === id);

/** A bin, or clips, dropped onto a bin. */
function dropped(
  { active, over }: DragEndEvent,
  rows: readonly BinRow[],
  chosen: readonly BinRow[],
  acts: Pick<ReturnType<typeof useBinActs>, 'move' | 'file'>,
): void {
  const into = (over?.data.current as { branch: BinPath } | undefined)?.branch;
  const what = active.data.current as { row: string } | { branch: BinPath } | undefined;
  if (!into || !what) return;
  if ('branch' in what) return acts.move(what.branch, [...into, what.branch.at(-1)!]);
  acts.file(idsOf(meant(what.row, rows, chosen)), into);
}
