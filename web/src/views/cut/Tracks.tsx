import { useEffect, useRef, type MouseEvent } from 'react';
import { pictureUrl } from '../../api/legame.ts';
import { useAppSelector } from '../../app/store.ts';
import type { Tone } from '../../app/drawTracks.ts';
import { across, drawCut, pictureWidth } from './drawCut.ts';
import type { Shown, Wave } from './pictures.ts';
import { type Sight } from './sight.ts';
import { useWheel } from './useWheel.ts';
import { eventAt, heightOf, type CutEvent, type Track } from './tracks.ts';

/** The tracks in sight, drawn; the wheel moves along them, and with Ctrl or ⌘ nearer and farther. */
export function Tracks({
  tracks,
  sight,
  whole,
  width,
  tones,
  selected,
  front,
  pictures,
  waves,
  label,
  onSight,
  onEvent,
  onFrame,
  onNest,
}: {
  tracks: readonly Track[];
  sight: Sight;
  whole: Sight;
  width: number;
  tones: readonly Tone[];
  selected: ReadonlySet<string>;
  front: ReadonlySet<number> | null;
  pictures: readonly Shown[];
  waves: readonly Wave[];
  label: string;
  onSight: (sight: Sight) => void;
  onEvent: (event: CutEvent, at: { isMore: boolean }) => void;
  onFrame: (frame: number) => void;
  onNest: (event: CutEvent) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useAppSelector((state) => state.preferences.mine.theme);
  const height = Math.max(1, heightOf(tracks));
  useEffect(() => {
    const context = width > 0 ? canvas.current?.getContext('2d') : null;
    if (!context) return;
    drawCut(
      context,
      { tracks, sight, width, height },
      { toneAt: (place) => tones[place]!, selected, front, hasPicture: new Set(pictures.map((p) => p.place)) },
    );
    // The colours of the theme are read while drawing.
  }, [tracks, sight, width, height, tones, selected, front, pictures, theme]);
  useWheel(canvas, sight, whole, onSight);
  const under = (at: MouseEvent<HTMLElement>) => {
    const box = at.currentTarget.getBoundingClientRect();
    const frame = sight.from + ((at.clientX - box.left) / box.width) * (sight.to - sight.from);
    return { frame, event: eventAt(tracks, at.clientY - box.top, frame, ((sight.to - sight.from) / width) * 2) };
  };
  return (
    <div className="relative" style={{ height }}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={label}
        className="block h-full w-full cursor-pointer"
        onPointerDown={(at) => {
          const { frame, event } = under(at);
          onFrame(Math.floor(frame));
          if (event) onEvent(event, { isMore: at.shiftKey || at.ctrlKey || at.metaKey });
        }}
        onDoubleClick={(at) => {
          const { event } = under(at);
          if (event && event.nestedKey !== null) onNest(event);
        }}
      />
      {waves.map(({ place, left, width: across, track, media, whole: all, before }) => (
        <span
          key={place}
          aria-hidden
          className="sound-wave"
          style={{
            left,
            top: track.top + 2,
            width: across,
            height: track.height - 4,
            maskImage: `url("${pictureUrl(media, 0, 960)}")`,
            maskSize: `${all}px 100%`,
            maskPosition: `${-before}px 0`,
          }}
        />
      ))}
      {pictures.map(({ place, left, track, media, frame }) => (
        <img
          key={place}
          alt=""
          className="pointer-events-none absolute object-cover"
          style={{ left: Math.max(3, left + 3), top: track.top + 3, width: pictureWidth, height: track.height - 6 }}
          src={pictureUrl(media, frame, 120)}
        />
      ))}
    </div>
  );
}

/** Where a frame lies across what is in sight, in dots. */
export const placeOf = (sight: Sight, width: number, frame: number): number => across(sight, width)(frame);
