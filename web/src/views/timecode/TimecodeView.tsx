import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { useParams } from 'react-router';
import { formatRate } from '@legame/core/time';
import type { BenchRow } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { SelectAllCell, SelectCell } from '../../parts/SelectCells.tsx';
import { extend, pick, pickMany, toggle } from '../../session/selection.ts';
import { displacementWords, interpretationWords } from '@legame/words/causes';
import { timecode } from '@legame/words/numbers';
import { BenchPanel } from './BenchPanel.tsx';
import { countedNow, draftFor, heldRange, rangeOf, uncoveredWhen, type Draft } from './drafts.ts';

const rowHeight = 42;
const columns = 'grid grid-cols-[20px_minmax(120px,1fr)_104px_124px_104px_104px_72px] items-center gap-x-2.5 px-3';
type Shown = 'apart' | 'read-otherwise' | 'all';

/** The timecode bench: what the edit counts from beside what the files carry, for many clips at once. */
export function TimecodeView() {
  const { projectId = '' } = useParams();
  const bench = acts.useBenchQuery(projectId);
  const { ids } = useAppSelector((state) => state.selection);
  const dispatch = useAppDispatch();
  const [shown, setShown] = useState<Shown | null>(null);
  const [draft, setDraft] = useState<Draft | null>(null);
  const layout = useDefaultLayout({ id: 'legame-timecode', storage: localStorage });
  const all = useMemo(() => bench.data ?? [], [bench.data]);
  const apart = useMemo(() => all.filter((r) => r.apart), [all]);
  const otherwise = useMemo(() => all.filter((r) => r.interpretation), [all]);
  const filter = shown ?? (apart.length > 0 ? 'apart' : 'all');
  const rows = filter === 'apart' ? apart : filter === 'read-otherwise' ? otherwise : all;
  const order = useMemo(() => rows.map((r) => r.clipId as string), [rows]);
  const chosen = useMemo(() => {
    const set = new Set(ids);
    return all.filter((r) => set.has(r.clipId));
  }, [all, ids]);
  useHotkeys('mod+a', () => dispatch(pickMany(order)), { preventDefault: true });
  useHotkeys('esc', () => setDraft(null));
  if (!bench.data) return <Waiting what="the timecode of clips and files" error={bench.error} />;
  const chip = (value: Shown, label: string) => (
    <button
      type="button"
      aria-pressed={filter === value}
      className={`h-[26px] rounded border bg-base-100 px-2 ${filter === value ? 'border-base-content font-semibold' : 'border-base-300'}`}
      onClick={() => setShown(value)}
    >
      {label}
    </button>
  );
  return (
    <Group
      orientation="horizontal"
      className="h-full"
      defaultLayout={layout.defaultLayout}
      onLayoutChanged={layout.onLayoutChanged}
    >
      <Panel id="bench" minSize="320px" className="flex min-w-0 flex-col">
        <div className="line-b flex items-center gap-1 bg-base-200 px-2.5 py-2">
          {chip('apart', `Apart ${apart.length}`)}
          {chip('read-otherwise', `With an offset ${otherwise.length}`)}
          {chip('all', `All ${all.length}`)}
          <span className="ml-auto text-quiet">
            Edit and files stay as they are; only how they are counted changes.
          </span>
        </div>
        <Table
          rows={rows}
          order={order}
          draft={draft}
          chosen={chosen}
          onPick={(id) => dispatch(pick(id))}
          onToggle={(id) => dispatch(toggle(id))}
          onExtend={(id) => dispatch(extend({ id, order }))}
          onAll={(list) => dispatch(pickMany(list))}
        />
      </Panel>
      <Separator className="w-[5px] border-l border-base-300 bg-base-100 hover:bg-[var(--bond-wash)]" />
      <Panel id="timecode" defaultSize="330px" minSize="240px" maxSize="50%" className="bg-base-100">
        <BenchPanel
          projectId={projectId}
          rows={all}
          chosen={chosen}
          draft={draft}
          onDraft={setDraft}
          onChoose={(list) => dispatch(pickMany(list.map((r) => r.clipId)))}
        />
      </Panel>
    </Group>
  );
}

type TableProps = {
  rows: readonly BenchRow[];
  order: readonly string[];
  draft: Draft | null;
  chosen: readonly BenchRow[];
};

function Table({
  rows,
  order,
  draft,
  chosen,
  onPick,
  onToggle,
  onExtend,
  onAll,
}: TableProps & {
  onPick: (id: string) => void;
  onToggle: (id: string) => void;
  onExtend: (id: string) => void;
  onAll: (ids: readonly string[]) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    initialRect: { width: 800, height: 600 },
  });
  const inHand = new Set(chosen.map((r) => r.clipId));
  return (
    <div className="flex min-h-0 flex-1 flex-col bg-base-100" role="grid" aria-multiselectable aria-label="timecode">
      <div className={`${columns} line-b h-7 text-quiet`} role="row">
        <SelectAllCell
          isOn={rows.length > 0 && rows.every((r) => inHand.has(r.clipId))}
          onChange={(isOn) => onAll(isOn ? order : [])}
        />
        {['Clip', 'The edit starts', 'Counted as', 'The file starts', 'Apart', 'Uncovered'].map((title) => (
          <span key={title} role="columnheader" className={title === 'Uncovered' ? 'text-right' : ''}>
            {title}
          </span>
        ))}
      </div>
      {rows.length === 0 && <p className="p-4 text-quiet">No clip here: edit and files count alike.</p>}
      <div
        ref={scroller}
        role={rows.length > 0 ? 'rowgroup' : undefined}
        className="min-h-0 flex-1 overflow-auto"
        tabIndex={rows.length > 0 ? 0 : -1}
      >
        <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            const isChosen = inHand.has(row.clipId);
            return (
              <div
                key={row.clipId}
                role="row"
                aria-selected={isChosen}
                data-clip={row.clipName}
                className={`${columns} line-b absolute inset-x-0 cursor-default select-none ${isChosen ? 'bg-[var(--bond-wash)]' : 'hover:bg-base-200'}`}
                style={{ height: rowHeight, top: item.start }}
                onClick={(event) =>
                  event.shiftKey
                    ? onExtend(row.clipId)
                    : event.ctrlKey || event.metaKey
                      ? onToggle(row.clipId)
                      : onPick(row.clipId)
                }
              >
                <SelectCell name={row.clipName} isOn={isChosen} onToggle={() => onToggle(row.clipId)} />
                <BenchCells row={row} draft={isChosen ? draft : null} />
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

function BenchCells({ row, draft }: { row: BenchRow; draft: Draft | null }) {
  const { stated, interpretation, file, apart } = row;
  const now = countedNow(row);
  const [statedRange, held] = [rangeOf(stated), heldRange(row, now)];
  const drafted = draft ? draftFor(row, draft) : null;
  const next = drafted?.ok ? drafted.interpretation : interpretation;
  const [before, after] = [row.uncoveredInFrames, uncoveredWhen(row, next)];
  const isChanged = drafted?.ok === true;
  return (
    <>
      <span role="gridcell" className="min-w-0">
        <span className="block truncate font-mono" title={row.clipName}>
          {row.clipName}
        </span>
        <span className="block truncate text-[12px] text-quiet">{row.reel ?? 'no reel'}</span>
      </span>
      <span role="gridcell" className="font-mono">
        {statedRange ? timecode(statedRange.start, stated.rate, stated.counting) : '–'}
        <span className="block text-[12px]! text-quiet">{formatRate(stated.rate)}</span>
      </span>
      <span
        role="gridcell"
        className={`font-mono ${isChanged ? 'text-primary' : ''}`}
        title={drafted && !drafted.ok ? drafted.why : ''}
      >
        {drafted && !drafted.ok ? (
          <span className="text-missing">stays: {drafted.why}</span>
        ) : next ? (
          interpretationWords(next, stated.rate)
        ) : (
          <span className="text-quiet">as stated</span>
        )}
      </span>
      <span
        role="gridcell"
        className="font-mono"
        title={file ? [file.placeName, file.folder, file.name].filter(Boolean).join('/') : ''}
      >
        {held ? (
          timecode(held.start, now.rate, now.counting)
        ) : (
          <span className="text-quiet">{file?.facts ? 'no timecode' : file ? 'not read yet' : 'no file'}</span>
        )}
        <span className="block text-[12px]! text-quiet">{file?.isTied ? 'linked' : file ? 'a candidate' : ''}</span>
      </span>
      <span role="gridcell" className="font-mono text-[12px]!">
        {apart ? displacementWords(apart, now.rate) : <span className="text-quiet">{file ? 'alike' : ''}</span>}
      </span>
      <span role="gridcell" className="text-right font-mono">
        {before === null ? '' : before}
        {isChanged && after !== before && <b className={after ? 'text-missing' : 'text-linked'}> → {after}</b>}
      </span>
    </>
  );
}
