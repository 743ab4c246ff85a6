import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigate, useParams } from 'react-router';
import { useCommand } from '../../commands/useCommand.ts';
import { acts } from '../../api/acts.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { useTableSelection } from '../../parts/table/useTableSelection.ts';
import { useArranged } from '../../parts/table/useArranged.ts';
import { ClipTable } from '../../parts/table/ClipTable.tsx';
import { pickMany } from '../../session/selection.ts';
import { BenchPanel } from './BenchPanel.tsx';
import { benchColumns, shippedLayouts } from './benchColumns.tsx';
import type { Draft } from './drafts.ts';

type Shown = 'apart' | 'read-otherwise' | 'all';

/** The timecode bench: what the edit counts from beside what the files carry, for many clips at once. */
export function TimecodeView() {
  const { projectId = '' } = useParams();
  const bench = acts.useBenchQuery(projectId);
  const ids = useAppSelector((state) => state.selection.ids);
  const dispatch = useAppDispatch();
  const [shown, setShown] = useState<Shown | null>(null);
  const [draft, setDraft] = useState<Draft | null>(null);
  const navigate = useNavigate();
  const columns = useMemo(() => benchColumns(draft, new Set(ids)), [draft, ids]);
  const all = useMemo(() => bench.data ?? [], [bench.data]);
  const apart = useMemo(() => all.filter((r) => r.apart), [all]);
  const otherwise = useMemo(() => all.filter((r) => r.interpretation), [all]);
  const filter = shown ?? (apart.length > 0 ? 'apart' : 'all');
  const among = filter === 'apart' ? apart : filter === 'read-otherwise' ? otherwise : all;
  const arranged = useArranged('timecode', columns, among);
  const { rows } = arranged;
  const order = useMemo(() => rows.map((r) => r.clipId as string), [rows]);
  const selection = useTableSelection(order);
  // Nothing is done to what is filtered away.
  const chosen = useMemo(() => {
    const set = new Set(ids);
    return rows.filter((r) => set.has(r.clipId));
  }, [rows, ids]);
  useCommand('select-all', () => dispatch(pickMany(order)), order.length ? null : 'No clip is shown.');
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
    <ListAndPanel
      name="timecode"
      listClass="flex min-w-0 flex-col"
      panelSize="330px"
      panelAtMost="50%"
      panel={
        <BenchPanel
          projectId={projectId}
          rows={all}
          chosen={chosen}
          draft={draft}
          onDraft={setDraft}
          onChoose={(list) => {
            setShown('apart');
            dispatch(pickMany(list.map((r) => r.clipId)));
          }}
        />
      }
    >
      <div className="line-b flex items-center gap-1 bg-base-200 px-2.5 py-2">
        {chip('apart', `Apart ${apart.length}`)}
        {chip('read-otherwise', `With an offset ${otherwise.length}`)}
        {chip('all', `All ${all.length}`)}
        <span className="ml-auto text-quiet">Edit and files stay as they are; only how they are counted changes.</span>
      </div>
      <ClipTable
        label="timecode"
        arranged={arranged}
        layouts={{ projectId, table: 'timecode', shipped: shippedLayouts(columns) }}
        idOf={(row) => row.clipId}
        nameOf={(row) => row.clipName}
        columns={columns}
        selection={selection}
        empty="No clip here: edit and files count alike."
        onOpen={() => void navigate(`/projects/${projectId}/ledger`)}
        menu={['select-all', 'go-ledger', 'undo']}
      />
    </ListAndPanel>
  );
}
