import type { ClipRow } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { EvidenceLegend, EvidenceStrip } from '../../parts/EvidenceStrip.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { clock, count } from '../../words/numbers.ts';
import { foundPath } from './rows.ts';

const shownAtMost = 300;

/** Before many clips are linked: what exactly would happen. Nothing has been done yet. */
export function LinkManyPanel({
  projectId,
  kind,
  rows,
  onClose,
}: {
  projectId: string;
  kind: 'certain' | 'first-candidates';
  rows: readonly ClipRow[];
  onClose: () => void;
}) {
  const [link, linked] = api.useLinkMutation();
  const seconds = rows.reduce((sum, row) => sum + row.usedSeconds, 0);
  const go = () => {
    const links = rows.flatMap((row) =>
      row.candidate ? [{ clipId: row.id, mediaFileId: row.candidate.mediaFileId }] : [],
    );
    void link({ projectId, by: kind === 'certain' ? 'rule' : 'hand', links })
      .unwrap()
      .then((act) => {
        if (act.skipped.length === 0) onClose();
      })
      .catch(() => undefined);
  };
  return (
    <section className="flex h-full flex-col p-3.5" aria-label="preview of linking">
      <h2 className="text-[15px] font-semibold">What “Link {rows.length}” will do</h2>
      <p className="mt-1 mb-2 text-quiet">
        {kind === 'certain'
          ? 'Each has one candidate that is identified and unrivalled. '
          : 'Each is tied to its closest candidate, by your decision: not all of these are certain. Look at the evidence. '}
        No edit decision changes. {clock(seconds)} of screen time comes back. Undo is one step.
      </p>
      <ul className="line-t min-h-0 flex-1 overflow-auto">
        {rows.slice(0, shownAtMost).map((row) => (
          <li key={row.id} className="line-b flex items-center justify-between gap-2 py-1.5">
            <span className="min-w-0">
              <span className="block truncate font-mono" title={row.fileName}>
                {row.fileName}
              </span>
              <span
                className="block truncate text-[12px] text-quiet"
                title={`${foundPath(row)}/${row.candidate?.name ?? ''}`}
              >
                → {row.candidate?.name === row.fileName ? foundPath(row) : row.candidate?.name}
              </span>
            </span>
            {row.verdicts && <EvidenceStrip verdicts={row.verdicts} />}
          </li>
        ))}
        {rows.length > shownAtMost && <li className="py-2 text-quiet">and {rows.length - shownAtMost} more</li>}
      </ul>
      {linked.data && linked.data.skipped.length > 0 && (
        <p role="status" className="py-2">
          Linked {count(linked.data.count, 'clip')}. {count(linked.data.skipped.length, 'clip')} left alone:{' '}
          {linked.data.skipped[0]!.why}.
        </p>
      )}
      <ProblemNote error={linked.error} onClose={linked.reset} />
      <div className="flex items-center gap-2 py-2.5">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={rows.length === 0 || linked.isLoading}
          onClick={go}
        >
          {linked.isLoading ? 'Linking…' : `Link ${rows.length}`}
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Close
        </button>
      </div>
      <EvidenceLegend />
    </section>
  );
}
