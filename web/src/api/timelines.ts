import { useMemo } from 'react';
import type { Cut } from '@legame/core/contract';
import { api } from './legame.ts';

/** A top timeline with its events, and how much of it is dark. */
export type ShownTimeline = Cut[number] & {
  readonly id: string;
  readonly darkInFrames: number;
  /** Places of the events that show a nest with something dark in it. */
  readonly darkNests: ReadonlySet<number>;
};

/** The top timelines of a project, or nested ones as well; undefined until both are known. */
export function useTimelines(
  projectId: string,
  { skip = false, nested = false } = {},
): readonly ShownTimeline[] | undefined {
  const { data: cut } = api.useCutQuery(projectId, { skip });
  const { data: darkness } = api.useDarknessQuery(projectId, { skip });
  return useMemo(() => {
    if (!cut || !darkness) return undefined;
    const dark = new Map(darkness.map((d) => [`${d.documentId}/${d.key}`, d]));
    return cut
      .filter((t) => nested || t.top)
      .map((t) => {
        const id = `${t.documentId}/${t.key}`;
        const of = dark.get(id);
        return { ...t, id, darkInFrames: of?.darkInFrames ?? 0, darkNests: new Set(of?.darkNests) };
      });
  }, [cut, darkness, nested]);
}
