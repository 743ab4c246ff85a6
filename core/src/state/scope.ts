import type { Clip, Timeline } from '../model/edit.ts';
import { usesOf } from '../model/uses.ts';
import type { FrameRange } from '../time/range.ts';

/** What a scope takes of one clip. */
export type InScope = {
  /** The top timelines that show it, in the order of the document. */
  readonly timelineKeys: ReadonlySet<string>;
  /**
   * The events that read it, by where they stand in the document, and the frames that each reads, at the clip's rate. An
   * event that shows through several nests reads from the first to the last of them: one file has to serve it.
   */
  readonly reads: ReadonlyMap<string, FrameRange>;
};

/**
 * The clips of an edit that a scope reaches, by their keys: what these top timelines (null: all) show, through nests as
 * far as the nests' windows show them; of a timeline with a window (record frames, by its key) what that shows. A clip
 * that lies in a nest outside of what is shown of it is not in scope.
 */
export function clipsInScope(
  edit: { readonly clips: readonly Pick<Clip, 'key' | 'rate'>[]; readonly timelines: readonly Timeline[] },
  timelineKeys: ReadonlySet<string> | null,
  windows: ReadonlyMap<string, FrameRange> = new Map(),
): ReadonlyMap<string, InScope> {
  const found = new Map<string, { timelineKeys: Set<string>; reads: Map<string, FrameRange> }>();
  for (const { clipKey, source, steps } of usesOf(edit, windows)) {
    const top = steps[0]!.timelineKey;
    if (timelineKeys && !timelineKeys.has(top)) continue;
    const known = found.get(clipKey) ?? { timelineKeys: new Set(), reads: new Map<string, FrameRange>() };
    found.set(clipKey, known);
    known.timelineKeys.add(top);
    const { address } = steps.at(-1)!.event;
    const { start, end } = known.reads.get(address) ?? source;
    known.reads.set(address, { start: Math.min(start, source.start), end: Math.max(end, source.end) });
  }
  return found;
}
