import { pathsOfBins } from '@legame/core/bins';
import type { Member } from '@legame/core/contract';
import { usesOf, type DocumentId } from '@legame/core/model';
import { comesBack } from '@legame/core/state';
import { rangeLength, uniteRanges, type FrameRange, type Rate } from '@legame/core/time';
import type { Used } from '../stores/clipRows.ts';
import type { ClipRecord, StatedRate } from '../stores/clips.ts';
import type { DocumentRecord } from '../stores/documents.ts';
import type { ClipState, ProjectState } from './state.ts';

export const useKey = (documentId: string, clipKey: string) => `${documentId}/${clipKey}`;

/** How often each clip is used in its document's top timelines, for how long it shows, and in which bin it lies. */
export function usedBy(
  documents: readonly DocumentRecord[],
  rates: Rates,
): (clip: Pick<ClipRecord, 'documentId' | 'key' | 'binKey'>) => Used {
  const uses = new Map<string, { count: number; seconds: number }>();
  for (const document of documents) {
    const tops = new Map(document.timelines.map((t) => [t.key, t.rate]));
    for (const { clipKey, record, steps } of usesOf(withRates(document, rates))) {
      const key = useKey(document.id, clipKey);
      const use = uses.get(key) ?? { count: 0, seconds: 0 };
      const rate = tops.get(steps[0]!.timelineKey)!;
      use.count += 1;
      use.seconds += secondsOf(rangeLength(record), rate);
      uses.set(key, use);
    }
  }
  const bins = new Map(
    documents.flatMap(({ id, bins: list }) =>
      [...pathsOfBins(list)].map(([key, path]) => [useKey(id, key), path] as const),
    ),
  );
  return ({ documentId, key, binKey }) => {
    const use = uses.get(useKey(documentId, key));
    return {
      bin: bins.get(useKey(documentId, binKey ?? '')) ?? [],
      uses: use?.count ?? 0,
      usedSeconds: use?.seconds ?? 0,
    };
  };
}

/** Timelines count as the documents state it, whatever interpretation a clip has. */
export type Rates = ReadonlyMap<DocumentId, readonly Pick<ClipRecord, 'key' | 'rate'>[]>;
export const withRates = ({ id, timelines }: DocumentRecord, rates: Rates) => ({
  timelines,
  clips: rates.get(id) ?? [],
});
export function ratesOf(clips: readonly StatedRate[]): Rates {
  const rates = new Map<DocumentId, Pick<ClipRecord, 'key' | 'rate'>[]>();
  for (const { documentId, key, asStated } of clips) {
    const list = rates.get(documentId);
    const stated = { key, rate: asStated.rate };
    if (list) list.push(stated);
    else rates.set(documentId, [stated]);
  }
  return rates;
}

/** The screen time that a preview of some of these clips gives back, each frame of a timeline counted once. */
export function backSeconds(
  members: readonly Member[],
  states: Iterable<Pick<ClipState, 'clip'>>,
  seconds: ReturnType<typeof screenSeconds>,
): number {
  const back = new Set(members.filter(comesBack).map((m) => m.clipId));
  return seconds([...states].flatMap(({ clip }) => (back.has(clip.id) ? [clip] : [])));
}

/** Where each clip shows in the top timelines. */
type Shown = { readonly timeline: string; readonly record: FrameRange; readonly rate: Rate };

/**
 * For how long clips show together, in seconds for display: each frame of a timeline counts once, whatever shows in it.
 * Whoever keeps it does not keep the project's clips.
 */
export function screenSeconds({
  states,
  documents,
}: ProjectState): (clips: readonly Pick<ClipRecord, 'documentId' | 'key'>[]) => number {
  const rates = ratesOf(states.map((s) => s.clip));
  let shown: ReadonlyMap<string, readonly Shown[]> | null = null;
  return (clips) => {
    // All showings are gone through once it is asked for one.
    shown ??= showingsOf(documents, rates);
    const showingsOfClip = ({ documentId, key }: (typeof clips)[number]) => shown!.get(useKey(documentId, key)) ?? [];
    // Asked of each of very many clips by itself, most of which show once.
    const [one, another] = clips.length === 1 ? showingsOfClip(clips[0]!) : [];
    if (one && !another) return secondsOf(rangeLength(one.record), one.rate);
    const byTimeline = new Map<string, { rate: Rate; records: FrameRange[] }>();
    for (const clip of clips)
      for (const { timeline, record, rate } of showingsOfClip(clip)) {
        const known = byTimeline.get(timeline);
        if (known) known.records.push(record);
        else byTimeline.set(timeline, { rate, records: [record] });
      }
    return [...byTimeline.values()].reduce(
      (sum, { rate, records }) =>
        sum +
        secondsOf(
          uniteRanges(records).reduce((frames, r) => frames + rangeLength(r), 0),
          rate,
        ),
      0,
    );
  };
}

const secondsOf = (frames: number, rate: Rate): number => (frames * rate.den) / rate.num;

function showingsOf(documents: readonly DocumentRecord[], rates: Rates): Map<string, Shown[]> {
  const shown = new Map<string, Shown[]>();
  for (const document of documents) {
    const tops = new Map(document.timelines.map((t) => [t.key, t.rate]));
    for (const { clipKey, record, steps } of usesOf(withRates(document, rates))) {
      const timelineKey = steps[0]!.timelineKey;
      const use = { timeline: useKey(document.id, timelineKey), record, rate: tops.get(timelineKey)! };
      const list = shown.get(useKey(document.id, clipKey));
      if (list) list.push(use);
      else shown.set(useKey(document.id, clipKey), [use]);
    }
  }
  return shown;
}
