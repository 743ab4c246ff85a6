import { useEffect, useRef, useState } from 'react';
import type { FrameRange } from '@legame/core/time';
import { api } from '../../../api/legame.ts';
import { useTimelines, type ShownTimeline } from '../../../api/timelines.ts';
import { useCommand } from '../../../commands/useCommand.ts';
import { clipsToPlay, piecesOf, type Piece } from './pieces.ts';

/** The recordings of so many clips are asked for at once. */
const mostClips = 200;

/** A part that is played in one go, of all until `until`. */
type Run = FrameRange & { readonly until: number; readonly clips: readonly string[] };

export type Playing = {
  /** What is playing; null while nothing is, or while it is not known yet what there is. */
  readonly run: (FrameRange & { readonly pieces: readonly Piece[] }) | null;
  readonly isOn: boolean;
  readonly error: unknown;
  readonly toggle: () => void;
  readonly onFrame: (frame: number) => void;
  readonly onEnd: () => void;
};

/** Plays from the playhead to the end of the marked stretch it stands in, else of the timeline; stops when somebody moves it. */
export function usePlaying(
  projectId: string,
  timeline: ShownTimeline,
  {
    playhead,
    stretch,
    onPlayhead,
  }: { playhead: number; stretch: FrameRange | null; onPlayhead: (frame: number) => void },
): Playing {
  const all = useTimelines(projectId, { nested: true }) ?? [];
  const end = timeline.start + timeline.length;
  const [run, setRun] = useState<Run | null>(null);
  const [begun, setBegun] = useState<{ readonly run: Run; readonly pieces: readonly Piece[] } | null>(null);
  /** Where playing moved the playhead to, as far as that has not been seen yet: on a busy machine it moves on before. */
  const told = useRef([playhead]);
  const hasClips = run !== null && run.clips.length > 0;
  const asked = api.useCutRecordingsQuery({ projectId, clips: run?.clips ?? [] }, { skip: !hasClips });
  const list = hasClips ? asked.currentData : [];
  // What it began with is what it plays: a link that is made meanwhile must not begin everything anew.
  if (run && list && begun?.run !== run)
    setBegun({ run, pieces: piecesOf(timeline, all, new Map(list.map((r) => [r.clipId, r])), run) });
  useEffect(() => {
    const at = told.current.lastIndexOf(playhead);
    if (at < 0) setRun(null);
    told.current = at < 0 ? [playhead] : told.current.slice(at);
  }, [playhead]);
  const move = (frame: number) => {
    told.current.push(frame);
    onPlayhead(frame);
  };
  const toggle = () => {
    if (run) return setRun(null);
    const isIn = stretch && playhead >= stretch.start && playhead < stretch.end - 1;
    // From its end it begins once more.
    const from = playhead >= end - 1 ? timeline.start : playhead;
    if (from !== playhead) move(from);
    setRun(runOf(timeline, all, { start: from, end: isIn ? stretch.end : end }));
  };
  useCommand('play', toggle);
  return {
    run: run && begun?.run === run ? { start: run.start, end: run.end, pieces: begun.pieces } : null,
    isOn: run !== null,
    error: run === null ? null : asked.error,
    toggle,
    onFrame: move,
    onEnd: () => {
      if (!run) return;
      if (run.end < run.until) return setRun(runOf(timeline, all, { start: run.end, end: run.until }));
      move(run.end - 1);
      setRun(null);
    },
  };
}

/** As much of a stretch as recordings can be asked for at once. */
function runOf(timeline: ShownTimeline, all: readonly ShownTimeline[], { start, end }: FrameRange): Run {
  let to = end;
  let clips = clipsToPlay(timeline, all, { start, end: to });
  while (clips.length > mostClips && to - start > 1) {
    to = start + Math.ceil((to - start) / 2);
    clips = clipsToPlay(timeline, all, { start, end: to });
  }
  return { start, end: to, until: end, clips: clips.slice(0, mostClips) };
}
