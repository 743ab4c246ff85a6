import type { KnownUpTo } from '@legame/core/contract';
import type { ClipId, ProjectId } from '@legame/core/model';
import type { Database } from '../db/database.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import { staleRowStore } from '../stores/staleRows.ts';
import { renewRows } from './renewal.ts';

/** Which clips are others than somebody knows, and what to ask by the next time; all are to be told where it is null. */
export async function changedSince(
  db: Database,
  projectId: ProjectId,
  known: KnownUpTo,
): Promise<{ readonly now: KnownUpTo; readonly touched: ReadonlySet<ClipId> | null }> {
  await renewRows(db, projectId, { onlyLooks: true });
  // Looked at before the clips: what changes in between is told once more the next time.
  const { epoch, version, turned } = await clipRowStore.stateOfList(db, projectId);
  const now = { epoch, version, turned };
  if (known.epoch !== epoch) return { now, touched: null };
  // Those whose rows somebody else makes anew just now have no greater version yet.
  const noted = await staleRowStore.listNoted(db, projectId);
  return { now, touched: new Set([...noted, ...(await clipRowStore.listTouched(db, projectId, known))]) };
}
