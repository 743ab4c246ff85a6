import { nominalRate } from '@legame/core/time';
import { timecode } from '@legame/words/numbers';
import type { ShownTimeline } from '../../api/timelines.ts';
import { across } from './drawCut.ts';
import { rulerStep, type Marks, type Sight } from './sight.ts';

/** Timecode along the top of the tracks. */
export function Ruler({
  timeline,
  sight,
  width,
  marks: { first: from, last: to },
}: {
  timeline: Pick<ShownTimeline, 'rate' | 'counting'>;
  sight: Sight;
  width: number;
  marks: Marks;
}) {
  const { rate, counting } = timeline;
  const step = rulerStep(sight, width, nominalRate(rate));
  const x = across(sight, width);
  const first = Math.ceil(sight.from / step) * step;
  const steps = Array.from({ length: Math.max(0, Math.ceil((sight.to - first) / step)) }, (_, i) => first + i * step);
  return (
    <div className="relative h-6 overflow-hidden text-[11.5px] text-quiet" aria-hidden>
      {(from !== null || to !== null) && (
        <span
          className={`absolute inset-y-0 border-primary bg-[var(--bond-wash)] ${from === null ? '' : 'border-l-2'} ${to === null ? '' : 'border-r-2'}`}
          style={{
            left: x(from ?? sight.from),
            width: Math.max(2, x(to === null ? sight.to : to + 1) - x(from ?? sight.from)),
          }}
        />
      )}
      {steps.map((frame) => (
        <span
          key={frame}
          className="absolute top-1 border-l border-base-content/40 pl-1 font-mono whitespace-nowrap"
          style={{ left: x(frame) }}
        >
          {timecode(frame, rate, counting)}
        </span>
      ))}
    </div>
  );
}
