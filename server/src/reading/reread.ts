import type { ClipId, MediaFileId, PlaceId } from '@legame/core/model';
import type { IndexArchive, Job, rereadSchema } from '@legame/core/contract';
import { randomUUID } from 'node:crypto';
import type { z } from 'zod';
import type { Context } from '../context.ts';
import { tell } from '../events/tell.ts';
import { matchAllProjects } from '../matching/matchProject.ts';
import { startIndex } from '../places/change.ts';
import { startIndexOf } from '../places/states.ts';
import { UserProblem } from '../problems.ts';
import { dropPictures } from './pictures.ts';
import { archiveStore } from '../stores/archives.ts';
import { clipStore } from '../stores/clips.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { type PlaceRecord, placeStore } from '../stores/places.ts';

/**
 * Forgets what is remembered of files, pictures and quarantine included, and measures them again: the files of some
 * clips (tied and candidates), some files, or everything from a folder of a place down. Returns how many.
 */
export async function reread(context: Context, request: z.infer<typeof rereadSchema>): Promise<{ files: number }> {
  const { db } = context;
  const files =
    'placeId' in request
      ? await mediaFileStore.listUnder(db, request.placeId, request.folder)
      : await mediaFileStore.listByIds(
          db,
          'clipIds' in request ? await filesOf(context, request.clipIds) : request.mediaFileIds,
        );
  await mediaFileStore.forgetReading(
    db,
    files.map((f) => f.id),
  );
  await dropPictures(
    context,
    files.map((f) => f.id),
  );
  if ('placeId' in request) await startIndex(context, request.placeId, request.folder);
  else await indexFoldersOf(context, files);
  await tell(db, 'places');
  return { files: files.length };
}

/** The files that a clip is tied to, or could be. */
async function filesOf({ db }: Context, clipIds: readonly ClipId[]): Promise<MediaFileId[]> {
  const ids = new Set<MediaFileId>();
  for (const { link, proposal } of await clipStore.listByIds(db, clipIds)) {
    for (const id of [
      link?.mediaFileId,
      proposal?.whereRemembered,
      ...(proposal?.candidates ?? []).map((c) => c.mediaFileId),
    ])
      if (id) ids.add(id);
  }
  return [...ids];
}

async function indexFoldersOf({ db }: Context, files: readonly MediaFileRecord[]): Promise<void> {
  const places = new Map((await placeStore.listPlaces(db)).map((p) => [p.id, p]));
  const folders = new Map(files.map((f) => [`${f.placeId}/${f.folder}`, f]));
  for (const { placeId, folder } of folders.values()) {
    const place = places.get(placeId);
    if (place?.there) await startIndexOf(db, place, folder);
  }
}

/** Sets the memory of a place aside under today's date and measures it anew; nothing of it is lost. */
export async function setIndexAside(
  context: Context,
  placeId: PlaceId,
): Promise<{ archive: IndexArchive; job: Job | null }> {
  const place = await placeStore.getPlace(context.db, placeId);
  const [archive] = await setAside(context, [place]);
  return { archive: archive!, job: place.there ? await startIndex(context, placeId) : null };
}

/** The same for all places in one act; they come back in one, too. */
export async function setAllAside(context: Context): Promise<IndexArchive[]> {
  const places = await placeStore.listPlaces(context.db);
  const archives = await setAside(context, places);
  for (const place of places) if (place.there) await startIndexOf(context.db, place);
  return archives.map((archive) => ({ ...archive, places: archives.length }));
}

async function setAside({ db }: Context, places: readonly PlaceRecord[]): Promise<IndexArchive[]> {
  const batch = randomUUID();
  return db.transaction(async (trx) => {
    const archives: IndexArchive[] = [];
    for (const place of places) archives.push(await archiveStore.setAside(trx, place.id, batch));
    await matchAllProjects(trx);
    await tell(trx, 'places');
    return archives;
  });
}

/**
 * Brings a memory that was set aside back, with those set aside in the same act. Files that changed since keep what is
 * known of them now.
 */
export async function restoreIndex({ db }: Context, archiveId: string): Promise<{ files: number }> {
  return db.transaction(async (trx) => {
    const archives = await archiveStore.listBatchOf(trx, archiveId);
    if (archives.length === 0) throw new UserProblem({ code: 'not-found', what: 'index' });
    let files = 0;
    for (const { id } of archives) files += await archiveStore.restore(trx, id);
    await matchAllProjects(trx);
    await tell(trx, 'places');
    return { files };
  });
}
