import { api } from '../../../api/legame.ts';
import type { ShownTimeline } from '../../../api/timelines.ts';

/** Whether there is a version before this one of the document that a timeline stands in. */
export function useIsReplaced(projectId: string, { documentId }: Pick<ShownTimeline, 'documentId'>): boolean {
  const { data } = api.useDocumentsQuery(projectId);
  return Boolean(data?.find((document) => document.id === documentId)?.replacedAt);
}
