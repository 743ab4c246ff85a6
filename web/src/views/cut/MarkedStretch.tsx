import { useNavigate } from 'react-router';
import { rangeLength, type FrameRange } from '@legame/core/time';
import { count, timecode } from '@legame/words/numbers';
import type { ShownTimeline } from '../../api/timelines.ts';
import { stretchInAddress } from '../pulls/useStretch.ts';

/** The stretch between the marks, and what can be done with it. */
export function MarkedStretch({
  projectId,
  timeline: { id, rate, counting },
  timelines,
  stretch,
  onUnmark,
}: {
  projectId: string;
  timeline: ShownTimeline;
  timelines: readonly ShownTimeline[];
  stretch: FrameRange;
  onUnmark: () => void;
}) {
  const navigate = useNavigate();
  const [from, to] = [timecode(stretch.start, rate, counting), timecode(stretch.end, rate, counting)];
  const handOff = () => {
    const left = timelines.filter((t) => t.id !== id).map((t) => t.id);
    void navigate(`/projects/${projectId}/handoff`, { state: { left, stretches: { [id]: { from, to } } } });
  };
  return (
    <div className="line-b flex shrink-0 items-center gap-3 bg-[var(--bond-wash)] px-3 py-1" role="status">
      <span>
        Marked: <span className="font-mono">{from}</span> – <span className="font-mono">{to}</span>,{' '}
        {count(rangeLength(stretch), 'frame')}
      </span>
      <span className="flex-1" />
      <button
        type="button"
        className="btn btn-plain btn-xs"
        onClick={() => void navigate(`/projects/${projectId}/pulls?${stretchInAddress(id, stretch)}`)}
      >
        Pull list of this stretch
      </button>
      <button type="button" className="btn btn-plain btn-xs" onClick={handOff}>
        Hand this stretch off…
      </button>
      <button type="button" className="btn btn-plain btn-xs" onClick={onUnmark}>
        Forget the marks
      </button>
    </div>
  );
}
