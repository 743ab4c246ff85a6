import { type DriveBay, shelfNames } from '@legame/core/contract';
import { join } from 'node:path';
import type { Context } from '../context.ts';
import { noCondition } from '../disk/conditions.ts';
import { bayOf, bayState, filesUnder, foldersIn, shelfFolder, unpluggedFolder } from './folders.ts';
import { jobStore } from '../stores/jobs.ts';

export async function viewDriveBay(context: Pick<Context, 'config' | 'db'>): Promise<DriveBay> {
  const bay = bayOf(context);
  const state = await bayState(bay);
  const [plugged, unplugged] = await Promise.all([foldersIn(bay), foldersIn(join(bay, unpluggedFolder))]);
  const drive = (name: string, isPlugged: boolean) => ({ name, plugged: isPlugged, ...(state[name] ?? noCondition) });
  const coming = new Set(
    (await jobStore.listRecent(context.db)).flatMap((j) =>
      j.kind === 'fetch-shelved' && (j.state === 'queued' || j.state === 'running')
        ? [`${j.payload.shelf}/${j.payload.path}`]
        : [],
    ),
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
