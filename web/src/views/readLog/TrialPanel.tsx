import { useState } from 'react';
import { Link } from 'react-router';
import { formatPosition } from '@legame/core/time';
import type { Reach, TrialView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { useAppDispatch } from '../../app/store.ts';
import { JobProgress } from '../../parts/JobProgress.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { filterStatus, pick } from '../../session/selection.ts';
import { count, when } from '@legame/words/numbers';
import { remedyWords, suspicionWords, unreadableWords } from '@legame/words/storage';

const scopeWords = { chosen: 'chosen files', used: 'all used media', culprit: 'the culprit' } as const;

/** Decoding from end to end: of all that is used, or in the order of suspicion until the culprit is found. */
export function TrialPanel({ projectId }: { projectId: string }) {
  const trials = storage.useTrialsQuery(projectId);
  const [start, started] = storage.useStartTrialMutation();
  const [shownId, setShownId] = useState<string | null>(null);
  const shown = trials.data?.find((t) => t.id === shownId) ?? trials.data?.[0];
  return (
    <section className="flex h-full flex-col" aria-label="trial reads">
      <div className="p-3.5 pb-2">
        <h2 className="text-[15px] font-semibold">Trial read</h2>
        <p className="text-quiet">
          Decodes files from end to end in a fenced process. Only that proves that they can be read.
        </p>
        <div className="mt-2 flex flex-wrap gap-1.5">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={started.isLoading}
            title="The used media in the order of suspicion: failed before, changed last, largest"
            onClick={() => void start({ projectId, scope: 'culprit' }).then(() => setShownId(null))}
          >
            Find the culprit
          </button>
          <button
            type="button"
            className="btn btn-plain btn-sm"
            disabled={started.isLoading}
            onClick={() => void start({ projectId, scope: 'used' }).then(() => setShownId(null))}
          >
            Try all used media
          </button>
        </div>
        <ProblemNote error={started.error} onClose={started.reset} />
        {trials.data && trials.data.length > 1 && (
          <select
            className="select select-sm mt-2 w-full"
            aria-label="trial read shown"
            value={shown?.id ?? ''}
            onChange={(e) => setShownId(e.target.value)}
          >
            {trials.data.map((trial) => (
              <option key={trial.id} value={trial.id}>
                {when(trial.createdAt)} · {scopeWords[trial.scope]} · {count(trial.files.length, 'file')}
              </option>
            ))}
          </select>
        )}
      </div>
      {shown ? (
        <TrialResult projectId={projectId} trial={shown} />
      ) : (
        <p className="px-3.5 text-quiet">
          No trial read yet. When an edit hangs or crashes on one bad file, this finds it, in nested timelines too.
        </p>
      )}
    </section>
  );
}

function TrialResult({ projectId, trial }: { projectId: string; trial: TrialView }) {
  const jobs = api.useJobsQuery();
  const job = jobs.data?.find((j) => j.id === trial.jobId && (j.state === 'running' || j.state === 'queued'));
  const fails = trial.files.filter((f) => f.state === 'fails');
  const whole = trial.files.filter((f) => f.state === 'whole').length;
  const skipped = trial.files.filter((f) => f.state === 'skipped');
  const waiting = trial.files.filter((f) => f.state === 'waiting');
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2 overflow-auto px-3.5 pb-3.5">
      {job && <JobProgress job={job} />}
      <p>
        {fails.length > 0 ? (
          <b className="text-unreadable">{count(fails.length, 'file fails', 'files fail')}</b>
        ) : waiting.length === 0 ? (
          <b className="text-linked">Nothing fails</b>
        ) : (
          'Nothing fails so far'
        )}
        {` · ${count(whole, 'file is', 'files are')} whole`}
        {skipped.length > 0 && ` · ${count(skipped.length, 'file')} not there`}
        {waiting.length > 0 && ` · ${count(waiting.length, 'file')} to go`}
      </p>
      <ul aria-label="files that fail">
        {fails.map((file) => (
          <li key={file.mediaFileId} className="sheet mb-2 border-l-[3px] border-l-unreadable p-2.5">
            <p className="font-mono font-semibold [overflow-wrap:anywhere]">{file.name}</p>
            <p className="font-mono text-[12px] text-quiet">{file.where}</p>
            {file.reason && (
              <>
                <p className="text-unreadable [overflow-wrap:anywhere] first-letter:uppercase">
                  {unreadableWords(file.reason)}
                </p>
                <p className="text-quiet">{remedyWords(file.reason)}</p>
              </>
            )}
            <p className="mt-1.5 text-quiet">
              {file.reachedBy.length > 0 ? 'The edit reaches it by' : 'No timeline reaches it.'}
            </p>
            <ul>
              {file.reachedBy.map((reach, i) => (
                <li key={i}>
                  <Way projectId={projectId} reach={reach} />
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
      {trial.scope === 'culprit' && waiting.length > 0 && (
        <p className="text-quiet">
          Next:{' '}
          {waiting
            .slice(0, 3)
            .map((f) => `${f.name} (${suspicionWords[f.suspicion]})`)
            .join(', ')}
          {waiting.length > 3 ? '…' : ''}
        </p>
      )}
    </div>
  );
}

/** A way from a top timeline down to the clip, which it opens in the ledger. */
function Way({ projectId, reach }: { projectId: string; reach: Reach }) {
  const dispatch = useAppDispatch();
  const path = reach.steps.map((s) => `${s.timeline} ${s.track}·${s.event}`).join(' › ');
  return (
    <Link
      to={`/projects/${projectId}/ledger`}
      className="underline decoration-base-300 underline-offset-2 [overflow-wrap:anywhere]"
      onClick={() => {
        dispatch(filterStatus('all'));
        dispatch(pick(reach.clipId));
      }}
    >
      {path}{' '}
      <span className="font-mono text-quiet">at {formatPosition(reach.record.start, reach.rate, reach.counting)}</span>
    </Link>
  );
}
