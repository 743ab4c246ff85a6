import { useNavigate } from 'react-router';
import { tour } from '@legame/words/tour';
import { goOnTour } from '../session/look.ts';
import { useAppDispatch } from './store.ts';

/** One step of the way round, above the screen that it is about; it covers nothing and can be left at any time. */
export function Tour({ projectId, at }: { projectId: string; at: number }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const step = at === null ? undefined : tour[at];
  if (!step) return null;
  const go = (next: number) => {
    dispatch(goOnTour(next));
    void navigate(`/projects/${projectId}/${tour[next]!.screen}`);
  };
  const isLast = at === tour.length - 1;
  return (
    <section className="line-b flex items-center gap-3 bg-[var(--bond-wash)] px-3.5 py-2" aria-label="the way round">
      <span className="text-quiet">
        {at + 1} of {tour.length}
      </span>
      <p className="flex-1">{step.says}</p>
      {at > 0 && (
        <button type="button" className="btn btn-plain btn-sm" onClick={() => go(at - 1)}>
          Back
        </button>
      )}
      <button
        type="button"
        className="btn btn-primary btn-sm"
        onClick={() => (isLast ? dispatch(goOnTour(null)) : go(at + 1))}
      >
        {isLast ? 'Done' : 'Next'}
      </button>
      {!isLast && (
        <button type="button" className="btn btn-plain btn-sm" onClick={() => dispatch(goOnTour(null))}>
          Leave it
        </button>
      )}
    </section>
  );
}
