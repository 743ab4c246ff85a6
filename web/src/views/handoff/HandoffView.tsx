import { useState } from 'react';
import { useParams } from 'react-router';
import { api } from '../../api/legame.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { bytes, count, when } from '@legame/words/numbers';
import { HandoffPanel } from './HandoffPanel.tsx';
import { ListsOut } from './ListsOut.tsx';
import { PlanForm } from './PlanForm.tsx';

export const stateWords = {
  planned: 'planned',
  running: 'running',
  done: 'verified',
  failed: 'stopped',
  cancelled: 'stopped by hand',
} as const;

/** Gathers the media that is used: choose the scope, see the plan, run it, read the proof. */
export function HandoffView() {
  const { projectId = '' } = useParams();
  const handoffs = api.useHandoffsQuery(projectId);
  const [shownId, setShownId] = useState<string | null>(null);
  const [planning, setPlanning] = useState(false);
  if (!handoffs.data) return <Waiting what="handoffs" error={handoffs.error} />;
  const shown = planning ? undefined : (handoffs.data.find((h) => h.id === shownId) ?? handoffs.data[0]);
  return (
    <div className="grid h-full grid-cols-[250px_minmax(0,1fr)]">
      <aside className="line-r flex min-h-0 flex-col gap-2 overflow-auto bg-base-100 p-3">
        <button type="button" className="btn btn-primary btn-sm" disabled={!shown} onClick={() => setPlanning(true)}>
          Plan a handoff…
        </button>
        <ul className="flex flex-col gap-1" aria-label="handoffs">
          {handoffs.data.map((h) => (
            <li key={h.id}>
              <button
                type="button"
                className={`w-full rounded px-2 py-1.5 text-left ${h === shown ? 'bg-[var(--bond-wash)]' : 'hover:bg-base-200'}`}
                onClick={() => {
                  setShownId(h.id);
                  setPlanning(false);
                }}
              >
                <b className="block [overflow-wrap:anywhere]">{h.folder.split('/').at(-1)}</b>
                <span className="text-quiet">
                  {stateWords[h.state]} · {count(h.plan.files.length, 'file')}, {bytes(h.plan.sizeInBytes)}
                  <br />
                  {when(h.createdAt)}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {handoffs.data.length === 0 && (
          <p className="text-quiet">
            No handoff yet. A plan copies nothing; it shows what would be copied, and what cannot come along.
          </p>
        )}
        <ListsOut projectId={projectId} />
      </aside>
      <div className="min-h-0 overflow-auto p-4" tabIndex={0} role="region" aria-label="the handoff in hand">
        {shown ? (
          <HandoffPanel key={shown.id} handoff={shown} />
        ) : (
          <PlanForm
            projectId={projectId}
            onPlanned={(id) => {
              setShownId(id);
              setPlanning(false);
            }}
          />
        )}
      </div>
    </div>
  );
}
