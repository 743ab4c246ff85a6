import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { z } from 'zod';
import { factsSchema, sequenceSchema, unreadableSchema } from '@legame/core/contract';
import type { Facts, MediaFile, MediaFileId, PlaceId, SequenceFrames, Unreadable } from '@legame/core';
import { listBindings, type Database, type Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';

export type MediaFileRecord = MediaFile & {
  readonly modifiedMs: number;
  readonly gone: boolean;
  readonly wasRead: boolean;
};

/** What a walk sees of one file or sequence. */
export type Walked = {
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly modifiedMs: number;
  readonly sequence: SequenceFrames | null;
};
export type WalkChanges = {
  readonly added: number;
  readonly changed: number;
  readonly gone: number;
  readonly same: number;
};

const rowSchema = z.object({
  id: z.custom<MediaFileId>(),
  place_id: z.custom<PlaceId>(),
  folder: z.string(),
  name: z.string(),
  size_in_bytes: z.coerce.number(),
  modified_ms: z.number(),
  sequence: sequenceSchema.nullable(),
  facts: factsSchema.nullable(),
  unreadable: unreadableSchema.nullable(),
  read_at: z.date().nullable(),
  gone: z.boolean(),
});

function toRecord(row: unknown): MediaFileRecord {
  const r = rowSchema.parse(row);
  return {
    id: r.id,
    placeId: r.place_id,
    folder: r.folder,
    name: r.name,
    sizeInBytes: r.size_in_bytes,
    modifiedMs: r.modified_ms,
    sequence: r.sequence,
    facts: r.facts,
    unreadable: r.unreadable,
    gone: r.gone,
    wasRead: r.read_at !== null,
  };
}

export const mediaFileStore = {
  /** Files that were there when their place was last walked. */
  async listPresent(db: Database | Transaction): Promise<MediaFileRecord[]> {
    return ((await db('media_files').where({ gone: false })) as unknown[]).map(toRecord);
  },
  async listByIds(db: Database | Transaction, ids: readonly MediaFileId[]): Promise<MediaFileRecord[]> {
    return ids.length ? ((await db('media_files').whereIn('id', [...ids])) as unknown[]).map(toRecord) : [];
  },
  async listInFolder(db: Database | Transaction, placeId: PlaceId, folder: string): Promise<MediaFileRecord[]> {
    return (
      (await db('media_files').where({ place_id: placeId, folder, gone: false }).orderBy('name')) as unknown[]
    ).map(toRecord);
  },
  /** Names of the folders right under `folder` that hold files at any depth. */
  async listFolders(db: Database | Transaction, placeId: PlaceId, folder: string): Promise<string[]> {
    const prefix = folder === '' ? '' : `${folder}/`;
    const rows = (await db('media_files')
      .where({ place_id: placeId, gone: false })
      .whereRaw('starts_with(folder, ?) and folder <> ?', [prefix, folder])
      .distinct(db.raw(`split_part(substr(folder, ?), '/', 1) as name`, [prefix.length + 1]))
      .orderBy('name')) as unknown as { name: string }[];
    return rows.map((r) => r.name);
  },
  async getMediaFile(db: Database | Transaction, id: MediaFileId): Promise<MediaFileRecord> {
    const row: unknown = await db('media_files').where({ id }).first();
    if (!row) throw notFound('media file');
    return toRecord(row);
  },
  async listUnread(db: Database | Transaction, placeId: PlaceId): Promise<MediaFileRecord[]> {
    const rows: unknown[] = await db('media_files')
      .where({ place_id: placeId, gone: false })
      .whereNull('read_at')
      .orderBy(['folder', 'name']);
    return rows.map(toRecord);
  },
  async saveReading(
    db: Database | Transaction,
    id: MediaFileId,
    reading: { facts: Facts | null; unreadable: Unreadable | null },
  ): Promise<void> {
    await db('media_files')
      .where({ id })
      .update({
        facts: reading.facts ? JSON.stringify(reading.facts) : null,
        unreadable: reading.unreadable ? JSON.stringify(reading.unreadable) : null,
        read_at: new Date(),
      });
  },
  async forgetReading(db: Database | Transaction, ids: readonly MediaFileId[]): Promise<void> {
    await db('media_files')
      .whereIn('id', [...ids])
      .update({ facts: null, unreadable: null, read_at: null });
  },
  /**
   * Brings the records of a place in line with what a walk saw: compares in memory, then writes only the difference,
   * new files by COPY. Facts of files whose size or time changed are forgotten; nothing is ever deleted.
   */
  async applyWalk(db: Database, placeId: PlaceId, walked: readonly Walked[]): Promise<WalkChanges> {
    const known = (await db('media_files')
      .where({ place_id: placeId })
      .select('id', 'folder', 'name', 'size_in_bytes', 'modified_ms', 'gone')) as {
      id: MediaFileId;
      folder: string;
      name: string;
      size_in_bytes: string;
      modified_ms: number;
      gone: boolean;
    }[];
    const byPath = new Map(known.map((row) => [`${row.folder}\u0000${row.name}`, row]));
    const added: Walked[] = [];
    const changed: (Walked & { id: MediaFileId })[] = [];
    let same = 0;
    for (const file of walked) {
      const key = `${file.folder}\u0000${file.name}`;
      const row = byPath.get(key);
      byPath.delete(key);
      if (!row) added.push(file);
      else if (row.gone || Number(row.size_in_bytes) !== file.sizeInBytes || row.modified_ms !== file.modifiedMs)
        changed.push({ ...file, id: row.id });
      else same += 1;
    }
    const gone = [...byPath.values()].filter((row) => !row.gone).map((row) => row.id);
    await db.transaction(async (trx) => {
      if (changed.length) {
        await trx.raw(
          `update media_files set size_in_bytes = given.size, modified_ms = given.modified, sequence = given.sequence,
             facts = null, unreadable = null, read_at = null, gone = false
           from unnest(?::uuid[], ?::bigint[], ?::float8[], ?::jsonb[]) as given(id, size, modified, sequence)
           where media_files.id = given.id`,
          listBindings(
            changed.map((f) => f.id),
            changed.map((f) => f.sizeInBytes),
            changed.map((f) => f.modifiedMs),
            changed.map((f) => (f.sequence ? JSON.stringify(f.sequence) : null)),
          ),
        );
      }
      if (gone.length)
        await trx.raw('update media_files set gone = true where id = any(?::uuid[])', listBindings(gone));
      if (added.length) await copyIn(trx, placeId, added);
    });
    return { added: added.length, changed: changed.length, gone: gone.length, same };
  },
};

async function copyIn(trx: Transaction, placeId: PlaceId, files: readonly Walked[]): Promise<void> {
  const client = await (trx.client as { acquireConnection: () => Promise<PoolClient> }).acquireConnection();
  const stream = client.query(
    copyFrom('copy media_files (place_id, folder, name, size_in_bytes, modified_ms, sequence) from stdin'),
  );
  function* lines(): Generator<string> {
    const chunk: string[] = [];
    for (const f of files) {
      const sequence = f.sequence ? escapeCopy(JSON.stringify(f.sequence)) : '\\N';
      chunk.push(
        `${placeId}\t${escapeCopy(f.folder)}\t${escapeCopy(f.name)}\t${f.sizeInBytes}\t${f.modifiedMs}\t${sequence}\n`,
      );
      if (chunk.length === 2000) yield chunk.splice(0).join('');
    }
    yield chunk.join('');
  }
  await pipeline(Readable.from(lines()), stream);
}

const copyEscapes: Readonly<Record<string, string>> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' };
const escapeCopy = (text: string): string => text.replace(/[\\\t\n\r]/g, (c) => copyEscapes[c]!);
