import { useState } from 'react';
import type { CheckpointView } from '@legame/core/contract';
import { checkpointText } from '@legame/words/history';
import { count, when } from '@legame/words/numbers';
import { acts } from '../../api/acts.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { ChangeList } from './ChangeList.tsx';

/** Two states that are held against one another: a checkpoint, and a later one, or now. */
export type Compared = { readonly id: number; readonly with: number | null };

/** States to return to: those that were named, and those kept by themselves before an act on many clips. */
export function Checkpoints({
  checkpoints,
  compared,
  isBusy,
  onCompare,
  onReturn,
}: {
  checkpoints: readonly CheckpointView[];
  compared: Compared | null;
  isBusy: boolean;
  onCompare: (compared: Compared | null) => void;
  onReturn: (id: number) => void;
}) {
  const [showsAll, setShowsAll] = useState(false);
  const own = checkpoints.filter((c) => c.before === null);
  const shown = showsAll ? checkpoints : own;
  if (checkpoints.length === 0) return null;
  return (
    <div className="line-b max-h-48 overflow-auto px-3 py-1.5">
      <ul aria-label="checkpoints">
        {shown.map((c) => (
          <li key={c.id} className="flex items-center gap-2 py-0.5">
            <span className={`min-w-0 truncate ${c.before ? '' : 'font-semibold'}`}>{checkpointText(c)}</span>
            <span className="shrink-0 text-quiet">{when(c.madeAt)}</span>
            <span className="ml-auto flex shrink-0 gap-1.5">
              <button
                type="button"
                className="btn btn-plain btn-xs"
                aria-pressed={compared?.id === c.id}
                title="What is otherwise now, or at another checkpoint"
                onClick={() => onCompare(compared?.id === c.id ? null : { id: c.id, with: null })}
              >
                Compare
              </button>
              <button
                type="button"
                className="btn btn-plain btn-xs"
                title="Every clip goes back to what was decided of it then. It is one act, and can be undone."
                disabled={isBusy}
                onClick={() => onReturn(c.id)}
              >
                Return to it
              </button>
            </span>
          </li>
        ))}
      </ul>
      {own.length < checkpoints.length && (
        <button
          type="button"
          className="text-quiet underline underline-offset-2"
          aria-expanded={showsAll}
          onClick={() => setShowsAll(!showsAll)}
        >
          {showsAll
            ? 'Only those that were named'
            : `${count(checkpoints.length - own.length, 'state')} kept before large acts`}
        </button>
      )}
    </div>
  );
}

/** What is otherwise in one state than in another, clip by clip. */
export function ComparedPanel({
  projectId,
  checkpoints,
  compared,
  onCompare,
}: {
  projectId: string;
  checkpoints: readonly CheckpointView[];
  compared: Compared;
  onCompare: (compared: Compared) => void;
}) {
  const found = acts.useCompareCheckpointsQuery({ projectId, ...compared });
  const first = checkpoints.find((c) => c.id === compared.id);
  const others = checkpoints.filter((c) => c.id !== compared.id);
  return (
    <section className="flex h-full flex-col p-3.5" aria-label="compared states">
      <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">{first ? checkpointText(first) : ''}</h2>
      <label className="mt-1 flex items-center gap-2">
        <span className="text-quiet">against</span>
        <select
          className="select select-sm min-w-0 flex-1"
          aria-label="state to compare with"
          value={compared.with ?? ''}
          onChange={(e) => onCompare({ ...compared, with: e.target.value === '' ? null : Number(e.target.value) })}
        >
          <option value="">now</option>
          {others.map((c) => (
            <option key={c.id} value={c.id}>
              {checkpointText(c)}, {when(c.madeAt)}
            </option>
          ))}
        </select>
      </label>
      {found.currentData ? (
        <>
          <p className="mt-1 mb-2" role="status">
            {found.currentData.count === 0
              ? 'Nothing is decided otherwise.'
              : `${count(found.currentData.count, 'change')} from the one to the other${found.currentData.count > found.currentData.changes.length ? `; shown: the first ${found.currentData.changes.length}` : ''}.`}
          </p>
          <ChangeList changes={found.currentData.changes} />
        </>
      ) : (
        <Waiting what="what is otherwise" error={found.error} />
      )}
    </section>
  );
}
