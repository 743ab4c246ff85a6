import type { Handoff } from '@legame/core/contract';
import {
  alsoHashedText,
  codingText,
  cutsParts,
  divisionText,
  folderingText,
  layoutText,
  listed,
  scopeText,
  treatmentText,
  receiverText,
} from '@legame/words/handoffs';
import { bytes, count, when } from '@legame/words/numbers';
import { problemText } from '@legame/words/problems';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../api/legame.ts';
import { sets } from '../../api/sets.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { PlansCompared } from './PlansCompared.tsx';
import { PlanSum } from './PlanSum.tsx';
import { PlanTable } from './PlanTable.tsx';
import { RunningCopy } from './RunningCopy.tsx';

/** A kept plan, its run and its proof, in one place. */
export function HandoffPanel({
  handoff,
  others,
  onChange,
}: {
  handoff: Handoff;
  /** The other plans of the project, run or not. */
  others: readonly Handoff[];
  onChange: () => void;
}) {
  const [comparedTo, setComparedTo] = useState<string | null>(null);
  const other = others.find((h) => h.id === comparedTo);
  const [run, ran] = api.useRunHandoffMutation();
  const { plan, state, copied } = handoff;
  const left = copied.filter((f) => f.state !== 'verified').length;
  const isStopped = state === 'failed' || state === 'cancelled';
  return (
    <article aria-label="handoff" className="flex h-full flex-col">
      <h1 className="sr-only">{nameOf(handoff)}</h1>
      <Said handoff={handoff} />
      {plan.targets.map(({ folder }) => (
        <p key={folder} className="font-mono text-quiet [overflow-wrap:anywhere]">
          {folder}
        </p>
      ))}
      <PlanSum
        plan={plan}
        writtenInBytes={state === 'done' ? copied.reduce((sum, f) => sum + f.sizeInBytes, 0) : null}
        targets={state === 'planned' ? plan.targets : []}
      >
        {(state === 'planned' || isStopped) && (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={ran.isLoading || (state === 'planned' && plan.targets.some((t) => !t.room.fits))}
            onClick={() => void run(handoff.id)}
          >
            {isStopped
              ? `Continue with ${count(left, 'file')}`
              : `Write ${count(copied.length, 'file')}, ${bytes(plan.sizeInBytes)}`}
          </button>
        )}
        {state === 'done' &&
          plan.targets.map(({ folder }) => (
            <CheckAgain key={folder} folder={folder} isOnly={plan.targets.length === 1} />
          ))}
      </PlanSum>
      <Standing handoff={handoff} />
      <ProblemNote error={ran.error} onClose={ran.reset} />
      <div className="flex items-center gap-3">
        <button
          type="button"
          className="btn btn-plain btn-xs"
          title={
            state === 'planned'
              ? 'The sentence again, as it was chosen; kept under the same name, the new plan takes the place of this one'
              : 'A new plan that begins with these choices'
          }
          onClick={onChange}
        >
          {state === 'planned' ? 'Change the plan…' : 'Plan it again…'}
        </button>
        {others.length > 0 && (
          <select
            className="select select-xs w-auto"
            aria-label="compare with"
            value={comparedTo ?? ''}
            onChange={(e) => setComparedTo(e.target.value || null)}
          >
            <option value="">Compare with…</option>
            {others.map((h) => (
              <option key={h.id} value={h.id}>
                {nameOf(h)}, {when(h.createdAt)}
              </option>
            ))}
          </select>
        )}
      </div>
      {other ? (
        <PlansCompared one={handoff} other={other} onClose={() => setComparedTo(null)} />
      ) : (
        <PlanTable plan={plan} copied={state === 'planned' ? null : copied} />
      )}
    </article>
  );
}

const nameOf = ({ folder }: Handoff): string => folder.split('/').at(-1)!;

/** Holds the set against its hash lists, as who receives it would. */
function CheckAgain({ folder, isOnly }: { folder: string; isOnly: boolean }) {
  const [start, started] = sets.useStartSetCheckMutation();
  const navigate = useNavigate();
  return (
    <>
      <button
        type="button"
        className="btn btn-plain btn-sm"
        disabled={started.isLoading}
        title="Read every file of the set once more, and hold it against its hash list"
        onClick={() =>
          void start({ folder, addGeneration: false })
            .unwrap()
            .then(({ id }) => navigate(`/received/${id}`))
            .catch(() => undefined)
        }
      >
        {isOnly ? 'Check it again' : `Check ${folder.split('/').at(-2)} again`}
      </button>
      <ProblemNote error={started.error} onClose={started.reset} />
    </>
  );
}

/** How far it is. */
function Standing({ handoff }: { handoff: Handoff }) {
  const jobs = api.useJobsQuery();
  const { plan, copied } = handoff;
  const verified = copied.filter((f) => f.state === 'verified');
  switch (handoff.state) {
    case 'planned':
      return (
        <p className="mb-1">
          <b>Nothing is written yet.</b> {count(plan.timelines.length, 'document')} will lie beside the media and open
          on it.
        </p>
      );
    case 'running': {
      const job = jobs.data?.find((j) => j.id === handoff.jobId && (j.state === 'running' || j.state === 'queued'));
      return job ? <RunningCopy job={job} /> : <p>Finishing…</p>;
    }
    case 'done':
      return (
        <p role="status" className="mb-1">
          <b className="text-linked">Done and verified.</b> {count(verified.length, 'file')},{' '}
          {bytes(verified.reduce((sum, f) => sum + f.sizeInBytes, 0))}: each was flushed, read back and compared, parts
          picture by picture with their sources. ascmhl/ lists size and xxh64 of every file for who receives it,
          report.csv where each came from; {count(plan.timelines.length, 'document')} beside it open on them.
        </p>
      );
    case 'failed':
    case 'cancelled':
      return (
        <p role="status" className="mb-1">
          <b className="text-changed">{handoff.state === 'cancelled' ? 'Stopped by hand.' : 'Stopped.'}</b>{' '}
          {verified.length} of {copied.length} files are verified and stay.{' '}
          {handoff.problem && problemText(handoff.problem)}
        </p>
      );
  }
}

/** How a kept plan reads: the words that were chosen. */
function Said({ handoff }: { handoff: Handoff }) {
  const { plan, layout } = handoff;
  const { choices } = plan;
  const { exceptions } = choices;
  const along = [
    ...(choices.sidecars ? ['sidecars'] : []),
    ...(choices.logs ? ['shot logs'] : []),
    ...(choices.archive ? ['the project'] : []),
  ];
  const coding = <b>{codingText[choices.coding]}</b>;
  return (
    <p className="text-[17px] leading-8" aria-label="the plan">
      Hand <b>{scopeText(plan)}</b> over to <b>{receiverText(choices.receiver)}</b> as <b>{nameOf(handoff)}</b>: picture{' '}
      <b>{treatmentText[choices.picture]}</b>
      {choices.picture === 'transcode' ? <> to {coding}</> : null}
      {choices.transcodesRefused && choices.picture !== 'transcode' ? (
        <>
          {' '}
          (what {choices.receiver ? 'the receiver cannot use' : 'this project does not accept'} transcoded to {coding})
        </>
      ) : null}
      , sound <b>{treatmentText[choices.sound]}</b>
      {choices.sound === 'transcode' && ` to ${codingText.wave}`}, stills <b>{treatmentText[choices.still]}</b>
      {exceptions.length > 0 && <>, {count(exceptions.length, 'recording')} otherwise</>}
      {cutsParts(choices) && (
        <>
          , with <b>{count(choices.handlesInFrames, 'frame')}</b> of handles and <b>{divisionText[choices.division]}</b>
        </>
      )}
      {along.length > 0 && (
        <>
          , and with them <b>{listed(along)}</b>
        </>
      )}
      ; <b>{folderingText[choices.foldering]}</b>, named <b>{choices.pattern}</b>, as <b>{layoutText[layout]}</b>,
      proven by <b>{listed(['xxh64', ...choices.alsoHashed.map((name) => alsoHashedText[name])])}</b>.
    </p>
  );
}
