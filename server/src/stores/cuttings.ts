import type { Cutting } from '@legame/core/consolidate';
import type { MediaFileId } from '@legame/core/model';
import type { Streams } from '../media/trim.ts';
import type { Database, Transaction } from '../db/database.ts';
import type { MediaFileRecord } from './mediaFiles.ts';

type Row = {
  media_file_id: MediaFileId;
  size_in_bytes: string;
  modified_ms: number;
  cutting: Cutting;
  streams: Streams | null;
};

export type Cuttable = { readonly cutting: Cutting; readonly streams: Streams | null };

/** Where files can be cut, as it was found out; what is known of a file that changed since is nothing. */
export const cuttingStore = {
  async listOf(
    db: Database | Transaction,
    files: readonly Pick<MediaFileRecord, 'id' | 'sizeInBytes' | 'modifiedMs'>[],
  ): Promise<Map<MediaFileId, Cuttable>> {
    const now = new Map(files.map((f) => [f.id, f]));
    const rows = (await db('cuttings').whereIn('media_file_id', [...now.keys()])) as Row[];
    return new Map(
      rows
        .filter((row) => {
          const file = now.get(row.media_file_id)!;
          return Number(row.size_in_bytes) === file.sizeInBytes && row.modified_ms === file.modifiedMs;
        })
        .map(({ media_file_id: id, cutting, streams }) => [id, { cutting, streams }]),
    );
  },
  async save(
    db: Database | Transaction,
    { id, sizeInBytes, modifiedMs }: Pick<MediaFileRecord, 'id' | 'sizeInBytes' | 'modifiedMs'>,
    { cutting, streams }: Cuttable,
  ): Promise<void> {
    await db('cuttings')
      .insert({
        media_file_id: id,
        size_in_bytes: sizeInBytes,
        modified_ms: modifiedMs,
        cutting: JSON.stringify(cutting),
        streams: streams && JSON.stringify(streams),
      })
      .onConflict('media_file_id')
      .merge();
  },
};
