import type { ProjectId } from '@legame/core/model';
import type { ClipBlock, ClipRow } from '@legame/core/contract';
import type { Looking } from '../context.ts';
import { type Known, clipRowStore } from '../stores/clipRows.ts';
import { renewRows } from './renewal.ts';

/** All rows of a project, as JSON: as they are kept, after what changed was made anew. */
export async function listClipRows({ db }: Looking, projectId: ProjectId): Promise<ClipRow[]> {
  await renewRows(db, projectId);
  return (await clipRowStore.listJson(db, projectId)).map((json) => JSON.parse(json) as ClipRow);
}

/**
 * A block of the list as JSON text: rows are kept as they go out, and are neither read nor written anew for being
 * looked at.
 */
export async function clipBlockJson(
  { db }: Looking,
  projectId: ProjectId,
  from: number,
  limit: number,
): Promise<string> {
  await renewRows(db, projectId, { onlyLooks: true });
  const state = await clipRowStore.stateOfList(db, projectId);
  return blockJson(state, await clipRowStore.listJson(db, projectId, from, limit));
}

/** What of the list is another than somebody knows. */
export async function clipsSinceJson({ db }: Looking, projectId: ProjectId, since: Known): Promise<string> {
  await renewRows(db, projectId, { onlyLooks: true });
  // Looked at before the rows: what changes in between is told once more the next time.
  const state = await clipRowStore.stateOfList(db, projectId);
  return blockJson(state, await clipRowStore.listJsonSince(db, projectId, since));
}

const blockJson = ({ epoch, version, turned, total }: Omit<ClipBlock, 'rows'>, rows: readonly string[]): string =>
  `{"epoch":${epoch},"version":${version},"turned":${turned},"total":${total},"rows":[${rows.join(',')}]}`;
