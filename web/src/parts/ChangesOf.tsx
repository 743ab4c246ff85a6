import { useEffect, useRef } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { Comparison } from '@legame/core/contract';
import { changeWords } from '@legame/words/changes';
import { count, timecode } from '@legame/words/numbers';
import { useAppDispatch } from '../app/store.ts';
import { filterStatus, filterText, pick } from '../session/selection.ts';

type Timeline = Comparison['timelines'][number];
type Change = Timeline['changes'][number];

/** What changed in a timeline, in lines; one of them may be in hand. */
export function ChangesOf({
  timeline,
  inHand = null,
  onInHand,
}: {
  timeline: Timeline;
  /** By its place among the changes. */
  inHand?: number | null;
  onInHand?: (change: number) => void;
}) {
  const moves = new Map<number, Change[]>();
  for (const change of timeline.changes)
    if (change.kind === 'moved' && change.byFrames && change.before?.track === change.event?.track)
      moves.set(change.byFrames, [...(moves.get(change.byFrames) ?? []), change]);
  // Whatever was inserted pushes all that follows: one line for all that moved by the same.
  const together = [...moves].filter(([, list]) => list.length > 2);
  const pushed = new Set(together.flatMap(([, list]) => list));
  return (
    <>
      <h3 className="font-semibold">
        {timeline.name}{' '}
        <span className="font-normal text-quiet">
          {timeline.only === 'newer'
            ? 'only in the newer version'
            : timeline.only === 'older'
              ? 'not in the newer version any more'
              : `${count(timeline.kept.length, 'event')} unchanged`}
        </span>
      </h3>
      <ol className="flex flex-col">
        {together.map(([byFrames, list]) => (
          <li key={byFrames} className="line-b py-1">
            {count(list.length, 'event')} moved by {byFrames > 0 ? '+' : '−'}
            <span className="font-mono">{timecode(Math.abs(byFrames), timeline.rate, 'non-drop')}</span>, otherwise the
            same
            <DarkAmong changes={list} />
          </li>
        ))}
        {timeline.changes.map(
          (change, i) =>
            (!pushed.has(change) || i === inHand) && (
              <ChangeLine
                key={i}
                change={change}
                timeline={timeline}
                isInHand={i === inHand}
                onInHand={onInHand && (() => onInHand(i))}
              />
            ),
        )}
      </ol>
    </>
  );
}

const DarkAmong = ({ changes }: { changes: readonly Change[] }) => {
  const dark = changes.filter((c) => c.isDark).length;
  return dark > 0 && <span className="text-missing"> · {dark} of them dark</span>;
};

function ChangeLine({
  change,
  timeline,
  isInHand,
  onInHand,
}: {
  change: Change;
  timeline: Timeline;
  isInHand: boolean;
  onInHand: (() => void) | undefined;
}) {
  const line = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isInHand) line.current?.scrollIntoView?.({ block: 'nearest' });
  }, [isInHand]);
  const { projectId = '' } = useParams();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const event = (change.event ?? change.before)!;
  const { clipId } = change;
  return (
    <li
      ref={line}
      className={`line-b py-1 ${isInHand ? 'bg-[var(--bond-wash)]' : ''}`}
      aria-current={isInHand || undefined}
    >
      <span className="font-mono text-quiet">
        {timecode(event.record.start, timeline.rate, timeline.counting)} {event.track}
      </span>{' '}
      {onInHand ? (
        <button type="button" className="cursor-pointer text-left [overflow-wrap:anywhere]" onClick={onInHand}>
          {changeWords(change, timeline.rate)}
        </button>
      ) : (
        <span className="[overflow-wrap:anywhere]">{changeWords(change, timeline.rate)}</span>
      )}
      {change.isDark && clipId && (
        <button
          type="button"
          className="ml-1 text-missing underline underline-offset-2"
          onClick={() => {
            dispatch(filterStatus('all'));
            dispatch(filterText(''));
            dispatch(pick(clipId));
            void navigate(`/projects/${projectId}/ledger`);
          }}
        >
          dark
        </button>
      )}
    </li>
  );
}
