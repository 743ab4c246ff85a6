import { useState, type PointerEvent } from 'react';
import type { Beneath, Hung } from './beneath.ts';
import { across } from './drawCut.ts';
import { RecordingRow, rowHeight } from './RecordingRow.tsx';
import type { Sight } from './sight.ts';
import { Thread } from './Thread.tsx';

const tones = ['linked', 'missing', 'changed', 'unreadable', 'short', 'aside'] as const;

/** A thread that somebody holds. */
type Held = { readonly clipId: string; readonly hung: Hung; readonly x: number; readonly y: number };

/**
 * The recordings under the events, each as a ruler in its own frames, and threads from the ends of each event down to
 * the stretch that it reads. One that nothing is linked to hangs on what the edit expects, dashed. A thread let go over
 * another recording asks whether to point there.
 */
export function Recordings({
  rows,
  hungOf,
  selected,
  playhead,
  sight,
  width,
  rulerWidth,
  top,
  onPick,
  onPoint,
}: {
  rows: readonly Beneath[];
  /** The showings of a recording that are in sight. */
  hungOf: (row: Beneath) => readonly Hung[];
  selected: ReadonlySet<string>;
  playhead: number;
  sight: Sight;
  /** Of the tracks above, which begin where the rulers do. */
  width: number;
  rulerWidth: number;
  /** How far below the first track the recordings begin. */
  top: number;
  onPick: (clipId: string) => void;
  onPoint: (clipId: string, row: Beneath) => void;
}) {
  const anywhere = across(sight, width);
  // What begins or ends out of sight hangs from the edge.
  const over = (frame: number) => Math.min(width + 4, Math.max(-4, anywhere(frame)));
  const [held, setHeld] = useState<Held | null>(null);
  const only = selected.size === 1 ? [...selected][0]! : null;
  const rowAt = (y: number) => rows[Math.floor((y - top) / rowHeight)];
  const pointFor = (clipId: string | null, row: Beneath) =>
    clipId !== null && row.recording.media && (row.isCandidate || row.recording.clipId !== clipId)
      ? () => onPoint(clipId, row)
      : null;
  const inside = (at: PointerEvent<SVGElement>) => {
    const svg = at.currentTarget.ownerSVGElement ?? at.currentTarget;
    const box = svg.getBoundingClientRect();
    return { x: at.clientX - box.left, y: at.clientY - box.top };
  };
  return (
    <svg
      className={`absolute top-0 left-0 overflow-visible text-[12px] ${held ? 'cursor-grabbing' : 'pointer-events-none'}`}
      width={width}
      height={top + rows.length * rowHeight}
      role="list"
      aria-label="recordings under the events"
      onPointerMove={(at) => held && setHeld({ ...held, ...inside(at) })}
      onPointerUp={(at) => {
        if (!held) return;
        const row = rowAt(inside(at).y);
        setHeld(null);
        if (row) pointFor(held.clipId, row)?.();
      }}
      onPointerLeave={() => setHeld(null)}
    >
      <Hatches />
      {rows.map((row, i) => {
        const { clipId } = row.recording;
        const isTarget = held !== null && rowAt(held.y) === row && pointFor(held.clipId, row) !== null;
        const y = top + i * rowHeight;
        return (
          <g key={`${clipId} ${row.isCandidate ? row.recording.media?.id : ''}`}>
            {isTarget && (
              <rect x={-60} y={y - 3} width={width + 50} height={rowHeight - 6} fill="var(--bond-wash)" rx={3} />
            )}
            <RecordingRow
              beneath={row}
              hung={hungOf(row)}
              isSelected={selected.has(clipId) && !row.isCandidate}
              playhead={selected.size > 0 ? null : playhead}
              over={over}
              rulerWidth={rulerWidth}
              y={y}
              onPick={row.isCandidate ? null : () => onPick(clipId)}
              onPoint={pointFor(only, row)}
              onDrag={row.isCandidate ? null : (hung, at) => setHeld({ clipId, hung, ...inside(at) })}
            />
          </g>
        );
      })}
      {held && (
        <Thread
          above={[over(held.hung.use.record.start), over(held.hung.use.record.end), held.hung.y]}
          beneath={[held.x - 20, held.x + 20, held.y]}
          colour="var(--color-primary)"
          isDashed={false}
          isBackwards={false}
          isNear
        />
      )}
    </svg>
  );
}

/** What is dark is hatched, in the colour of its status. */
function Hatches() {
  return (
    <defs>
      {tones.map((tone) => (
        <pattern
          key={tone}
          id={`cut-${tone}`}
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--color-base-100)" />
          <rect width="2" height="6" fill={`var(--status-${tone})`} />
        </pattern>
      ))}
    </defs>
  );
}
