import { startIndexOf } from '../places/states.ts';
import type { FileHandle } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { Job } from '@legame/core/contract';
import { roomAfter } from '@legame/core/consolidate';
import type { PlaceId } from '@legame/core/model';
import { safeName, splitExtension } from '@legame/core/paths';
import { bundleParts } from '@legame/core/bundle';
import { listZip, unzipVerified, type ZippedFile } from '../handoffs/zip.ts';
import { enqueue } from '../queue/queue.ts';
import { folderInsideRoots, isInside } from '../disk/fence.ts';
import { withFileOf } from '../disk/held.ts';
import { roomOf } from '../disk/room.ts';
import { FencedFolder, requireWritable } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';
import { madeFolder } from '../made/folders.ts';
import { Ours } from '../made/ours.ts';
import { groundOf, type PlaceRecord, placeStore } from '../stores/places.ts';
import { unpackingStore } from '../stores/unpackings.ts';
import type { Context, JobContext } from '../context.ts';
import { settingsStore } from '../stores/settings.ts';

/** Begins to unpack a zipped bundle of a place into a new bundle folder: its document, with its media beside it. */
export async function startUnpacking(
  { db, config }: Context,
  request: { placeId: PlaceId; path: string; targetFolder: string },
): Promise<Job> {
  const place = await placeStore.getPlace(db, request.placeId);
  const files = await withZipOf(place, request.path, partsOf);
  const parent = await folderInsideRoots(request.targetFolder, config.roots);
  await requireWritable({ path: parent });
  const { identity } = await FencedFolder.of({ path: parent });
  const toWrite = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
  const room = await roomOf(parent);
  const { fits, usableInBytes } = room
    ? roomAfter(toWrite, { ...room, headroomShare: await settingsStore.headroomShare(db) })
    : { fits: true, usableInBytes: 0 };
  if (!fits) {
    throw new UserProblem({ code: 'no-room', for: 'bundle', folder: parent, neededInBytes: toWrite, usableInBytes });
  }
  const folder = join(parent, `${safeName(splitExtension(basename(request.path)).stem)}.otiod`);
  return db.transaction(async (trx) => {
    const id = await unpackingStore.insertUnpacking(trx, {
      placeId: place.id,
      path: request.path,
      folder,
      parent: identity,
    });
    return enqueue(trx, 'unpack-bundle', { unpackingId: id }, basename(request.path));
  });
}

/** Carries it out: file by file, each verified; what is out already stays, so it can stop and go on. */
export async function unpackBundle({ db, signal, report }: JobContext, id: string): Promise<void> {
  const unpacking = await unpackingStore.getUnpacking(db, id);
  const place = await placeStore.getPlace(db, unpacking.placeId);
  if (!place.there) throw new UserProblem({ code: 'place-away', place: place.name, path: null, for: 'unpack' });
  const folder = await madeFolder({
    path: unpacking.folder,
    parent: unpacking.parent,
    made: unpacking.madeFolder,
    isIntended: unpacking.folderIntended,
    intend: (isIntended) => unpackingStore.intendFolder(db, id, isIntended),
    note: (identity) => unpackingStore.markFolderMade(db, id, identity),
  });
  const ours = await Ours.in(db, `unpacking:${id}`, folder);
  const name = basename(unpacking.path);
  await withZipOf(place, unpacking.path, async (zip) => {
    const files = await partsOf(zip, name);
    const total = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
    let done = 0;
    const onBytes = (bytes: number) => {
      done += bytes;
      void report({ done, of: total, unit: 'bytes', doing: { code: 'unpacking', file: name } });
    };
    // The document last: a bundle folder that has one is whole.
    await unzipVerified(zip, ours, files, { signal, onBytes });
  });
  for (const known of await placeStore.listPlaces(db))
    if (isInside(known.path, folder.path)) await startIndexOf(db, known);
}

/** Opens a zip of a place while `use` runs. */
async function withZipOf<T>(
  place: PlaceRecord,
  path: string,
  use: (zip: FileHandle, name: string) => Promise<T>,
): Promise<T> {
  let isOpen = false;
  return withFileOf(groundOf(place), path, (zip) => {
    isOpen = true;
    return use(zip, basename(path));
  }).catch((error: unknown) => {
    if (isOpen || error instanceof UserProblem) throw error;
    throw new UserProblem({ code: 'not-in-place', path, place: place.name }, error);
  });
}

/** What of a zip belongs to the bundle, media first. */
async function partsOf(zip: FileHandle, name: string): Promise<ZippedFile[]> {
  const files = await listZip(zip).catch((error: unknown) => {
    throw new UserProblem({ code: 'zip-broken', name }, error);
  });
  const content = files.find((f) => f.name === bundleParts.content);
  if (!content) throw new UserProblem({ code: 'no-bundle', path: name, place: null, lacks: bundleParts.content });
  const media = files.filter((f) => f.name.startsWith(`${bundleParts.media}/`) || f.name === bundleParts.version);
  const link = [...media, content].find((f) => f.isLink);
  if (link) throw new UserProblem({ code: 'part-damaged', name: link.name, detail: { code: 'is-link' } });
  return [...media, content];
}
