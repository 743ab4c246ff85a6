import { useNavigate, useParams } from 'react-router';
import type { Comparison, DocumentView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { filterStatus, filterText, pick } from '../../session/selection.ts';
import { count, timecode, when } from '@legame/words/numbers';
import { changeWords } from '@legame/words/changes';

type Timeline = Comparison['timelines'][number];
type Change = Timeline['changes'][number];

/** What changed since the version that this document replaced, and what is dark because of it. */
export function ChangesList({ document }: { document: DocumentView }) {
  const comparison = api.useComparisonQuery(document.id);
  if (!comparison.data) return <Waiting what="the comparison" error={comparison.error} />;
  const { former, timelines } = comparison.data;
  const dark = timelines.flatMap((t) => t.changes).filter((c) => c.isDark).length;
  return (
    <section aria-label="what changed">
      <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">{document.name}</h2>
      <p className="mt-1 mb-3 text-quiet">
        Compared with “{former.name}” of {when(former.broughtInAt)}.{' '}
        {dark > 0 ? (
          <b className="text-missing">{count(dark, 'changed event')} dark.</b>
        ) : (
          'Nothing that changed is dark.'
        )}
      </p>
      {timelines.map((timeline, i) => (
        <TimelineChanges key={i} timeline={timeline} />
      ))}
    </section>
  );
}

function TimelineChanges({ timeline }: { timeline: Timeline }) {
  const moves = new Map<number, Change[]>();
  for (const change of timeline.changes)
    if (change.kind === 'moved' && change.byFrames && change.before?.track === change.event?.track)
      moves.set(change.byFrames, [...(moves.get(change.byFrames) ?? []), change]);
  // Whatever was inserted pushes all that follows: one line for all that moved by the same.
  const together = [...moves].filter(([, list]) => list.length > 2);
  const pushed = new Set(together.flatMap(([, list]) => list));
  return (
    <div className="mb-4">
      <h3 className="font-semibold">
        {timeline.name}{' '}
        <span className="font-normal text-quiet">
          {timeline.only === 'newer'
            ? 'only in the newer version'
            : timeline.only === 'older'
              ? 'not in the newer version any more'
              : `${count(timeline.unchanged, 'event')} unchanged`}
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
        {timeline.changes
          .filter((c) => !pushed.has(c))
          .map((change, i) => (
            <ChangeLine key={i} change={change} timeline={timeline} />
          ))}
      </ol>
    </div>
  );
}

const DarkAmong = ({ changes }: { changes: readonly Change[] }) => {
  const dark = changes.filter((c) => c.isDark).length;
  return dark > 0 && <span className="text-missing"> · {dark} of them dark</span>;
};

function ChangeLine({ change, timeline }: { change: Change; timeline: Timeline }) {
  const { projectId = '' } = useParams();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const event = (change.event ?? change.before)!;
  const { clipId } = change;
  return (
    <li className="line-b py-1">
      <span className="font-mono text-quiet">
        {timecode(event.record.start, timeline.rate, timeline.counting)} {event.track}
      </span>{' '}
      <span className="[overflow-wrap:anywhere]">{changeWords(change, timeline.rate)}</span>
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
