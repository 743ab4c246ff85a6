import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { harmfulStates } from '@legame/core/mhl';
import type { SetCheck, SetFile } from '@legame/core/contract';
import { count, when } from '@legame/words/numbers';
import { problemText } from '@legame/words/problems';
import { setSentence } from '@legame/words/sets';
import { sets } from '../../api/sets.ts';
import { JobProgress } from '../../parts/JobProgress.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { HashLists } from './HashLists.tsx';
import { SetFiles } from './SetFiles.tsx';
import { isUnderWay } from './standing.ts';

/** One check: what came of it in a sentence, what its lists are worth, and every file. */
export function CheckPanel({ check }: { check: SetCheck }) {
  const [state, setState] = useState<SetFile['state'] | null>(null);
  const [goOn, going] = sets.useGoOnWithCheckMutation();
  const navigate = useNavigate();
  const [open, opened] = sets.useOpenSetMutation();
  const { job, folder, lists, handoff } = check;
  const isOver = !isUnderWay(check);
  const harmed = harmfulStates.some((s) => check.counts[s].files > 0);
  return (
    <article aria-label="check" className="flex min-h-0 flex-1 flex-col gap-2">
      <h1 className="sr-only">{folder.split('/').at(-1)}</h1>
      <p role="status" className={`text-[17px] leading-7 ${isOver && harmed ? 'text-missing' : ''}`}>
        <Said check={check} />
      </p>
      <p className="font-mono text-quiet [overflow-wrap:anywhere]">{folder}</p>
      {handoff && (
        <p className="text-quiet">
          It is the set that{' '}
          <Link className="underline" to={`/projects/${handoff.projectId}/handoff`}>
            {handoff.project}
          </Link>{' '}
          handed over on {when(handoff.createdAt)}
          {handoff.listedOtherwise > 0 && (
            <b className="text-missing">
              , but its lists say of {count(handoff.listedOtherwise, 'file')} what that did not
            </b>
          )}
          .
        </p>
      )}
      {job && !isOver && <JobProgress job={job} />}
      {lists && <HashLists check={check} />}
      <div className="flex flex-wrap items-center gap-2">
        {lists && isOver && (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={opened.isLoading}
            title="Its timelines as a new project, its folder as a place, its media linked"
            onClick={() =>
              void open(check.id)
                .unwrap()
                .then(({ id }) => navigate(`/projects/${id}/ledger`))
                .catch(() => undefined)
            }
          >
            Open the set
          </button>
        )}
        {isOver && job?.state !== 'done' && (
          <button
            type="button"
            className="btn btn-plain btn-sm"
            disabled={going.isLoading}
            onClick={() => void goOn(check.id)}
          >
            Go on with the check
          </button>
        )}
        {check.generation && (
          <span className="text-quiet">
            Added to its lists: <span className="font-mono">{check.generation}</span>
          </span>
        )}
      </div>
      <ProblemNote error={opened.error ?? going.error} onClose={opened.error ? opened.reset : going.reset} />
      {lists && <SetFiles check={check} state={state} onState={setState} />}
    </article>
  );
}

function Said({ check }: { check: SetCheck }) {
  const { job, lists } = check;
  if (job?.state === 'failed') return <>{job.problem ? problemText(job.problem) : 'It could not be checked.'}</>;
  if (isUnderWay(check))
    return <>{lists ? 'Its files are being read and held against their hashes.' : 'Its lists are being read.'}</>;
  return <>{lists ? setSentence(check) : 'It was stopped before its lists were read.'}</>;
}
