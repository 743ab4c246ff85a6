import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { differingRows } from '../clips/renewal.ts';
import { readConfig } from '../config/config.ts';
import { migrate, openDatabase } from '../db/database.ts';
import { projectStore } from '../stores/projects.ts';
import { ensureDatabase, startCluster } from './cluster.ts';

/** npm run verify-projections: derives what is kept for lists anew, for every project, and says what differs. */
const root = fileURLToPath(new URL('../../../', import.meta.url));
const { dataFolder } = readConfig(process.env, root);
const cluster = await startCluster(join(dataFolder, 'postgres'));
const db = openDatabase(await ensureDatabase(cluster, 'legame'));
let differing = 0;
try {
  await migrate(db);
  for (const project of await projectStore.listProjects(db)) {
    const ids = await differingRows(db, project.id);
    differing += ids.length;
    process.stdout.write(`${project.name}: ${ids.length === 0 ? 'no difference' : `${ids.length} rows differ`}\n`);
    for (const id of ids.slice(0, 20)) process.stdout.write(`  clip ${id}\n`);
  }
} finally {
  await db.destroy();
  // A Legame that runs on this folder goes on running.
  if (!cluster.wasRunning) await cluster.stop();
}
process.exit(differing === 0 ? 0 : 1);
