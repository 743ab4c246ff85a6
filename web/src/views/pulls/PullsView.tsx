import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import type { DeskRowView } from '@legame/core/contract';
import { count } from '@legame/words/numbers';
import { deskVerdict, pullCounts, pullCountWords, type PullCount } from '@legame/words/pulls';
import { useAppSelector } from '../../app/store.ts';
import { pulls } from '../../api/pulls.ts';
import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { PullLists } from './PullLists.tsx';
import { PullPanel } from './PullPanel.tsx';
import { useStretch } from './useStretch.ts';
import { PullTable } from './PullTable.tsx';

/** What is to be fetched, by reel: what was asked of whom, what has come, and what nobody has. */
export function PullsView() {
  const { projectId = '' } = useParams();
  const [handles, setHandles] = useState(useAppSelector((state) => state.preferences.mine.handlesInFrames));
  const [shown, setShown] = useState<Shown>('all');
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [inHand, setInHand] = useState<string | null>(null);
  const { asked, text, isStretch, forget } = useStretch(projectId);
  const desk = pulls.usePullDeskQuery({ projectId, handles, ...asked });
  const all = useMemo(() => desk.currentData?.rows ?? desk.data?.rows ?? [], [desk.currentData, desk.data]);
  const rows = useMemo(() => all.filter((row) => isOf(row, shown)), [all, shown]);
  if (!desk.data) return <Waiting what="what is to be fetched" error={desk.error} />;
  const { holders } = desk.data;
  // What is filtered away is not acted on.
  const chosen = rows.filter((row) => selected.has(row.key));
  const row = rows.find((r) => r.key === inHand) ?? null;
  return (
    <ListAndPanel
      name="pulls"
      listClass="min-w-0 flex flex-col"
      panelSize="380px"
      panel={
        <PullPanel
          projectId={projectId}
          asked={{ handles, ...asked }}
          holders={holders}
          rows={chosen.length > 0 ? chosen : row ? [row] : []}
          onDone={() => setSelected(new Set())}
        />
      }
    >
      <header className="line-b px-3.5 py-2.5">
        <h2 className="text-[17px] font-bold">{deskVerdict(countShown(all))}</h2>
        <p className="flex flex-wrap items-center gap-x-1.5 text-quiet">
          What is dark, by reel, with
          <input
            type="number"
            min={0}
            max={100_000}
            aria-label="handles in frames"
            className="input input-xs w-16 text-right font-mono"
            value={handles}
            onChange={(e) => setHandles(Math.max(0, Math.min(100_000, Math.round(Number(e.target.value)) || 0)))}
          />
          frames of handles. What comes back is linked by itself and stands here as arrived.
        </p>
        {isStretch && (
          <p className="mt-1.5 flex flex-wrap items-center gap-x-2 bg-[var(--bond-wash)] px-2 py-1" role="status">
            Of a stretch alone: {text ?? 'a timeline that is not here'}.
            <button type="button" className="btn btn-plain btn-xs" onClick={forget}>
              The whole project
            </button>
          </p>
        )}
        <PullLists projectId={projectId} asked={{ handles, ...asked }} rows={all} holders={holders} />
        <StateChips rows={all} shown={shown} onShow={setShown} />
      </header>
      <ProblemNote error={desk.error} />
      {rows.length > 0 ? (
        <PullTable
          rows={rows}
          selected={selected}
          inHand={inHand}
          onSelect={setSelected}
          onInHand={(key) => {
            setInHand(key);
            setSelected(new Set());
          }}
        />
      ) : (
        <p className="p-3.5 text-quiet">
          {all.length > 0
            ? 'Nothing stands so any more.'
            : `Nothing is dark${isStretch ? ' there' : ''}, and nothing was asked for.`}
        </p>
      )}
    </ListAndPanel>
  );
}

/** What stands alike; of what is wanted, what may be here is told apart from what nothing here could be. */
type Shown = 'all' | PullCount;

const standing = ({ state, here }: DeskRowView): PullCount =>
  state === 'wanted' && here.length > 0 ? 'to-decide' : state;
const isOf = (row: DeskRowView, shown: Shown) => shown === 'all' || standing(row) === shown;

const countShown = (rows: readonly DeskRowView[]): Record<PullCount, number> => {
  const counts = Object.fromEntries(pullCounts.map((state) => [state, 0])) as Record<PullCount, number>;
  for (const row of rows) counts[standing(row)] += 1;
  return counts;
};

function StateChips({
  rows,
  shown,
  onShow,
}: {
  rows: readonly DeskRowView[];
  shown: Shown;
  onShow: (state: Shown) => void;
}) {
  const counts = countShown(rows);
  const chips = [
    { state: 'all' as const, text: `all ${rows.length}` },
    ...pullCounts
      .filter((s) => counts[s] > 0)
      .map((state) => ({ state, text: `${pullCountWords[state]} ${counts[state]}` })),
  ];
  return (
    <div className="flex flex-wrap gap-1.5 pt-2" role="group" aria-label={`show, of ${count(rows.length, 'source')}`}>
      {chips.map(({ state, text }) => (
        <button
          key={state}
          type="button"
          aria-pressed={shown === state}
          className={`btn btn-xs ${shown === state ? 'btn-primary' : 'btn-plain'}`}
          onClick={() => onShow(state)}
        >
          {text}
        </button>
      ))}
    </div>
  );
}
