import { rangeLength, type FrameRange } from '@legame/core/time';
import { count, timecode } from '@legame/words/numbers';
import type { ShownTimeline } from '../../api/timelines.ts';
import type { Draft } from '../handoff/draft.ts';

/** The stretch between the marks, and what can be done with it. */
export function MarkedStretch({
  timeline: { id, rate, counting },
  stretch,
  onUnmark,
  onHandOff,
  onPull,
}: {
  timeline: ShownTimeline;
  stretch: FrameRange;
  onUnmark: () => void;
  onHandOff: (stretches: Draft['stretches']) => void;
  onPull: () => void;
}) {
  const [from, to] = [timecode(stretch.start, rate, counting), timecode(stretch.end, rate, counting)];
  return (
    <div className="line-b flex shrink-0 items-center gap-3 bg-[var(--bond-wash)] px-3 py-1" role="status">
      <span>
        Marked: <span className="font-mono">{from}</span> – <span className="font-mono">{to}</span>,{' '}
        {count(rangeLength(stretch), 'frame')}
      </span>
      <span className="flex-1" />
      <button type="button" className="btn btn-plain btn-xs" onClick={onPull}>
        Pull list of this stretch
      </button>
      <button type="button" className="btn btn-plain btn-xs" onClick={() => onHandOff({ [id]: { from, to } })}>
        Hand this stretch off…
      </button>
      <button type="button" className="btn btn-plain btn-xs" onClick={onUnmark}>
        Forget the marks
      </button>
    </div>
  );
}
