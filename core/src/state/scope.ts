import type { Clip, Timeline } from '../model/edit.ts';
import { usesOf } from '../model/uses.ts';
import { uniteRanges, type FrameRange } from '../time/range.ts';

/** What a scope takes of one clip. */
export type InScope = {
  /** The top timelines that show it, in the order of the document. */
  readonly timelineKeys: ReadonlySet<string>;
  /** The frames that they read of it, at its rate. */
  readonly used: readonly FrameRange[];
};

/**
 * The clips of an edit that a scope reaches, by their keys: what these top timelines (null: all) show, through nests as
 * far as the nests' windows show them. A clip that lies in a nest outside of what is shown of it is not in scope.
 */
export function clipsInScope(
  edit: { readonly clips: readonly Pick<Clip, 'key' | 'rate'>[]; readonly timelines: readonly Timeline[] },
  timelineKeys: ReadonlySet<string> | null,
): ReadonlyMap<string, InScope> {
  const found = new Map<string, { timelineKeys: Set<string>; used: FrameRange[] }>();
  for (const { clipKey, source, steps } of usesOf(edit)) {
    const top = steps[0]!.timelineKey;
    if (timelineKeys && !timelineKeys.has(top)) continue;
    const known = found.get(clipKey) ?? { timelineKeys: new Set(), used: [] };
    found.set(clipKey, known);
    known.timelineKeys.add(top);
    known.used.push(source);
  }
  return new Map([...found].map(([key, { used, ...rest }]) => [key, { ...rest, used: uniteRanges(used) }]));
}
