import { useEffect, useRef, useState } from 'react';
import { statusWords } from '@legame/words/statuses';
import type { Rate } from '@legame/core/time';
import { pictureUrl, previewUrl } from '../../../api/legame.ts';
import { near, type Piece } from './pieces.ts';

/** So many seconds before it is due a piece is fetched: it has to be made first. */
const aheadInSeconds = 5;
/** The playhead moves so often a second. */
const movesPerSecond = 12;
/** Whoever waits longer for a piece goes on without it. */
const longestWaitMs = 15_000;

/**
 * Plays pieces of previews one after another, pictures and sound. What is not there yet is waited for, so that nothing is
 * passed over; what is dark is told for as long as it lasts.
 */
export function Player({
  pieces,
  from,
  to,
  rate,
  onFrame,
  onEnd,
}: {
  pieces: readonly Piece[];
  from: number;
  to: number;
  rate: Rate;
  onFrame: (frame: number) => void;
  onEnd: () => void;
}) {
  const [frame, setFrame] = useState(from);
  const [isWaiting, setIsWaiting] = useState(true);
  const elements = useRef(new Map<string, HTMLMediaElement>());
  const failed = useRef(new Set<string>());
  const latest = useRef({ onFrame, onEnd });
  useEffect(() => {
    latest.current = { onFrame, onEnd };
  });
  useEffect(() => {
    const perSecond = rate.num / rate.den;
    let [at, then, told, waitedSince] = [from, performance.now(), from, 0];
    let timer = 0;
    const isDue = ({ record, shows }: Piece) => shows.as === 'film' && record.start <= at && at < record.end;
    const isReady = ({ key }: Piece) => {
      const element = elements.current.get(key);
      return failed.current.has(key) || (element !== undefined && (element.readyState >= 3 || element.ended));
    };
    const tick = (now: number) => {
      const due = pieces.filter(isDue);
      const late = due.filter((piece) => !isReady(piece));
      waitedSince = late.length > 0 ? waitedSince || now : 0;
      const isHeld = late.length > 0 && now - waitedSince < longestWaitMs;
      if (!isHeld) for (const { key } of late) failed.current.add(key);
      if (!isHeld) at += ((now - then) / 1000) * perSecond;
      then = now;
      for (const [key, element] of elements.current) {
        const plays = !isHeld && due.some((piece) => piece.key === key);
        if (plays && element.paused && !element.ended) void element.play().catch(() => failed.current.add(key));
        else if (!plays && !element.paused) element.pause();
      }
      setIsWaiting(isHeld);
      if (at >= to) return latest.current.onEnd();
      if (Math.abs(at - told) >= perSecond / movesPerSecond) {
        told = at;
        setFrame(Math.floor(at));
        latest.current.onFrame(Math.floor(at));
      }
      timer = requestAnimationFrame(tick);
    };
    timer = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(timer);
  }, [pieces, from, to, rate]);

  const hasSound = pieces.some((piece) => piece.kind === 'sound');
  const shown = near(pieces, frame, (aheadInSeconds * rate.num) / rate.den);
  const seen = shown.find(({ kind, record }) => kind === 'picture' && record.start <= frame && frame < record.end);
  const keep = (key: string) => (element: HTMLMediaElement | null) => {
    if (element) elements.current.set(key, element);
    else elements.current.delete(key);
  };
  return (
    <>
      {shown.map(({ key, kind, name, shows }) => {
        if (shows.as === 'picture')
          return (
            <img
              key={key}
              alt={name}
              hidden={key !== seen?.key}
              className="h-full w-full object-contain"
              src={pictureUrl(shows.media, shows.frame, 460)}
            />
          );
        if (shows.as === 'nothing') return null;
        const given = {
          ref: keep(key),
          src: previewUrl(shows.media, shows.from, shows.frames),
          preload: 'auto',
          onError: () => failed.current.add(key),
          onLoadedMetadata: (event: { currentTarget: HTMLMediaElement }) => {
            event.currentTarget.playbackRate = Math.min(16, Math.max(0.0625, shows.pace));
          },
        };
        return kind === 'sound' ? (
          <audio key={key} {...given} />
        ) : (
          // Where the cut has sound of its own, that is what is heard.
          <video
            key={key}
            {...given}
            muted={hasSound}
            playsInline
            aria-label={name}
            className={`h-full w-full object-contain ${key === seen?.key ? '' : 'hidden'}`}
          />
        );
      })}
      {(seen === undefined || seen.shows.as === 'nothing') && (
        <span className="px-3 text-center text-quiet">{told(seen)}</span>
      )}
      {isWaiting && (
        <span className="absolute right-1 bottom-1 bg-base-100 px-1 text-quiet" role="status">
          waiting for it
        </span>
      )}
    </>
  );
}

/** Why nothing is seen. */
function told(piece: Piece | undefined): string {
  if (piece?.shows.as !== 'nothing' || piece.shows.because === 'gap') return 'Nothing lies here.';
  const { because } = piece.shows;
  return `${piece.name}: ${because === 'not-known' ? 'which frame of it is not known' : statusWords[because]}`;
}
