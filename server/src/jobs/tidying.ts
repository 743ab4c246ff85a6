import type { Database } from '../db/database.ts';
import { sweepUnnamed } from '../made/ours.ts';
import { keptForMs, projectStore } from '../stores/projects.ts';

/** What nobody will come back to: files in the making that nothing goes on with, projects deleted long ago. */
export async function tidyUp(db: Database): Promise<void> {
  await sweepUnnamed(db, new Date());
  await projectStore.removeDeleted(db, new Date(Date.now() - keptForMs));
}
