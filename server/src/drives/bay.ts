import type { DriveBay, driveChangeSchema, Job, shelfRequestSchema } from '@legame/core/contract';
import { basename, dirname, join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type { z } from 'zod';
import type { Context, JobContext } from '../context.ts';
import { bayStateFile, bayStateSchema, type Condition, noCondition } from '../disk/conditions.ts';
import { replaceOwnFile } from '../disk/own.ts';
import { moveInside } from '../disk/writing.ts';
import { bayOf, bayState, foldersIn, shelfFolder, unpluggedFolder } from './folders.ts';
import { viewDriveBay } from './views.ts';
import { tell } from '../events/tell.ts';
import { startIndexOf, sweepPlaces } from '../places/states.ts';
import { UserProblem } from '../problems.ts';
import { enqueue } from '../queue/queue.ts';
import { placeStore } from '../stores/places.ts';

const fetchMs = 6000;

type DriveChange = z.infer<typeof driveChangeSchema>;

type ShelfRequest = z.infer<typeof shelfRequestSchema>;

/** Plugs, unplugs or renames a drive, or changes what it is like. */
export async function changeDrive(context: Context, name: string, change: DriveChange): Promise<DriveBay> {
  const bay = bayOf(context);
  const drive = (await viewDriveBay(context)).drives.find((d) => d.name === name);
  if (!drive) throw new UserProblem({ code: 'no-such-drive', drive: name });
  const state = { ...(await bayState(bay)) };
  const { plugged, name: newName, ...conditions } = change;
  const wanted: Condition = { ...(state[name] ?? noCondition) };
  for (const key of ['readOnly', 'slow', 'stalling', 'full'] as const) wanted[key] = conditions[key] ?? wanted[key];
  const target = newName ?? name;
  delete state[name];
  state[target] = wanted;
  const isPlugged = plugged ?? drive.plugged;
  const where = (at: string, isIn: boolean) => (isIn ? at : `${unpluggedFolder}/${at}`);
  const [from, to] = [where(name, drive.plugged), where(target, isPlugged)];
  // First what can be refused, as a name that is taken.
  if (from !== to) await moveInside({ path: bay }, from, to);
  await replaceOwnFile(join(bay, bayStateFile), JSON.stringify(bayStateSchema.parse({ drives: state })));
  // Not waited for: a drive that was made to stall would hold its own switch up.
  sweepPlaces(context).catch((error: unknown) => context.log.warn(error, 'places were not looked at'));
  await tell(context.db, 'places');
  return viewDriveBay(context);
}

/** Asks for a shelved file; it comes back to where it was after a while. */
export async function askShelf(context: Context, { shelf, path }: ShelfRequest): Promise<Job> {
  const { shelved } = await viewDriveBay(context);
  if (!shelved.some((f) => f.shelf === shelf && f.path === path)) throw new UserProblem({ code: 'not-on-shelf', path });
  return context.db.transaction((trx) => enqueue(trx, 'fetch-shelved', { shelf, path }, basename(path)));
}

/** Carries one request out. The path is drive, folders and name. */
export async function fetchShelved(job: JobContext, { shelf, path }: ShelfRequest): Promise<void> {
  const { db, signal, report } = job;
  const bay = bayOf(job);
  const [drive = '', ...parts] = path.split('/');
  const steps = 12;
  for (let step = 0; step < steps; step += 1) {
    await report({
      done: step,
      of: steps,
      unit: 'files',
      doing: { code: 'fetching', shelf, file: basename(path) },
    });
    await after(fetchMs / steps, undefined, { signal });
  }
  const target = (await foldersIn(bay)).includes(drive) ? path : `${unpluggedFolder}/${path}`;
  await moveInside({ path: bay }, `${shelfFolder}/${shelf}/${path}`, target);
  const place = await placeStore.findPlaceByPath(db, join(bay, drive));
  const folder = dirname(parts.join('/'));
  if (place?.there) await startIndexOf(db, place, folder === '.' ? '' : folder);
  await tell(db, 'places');
}
