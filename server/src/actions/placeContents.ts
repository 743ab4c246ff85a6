import type { MediaFileView, RecordingView, Trouble } from '@legame/core/contract';
import { splitRecordings, type MediaFile, type PlaceId } from '@legame/core';
import type { Database } from '../db/database.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { viewMediaFile } from './clipViews.ts';

/** The folders and media files right in one folder of a place. */
export async function listFolder(
  db: Database,
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
export async function listTrouble(db: Database, placeId: PlaceId): Promise<Trouble[]> {
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
export async function listRecordings(db: Database, placeId: PlaceId): Promise<RecordingView[]> {
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
