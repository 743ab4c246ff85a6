import { doingText, jobTitle } from '@legame/words/jobs';
import type { Job } from '@legame/core/contract';
import { api } from '../api/legame.ts';
import { bytes, group } from '@legame/words/numbers';

const amount = (n: number, unit: 'files' | 'bytes' | 'clips') => (unit === 'bytes' ? bytes(n) : group(n));

/** How far a job is, what it does now, and what is left at the speed so far. */
export function JobProgress({ job }: { job: Job }) {
  const [cancel, { isLoading }] = api.useCancelJobMutation();
  const p = job.progress;
  const speed = p && p.elapsedSeconds > 1 ? p.done / p.elapsedSeconds : 0;
  const left = p?.of && speed > 0 ? Math.ceil((p.of - p.done) / speed) : null;
  return (
    <div className="flex flex-col gap-1" role="status">
      <div className="flex items-center justify-between gap-2">
        <span className="min-w-0 truncate">
          {job.state === 'queued' ? `${jobTitle(job)}: waiting its turn` : p ? doingText(p.doing) : jobTitle(job)}
        </span>
        <button
          type="button"
          className="btn btn-plain btn-xs shrink-0"
          disabled={isLoading}
          onClick={() => void cancel(job.id)}
        >
          Stop
        </button>
      </div>
      <progress
        className="progress progress-primary h-1.5 w-full"
        {...(p?.of ? { value: p.done, max: p.of } : {})}
        aria-label={jobTitle(job)}
      />
      {p && (
        <span className="text-quiet">
          {amount(p.done, p.unit)}
          {p.of !== null && ` of ${amount(p.of, p.unit)}`} {p.unit !== 'bytes' && p.unit}
          {p.unit === 'bytes' && speed > 0 && ` · ${bytes(speed)} a second`}
          {left !== null && left > 1 && ` · ${left} s left`}
        </span>
      )}
    </div>
  );
}
