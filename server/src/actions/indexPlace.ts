import type { Progress } from '@legame/core/contract';
import { nameKey, parseRememberedPath, splitExtension, type PlaceId } from '@legame/core';
import type { Database } from '../db/database.ts';
import { isThere } from '../places/presence.ts';
import { walkPlace } from '../places/walk.ts';
import { UserProblem } from '../problems.ts';
import { readMediaFile } from '../reading/read.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { matchAllProjects } from './matchProject.ts';
import { settleAwaited } from './projectPackage.ts';
import { tell } from './tell.ts';

export type JobContext = {
  readonly db: Database;
  readonly signal: AbortSignal;
  readonly report: (progress: Omit<Progress, 'elapsedSeconds'>) => Promise<void>;
};

/** More probers at a time read no faster on two cores. */
const readersAtOnce = 2;

/**
 * Walks a place, records the difference, then reads facts of what was not read before: first the files whose names
 * clips ask for, then the rest. Interrupted, it goes on where it was, for what was read is recorded file by file.
 */
export async function indexPlace({ db, signal, report }: JobContext, placeId: PlaceId): Promise<void> {
  const place = await placeStore.getPlace(db, placeId);
  if (!(await isThere(place.path))) {
    throw new UserProblem(
      'place-away',
      409,
      `"${place.name}" is not there (${place.path}). It is indexed when it comes back; what is known of it stays.`,
    );
  }
  const walk = await walkPlace(place.path, {
    signal,
    onFiles: (count, folder) =>
      void report({ done: count, of: null, unit: 'files', doing: `listing ${folder || place.name}` }),
  });
  await mediaFileStore.applyWalk(db, placeId, walk.files);
  await settleAwaited(db);
  await placeStore.updatePlace(db, placeId, { indexedAt: new Date(), there: true });
  await matchAllProjects(db);
  await tell(db, 'places', placeId);

  const unread = await inOrderOfNeed(db, await mediaFileStore.listUnread(db, placeId));
  const queue = [...unread];
  let done = 0;
  const work = async () => {
    for (let file = queue.shift(); file; file = queue.shift()) {
      signal.throwIfAborted();
      await report({ done, of: unread.length, unit: 'files', doing: `reading ${file.name}` });
      const reading = await readMediaFile(place.path, file, signal);
      if (reading === 'aborted') throw new DOMException('Aborted', 'AbortError');
      await mediaFileStore.saveReading(db, file.id, reading);
      done += 1;
    }
  };
  await Promise.all(Array.from({ length: readersAtOnce }, work));
  await report({ done, of: unread.length, unit: 'files', doing: 'read' });
  if (unread.length > 0) await matchAllProjects(db);
  await tell(db, 'places', placeId);
}

/** Files that some clip asks for by name or stem come first. */
async function inOrderOfNeed(db: Database, files: readonly MediaFileRecord[]): Promise<MediaFileRecord[]> {
  if (files.length < 2) return [...files];
  const wanted = new Set<string>();
  for (const project of await projectStore.listProjects(db)) {
    for (const clip of await clipStore.listClips(db, project.id)) {
      const name = clip.remembered ? parseRememberedPath(clip.remembered).name : clip.name;
      wanted.add(nameKey(splitExtension(name).stem));
    }
  }
  const isWanted = (file: MediaFileRecord) => wanted.has(nameKey(splitExtension(file.name).stem));
  return [...files.filter(isWanted), ...files.filter((file) => !isWanted(file))];
}
