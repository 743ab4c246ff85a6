import { useMemo } from 'react';
import type { ShownTimeline } from '../../api/timelines.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { pick, toggle } from '../../session/selection.ts';
import type { CutEvent } from './tracks.ts';

/** What the hand is on, here as in the Ledger. */
export type InHand = {
  readonly ids: ReadonlySet<string>;
  /** The first event of it in this timeline; null where there is none. */
  readonly first: CutEvent | null;
  readonly pick: (clipId: string, isMore: boolean) => void;
};

export function useInHand(timeline: ShownTimeline): InHand {
  const dispatch = useAppDispatch();
  const selected = useAppSelector((state) => state.selection.ids);
  return useMemo(() => {
    const ids = new Set(selected);
    return {
      ids,
      first: timeline.events.find((e) => e.clipId !== null && ids.has(e.clipId)) ?? null,
      pick: (clipId, isMore) => void dispatch(isMore ? toggle(clipId) : pick(clipId)),
    };
  }, [selected, timeline, dispatch]);
}
