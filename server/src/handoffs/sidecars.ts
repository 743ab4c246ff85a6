import type { Sidecar } from '@legame/core/consolidate';
import type { MediaFileId } from '@legame/core/model';
import type { Database } from '../db/database.ts';
import { lyingBeside, sidecarsAmong } from '../places/beside.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';

export type SidecarsFound = {
  /** By the recording they go with. */
  readonly byFile: ReadonlyMap<MediaFileId, readonly Sidecar[]>;
  /** By their own ids. */
  readonly records: ReadonlyMap<MediaFileId, MediaFileRecord>;
};

/** What lies beside these recordings under their names and is no media, as the places were indexed last. */
export async function sidecarsFor(db: Database, files: readonly MediaFileRecord[]): Promise<SidecarsFound> {
  const coming = new Set(files.map((f) => f.id));
  const isComing = ({ id }: MediaFileRecord) => coming.has(id);
  const byFile = new Map<MediaFileId, readonly Sidecar[]>();
  const records = new Map<MediaFileId, MediaFileRecord>();
  for (const there of (await lyingBeside({ db }, files)).values()) {
    // One that two of a name could have goes with the one that comes.
    const first = [...there.filter(isComing), ...there.filter((file) => !isComing(file))];
    for (const { of, file, sidecar } of sidecarsAmong(first, isComing)) {
      byFile.set(of.id, [...(byFile.get(of.id) ?? []), sidecar]);
      records.set(file.id, file);
    }
  }
  return { byFile, records };
}
