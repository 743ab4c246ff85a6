import { useState } from 'react';
import { useLocation, useParams } from 'react-router';
import type { Handoff } from '@legame/core/contract';
import { bytes, when } from '@legame/words/numbers';
import { api } from '../../api/legame.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { DraftPanel } from './DraftPanel.tsx';
import { broughtSchema } from './draft.ts';
import { HandoffPanel } from './HandoffPanel.tsx';
import { ListsOut } from './ListsOut.tsx';

const stateWords = {
  planned: 'planned',
  running: 'running',
  done: 'verified',
  failed: 'stopped',
  cancelled: 'stopped by hand',
} as const;

/** Gathers the media that is used: choose the scope, see the plan, run it, read the proof. */
export function HandoffView() {
  const { projectId = '' } = useParams();
  const project = api.useProjectQuery(projectId);
  const handoffs = api.useHandoffsQuery(projectId);
  /** A kept one by its id; null while planning. Until somebody chooses, the newest, if there is any. */
  const brought = broughtSchema.safeParse(useLocation().state).data ?? {};
  const [chosen, setChosen] = useState<string | null | undefined>(
    brought.clips || brought.stretches ? null : undefined,
  );
  /** A kept plan that is being changed. */
  const [changed, setChanged] = useState<Handoff | null>(null);
  const show = (id: string | null) => {
    setChosen(id);
    setChanged(null);
  };
  if (!handoffs.data || !project.data) return <Waiting what="handoffs" error={handoffs.error ?? project.error} />;
  const shown =
    chosen === null
      ? undefined
      : (handoffs.data.find((h) => h.id === chosen) ?? (chosen ? undefined : handoffs.data[0]));
  return (
    <div className="grid h-full grid-cols-[200px_minmax(0,1fr)]">
      <aside className="line-r flex min-h-0 flex-col gap-2 overflow-auto bg-base-100 p-3">
        <button type="button" className="btn btn-plain btn-sm" disabled={!shown} onClick={() => show(null)}>
          Plan another…
        </button>
        <ul className="flex flex-col gap-1" aria-label="handoffs">
          {handoffs.data.map((h) => (
            <li key={h.id}>
              <Kept handoff={h} isShown={h === shown} onShow={() => show(h.id)} />
            </li>
          ))}
        </ul>
        {handoffs.data.length === 0 && (
          <p className="text-quiet">No handoff yet. Nothing is written until you say so; every word can be changed.</p>
        )}
        <ListsOut projectId={projectId} />
      </aside>
      <div className="min-h-0 overflow-auto p-4" role="region" aria-label="the handoff in hand">
        {shown ? (
          <HandoffPanel
            key={shown.id}
            handoff={shown}
            others={handoffs.data.filter((h) => h !== shown)}
            onChange={() => {
              setChosen(null);
              setChanged(shown);
            }}
          />
        ) : (
          <DraftPanel
            key={changed?.id}
            projectId={projectId}
            projectName={project.data.name}
            from={changed ?? brought}
            onKept={show}
          />
        )}
      </div>
    </div>
  );
}

function Kept({ handoff, isShown, onShow }: { handoff: Handoff; isShown: boolean; onShow: () => void }) {
  const { plan } = handoff;
  return (
    <button
      type="button"
      className={`w-full rounded px-2 py-1.5 text-left ${isShown ? 'bg-[var(--bond-wash)]' : 'hover:bg-base-200'}`}
      onClick={onShow}
    >
      <b className="block [overflow-wrap:anywhere]">{handoff.folder.split('/').at(-1)}</b>
      <span className="text-quiet">
        {stateWords[handoff.state]} · {bytes(plan.sizeInBytes)}
        {plan.sizeInBytes < plan.wholeInBytes && ` of ${bytes(plan.wholeInBytes)}`}
        <br />
        {when(handoff.createdAt)}
      </span>
    </button>
  );
}
