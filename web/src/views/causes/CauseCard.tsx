import { Link } from 'react-router';
import type { CauseView } from '@legame/core/contract';
import { CausePath } from '../../parts/CausePath.tsx';
import { causeSentence, mendWords, supportWords } from '@legame/words/causes';
import { clock, count } from '@legame/words/numbers';

/** One cause: what happened, from where to where, how much it costs, what speaks for it, and its remedy. */
export function CauseCard({
  cause,
  isShown,
  isBusy,
  onShow,
  onMend,
  onPark,
  onLedger,
  projectId,
}: {
  cause: CauseView;
  isShown: boolean;
  isBusy: boolean;
  onShow: () => void;
  onMend: () => void;
  onPark: () => void;
  onLedger: () => void;
  projectId: string;
}) {
  const clips = cause.clipIds.length;
  // What is only likely is looked at first; linking it is the other way out.
  const isLikely = cause.certainty === 'likely';
  return (
    <li
      aria-current={isShown}
      data-cause={cause.kind.code}
      className={`rounded border bg-base-100 px-3.5 py-3 ${isShown ? 'border-primary shadow-[inset_3px_0_0_var(--color-primary)]' : 'border-base-300'}`}
      onClick={onShow}
      onDoubleClick={onLedger}
    >
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="text-[15px] font-semibold">{causeSentence(cause.kind, clips)}</h2>
        <span className="shrink-0">
          <b>{count(clips, 'clip')}</b> · <b className="font-mono text-missing">{clock(cause.screenSeconds)}</b> dark
        </span>
      </div>
      <CausePath kind={cause.kind} samples={cause.samples} />
      <div className="mt-1 flex flex-wrap items-end justify-between gap-2">
        <p className="min-w-[200px] flex-1 text-quiet">{supportWords(cause)}</p>
        <div className="flex gap-1.5" onClick={(event) => event.stopPropagation()}>
          {cause.kind.code === 'place-away' || cause.kind.code === 'volume-unknown' ? (
            <Link className="btn btn-plain btn-sm" to={`/projects/${projectId}/places`}>
              {cause.kind.code === 'place-away' ? 'It lies elsewhere…' : 'Say where it is…'}
            </Link>
          ) : null}
          {cause.links === 0 && cause.kind.code !== 'being-read' && (
            <button type="button" className="btn btn-plain btn-sm" onClick={onLedger}>
              See in the ledger
            </button>
          )}
          {cause.links === 0 && (cause.kind.code === 'place-away' || cause.kind.code === 'gone') && (
            <button type="button" className="btn btn-plain btn-sm" disabled={isBusy} onClick={onPark}>
              Park {clips}
            </button>
          )}
          {cause.links > 0 && (
            <>
              <button
                type="button"
                className={`btn btn-sm ${isLikely ? 'btn-primary' : 'btn-plain'}`}
                onClick={isLikely && isShown ? onLedger : onShow}
              >
                {isLikely ? (isShown ? 'Look at them' : 'Look first') : 'Preview'}
              </button>
              <button
                type="button"
                className={`btn btn-sm ${isLikely ? 'btn-plain' : 'btn-primary'}`}
                disabled={isBusy}
                onClick={onMend}
              >
                {mendWords(cause)}
              </button>
            </>
          )}
        </div>
      </div>
    </li>
  );
}
