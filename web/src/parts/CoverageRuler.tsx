import { rangeLength, uncoveredFrames, type FrameRange } from '@legame/core/time';
import type { ClipDetail } from '@legame/core/contract';
import { count, timecode } from '@legame/words/numbers';

/**
 * The file's source range as a bar with timecode at both ends, the used ranges on it as blocks, one row a timeline.
 * What is not covered sticks out, hatched, with its number of frames.
 */
export function CoverageRuler({
  clip,
  holds,
}: {
  clip: Pick<ClipDetail, 'rate' | 'counting' | 'usesInFull' | 'used'>;
  holds: FrameRange | null;
}) {
  if (!holds || rangeLength(holds) <= 0) return null;
  const rows = new Map<string, FrameRange[]>();
  for (const use of clip.usesInFull) rows.set(use.timeline, [...(rows.get(use.timeline) ?? []), use.source]);
  const all = [holds, ...clip.used];
  const from = Math.min(...all.map((r) => r.start));
  const to = Math.max(...all.map((r) => r.end));
  const x = (frame: number) => `${((frame - from) / (to - from)) * 100}%`;
  const w = (r: FrameRange) => `${(rangeLength(r) / (to - from)) * 100}%`;
  const outside = clip.used.reduce((sum, used) => sum + uncoveredFrames(used, holds), 0);
  const isApart = clip.used.length > 0 && clip.used.every((used) => uncoveredFrames(used, holds) === rangeLength(used));
  if (isApart)
    return (
      <p className="text-[12px] font-semibold text-missing">
        None of the {count(outside, 'used frame')} lies in this file.
      </p>
    );
  const head = clip.used.length ? Math.min(...clip.used.map((u) => u.start)) - holds.start : 0;
  const tail = clip.used.length ? holds.end - Math.max(...clip.used.map((u) => u.end)) : 0;
  return (
    <figure className="text-[11.5px]" aria-label="coverage">
      <div className="mb-1 flex justify-between gap-2">
        <span className="font-mono">{timecode(holds.start, clip.rate, clip.counting)}</span>
        <span className={outside ? 'font-semibold text-missing' : 'text-quiet'}>
          {outside
            ? `${count(outside, 'used frame')} not covered`
            : clip.used.length
              ? `covers all; ${count(Math.max(0, Math.min(head, tail)), 'frame')} to spare`
              : 'not used in a timeline'}
        </span>
        <span className="font-mono">{timecode(holds.end, clip.rate, clip.counting)}</span>
      </div>
      <div className="relative h-2.5">
        <div
          className="absolute h-full rounded-[2px] border border-primary/70 bg-[var(--bond-wash)]"
          style={{ left: x(holds.start), width: w(holds) }}
        />
      </div>
      {[...rows].map(([name, ranges]) => (
        <div key={name} className="mt-1.5">
          <div className="relative h-2.5">
            {ranges.map((r, i) => {
              const sticksOut = uncoveredFrames(r, holds) > 0;
              return (
                <div
                  key={i}
                  title={`${timecode(r.start, clip.rate, clip.counting)}–${timecode(r.end, clip.rate, clip.counting)}`}
                  className={`absolute h-full min-w-[2px] rounded-[1px] ${sticksOut ? 'border border-missing text-missing bg-[repeating-linear-gradient(135deg,transparent_0_3px,currentColor_3px_4px)]' : 'bg-primary'}`}
                  style={{ left: x(r.start), width: w(r) }}
                />
              );
            })}
          </div>
          <span className="text-quiet">{name}</span>
        </div>
      ))}
    </figure>
  );
}
