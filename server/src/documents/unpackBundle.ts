import { startIndexOf } from '../places/states.ts';
import { basename, dirname, join } from 'node:path';
import type { Job } from '@legame/core/contract';
import { defaultHeadroomShare, roomAfter } from '@legame/core/consolidate';
import type { PlaceId } from '@legame/core/model';
import { safeName, splitExtension } from '@legame/core/paths';
import { bundleParts } from '@legame/core/bundle';
import { listZip, unzipVerified, type ZippedFile } from '../handoffs/zip.ts';
import { enqueue } from '../queue/queue.ts';
import { fileInsidePlace, folderInsideRoots, isInside } from '../disk/fence.ts';
import { roomOf } from '../disk/room.ts';
import { FencedFolder, requireWritable } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';
import { placeStore } from '../stores/places.ts';
import { unpackingStore } from '../stores/unpackings.ts';
import type { Context, JobContext } from '../context.ts';

/** Begins to unpack a zipped bundle of a place into a new bundle folder: its document, with its media beside it. */
export async function startUnpacking(
  { db, config }: Context,
  request: { placeId: PlaceId; path: string; targetFolder: string },
): Promise<Job> {
  const place = await placeStore.getPlace(db, request.placeId);
  const real = await fileInsidePlace(place.path, request.path);
  if (!real) throw new UserProblem({ code: 'not-in-place', path: request.path, place: place.name });
  const parent = await folderInsideRoots(request.targetFolder, config.roots);
  await requireWritable(parent);
  const files = await partsOf(real);
  const toWrite = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
  const room = await roomOf(parent);
  const { fits, usableInBytes } = room
    ? roomAfter(toWrite, { ...room, headroomShare: defaultHeadroomShare })
    : { fits: true, usableInBytes: 0 };
  if (!fits) {
    throw new UserProblem({ code: 'no-room', for: 'bundle', folder: parent, neededInBytes: toWrite, usableInBytes });
  }
  const folder = join(parent, `${safeName(splitExtension(basename(real)).stem)}.otiod`);
  return db.transaction(async (trx) => {
    const id = await unpackingStore.insertUnpacking(trx, { placeId: place.id, path: request.path, folder });
    return enqueue(trx, 'unpack-bundle', { unpackingId: id }, basename(real));
  });
}

/** Carries it out: file by file, each verified; what is out already stays, so it can stop and go on. */
export async function unpackBundle({ db, signal, report }: JobContext, id: string): Promise<void> {
  const unpacking = await unpackingStore.getUnpacking(db, id);
  const place = await placeStore.getPlace(db, unpacking.placeId);
  const real = await fileInsidePlace(place.path, unpacking.path);
  if (!real) throw new UserProblem({ code: 'place-away', place: place.name, path: null, for: 'unpack' });
  const folder = await FencedFolder.make(dirname(unpacking.folder), basename(unpacking.folder), {
    ours: unpacking.folderMade,
  });
  await unpackingStore.markFolderMade(db, id);
  const files = await partsOf(real);
  const total = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
  let done = 0;
  const onBytes = (bytes: number) => {
    done += bytes;
    void report({ done, of: total, unit: 'bytes', doing: { code: 'unpacking', file: basename(real) } });
  };
  // The document last: a bundle folder that has one is whole.
  await unzipVerified(real, folder, files, { signal, onBytes });
  for (const known of await placeStore.listPlaces(db))
    if (isInside(known.path, folder.path)) await startIndexOf(db, known);
}

/** What of a zip belongs to the bundle, media first. */
async function partsOf(path: string): Promise<ZippedFile[]> {
  const files = await listZip(path).catch((error: unknown) => {
    throw new UserProblem({ code: 'zip-broken', name: basename(path) }, error);
  });
  const content = files.find((f) => f.name === bundleParts.content);
  if (!content)
    throw new UserProblem({ code: 'no-bundle', path: basename(path), place: null, lacks: bundleParts.content });
  const media = files.filter((f) => f.name.startsWith(`${bundleParts.media}/`) || f.name === bundleParts.version);
  return [...media, content];
}
