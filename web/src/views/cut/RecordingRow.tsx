import type { PointerEvent } from 'react';
import { isDark } from '@legame/core/state';
import { count, timecode } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import { rulerOf, type Beneath, type Hung } from './beneath.ts';
import { across } from './drawCut.ts';
import { Thread } from './Thread.tsx';

export const rowHeight = 62;
/** Room for the names of tracks, and of recordings, on the left. */
export const trackNames = 64;
const recordingNames = 196;
export const rulerOffset = recordingNames - trackNames;

/** Dots that two timecodes take beside one another. */
const roomForNumbers = 170;

const toneNames = {
  linked: 'linked',
  missing: 'missing',
  changed: 'changed',
  unreadable: 'unreadable',
  short: 'short',
  parked: 'aside',
  waived: 'linked',
  unshown: 'linked',
} as const;

/** One recording as a ruler in its own frames, with the threads that hang down to it. */
export function RecordingRow({
  beneath,
  hung,
  isSelected,
  playhead,
  over,
  rulerWidth,
  y,
  onPick,
  onPoint,
  onDrag,
}: {
  beneath: Beneath;
  hung: readonly Hung[];
  isSelected: boolean;
  /** What lies under it comes forward; null while something is selected, which does so then. */
  playhead: number | null;
  /** Where a record frame lies across the tracks. */
  over: (frame: number) => number;
  rulerWidth: number;
  y: number;
  onPick: (() => void) | null;
  /** Points what is in hand to this recording; null where nothing is, or it hangs here already. */
  onPoint: (() => void) | null;
  /** Takes its thread in hand. */
  onDrag: ((hung: Hung, at: PointerEvent<SVGElement>) => void) | null;
}) {
  const { recording, isCandidate } = beneath;
  const { fileName, where, status, holds, expected, uses } = recording;
  const tone = isCandidate ? 'aside' : toneNames[status.status];
  const colour = `var(--status-${tone})`;
  const ruler = rulerOf(recording);
  const along = ruler ? across({ from: ruler.start, to: Math.max(ruler.start + 1, ruler.end) }, rulerWidth) : () => 0;
  const x = (frame: number) => rulerOffset + along(frame);
  const dark = !isCandidate && isDark(status.status);
  const bar = holds ?? expected;
  const shown = new Map(hung.map((h) => [h.use, h]));
  return (
    <g role="listitem" aria-label={`${fileName}: ${isCandidate ? 'could be it' : statusWords[status.status]}`}>
      {hung.map(({ use, y: from }, i) => (
        <Thread
          key={i}
          above={[over(use.record.start), over(use.record.end), from]}
          beneath={[x(use.source.start), x(use.source.end), y + 14]}
          colour={colour}
          isDashed={dark}
          isBackwards={(use.speed?.num ?? 1) < 0}
          isNear={isSelected || (playhead !== null && use.record.start <= playhead && playhead < use.record.end)}
        />
      ))}
      <Name y={y} fileName={fileName} where={where} isLikely={isCandidate} onPick={onPick} onPoint={onPoint} />
      {bar && ruler && (
        <rect
          x={x(bar.start)}
          y={y + 14}
          width={Math.max(2, x(bar.end) - x(bar.start))}
          height={14}
          rx={2}
          fill="var(--color-base-100)"
          stroke={holds && !isCandidate ? 'var(--color-primary)' : colour}
          strokeDasharray={holds ? undefined : '4 3'}
        />
      )}
      {ruler &&
        uses.map((use, i) => {
          const hanging = shown.get(use);
          return (
            <rect
              key={i}
              x={x(use.source.start)}
              y={y + 15}
              width={Math.max(2, x(use.source.end) - x(use.source.start))}
              height={12}
              fill={dark || isCandidate ? `url(#cut-${tone})` : colour}
              stroke={colour}
              fillOpacity={hanging || isCandidate ? 0.9 : 0.35}
              className={hanging && onDrag ? 'pointer-events-auto cursor-grab touch-none' : ''}
              onPointerDown={hanging && onDrag ? (at) => onDrag(hanging, at) : undefined}
            />
          );
        })}
      {bar && (
        <Numbers
          recording={recording}
          from={[x(bar.start), bar.start]}
          to={[x(bar.end), bar.end]}
          middle={rulerOffset + rulerWidth / 2}
          y={y + 43}
        />
      )}
      <text x={rulerOffset + rulerWidth / 2} y={y + 43} textAnchor="middle" fill="var(--color-base-content)">
        {saidOf(beneath, new Set(hung.map((h) => h.use)))}
      </text>
    </g>
  );
}

function Name({
  y,
  fileName,
  where,
  isLikely,
  onPick,
  onPoint,
}: {
  y: number;
  fileName: string;
  where: string | null;
  /** Pointing here is what somebody came for; elsewhere it is offered to who looks for it. */
  isLikely: boolean;
  onPick: (() => void) | null;
  onPoint: (() => void) | null;
}) {
  return (
    <foreignObject x={12 - trackNames} y={y} width={recordingNames - 24} height={rowHeight} className="group">
      <button
        type="button"
        className="pointer-events-auto block w-full text-left enabled:cursor-pointer enabled:hover:underline"
        disabled={onPick === null}
        onClick={() => onPick?.()}
      >
        <b className="block truncate font-mono text-[12.5px]" title={fileName}>
          {fileName}
        </b>
        <span className="block truncate font-mono text-[12px] text-quiet" title={where ?? 'nowhere'}>
          {where ?? 'nowhere'}
        </span>
      </button>
      {onPoint && (
        <button
          type="button"
          className={`pointer-events-auto cursor-pointer text-[12px] text-primary underline-offset-2 hover:underline ${isLikely ? '' : 'opacity-0 group-hover:opacity-100 focus:opacity-100'}`}
          aria-label={`point to ${fileName}`}
          onClick={onPoint}
        >
          Point here…
        </button>
      )}
    </foreignObject>
  );
}

/** Timecode at both ends of what is there, with a question mark where only the edit says so. */
function Numbers({
  recording: { rate, counting, holds },
  from,
  to,
  middle,
  y,
}: {
  recording: Beneath['recording'];
  /** Where it lies, and the frame that it is. */
  from: readonly [number, number];
  to: readonly [number, number];
  /** Of the ruler. */
  middle: number;
  y: number;
}) {
  const said = ([, frame]: readonly [number, number]) => `${timecode(frame, rate, counting)}${holds ? '' : '?'}`;
  // Where what is there lies hours away from what is read, it is too short for both: they stand together, inwards.
  const isLeft = from[0] + to[0] < middle * 2;
  const both = `${said(from)} – ${said(to)}`;
  const alone = isLeft
    ? ({ x: from[0], anchor: 'start', text: both } as const)
    : ({ x: to[0], anchor: 'end', text: both } as const);
  const ends =
    to[0] - from[0] < roomForNumbers
      ? [alone]
      : ([
          { x: from[0], anchor: 'start', text: said(from) },
          { x: to[0], anchor: 'end', text: said(to) },
        ] as const);
  return ends.map(({ x, anchor, text }) => (
    <text key={anchor} x={x} y={y} textAnchor={anchor} className="font-mono" fill="var(--color-quiet)" fontSize="11.5">
      {text}
    </text>
  ));
}

/** How a recording stands to what is read of it. */
function saidOf(
  { recording: { status, uses, holds, expected }, isCandidate }: Beneath,
  hung: ReadonlySet<Hung['use']>,
): string {
  // A nested timeline tells of what its window shows once more.
  const tops = uses.filter((u) => u.isTop);
  const short = tops.reduce((sum, u) => sum + (u.uncoveredInFrames ?? 0), 0);
  if (isCandidate) return short > 0 ? `could be it · ${count(short, 'frame')} not covered` : 'could be it';
  const word = statusWords[status.status];
  const elsewhere = tops.filter((u) => !hung.has(u)).length;
  return [
    word,
    ...(short > 0 ? [`${count(short, 'frame')} not covered`] : []),
    ...(holds === null && expected !== null && isDark(status.status) ? ['the edit expects this'] : []),
    ...(holds === null && expected === null ? ['nobody says what it holds'] : []),
    ...(elsewhere > 0 ? [`also used ${count(elsewhere, 'time')}`] : []),
  ].join(' · ');
}
