import { readdir, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type { z } from 'zod';
import {
  shelfNames,
  type driveChangeSchema,
  type DriveBay,
  type Job,
  type shelfRequestSchema,
} from '@legame/core/contract';
import { enqueue } from '../queue/queue.ts';
import { bayStateFile, bayStateSchema, noCondition, type Condition } from '../places/conditions.ts';
import { moveInside, readOwnFile, replaceOwnFile } from '../places/writing.ts';
import { UserProblem } from '../problems.ts';
import { jobStore } from '../stores/jobs.ts';
import { placeStore } from '../stores/places.ts';
import type { Context, JobContext } from './context.ts';
import { startIndexOf, sweepPlaces } from './placeStates.ts';
import { tell } from '../events/tell.ts';

/**
 * The bay of simulated drives that ships with Legame, for trying what storage does to an edit: folders that are plugged
 * and unplugged by being moved, conditions that everything which touches storage endures (`places/conditions.ts`), and
 * two shelves whose files come back some time after they were asked for. Nothing else knows that they are simulated.
 */
const unpluggedFolder = '.unplugged';
const shelfFolder = '.shelves';
const fetchMs = 6000;

type DriveChange = z.infer<typeof driveChangeSchema>;
type ShelfRequest = z.infer<typeof shelfRequestSchema>;

function bayOf({ config }: Pick<Context, 'config'>): string {
  if (config.drives !== null) return config.drives;
  throw new UserProblem('not-found', 404, 'There is no drive bay here: Legame was started without its demo.');
}

export async function viewDriveBay(context: Pick<Context, 'config' | 'db'>): Promise<DriveBay> {
  const bay = bayOf(context);
  const state = await bayState(bay);
  const [plugged, unplugged] = await Promise.all([foldersIn(bay), foldersIn(join(bay, unpluggedFolder))]);
  const drive = (name: string, isPlugged: boolean) => ({ name, plugged: isPlugged, ...(state[name] ?? noCondition) });
  const coming = new Set(
    (await jobStore.listRecent(context.db))
      .filter((j) => j.kind === 'fetch-shelved' && (j.state === 'queued' || j.state === 'running'))
      .map((j) => j.subject),
  );
  const shelved = await Promise.all(
    shelfNames.map(async (shelf) =>
      (await filesUnder(join(bay, shelfFolder, shelf))).map((file) => ({
        shelf,
        path: file.path,
        sizeInBytes: file.sizeInBytes,
        coming: coming.has(`${shelf}/${file.path}`),
      })),
    ),
  );
  return {
    drives: [...plugged.map((name) => drive(name, true)), ...unplugged.map((name) => drive(name, false))].sort((a, b) =>
      a.name.localeCompare(b.name),
    ),
    shelved: shelved.flat(),
  };
}

/** Plugs, unplugs or renames a drive, or changes what it is like. */
export async function changeDrive(context: Context, name: string, change: DriveChange): Promise<DriveBay> {
  const bay = bayOf(context);
  const drive = (await viewDriveBay(context)).drives.find((d) => d.name === name);
  if (!drive) throw new UserProblem('not-found', 404, `There is no drive "${name}" in the bay.`);
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
  if (from !== to) await moveInside(bay, from, to);
  await replaceOwnFile(join(bay, bayStateFile), JSON.stringify(bayStateSchema.parse({ drives: state })));
  // Not waited for: a drive that was made to stall would hold its own switch up.
  sweepPlaces(context).catch((error: unknown) => context.log.warn(error, 'places were not looked at'));
  await tell(context.db, 'places');
  return viewDriveBay(context);
}

/** Asks for a shelved file; it comes back to where it was after a while. */
export async function askShelf(context: Context, { shelf, path }: ShelfRequest): Promise<Job> {
  const { shelved } = await viewDriveBay(context);
  if (!shelved.some((f) => f.shelf === shelf && f.path === path))
    throw new UserProblem('not-found', 404, `"${path}" is not on that shelf (any more).`);
  return context.db.transaction((trx) => enqueue(trx, 'fetch-shelved', `${shelf}/${path}`, `Fetch ${basename(path)}`));
}

/** Carries one request out. The subject is shelf, drive, folders and name. */
export async function fetchShelved(job: JobContext, subject: string): Promise<void> {
  const { db, signal, report } = job;
  const bay = bayOf(job);
  const [shelf, ...parts] = subject.split('/');
  const [drive, path] = [parts[0]!, parts.join('/')];
  const steps = 12;
  for (let step = 0; step < steps; step += 1) {
    await report({
      done: step,
      of: steps,
      unit: 'files',
      doing: `${shelf === 'vault' ? 'the vault loads' : 'taking out'} ${basename(path)}`,
    });
    await after(fetchMs / steps, undefined, { signal });
  }
  const target = (await foldersIn(bay)).includes(drive) ? path : `${unpluggedFolder}/${path}`;
  await moveInside(bay, `${shelfFolder}/${subject}`, target);
  const place = await placeStore.findPlaceByPath(db, join(bay, drive));
  const folder = dirname(parts.slice(1).join('/'));
  if (place?.there) await startIndexOf(db, place, folder === '.' ? '' : folder);
  await tell(db, 'places');
}

async function bayState(bay: string): Promise<Readonly<Record<string, Condition>>> {
  const text = await readOwnFile(join(bay, bayStateFile));
  return text === null ? {} : bayStateSchema.parse(JSON.parse(text)).drives;
}

async function foldersIn(path: string): Promise<string[]> {
  const entries = await readdir(path, { withFileTypes: true }).catch(() => []);
  return entries.filter((e) => e.isDirectory() && !e.name.startsWith('.')).map((e) => e.name);
}

async function filesUnder(path: string): Promise<{ path: string; sizeInBytes: number }[]> {
  const entries = await readdir(path, { withFileTypes: true, recursive: true }).catch(() => []);
  return Promise.all(
    entries
      .filter((e) => e.isFile())
      .map(async (e) => {
        const whole = join(e.parentPath, e.name);
        return { path: whole.slice(path.length + 1), sizeInBytes: (await stat(whole)).size };
      }),
  );
}
