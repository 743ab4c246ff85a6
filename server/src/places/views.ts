import type { Looking } from '../context.ts';
import { type MediaFile, type PlaceId, splitRecordings } from '@legame/core/model';
import type { FolderListing, MediaFileView, PlaceView, RecordingView, Trouble } from '@legame/core/contract';
import { dirname, join } from 'node:path';
import { viewMediaFile } from '../clips/memberViews.ts';
import type { Context } from '../context.ts';
import { existingRoots, folderInsideRoots } from '../disk/fence.ts';
import { withFolder } from '../disk/held.ts';
import { roomOf } from '../disk/room.ts';
import { UserProblem } from '../problems.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';

/** The folders and media files right in one folder of a place. */
export async function listFolder(
  { db }: Looking,
  placeId: PlaceId,
  folder: string,
): Promise<{ folder: string; folders: string[]; files: MediaFileView[] }> {
  const place = await placeStore.getPlace(db, placeId);
  const [folders, files] = await Promise.all([
    mediaFileStore.listFolders(db, place.id, folder),
    mediaFileStore.listInFolder(db, place.id, folder),
  ]);
  return { folder, folders, files: files.map((f) => viewMediaFile(f, place)) };
}

/** Files of a place that cannot be used, each with the reason. */
export async function listTrouble({ db }: Looking, placeId: PlaceId): Promise<Trouble[]> {
  return (await mediaFileStore.listTrouble(db, placeId)).map((file) => ({
    mediaFileId: file.id,
    folder: file.folder,
    name: file.name,
    sizeInBytes: file.sizeInBytes,
    reason: file.unreadable!,
    quarantined: file.quarantined,
  }));
}

/** Recordings of a place that lie in several files, as one each. */
export async function listRecordings({ db }: Looking, placeId: PlaceId): Promise<RecordingView[]> {
  const files = await mediaFileStore.listUnder(db, placeId, '');
  return splitRecordings(files).map(({ parts, range }) => {
    const [first] = parts;
    const facts = first!.facts!;
    return {
      folder: first!.folder,
      name: commonName(parts),
      parts: parts.map((p) => ({ mediaFileId: p.id, name: p.name, lengthInFrames: p.facts!.length! })),
      rate: facts.rate!,
      counting: facts.counting,
      range,
    };
  });
}

/** What the names of the parts have in common, with an ellipsis for what they have not. */
function commonName(parts: readonly MediaFile[]): string {
  const [first, last] = [parts[0]!.name, parts.at(-1)!.name];
  let from = 0;
  while (from < first.length && first[from] === last[from]) from += 1;
  let end = 0;
  while (end < first.length - from && end < last.length - from && first.at(-1 - end) === last.at(-1 - end)) end += 1;
  return `${first.slice(0, from)}…${first.slice(first.length - end)}`;
}

export async function listPlaces({ db }: Looking): Promise<PlaceView[]> {
  const [places, counts] = await Promise.all([placeStore.listPlaces(db), placeStore.countsByPlace(db)]);
  return Promise.all(
    places.map(async (place) => ({
      id: place.id,
      name: place.name,
      path: place.path,
      knownAs: place.knownAs,
      learnedNames: place.learnedNames,
      there: place.there,
      awayBecause: place.awayBecause,
      readOnly: place.readOnly,
      slow: place.slow,
      silent: place.silent,
      movedFrom: place.movedFrom,
      excluded: place.excluded,
      skipped: place.skipped,
      indexedAt: place.indexedAt?.toISOString() ?? null,
      ...(counts.get(place.id) ?? { files: 0, unread: 0, unreadable: 0, sizeInBytes: 0 }),
      room: place.there ? await roomOf(place.path) : null,
    })),
  );
}

/** The folders right under `path` for choosing one; without a path, the allowed roots, or what is in the only one. */
export async function listFolders(config: Context['config'], path: string | undefined): Promise<FolderListing> {
  const roots = await existingRoots(config.roots);
  if (!path && roots.length !== 1) {
    return { path: '', parent: null, folders: roots.map((root) => ({ name: root, path: root })) };
  }
  const real = path ? await folderInsideRoots(path, config.roots) : roots[0]!;
  const entries = await withFolder({ path: real }, (folder) => folder.entries()).catch((error: unknown) => {
    if (error instanceof UserProblem) throw error;
    throw new UserProblem({ code: 'folder-closed', path: real, place: null }, error);
  });
  const folders = entries
    .filter((e) => e.isDirectory() && !e.name.startsWith('.'))
    .map((e) => ({ name: e.name, path: join(real, e.name) }))
    .sort((a, b) => a.name.localeCompare(b.name));
  const parent = roots.includes(real) ? (roots.length === 1 ? null : '') : dirname(real);
  return { path: real, parent, folders };
}
