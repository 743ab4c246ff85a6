import { basename } from 'node:path';
import { readdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { FolderListing, Job, PlaceView } from '@legame/core/contract';
import type { PlaceId } from '@legame/core';
import { enqueue } from '../jobs/queue.ts';
import { existingRoots, folderInsideRoots, isInside } from '../places/fence.ts';
import { isThere } from '../places/presence.ts';
import { roomOf } from '../places/room.ts';
import { UserProblem } from '../problems.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import type { Context } from './context.ts';
import { matchAllProjects } from './matchProject.ts';
import { tell } from './tell.ts';

/** Adds a place by path, inside the allowed roots, and begins to index it. */
export async function addPlace(
  context: Context,
  request: { path: string; name?: string | undefined; knownAs: string[] },
): Promise<PlaceRecord> {
  const path = await folderInsideRoots(request.path, context.config.roots);
  for (const known of await placeStore.listPlaces(context.db)) {
    if (isInside(known.path, path) || isInside(path, known.path)) {
      const how = known.path === path ? 'is' : isInside(known.path, path) ? 'lies inside' : 'contains';
      throw new UserProblem(
        'place-known-already',
        409,
        `"${path}" ${how} the place "${known.name}" (${known.path}). Each file belongs to one place, so use that one.`,
        { placeId: known.id },
      );
    }
  }
  return context.db.transaction(async (trx) => {
    const place = await placeStore.insertPlace(trx, {
      path,
      name: request.name ?? basename(path),
      knownAs: request.knownAs,
    });
    await enqueue(trx, 'index-place', place.id, `Index ${place.name}`);
    await tell(trx, 'places', place.id);
    return place;
  });
}

/** Changes the name of a place, or the names that other machines know it by; clips may come back by that. */
export async function changePlace(
  context: Context,
  id: PlaceId,
  change: { name?: string | undefined; knownAs?: string[] | undefined },
): Promise<void> {
  await placeStore.getPlace(context.db, id);
  await context.db.transaction(async (trx) => {
    await placeStore.updatePlace(trx, id, {
      ...(change.name === undefined ? {} : { name: change.name }),
      ...(change.knownAs === undefined ? {} : { knownAs: change.knownAs }),
    });
    await matchAllProjects(trx);
    await tell(trx, 'places', id);
  });
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

export async function startIndex(context: Context, id: PlaceId): Promise<Job> {
  const place = await placeStore.getPlace(context.db, id);
  if (!(await isThere(place.path))) {
    throw new UserProblem(
      'place-away',
      409,
      `"${place.name}" is not there (${place.path}), so it cannot be indexed. Plug it in and try again; what is known of it stays.`,
    );
  }
  return context.db.transaction((trx) => enqueue(trx, 'index-place', place.id, `Index ${place.name}`));
}

export async function listPlaces({ db }: Pick<Context, 'db'>): Promise<PlaceView[]> {
  const [places, counts] = await Promise.all([placeStore.listPlaces(db), placeStore.countsByPlace(db)]);
  return Promise.all(
    places.map(async (place) => ({
      id: place.id,
      name: place.name,
      path: place.path,
      knownAs: [...place.knownAs],
      there: place.there,
      indexedAt: place.indexedAt?.toISOString() ?? null,
      ...(counts.get(place.id) ?? { files: 0, unread: 0, unreadable: 0, sizeInBytes: 0 }),
      room: place.there ? await roomOf(place.path) : null,
    })),
  );
}

/** Looks which places are there, notes what changed, and has clips matched anew when something came or went. */
export async function sweepPlaces({ db }: Pick<Context, 'db'>): Promise<void> {
  const places = await placeStore.listPlaces(db);
  const found = await Promise.all(places.map(async (place) => ({ place, there: await isThere(place.path) })));
  const turned = found.filter(({ place, there }) => place.there !== there);
  if (turned.length === 0) return;
  await db.transaction(async (trx) => {
    for (const { place, there } of turned) {
      await placeStore.updatePlace(trx, place.id, { there });
      if (there) await enqueue(trx, 'index-place', place.id, `Index ${place.name}`);
    }
    await matchAllProjects(trx);
    await tell(trx, 'places');
    for (const project of await projectStore.listProjects(trx)) await tell(trx, 'project', project.id);
  });
}

/** The folders right under `path` for choosing one; without a path, the allowed roots, or what is in the only one. */
export async function listFolders(config: Context['config'], path: string | undefined): Promise<FolderListing> {
  const roots = await existingRoots(config.roots);
  if (!path && roots.length !== 1) {
    return { path: '', parent: null, folders: roots.map((root) => ({ name: root, path: root })) };
  }
  const real = path ? await folderInsideRoots(path, config.roots) : roots[0]!;
  const entries = await readdir(real, { withFileTypes: true }).catch((error: unknown) => {
    throw new UserProblem(
      'folder-not-there',
      403,
      `"${real}" cannot be listed: Legame has no permission to read it.`,
      {},
      error,
    );
  });
  const folders = entries
    .filter((e) => e.isDirectory() && !e.name.startsWith('.'))
    .map((e) => ({ name: e.name, path: join(real, e.name) }))
    .sort((a, b) => a.name.localeCompare(b.name));
  const parent = roots.includes(real) ? (roots.length === 1 ? null : '') : dirname(real);
  return { path: real, parent, folders };
}
