import type { ReactNode } from 'react';
import type { Act } from '@legame/core/contract';
import { count } from '@legame/words/numbers';
import { skippedText } from '@legame/words/problems';
import { EvidenceLegend } from './EvidenceStrip.tsx';
import { ProblemNote } from './ProblemNote.tsx';

/** What is asked of the server, as its hook tells how that went. */
type Asked = {
  readonly isLoading: boolean;
  readonly error?: unknown;
  readonly data?: Act | undefined;
  readonly reset: () => void;
};

/**
 * An act before it is done: what it would do, clip by clip, the one button that does it, what it left alone and why, and
 * what went wrong. Nothing is done by opening it.
 */
export function ActPanel({
  label,
  title,
  verb,
  isPossible,
  asked,
  previewError,
  onAct,
  onClose,
  children,
  evidence = true,
}: {
  label: string;
  title: ReactNode;
  /** What the button says; null where there is nothing that could be done. */
  verb: string | null;
  isPossible: boolean;
  asked: Asked;
  previewError?: unknown;
  /** Resolves to the act; the panel closes where nothing was left alone. */
  onAct: () => Promise<Act>;
  onClose: () => void;
  children: ReactNode;
  /** Whether the letters of evidence are explained below. */
  evidence?: boolean;
}) {
  const { data } = asked;
  return (
    <section className="flex h-full flex-col p-3.5" aria-label={label}>
      <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">{title}</h2>
      {children}
      {data && data.skipped.length > 0 && (
        <p role="status" className="py-2">
          Linked {count(data.count, 'clip')}; {count(data.skipped.length, 'clip')} left alone:{' '}
          {skippedText[data.skipped[0]!.why]}.
        </p>
      )}
      <ProblemNote error={previewError ?? asked.error} onClose={asked.reset} />
      <div className="flex items-center gap-2 py-2.5">
        {verb !== null && (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={!isPossible || asked.isLoading}
            onClick={() =>
              void onAct().then(
                (act) => act.skipped.length === 0 && onClose(),
                // What went wrong is shown above.
                () => undefined,
              )
            }
          >
            {verb}
          </button>
        )}
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Close
        </button>
      </div>
      {evidence && <EvidenceLegend />}
    </section>
  );
}
