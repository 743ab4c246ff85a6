import { useState } from 'react';
import { api } from '../api/legame.ts';
import { JobProgress } from '../parts/JobProgress.tsx';
import { jobTitle, progressText } from '@legame/words/jobs';
import { count } from '@legame/words/numbers';
import { problemText } from '@legame/words/problems';

/** What runs now, and what failed last. */
export function RunningJobs() {
  const { data } = api.useJobsQuery();
  const [open, setOpen] = useState(false);
  const running = data?.filter((job) => job.state === 'running' || job.state === 'queued') ?? [];
  // The newest of its kind about the same comes first: one that was done since says nothing any more.
  const failed =
    data?.filter(
      (job, i) =>
        job.state === 'failed' &&
        data.findIndex(
          (other) => other.kind === job.kind && JSON.stringify(other.payload) === JSON.stringify(job.payload),
        ) === i,
    ) ?? [];
  if (running.length === 0 && failed.length === 0) return null;
  const first = running[0];
  return (
    <div className="relative">
      <button
        type="button"
        className="btn btn-plain btn-sm max-w-72"
        onClick={() => setOpen(!open)}
        aria-expanded={open}
      >
        <span className="truncate">
          {first
            ? [jobTitle(first), progressText(first)].filter(Boolean).join(' · ')
            : `${count(failed.length, 'job')} failed`}
        </span>
        {running.length > 1 && <span className="text-quiet">+{running.length - 1}</span>}
      </button>
      {open && (
        <div className="sheet absolute right-0 z-30 mt-1 flex w-96 flex-col gap-3 p-3" aria-label="jobs">
          {running.map((job) => (
            <JobProgress key={job.id} job={job} />
          ))}
          {failed.map((job) => (
            <div key={job.id}>
              <p className="font-semibold">{jobTitle(job)} failed</p>
              <p className="[overflow-wrap:anywhere]">{job.problem && problemText(job.problem)}</p>
            </div>
          ))}
        </div>
      )}
    </div>
  );
}
