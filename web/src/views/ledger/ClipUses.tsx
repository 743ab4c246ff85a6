import { binText } from '@legame/words/bins';
import type { ClipDetail } from '@legame/core/contract';
import { CommandButton } from '../../commands/CommandButton.tsx';
import { count, timecode } from '@legame/words/numbers';

/** More than this is asked for. */
const shownAtFirst = 6;

/** What the documents say of a clip besides its media: where it is used, through which nests, and what was noted. */
export function ClipUses({ clip }: { clip: ClipDetail }) {
  const notes = Object.entries(clip.metadata);
  const uses = clip.usesInFull.slice(0, shownAtFirst);
  const left = clip.usesInFull.length - uses.length;
  if (clip.usesInFull.length === 0 && notes.length === 0 && clip.bin.length === 0) return null;
  return (
    <section className="mt-3" aria-label="uses">
      {clip.usesInFull.length > 0 && (
        <>
          <div className="flex items-center justify-between">
            <h3 className="font-semibold">{count(clip.usesInFull.length, 'use')}</h3>
            <CommandButton id="show-in-cut" className="btn btn-plain btn-xs">
              In the cut
            </CommandButton>
          </div>
          <ul>
            {uses.map((use, i) => (
              <li key={i} className="line-t grid grid-cols-[96px_1fr] gap-x-2 py-0.5">
                <span className="font-mono">{timecode(use.record.start, use.rate, use.counting)}</span>
                <span className="min-w-0">
                  <span className="[overflow-wrap:anywhere]">
                    {use.steps.map((step, at) => (
                      <span key={at}>
                        {at > 0 && ' › '}
                        {step.timeline}{' '}
                        <span className="font-mono text-quiet">
                          {step.event.track}·{step.event.number}
                        </span>
                      </span>
                    ))}
                  </span>
                  <span className="block font-mono text-quiet">
                    reads {timecode(use.source.start, clip.rate, clip.counting)}–
                    {timecode(use.source.end, clip.rate, clip.counting)}
                    {speedWords(use.steps.map((s) => s.event.speed))}
                    {use.firstFrameInFile !== null &&
                      use.uncoveredInFrames === 0 &&
                      `, frame ${use.firstFrameInFile} of the file on`}
                  </span>
                  {use.uncoveredInFrames !== null && use.uncoveredInFrames > 0 && (
                    <span className="block text-short">{count(use.uncoveredInFrames, 'frame')} not in the file</span>
                  )}
                </span>
              </li>
            ))}
          </ul>
          {left > 0 && <p className="text-quiet">and {count(left, 'more use')}</p>}
        </>
      )}
      {(clip.bin.length > 0 || notes.length > 0) && (
        <dl className="line-t mt-2 grid grid-cols-[96px_1fr] gap-x-2 pt-1">
          {[...(clip.bin.length === 0 ? [] : [['bin', binText(clip.bin)] as const]), ...notes].map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="truncate text-quiet" title={name}>
                {name}
              </dt>
              <dd className="[overflow-wrap:anywhere] whitespace-pre-line">{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}

/** The speeds of a nest and of what is in it multiply. */
function speedWords(speeds: readonly { num: number; den: number }[]): string {
  const speed = speeds.reduce((all, { num, den }) => (all * num) / den, 1);
  if (speed === 1) return '';
  if (speed === 0) return ', frozen';
  return `, at ${Number((Math.abs(speed) * 100).toFixed(2))} %${speed < 0 ? ' backwards' : ''}`;
}
