import { useEffect, useMemo, useRef, type PointerEvent } from 'react';
import { drawTracks, type Tone } from '../../app/drawTracks.ts';
import { useAppSelector } from '../../app/store.ts';
import type { ShownTimeline } from '../../api/timelines.ts';
import { useWidth } from '../../parts/useWidth.ts';
import { moved, type Sight } from './sight.ts';

const band = 5;

/** All of the timeline as a strip, with what is in sight as a window that can be moved. */
export function Overview({
  timeline,
  order,
  tones,
  sight,
  whole,
  onSight,
}: {
  timeline: ShownTimeline;
  /** Names of the tracks from the top. */
  order: readonly string[];
  tones: readonly Tone[];
  sight: Sight;
  whole: Sight;
  onSight: (sight: Sight) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useAppSelector((state) => state.preferences.mine.theme);
  const width = useWidth(canvas);
  const height = Math.max(1, order.length) * (band + 1);
  const ground = useMemo(() => ({ timeline, tracks: order, band, width, height }), [timeline, order, width, height]);
  useEffect(() => {
    const context = width > 0 ? canvas.current?.getContext('2d') : null;
    if (context) drawTracks(context, ground, tones);
  }, [ground, tones, width, theme]);
  const share = (frame: number) => `${((frame - whole.from) / (whole.to - whole.from)) * 100}%`;
  const go = (at: PointerEvent<HTMLElement>) => {
    const box = at.currentTarget.getBoundingClientRect();
    const frame = whole.from + ((at.clientX - box.left) / box.width) * (whole.to - whole.from);
    onSight(moved(sight, frame - (sight.from + sight.to) / 2, whole));
  };
  return (
    <div
      className="line-b relative cursor-pointer touch-none px-0 py-1"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        go(e);
      }}
      onPointerMove={(e) => e.buttons === 1 && go(e)}
    >
      <canvas ref={canvas} aria-hidden className="block w-full" style={{ height }} />
      <div
        aria-hidden
        className="pointer-events-none absolute inset-y-0 rounded-[2px] border-[1.5px] border-base-content"
        style={{
          left: share(sight.from),
          width: `max(6px, ${((sight.to - sight.from) / (whole.to - whole.from)) * 100}%)`,
        }}
      />
    </div>
  );
}
