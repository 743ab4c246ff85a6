/** A file of a place with what it is there for. `use` is one of a closed set of the caller's. */
export type RoomFile<Use extends string> = {
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly use: Use;
};
export type RoomShare<Use extends string> = {
  readonly name: string;
  /** The folder it stands for; null for a file. */
  readonly folder: string | null;
  readonly files: number;
  readonly sizeInBytes: number;
  readonly byUse: Partial<Record<Use, number>>;
};

/** What lies right in a folder, largest first: each folder under it with all it holds, each file by itself. */
export function roomShares<Use extends string, F extends RoomFile<Use>>(
  files: readonly F[],
  folder: string,
): (RoomShare<Use> & { readonly file: F | null })[] {
  const prefix = folder === '' ? '' : `${folder}/`;
  type Share = RoomShare<Use> & { files: number; sizeInBytes: number; file: F | null };
  const shares = new Map<string, Share>();
  for (const file of files) {
    const isHere = file.folder === folder;
    if (!isHere && !file.folder.startsWith(prefix)) continue;
    const below = isHere ? null : file.folder.slice(prefix.length).split('/')[0]!;
    const key = below === null ? `file ${file.name}` : `folder ${below}`;
    const share: Share = shares.get(key) ?? {
      name: below ?? file.name,
      folder: below === null ? null : prefix + below,
      files: 0,
      sizeInBytes: 0,
      byUse: {},
      file: below === null ? file : null,
    };
    share.files += 1;
    share.sizeInBytes += file.sizeInBytes;
    share.byUse[file.use] = (share.byUse[file.use] ?? 0) + file.sizeInBytes;
    shares.set(key, share);
  }
  return [...shares.values()].sort((a, b) => b.sizeInBytes - a.sizeInBytes);
}

/** Bytes by use, over all files. */
export function bytesByUse<Use extends string>(
  files: readonly Pick<RoomFile<Use>, 'use' | 'sizeInBytes'>[],
): Partial<Record<Use, number>> {
  const sums: Partial<Record<Use, number>> = {};
  for (const { use, sizeInBytes } of files) sums[use] = (sums[use] ?? 0) + sizeInBytes;
  return sums;
}
