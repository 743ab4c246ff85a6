import { join } from 'node:path';
import type { MediaFileId, PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { acceptedCopyStore } from '../stores/acceptedCopies.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import type { PlaceRecord } from '../stores/places.ts';

/** Which of these files are accepted copies that Legame made. */
export async function acceptedAmong(
  db: Database | Transaction,
  files: readonly MediaFileRecord[],
  places: ReadonlyMap<PlaceId, PlaceRecord>,
): Promise<Set<MediaFileId>> {
  const made = new Set(await acceptedCopyStore.listMadePaths(db));
  const path = (f: MediaFileRecord) => join(places.get(f.placeId)?.path ?? '', f.folder, f.name);
  return new Set(made.size === 0 ? [] : files.filter((f) => made.has(path(f))).map((f) => f.id));
}
