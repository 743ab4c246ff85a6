import { CircleAlert, X } from 'lucide-react';
import { problemOf } from '../api/legame.ts';

/** What went wrong, in the server's words. Shows nothing when nothing did. */
export function ProblemNote({ error, onClose }: { error: unknown; onClose?: () => void }) {
  const problem = problemOf(error);
  if (!problem) return null;
  return (
    <div role="alert" className="flex items-start gap-2 rounded border border-error/50 bg-base-100 px-3 py-2">
      <CircleAlert size={16} className="mt-0.5 shrink-0 text-error" aria-hidden />
      <p className="min-w-0 flex-1 [overflow-wrap:anywhere]">{problem.detail}</p>
      {onClose && (
        <button type="button" className="btn btn-ghost btn-xs" onClick={onClose} aria-label="close">
          <X size={14} />
        </button>
      )}
    </div>
  );
}

/** A list that is on its way, or did not come. */
export function Waiting({ what, error }: { what: string; error?: unknown }) {
  return (
    <div className="p-4">{error ? <ProblemNote error={error} /> : <p className="text-quiet">Loading {what}…</p>}</div>
  );
}
