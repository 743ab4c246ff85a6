import type { Cutting } from '@legame/core/consolidate';
import type { MediaFileId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import type { MediaFileRecord } from './mediaFiles.ts';

type Row = { media_file_id: MediaFileId; size_in_bytes: string; modified_ms: number; cutting: Cutting };

/** Where files can be cut, as it was found out; what is known of a file that changed since is nothing. */
export const cuttingStore = {
  async listOf(
    db: Database | Transaction,
    files: readonly Pick<MediaFileRecord, 'id' | 'sizeInBytes' | 'modifiedMs'>[],
  ): Promise<Map<MediaFileId, Cutting>> {
    const now = new Map(files.map((f) => [f.id, f]));
    const rows = (await db('cuttings').whereIn('media_file_id', [...now.keys()])) as Row[];
    return new Map(
      rows
        .filter((row) => {
          const file = now.get(row.media_file_id)!;
          return Number(row.size_in_bytes) === file.sizeInBytes && row.modified_ms === file.modifiedMs;
        })
        .map((row) => [row.media_file_id, row.cutting]),
    );
  },
  async save(
    db: Database | Transaction,
    { id, sizeInBytes, modifiedMs }: Pick<MediaFileRecord, 'id' | 'sizeInBytes' | 'modifiedMs'>,
    cutting: Cutting,
  ): Promise<void> {
    await db('cuttings')
      .insert({
        media_file_id: id,
        size_in_bytes: sizeInBytes,
        modified_ms: modifiedMs,
        cutting: JSON.stringify(cutting),
      })
      .onConflict('media_file_id')
      .merge();
  },
};
