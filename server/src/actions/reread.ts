import type { z } from 'zod';
import type { IndexArchive, Job, rereadSchema } from '@legame/core/contract';
import type { ClipId, MediaFileId, PlaceId } from '@legame/core';
import { UserProblem } from '../problems.ts';
import { archiveStore } from '../stores/archives.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import type { Context } from './context.ts';
import { startIndex } from './places.ts';
import { dropPictures } from './pictures.ts';
import { matchAllProjects } from './matchProject.ts';
import { startIndexOf } from './placeStates.ts';
import { tell } from './tell.ts';

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
  for (const clipId of clipIds) {
    const { link, proposal } = await clipStore.getClip(db, clipId);
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
  const { db } = context;
  const place = await placeStore.getPlace(db, placeId);
  const archive = await db.transaction(async (trx) => {
    const kept = await archiveStore.setAside(trx, placeId);
    await matchAllProjects(trx);
    await tell(trx, 'places', placeId);
    return kept;
  });
  return { archive, job: place.there ? await startIndex(context, placeId) : null };
}

/** Brings a memory that was set aside back, in one act. Files that changed since keep what is known of them now. */
export async function restoreIndex({ db }: Context, archiveId: string): Promise<{ files: number }> {
  const archive = await archiveStore.find(db, archiveId);
  if (!archive) throw new UserProblem('not-found', 404, 'This index is not there any more.');
  return db.transaction(async (trx) => {
    const files = await archiveStore.restore(trx, archiveId);
    await matchAllProjects(trx);
    await tell(trx, 'places', archive.placeId);
    return { files };
  });
}
