import { comparePlans } from '@legame/core/consolidate';
import type { Handoff, PlannedRecording } from '@legame/core/contract';
import { codedText } from '@legame/words/handoffs';
import { bytes, count } from '@legame/words/numbers';
import { SpanRuler } from './SpanRuler.tsx';
import { filesIn } from './PlanSum.tsx';

const columns = 'grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)_96px] items-center gap-4 px-2';

/** More differences than this nobody reads one by one. */
const mostTold = 300;

/** Two plans of one project: what each comes to, and the recordings of which they take something else. */
export function PlansCompared({ one, other, onClose }: { one: Handoff; other: Handoff; onClose: () => void }) {
  const differences = comparePlans(one.plan.recordings, other.plan.recordings);
  const [name, otherName] = [nameOf(one), nameOf(other)];
  return (
    <section aria-label="two plans compared" className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-baseline gap-3 py-1.5">
        <p>
          <b>{name}</b>: {sumOf(one)}. <b>{otherName}</b>: {sumOf(other)}.{' '}
          {differences.length === 0
            ? 'Both take the same.'
            : `They differ in ${count(differences.length, 'recording')}.`}
        </p>
        <span className="flex-1" />
        <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
          Back to the plan
        </button>
      </div>
      {differences.length > 0 && (
        <div className="sheet flex min-h-0 flex-1 flex-col" role="table" aria-label="what the plans take of recordings">
          <div className={`${columns} line-b h-7 shrink-0 text-quiet`} role="row">
            <span role="columnheader">Recording</span>
            <span role="columnheader" className="truncate">
              {name}
            </span>
            <span role="columnheader" className="truncate">
              {otherName}
            </span>
            <span role="columnheader" className="text-right">
              Difference
            </span>
          </div>
          <div className="min-h-0 flex-1 overflow-auto">
            {differences.slice(0, mostTold).map(({ one: here, other: there, moreInBytes }) => (
              <div key={(here ?? there)!.mediaFileId} className={`${columns} line-b py-1.5`} role="row">
                <span role="cell" className="truncate font-mono" title={(here ?? there)!.source}>
                  {(here ?? there)!.source.split('/').at(-1)}
                </span>
                <Side of={here} />
                <Side of={there} />
                <span role="cell" className="text-right font-mono">
                  {moreInBytes === 0 ? '–' : `${moreInBytes > 0 ? '+' : '−'}${bytes(Math.abs(moreInBytes))}`}
                </span>
              </div>
            ))}
            {differences.length > mostTold && (
              <p className="p-2 text-quiet">
                And {count(differences.length - mostTold, 'recording')} more, with smaller differences.
              </p>
            )}
          </div>
        </div>
      )}
    </section>
  );
}

function Side({ of }: { of: PlannedRecording | null }) {
  if (!of)
    return (
      <span role="cell" className="text-quiet">
        not in it
      </span>
    );
  const [coded, sidecars] = [codedText(of), of.sidecars.length];
  return (
    <span role="cell" className="min-w-0">
      <SpanRuler recording={of} />
      <span className="block truncate text-quiet">
        <span className="font-mono">{bytes(of.sizeInBytes)}</span> in {count(of.outs.length, 'file')}
        {coded && `, ${coded}`}
        {sidecars > 0 && `, ${count(sidecars, 'sidecar')}`}
      </span>
    </span>
  );
}

const nameOf = ({ folder }: Handoff): string => folder.split('/').at(-1)!;
const sumOf = ({ plan }: Handoff): string => `${bytes(plan.sizeInBytes)} in ${count(filesIn(plan), 'file')}`;
