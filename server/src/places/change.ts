import type { PlaceId } from '@legame/core/model';
import type { Job, PlaceChange } from '@legame/core/contract';
import { basename } from 'node:path';
import type { Context } from '../context.ts';
import { folderInsideRoots, isInside } from '../disk/fence.ts';
import { partsOf, withFolder } from '../disk/held.ts';
import { fileSystemIdOf } from '../disk/identity.ts';
import { isThere } from '../disk/presence.ts';
import { tell } from '../events/tell.ts';
import { matchAllProjects } from '../matching/matchProject.ts';
import { knownDriveAt, settleAt, startIndexOf } from './states.ts';
import { UserProblem } from '../problems.ts';
import { type PlaceRecord, placeStore, type PlaceUpdate } from '../stores/places.ts';

/**
 * Adds a place by path, inside the allowed roots, and begins to index it. A drive that is known already and is away is
 * recognised under its new path instead of becoming a second place.
 */
export async function addPlace(
  context: Context,
  request: { path: string; name?: string | undefined; knownAs: readonly string[] },
): Promise<PlaceRecord> {
  const { db } = context;
  const path = await folderInsideRoots(request.path, context.config.roots);
  await refuseKnown(context, path, null);
  const known = await knownDriveAt(db, path);
  if (known) {
    await db.transaction(async (trx) => {
      await settleAt(trx, known, path);
      await matchAllProjects(trx);
      await tell(trx, 'places', known.id);
    });
    return placeStore.getPlace(db, known.id);
  }
  const [fileSystemId, root] = [
    await fileSystemIdOf(path),
    await withFolder({ path }, (folder) => Promise.resolve(folder.identity)),
  ];
  return db.transaction(async (trx) => {
    const place = await placeStore.insertPlace(trx, {
      path,
      name: request.name ?? basename(path),
      knownAs: request.knownAs,
      fileSystemId,
      root,
    });
    await startIndexOf(trx, place);
    await tell(trx, 'places', place.id);
    return place;
  });
}

/** Each file belongs to one place, so places do not lie inside one another. */
async function refuseKnown({ db }: Context, path: string, except: PlaceId | null): Promise<void> {
  for (const known of await placeStore.listPlaces(db)) {
    if (known.id === except || !(isInside(known.path, path) || isInside(path, known.path))) continue;
    if (!known.there && known.path !== path) continue;
    const how = known.path === path ? 'same' : isInside(known.path, path) ? 'inside' : 'around';
    throw new UserProblem({
      code: 'place-known-already',
      path,
      how,
      place: known.name,
      placePath: known.path,
      placeId: known.id,
    });
  }
}

/**
 * Changes what a person may say of a place: its name, the names that other machines know it by, what is left out of it,
 * and where it lies now. Clips may come back by that.
 */
export async function changePlace(context: Context, id: PlaceId, change: PlaceChange): Promise<void> {
  const place = await placeStore.getPlace(context.db, id);
  const path = change.path === undefined ? null : await folderInsideRoots(change.path, context.config.roots);
  if (path !== null) await refuseKnown(context, path, id);
  await context.db.transaction(async (trx) => {
    await placeStore.updatePlace(trx, id, {
      ...(change.name === undefined ? {} : { name: change.name }),
      ...(change.knownAs === undefined ? {} : namesAfter(place, change.knownAs)),
      ...(change.excluded === undefined ? {} : { excluded: change.excluded }),
    });
    if (path !== null) await settleAt(trx, place, path);
    else if (change.isSame)
      await placeStore.updatePlace(trx, id, { there: true, awayBecause: null, fileSystemId: null, root: null });
    if (path === null && (change.excluded || change.isSame)) await startIndexOf(trx, place);
    await matchAllProjects(trx);
    await tell(trx, 'places', id);
  });
}

/** Names taken away that were learned are not learned again. */
function namesAfter(place: PlaceRecord, names: readonly string[]): PlaceUpdate {
  const gone = place.learnedNames.filter((name) => !names.includes(name));
  return {
    givenNames: names.filter((name) => !place.learnedNames.includes(name)),
    learnedNames: place.learnedNames.filter((name) => names.includes(name)),
    unlearnedNames: [...new Set([...place.unlearnedNames.filter((name) => !names.includes(name)), ...gone])],
  };
}

/** Forgets a place and what was measured in it. The files themselves are not touched; links into it are gone. */
export async function forgetPlace(context: Context, id: PlaceId): Promise<void> {
  await placeStore.getPlace(context.db, id);
  await context.db.transaction(async (trx) => {
    await placeStore.deletePlace(trx, id);
    await matchAllProjects(trx);
    await tell(trx, 'places', id);
  });
}

/** Begins to index a place, or one folder of it. */
export async function startIndex(context: Context, id: PlaceId, folder = ''): Promise<Job> {
  const place = await placeStore.getPlace(context.db, id);
  partsOf(folder, place.path);
  if (!(await isThere(place.path))) {
    throw new UserProblem({ code: 'place-away', place: place.name, path: place.path, for: 'index' });
  }
  return context.db.transaction((trx) => startIndexOf(trx, place, folder));
}
