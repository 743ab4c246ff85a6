import { useMemo, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { lists } from '../../api/clipList.ts';
import { api } from '../../api/legame.ts';
import { useTimelines, type ShownTimeline } from '../../api/timelines.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { filterStatus } from '../../session/selection.ts';
import { CutHead } from './CutHead.tsx';
import { darkTonesOf } from './filter.ts';
import { Floors } from './Floors.tsx';
import { Overview } from './Overview.tsx';
import { MarkedStretch } from './MarkedStretch.tsx';
import { allOf, around, marked, showing, stretchOf, zoomed, type Marks } from './sight.ts';
import { nextOf, type CutEvent } from './tracks.ts';
import { useCutCommands } from './useCutCommands.ts';
import { useDrawn } from './useDrawn.ts';
import { useFront } from './useFront.ts';
import { useIsReplaced } from './versions/useIsReplaced.ts';
import { VersionsView } from './versions/VersionsView.tsx';
import { versionsInAddress } from './versions/versions.ts';
import { useInHand } from './useInHand.ts';

/** The cut on two floors: tracks in record time above, beneath them the recordings that they read. */
export function CutView() {
  const { projectId = '' } = useParams();
  const all = useTimelines(projectId, { nested: true });
  const [query, setQuery] = useSearchParams();
  // Whoever comes from a clip comes to a timeline that shows it; from then on it is theirs to choose.
  const inHand = useAppSelector((state) => state.selection.focus);
  const [focus] = useState(inHand);
  const { error: noCut } = api.useCutQuery(projectId);
  const { error: noDarkness } = api.useDarknessQuery(projectId);
  if (!all) return <Waiting what="the cut" error={noCut ?? noDarkness} />;
  const timelines = all.filter((t) => t.top);
  const longest = timelines.toSorted(
    (a, b) => b.length / (b.rate.num / b.rate.den) - a.length / (a.rate.num / a.rate.den),
  )[0];
  const having = timelines.find((t) => t.events.some((e) => e.clipId !== null && e.clipId === focus));
  const timeline = all.find((t) => t.id === query.get('timeline')) ?? having ?? longest;
  if (timeline && query.has('versions'))
    return <VersionsView timeline={timeline} onClose={() => setQuery({ timeline: timeline.id })} />;
  if (!timeline) return <p className="p-4 text-quiet">No timeline yet: bring one in at Intake.</p>;
  return (
    // A button that was clicked does not keep the focus, so that Space plays; by the keys one comes to it as ever.
    <div className="h-full" onMouseDown={(at) => (at.target as Element).closest('button') && at.preventDefault()}>
      <OneTimeline
        key={timeline.id}
        projectId={projectId}
        timeline={timeline}
        timelines={timelines}
        outer={timeline.top ? null : outerOf(timeline, all)}
        onTimeline={(id) => setQuery({ timeline: id })}
      />
    </div>
  );
}

/** The timeline that a nested one is shown in; the first, if there are several. */
const outerOf = (nested: ShownTimeline, all: readonly ShownTimeline[]): ShownTimeline | null =>
  all.find((t) => t.documentId === nested.documentId && t.events.some((e) => e.nestedKey === nested.key)) ?? null;

const noMarks: Marks = { first: null, last: null };

function OneTimeline({
  projectId,
  timeline,
  timelines,
  outer,
  onTimeline,
}: {
  projectId: string;
  timeline: ShownTimeline;
  timelines: readonly ShownTimeline[];
  /** What it is nested in; null for a top timeline. */
  outer: ShownTimeline | null;
  onTimeline: (id: string) => void;
}) {
  const { data: clips } = lists.useClipsQuery(projectId);
  const rows = useMemo(() => new Map(clips?.map((clip) => [clip.id, clip])), [clips]);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const whole = useMemo(() => allOf(timeline), [timeline]);
  const hand = useInHand(timeline);
  const [sight, setSight] = useState(() =>
    hand.first
      ? around(hand.first.record, whole)
      : zoomed(whole, Math.max(1, timeline.length / mostAtFirst(timeline)), whole.from, whole),
  );
  const [playhead, setPlayhead] = useState(hand.first?.record.start ?? timeline.start);
  const [marks, setMarks] = useState<Marks>(noMarks);
  const stretch = stretchOf(marks);
  const { tracks, order, tones, edges, noted } = useDrawn(timeline, rows);
  const { filter, setFilter, front, dark, isDarkInFront } = useFront(timeline, tones, rows);
  const last = timeline.start + Math.max(0, timeline.length - 1);
  const goTo = (frame: number) => {
    const at = Math.min(last, Math.max(timeline.start, Math.round(frame)));
    setPlayhead(at);
    setSight((now) => showing(now, at, whole));
  };
  const goToDark = (way: 1 | -1) => {
    const at = nextOf(dark, playhead, way);
    if (at === null) return;
    goTo(at);
    const event = timeline.events.find((e, i) => e.record.start === at && isDarkInFront(i));
    if (event) setSight((now) => showing(showing(now, event.record.end, whole), at, whole));
    if (event?.clipId) hand.pick(event.clipId, false);
  };
  const nest = useMemo(() => nestAt(timeline, playhead), [timeline, playhead]);
  const openNest = ({ nestedKey }: CutEvent) => onTimeline(`${timeline.documentId}/${nestedKey}`);
  useCutCommands({
    step: (by) => goTo(playhead + by),
    edge: (way) => goTo(nextOf(edges, playhead, way) ?? playhead),
    dark: goToDark,
    marker: noted.length > 0 ? (way) => goTo(nextOf(noted, playhead, way) ?? playhead) : null,
    zoom: (by) => setSight((now) => zoomed(now, by, playhead, whole)),
    all: () => setSight(whole),
    open: nest ? () => openNest(nest) : null,
    mark: (what) => setMarks((now) => marked(now, what, playhead)),
    unmark: marks === noMarks ? null : () => setMarks(noMarks),
    hasDark: dark.length > 0,
  });
  return (
    <div className="flex h-full min-h-0 flex-col">
      <CutHead
        timeline={timeline}
        timelines={timelines}
        outer={outer}
        playhead={playhead}
        filter={filter}
        statuses={darkTonesOf(tones)}
        front={front?.size ?? null}
        onTimeline={onTimeline}
        onFilter={setFilter}
        onDark={dark.length > 0 ? goToDark : null}
        onFrame={goTo}
        onZoom={(by) => setSight((now) => zoomed(now, by, playhead, whole))}
        onVersions={
          useIsReplaced(projectId, timeline)
            ? () => void navigate({ search: `?${versionsInAddress(timeline.id)}` })
            : null
        }
      />
      {stretch && timeline.top && (
        <MarkedStretch
          projectId={projectId}
          timeline={timeline}
          timelines={timelines}
          stretch={stretch}
          onUnmark={() => setMarks(noMarks)}
        />
      )}
      <Overview timeline={timeline} order={order} tones={tones} sight={sight} whole={whole} onSight={setSight} />
      <Floors
        projectId={projectId}
        timeline={timeline}
        tracks={tracks}
        tones={tones}
        sight={sight}
        whole={whole}
        playhead={playhead}
        marks={marks}
        hand={hand}
        front={front}
        onSight={setSight}
        onPlayhead={setPlayhead}
        onNest={openNest}
        onLedger={() => {
          dispatch(filterStatus('all'));
          void navigate(`/projects/${projectId}/ledger`);
        }}
      />
    </div>
  );
}

const nestAt = ({ events }: ShownTimeline, frame: number) =>
  events.find((e) => e.nestedKey !== null && e.record.start <= frame && frame < e.record.end);

/** About half a minute is in sight at first. */
const mostAtFirst = ({ rate }: ShownTimeline): number => (30 * rate.num) / rate.den;
