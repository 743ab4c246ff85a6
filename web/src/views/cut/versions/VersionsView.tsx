import { useEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import { capital, clock, count, when } from '@legame/words/numbers';
import { markWords } from '@legame/words/changes';
import { api } from '../../../api/legame.ts';
import type { ShownTimeline } from '../../../api/timelines.ts';
import { useAppSelector } from '../../../app/store.ts';
import { ChangesOf } from '../../../parts/ChangesOf.tsx';
import { Waiting } from '../../../parts/ProblemNote.tsx';
import { useWidth } from '../../../parts/useWidth.ts';
import { Ruler } from '../Ruler.tsx';
import { around, zoomed, type Sight } from '../sight.ts';
import { useWheel } from '../useWheel.ts';
import { drawVersions, signs } from './drawVersions.ts';
import {
  layOutVersions,
  placedAt,
  stretchOfChange,
  type ComparedTimeline,
  type Mark,
  type Placed,
  type Versions,
} from './versions.ts';

const noMarks = { first: null, last: null };

/** A timeline as it was before its document was replaced, and as it is now, one above the other; beneath them what changed. */
export function VersionsView({ timeline, onClose }: { timeline: ShownTimeline; onClose: () => void }) {
  const comparison = api.useComparisonQuery(timeline.documentId);
  const compared = comparison.data?.timelines.find((t) => t.key === timeline.key);
  return (
    <div className="flex h-full min-h-0 flex-col" role="region" aria-label="two versions">
      <header className="line-b flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-3 py-1.5">
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          ‹ The cut
        </button>
        <b>{timeline.name}</b>
        {comparison.data && (
          <span className="text-quiet">
            above as in “{comparison.data.former.name}” of {when(comparison.data.former.broughtInAt)}, beneath as it is
            now
          </span>
        )}
      </header>
      {!comparison.data ? (
        <Waiting what="the comparison" error={comparison.error} />
      ) : compared && compared.only === null ? (
        <Both key={timeline.id} compared={compared} />
      ) : (
        <p className="p-4 text-quiet">The version before had no such timeline: all of it is new.</p>
      )}
    </div>
  );
}

function Both({ compared }: { compared: ComparedTimeline }) {
  const versions = useMemo(() => layOutVersions(compared), [compared]);
  const { whole } = versions;
  const [sight, setSight] = useState(whole);
  const [inHand, setInHand] = useState<number | null>(null);
  const take = (change: number) => {
    setInHand(change);
    setSight((now) => {
      const { start, end } = stretchOfChange(compared.changes[change]!);
      return start >= now.from && end <= now.to ? now : around({ start, end }, whole);
    });
  };
  return (
    <>
      <div className="line-b flex shrink-0 items-center gap-3 px-3 py-1">
        <Legend compared={compared} />
        <span className="flex-1" />
        {([1 / 1.6, 1.6] as const).map((by) => (
          <button
            key={by}
            type="button"
            className="btn btn-plain btn-sm w-8 font-mono"
            aria-label={by > 1 ? 'nearer' : 'farther'}
            onClick={() => setSight((now) => zoomed(now, by, (now.from + now.to) / 2, whole))}
          >
            {by > 1 ? '+' : '−'}
          </button>
        ))}
        <button type="button" className="btn btn-plain btn-sm" onClick={() => setSight(whole)}>
          All of it
        </button>
      </div>
      <Strip compared={compared} versions={versions} sight={sight} inHand={inHand} onSight={setSight} onInHand={take} />
      <div className="min-h-0 flex-1 overflow-auto px-3 py-2" tabIndex={0} role="group" aria-label="changes">
        <ChangesOf timeline={compared} inHand={inHand} onInHand={take} />
      </div>
    </>
  );
}

/** How often each happened, with the sign that it bears above. */
function Legend({ compared: { kept, changes, rate } }: { compared: ComparedTimeline }) {
  const marks = Object.keys(signs) as Mark[];
  const of = (mark: Mark) => (mark === 'kept' ? kept : changes.filter((c) => c.kind === mark));
  const isDark = ({ isDark: dark }: { isDark: boolean }) => dark;
  const dark = [...kept.filter(isDark), ...changes.filter(isDark).flatMap((c) => c.event ?? [])];
  const seconds = dark.reduce((sum, e) => sum + ((e.record.end - e.record.start) * rate.den) / rate.num, 0);
  return (
    <p className="flex flex-wrap gap-x-3">
      {marks
        .filter((mark) => of(mark).length > 0)
        .map((mark) => (
          <span key={mark}>
            {signs[mark] && <span className="mr-1 border border-base-content/60 px-1 font-mono">{signs[mark]}</span>}
            {of(mark).length} {markWords[mark]}
          </span>
        ))}
      <span className={dark.length > 0 ? 'font-semibold text-missing' : 'text-linked'}>
        {dark.length > 0
          ? `${count(dark.length, 'event')} dark now, ${clock(seconds)} in all`
          : capital('none of it is dark')}
      </span>
    </p>
  );
}

/** The two versions, drawn. What can be seen and pressed here is in the list beneath as well. */
function Strip({
  compared,
  versions,
  sight,
  inHand,
  onSight,
  onInHand,
}: {
  compared: ComparedTimeline;
  versions: Versions;
  sight: Sight;
  inHand: number | null;
  onSight: (sight: Sight) => void;
  onInHand: (change: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useAppSelector((state) => state.preferences.mine.theme);
  const width = useWidth(canvas);
  const [over, setOver] = useState<Placed | null>(null);
  useEffect(() => {
    const context = width > 0 ? canvas.current?.getContext('2d') : null;
    if (context) drawVersions(context, versions, { sight, width, inHand });
    // The colours of the theme are read while drawing.
  }, [versions, sight, width, inHand, theme]);
  useWheel(canvas, sight, versions.whole, onSight);
  const under = (at: MouseEvent<HTMLElement>) => {
    const box = at.currentTarget.getBoundingClientRect();
    const perDot = (sight.to - sight.from) / box.width;
    return placedAt(versions, {
      frame: sight.from + (at.clientX - box.left) * perDot,
      y: at.clientY - box.top,
      slack: perDot * 2,
    });
  };
  return (
    <div className="line-b flex max-h-[56vh] shrink-0 overflow-y-auto">
      <div
        className="relative w-16 shrink-0 border-r border-base-300 text-[12px]"
        style={{ height: versions.height + 24 }}
      >
        {versions.tracks.map(({ side, name, top, height }) => (
          <span
            key={`${side} ${name}`}
            className="absolute right-2 truncate leading-none"
            style={{ top: 24 + top + height / 2 - 6 }}
          >
            {name}
          </span>
        ))}
        <span className="absolute left-2 text-quiet" style={{ top: 24 + versions.gap.top + 2 }}>
          before
        </span>
        <span className="absolute left-2 text-quiet" style={{ top: 24 + versions.gap.top + versions.gap.height - 18 }}>
          now
        </span>
      </div>
      <div className="min-w-0 flex-1">
        <Ruler timeline={compared} sight={sight} width={width} marks={noMarks} />
        <canvas
          ref={canvas}
          role="img"
          aria-label={`${compared.name}: two versions, one above the other`}
          title={
            over ? [over.event.name, markWords[over.mark], over.isDark ? 'dark' : ''].filter(Boolean).join(', ') : ''
          }
          className={`block w-full ${over && over.change !== null ? 'cursor-pointer' : ''}`}
          style={{ height: versions.height }}
          onPointerMove={(at) => setOver(under(at))}
          onPointerLeave={() => setOver(null)}
          onPointerDown={(at) => {
            const change = under(at)?.change ?? null;
            if (change !== null) onInHand(change);
          }}
        />
      </div>
    </div>
  );
}
