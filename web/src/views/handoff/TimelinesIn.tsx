import { clock } from '@legame/words/numbers';
import type { ShownTimeline } from '../../api/timelines.ts';

/** Which timelines are handed over, with how much of each is dark. */
export function TimelinesIn({
  timelines,
  left,
  onChange,
}: {
  timelines: readonly ShownTimeline[];
  left: readonly string[];
  onChange: (left: string[]) => void;
}) {
  if (timelines.length === 0)
    return <p className="text-quiet">No timeline in this project, so all its clips are gathered.</p>;
  return (
    <fieldset aria-label="timelines">
      {timelines.map((t) => (
        <label key={t.id} className="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={!left.includes(t.id)}
            onChange={(e) => onChange(e.target.checked ? left.filter((id) => id !== t.id) : [...left, t.id])}
          />
          {t.name}
          <span className="font-mono text-quiet">{clock((t.length * t.rate.den) / t.rate.num)}</span>
          {t.darkInFrames > 0 && (
            <span className="text-missing">{clock((t.darkInFrames * t.rate.den) / t.rate.num)} dark</span>
          )}
        </label>
      ))}
    </fieldset>
  );
}
