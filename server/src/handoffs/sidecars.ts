import { sidecarsIn, type Sidecar } from '@legame/core/consolidate';
import type { MediaFileId } from '@legame/core/model';
import type { Database } from '../db/database.ts';
import { fileNameStore } from '../stores/fileNames.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';

export type SidecarsFound = {
  /** By the recording they go with. */
  readonly byFile: ReadonlyMap<MediaFileId, readonly Sidecar[]>;
  /** By their own ids. */
  readonly records: ReadonlyMap<MediaFileId, MediaFileRecord>;
};

/** What lies beside these recordings under their names and is no media, as the places were indexed last. */
export async function sidecarsFor(db: Database, files: readonly MediaFileRecord[]): Promise<SidecarsFound> {
  const keyOf = ({ placeId, folder }: MediaFileRecord) => `${placeId}/${folder}`;
  const byFolder = new Map<string, MediaFileRecord[]>();
  // In the order of their names, so that one that two could have goes to the same whoever asks.
  for (const file of files.toSorted((a, b) => (a.name < b.name ? -1 : 1)))
    byFolder.set(keyOf(file), [...(byFolder.get(keyOf(file)) ?? []), file]);
  const folders = [...byFolder.values()].map(([first]) => first!);
  const others = new Map<string, MediaFileRecord[]>();
  for (const file of await fileNameStore.listNoMedia(db, folders))
    others.set(keyOf(file), [...(others.get(keyOf(file)) ?? []), file]);
  const byFile = new Map<MediaFileId, readonly Sidecar[]>();
  const records = new Map<MediaFileId, MediaFileRecord>();
  for (const [key, beside] of others) {
    for (const [{ id }, sidecars] of sidecarsIn(byFolder.get(key)!, beside)) byFile.set(id, sidecars);
    for (const file of beside) records.set(file.id, file);
  }
  return { byFile, records };
}
