import type { Context } from '../context.ts';
import { sweepUnnamed } from '../made/ours.ts';
import { dropOrphans } from '../reading/keptPictures.ts';
import { keptForMs, projectStore } from '../stores/projects.ts';
import { stampStore } from '../stores/stamps.ts';

/** What nobody will come back to: files in the making that nothing goes on with, projects deleted long ago, their pictures. */
export async function tidyUp({ db, config }: Pick<Context, 'db' | 'config'>): Promise<void> {
  await sweepUnnamed(db, new Date());
  await projectStore.removeDeleted(db, new Date(Date.now() - keptForMs));
  await stampStore.dropOldChanges(db);
  await dropOrphans({ db, config });
}
