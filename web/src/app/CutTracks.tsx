import { useEffect, useMemo, useRef, type MouseEvent } from 'react';
import { useNavigate } from 'react-router';
import type { ClipRow } from '@legame/core/contract';
import { count } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import type { ShownTimeline } from '../api/timelines.ts';
import { filterStatus, pick } from '../session/selection.ts';
import { drawInHand, drawTracks, isDarkTone, toneOf } from './drawTracks.ts';
import { useWidth } from '../parts/useWidth.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

type Event = ShownTimeline['events'][number];

/**
 * The tracks of a timeline, drawn: an edit has tens of thousands of events, and each as a thing of the page would hold
 * the page up. What it shows is told in words beside it, and clip by clip in the Ledger.
 */
export function CutTracks({
  projectId,
  timeline,
  rows,
}: {
  projectId: string;
  timeline: ShownTimeline;
  rows: ReadonlyMap<string, ClipRow>;
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const selected = useAppSelector((state) => state.selection.ids);
  const theme = useAppSelector((state) => state.preferences.mine.theme);
  const canvas = useRef<HTMLCanvasElement>(null);
  const over = useRef<HTMLCanvasElement>(null);
  const width = useWidth(canvas);
  const tracks = useMemo(() => [...new Set(timeline.events.map((e) => e.track))], [timeline]);
  const band = Math.max(3, Math.min(7, Math.floor(22 / Math.max(1, tracks.length))));
  const height = Math.max(1, tracks.length) * (band + 1);
  const tones = useMemo(() => timeline.events.map((e, i) => toneOf(e, i, timeline, rows)), [timeline, rows]);
  const ground = useMemo(() => ({ timeline, tracks, band, width, height }), [timeline, tracks, band, width, height]);
  useEffect(() => {
    const context = width > 0 ? canvas.current?.getContext('2d') : null;
    if (context) drawTracks(context, ground, tones);
    // The colours of the theme are read while drawing.
  }, [ground, tones, width, theme]);
  // Over it, so that a hand that moves does not draw the whole edit again.
  useEffect(() => {
    const context = width > 0 ? over.current?.getContext('2d') : null;
    if (context) drawInHand(context, ground, new Set(selected));
  }, [ground, selected, width, theme]);

  const eventAt = (at: MouseEvent<HTMLCanvasElement>): Event | undefined => {
    const box = at.currentTarget.getBoundingClientRect();
    const frame = timeline.start + ((at.clientX - box.left) / box.width) * timeline.length;
    const slack = (timeline.length / box.width) * 2;
    const track = tracks[Math.floor((at.clientY - box.top) / (band + 1))];
    const apart = (e: Event) => Math.max(e.record.start - frame, frame - e.record.end, 0);
    return timeline.events
      .filter((e) => e.track === track && apart(e) <= slack)
      .reduce<Event | undefined>((best, e) => (best && apart(best) <= apart(e) ? best : e), undefined);
  };
  return (
    <div className="relative mt-1" style={{ height }}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${count(timeline.events.length, 'event')} on ${count(tracks.length, 'track')}, ${tones.filter(isDarkTone).length} of them dark`}
        className="absolute inset-0 block h-full w-full"
        onMouseMove={(move) => {
          const event = eventAt(move);
          const row = event?.clipId ? rows.get(event.clipId) : undefined;
          move.currentTarget.title = event
            ? `${event.track} ${event.number}  ${event.name}${row ? ` · ${statusWords[row.status.status]}` : ''}`
            : '';
          move.currentTarget.style.cursor = event?.clipId ? 'pointer' : '';
        }}
        onClick={(click) => {
          const clipId = eventAt(click)?.clipId;
          if (!clipId) return;
          dispatch(filterStatus('all'));
          dispatch(pick(clipId));
          void navigate(`/projects/${projectId}/ledger`);
        }}
      />
      <canvas ref={over} aria-hidden className="pointer-events-none absolute inset-0 block h-full w-full" />
    </div>
  );
}
