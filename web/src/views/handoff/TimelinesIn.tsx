import { formatTimecode } from '@legame/core/time';
import { clock } from '@legame/words/numbers';
import type { ShownTimeline } from '../../api/timelines.ts';
import { rangeOf, type Draft, type Stretch } from './draft.ts';

/** Which timelines are handed over, with how much of each is dark, and of which only a stretch. */
export function TimelinesIn({
  draft: { left, stretches },
  timelines,
  onChange,
}: {
  draft: Pick<Draft, 'left' | 'stretches'>;
  timelines: readonly ShownTimeline[];
  onChange: (change: Partial<Draft>) => void;
}) {
  if (timelines.length === 0)
    return <p className="text-quiet">No timeline in this project, so all its clips are gathered.</p>;
  return (
    <fieldset aria-label="timelines" className="flex flex-col gap-2">
      {timelines.map((t) => {
        const isIn = !left.includes(t.id);
        return (
          <div key={t.id}>
            <label className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={isIn}
                onChange={(e) =>
                  onChange({ left: e.target.checked ? left.filter((id) => id !== t.id) : [...left, t.id] })
                }
              />
              {t.name}
              <span className="font-mono text-quiet">{clock((t.length * t.rate.den) / t.rate.num)}</span>
              {t.darkInFrames > 0 && (
                <span className="text-missing">{clock((t.darkInFrames * t.rate.den) / t.rate.num)} dark</span>
              )}
            </label>
            {isIn && (
              <StretchIn
                timeline={t}
                stretch={stretches[t.id]}
                onChange={(stretch) => onChange({ stretches: { ...stretches, [t.id]: stretch } })}
              />
            )}
          </div>
        );
      })}
    </fieldset>
  );
}

function StretchIn({
  timeline,
  stretch = { from: '', to: '' },
  onChange,
}: {
  timeline: ShownTimeline;
  stretch: Stretch | undefined;
  onChange: (stretch: Stretch) => void;
}) {
  const { name, start, length, rate, counting } = timeline;
  const range = rangeOf(timeline, stretch);
  const edge = (which: keyof Stretch, frames: number) => (
    <input
      className="input input-xs w-28 font-mono"
      aria-label={`${name} ${which}`}
      value={stretch[which]}
      placeholder={formatTimecode(frames, rate, counting)}
      onChange={(e) => onChange({ ...stretch, [which]: e.target.value })}
    />
  );
  return (
    <div className="pl-6">
      <span className="flex items-center gap-2 text-quiet">
        from {edge('from', start)} to {edge('to', start + length)}
      </span>
      {range && 'wrong' in range && <span className="text-missing">{range.wrong}</span>}
    </div>
  );
}
