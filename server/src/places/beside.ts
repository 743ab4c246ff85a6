import { sidecarsIn, type Sidecar } from '@legame/core/consolidate';
import type { Looking } from '../context.ts';
import { fileNameStore } from '../stores/fileNames.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';

/** The folder that a file lies in, told apart from all others. */
export const folderKey = ({ placeId, folder }: Pick<MediaFileRecord, 'placeId' | 'folder'>): string =>
  `${placeId}/${folder}`;

/** All that has a name in the folders of these files, themselves among them, by folder and in the order of names. */
export async function lyingBeside(
  { db }: Looking,
  files: readonly MediaFileRecord[],
): Promise<ReadonlyMap<string, readonly MediaFileRecord[]>> {
  const found = new Map<string, readonly MediaFileRecord[]>();
  for (const file of files)
    if (!found.has(folderKey(file)))
      found.set(folderKey(file), await fileNameStore.listNamesTaken(db, file.placeId, file.folder));
  return found;
}

export type SidecarFound = {
  readonly of: MediaFileRecord;
  readonly file: MediaFileRecord;
  readonly sidecar: Sidecar;
};

/** Sidecars of some of the media of a folder, as it was indexed last; of two that could have one, the first does. */
export function sidecarsAmong(
  there: readonly MediaFileRecord[],
  isWanted: (file: MediaFileRecord) => boolean,
): SidecarFound[] {
  const present = there.filter((file) => !file.gone);
  const isNoMedia = (file: MediaFileRecord) => file.unreadable?.code === 'not-media';
  const records = new Map(present.map((file) => [file.id, file]));
  // All media are looked at: what has the longer name of another is none of these.
  const found = sidecarsIn(
    present.filter((file) => !isNoMedia(file)),
    present.filter(isNoMedia),
  );
  return [...found].flatMap(([of, sidecars]) =>
    isWanted(of) ? sidecars.map((sidecar) => ({ of, file: records.get(sidecar.id)!, sidecar })) : [],
  );
}

/** By folder, the names of what lies there and is not about to get another. */
export const namesStaying = (
  lying: ReadonlyMap<string, readonly MediaFileRecord[]>,
  moving: ReadonlySet<MediaFileRecord['id']>,
): ReadonlyMap<string, readonly string[]> =>
  new Map(
    [...lying].map(([key, there]) => [key, there.filter((file) => !moving.has(file.id)).map((file) => file.name)]),
  );
