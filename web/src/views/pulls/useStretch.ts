import { useSearchParams } from 'react-router';
import { pullDeskQuerySchema, stretchAsked } from '@legame/core/contract';
import type { FrameRange } from '@legame/core/time';
import { timecode } from '@legame/words/numbers';
import { api } from '../../api/legame.ts';

const parts = ['timeline', 'start', 'end'] as const;

/** A stretch of a timeline as it stands in the address of a page: in record frames, half-open. */
export const stretchInAddress = (timeline: string, { start, end }: FrameRange): string =>
  new URLSearchParams({ timeline, start: String(start), end: String(end) }).toString();

/** The stretch that the address asks for, as it is asked of the server and as it is said; null for the whole project. */
export function useStretch(projectId: string) {
  const [query, setQuery] = useSearchParams();
  const given = Object.fromEntries(parts.flatMap((part) => (query.has(part) ? [[part, query.get(part)]] : [])));
  const read = pullDeskQuerySchema.safeParse(given);
  const stretch = read.success ? stretchAsked(read.data) : null;
  const { data: cut } = api.useCutQuery(projectId, { skip: stretch === null });
  const timeline = cut?.find((t) => `${t.documentId}/${t.key}` === stretch?.timeline);
  const at = (frames: number) => (timeline ? timecode(frames, timeline.rate, timeline.counting) : '');
  return {
    asked: stretch ?? {},
    text: stretch && timeline ? `${timeline.name}, ${at(stretch.start)} to ${at(stretch.end)}` : null,
    isStretch: stretch !== null,
    forget: () =>
      setQuery((now) => {
        for (const part of parts) now.delete(part);
        return now;
      }),
  };
}
