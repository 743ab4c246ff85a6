import { z } from 'zod';
import { awayReasons, skippedSchema, type AwayReason, type PlaceView } from '@legame/core/contract';
import type { PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { folderIdentitySchema, type FolderIdentity, type Ground } from '../disk/held.ts';
import type { Skipped } from '../disk/walk.ts';
import { notFound } from '../problems.ts';

export type PlaceRecord = {
  readonly id: PlaceId;
  readonly name: string;
  readonly path: string;
  /** All names that other machines know it by: those given by hand and those learned from links. */
  readonly knownAs: readonly string[];
  /** Of these, the names that links taught it: they tie nothing by themselves. */
  readonly taught: readonly string[];
  readonly learnedNames: readonly string[];
  readonly unlearnedNames: readonly string[];
  readonly there: boolean;
  readonly awayBecause: AwayReason | null;
  readonly readOnly: boolean;
  readonly slow: boolean;
  /** It was asked and has not answered yet; until more is known it counts as it did. */
  readonly silent: boolean;
  readonly fileSystemId: string | null;
  /** Its folder, as the file system knows it since it was last seen; another one there is another drive. */
  readonly root: FolderIdentity | null;
  readonly excluded: readonly string[];
  readonly skipped: PlaceView['skipped'];
  readonly movedFrom: string | null;
  readonly indexedAt: Date | null;
};

const rowSchema = z.object({
  id: z.custom<PlaceId>(),
  name: z.string(),
  path: z.string(),
  known_as: z.array(z.string()),
  learned_names: z.array(z.string()),
  unlearned_names: z.array(z.string()),
  there: z.boolean(),
  away_because: z.enum(awayReasons).nullable(),
  read_only: z.boolean(),
  slow: z.boolean(),
  silent: z.boolean(),
  file_system_id: z.string().nullable(),
  root: folderIdentitySchema.nullable(),
  excluded: z.array(z.string()),
  skipped: skippedSchema.nullable(),
  moved_from: z.string().nullable(),
  indexed_at: z.date().nullable(),
});
function toRecord(row: unknown): PlaceRecord {
  const r = rowSchema.parse(row);
  return {
    id: r.id,
    name: r.name,
    path: r.path,
    knownAs: [...r.known_as, ...r.learned_names],
    taught: r.learned_names,
    learnedNames: r.learned_names,
    unlearnedNames: r.unlearned_names,
    there: r.there,
    awayBecause: r.away_because,
    readOnly: r.read_only,
    slow: r.slow,
    silent: r.silent,
    fileSystemId: r.file_system_id,
    root: r.root,
    excluded: r.excluded,
    skipped: r.skipped,
    movedFrom: r.moved_from,
    indexedAt: r.indexed_at,
  };
}

export type PlaceUpdate = Partial<{
  name: string;
  path: string;
  givenNames: readonly string[];
  learnedNames: readonly string[];
  unlearnedNames: readonly string[];
  there: boolean;
  awayBecause: AwayReason | null;
  readOnly: boolean;
  slow: boolean;
  silent: boolean;
  fileSystemId: string | null;
  root: FolderIdentity | null;
  excluded: readonly string[];
  skipped: Skipped;
  movedFrom: string | null;
  indexedAt: Date;
}>;

export type PlaceCounts = {
  readonly files: number;
  readonly unread: number;
  readonly unreadable: number;
  readonly sizeInBytes: number;
};

/** A place as what is opened in it is opened: that very folder, and no other drive in its stead. */
export const groundOf = ({ path, root }: Pick<PlaceRecord, 'path' | 'root'>): Ground => ({ path, is: root });

export const placeStore = {
  /** Files of it are being renamed: what was listed before does not tell any more what lies there. */
  async countRenaming(trx: Transaction, id: PlaceId): Promise<void> {
    await trx('places').where({ id }).increment('renamed', 1);
  },
  async listPlaces(db: Database | Transaction): Promise<PlaceRecord[]> {
    return ((await db('places').orderBy('created_at')) as unknown[]).map(toRecord);
  },
  async getPlace(db: Database | Transaction, id: PlaceId): Promise<PlaceRecord> {
    const row: unknown = await db('places').where({ id }).first();
    if (!row) throw notFound('place');
    return toRecord(row);
  },
  async findPlaceByPath(db: Database | Transaction, path: string): Promise<PlaceRecord | null> {
    const row: unknown = await db('places').where({ path }).first();
    return row ? toRecord(row) : null;
  },
  async insertPlace(
    db: Database | Transaction,
    place: Pick<PlaceRecord, 'name' | 'path' | 'knownAs' | 'fileSystemId'> & Partial<Pick<PlaceRecord, 'root'>>,
  ): Promise<PlaceRecord> {
    const [row] = (await db('places')
      .insert({
        name: place.name,
        path: place.path,
        known_as: [...place.knownAs],
        file_system_id: place.fileSystemId,
        root: place.root && JSON.stringify(place.root),
      })
      .returning('*')) as [unknown];
    return toRecord(row);
  },
  async updatePlace(db: Database | Transaction, id: PlaceId, change: PlaceUpdate): Promise<void> {
    const columns = {
      name: change.name,
      path: change.path,
      known_as: change.givenNames && [...change.givenNames],
      learned_names: change.learnedNames && [...change.learnedNames],
      unlearned_names: change.unlearnedNames && [...change.unlearnedNames],
      there: change.there,
      away_because: change.awayBecause,
      read_only: change.readOnly,
      slow: change.slow,
      silent: change.silent,
      file_system_id: change.fileSystemId,
      root: change.root && JSON.stringify(change.root),
      excluded: change.excluded && [...change.excluded],
      skipped: change.skipped && JSON.stringify(change.skipped),
      moved_from: change.movedFrom,
      indexed_at: change.indexedAt,
    };
    const given = Object.fromEntries(Object.entries(columns).filter(([, value]) => value !== undefined));
    if (Object.keys(given).length > 0) await db('places').where({ id }).update(given);
  },
  /** Some files of a place, spread over it, by which its tree is known again under another path. */
  async sampleOfTree(
    db: Database | Transaction,
    id: PlaceId,
    count: number,
  ): Promise<{ path: string; sizeInBytes: number; modifiedMs: number }[]> {
    const rows = (await db('media_files')
      .where({ place_id: id, gone: false })
      .whereNull('sequence')
      // Ids are random, and the same at every look.
      .orderBy('id')
      .limit(count)
      .select('folder', 'name', 'size_in_bytes', 'modified_ms')) as {
      folder: string;
      name: string;
      size_in_bytes: string;
      modified_ms: number;
    }[];
    return rows.map((r) => ({
      path: r.folder === '' ? r.name : `${r.folder}/${r.name}`,
      sizeInBytes: Number(r.size_in_bytes),
      modifiedMs: r.modified_ms,
    }));
  },
  async deletePlace(db: Database | Transaction, id: PlaceId): Promise<void> {
    await db('places').where({ id }).delete();
  },
  async countsByPlace(db: Database | Transaction): Promise<Map<PlaceId, PlaceCounts>> {
    const rows = (await db('media_files')
      .where({ gone: false })
      .groupBy('place_id')
      .select(
        'place_id',
        db.raw('count(*)::int as files'),
        db.raw('count(*) filter (where read_at is null)::int as unread'),
        db.raw('count(*) filter (where unreadable is not null)::int as unreadable'),
        db.raw('coalesce(sum(size_in_bytes), 0)::float8 as size'),
      )) as { place_id: PlaceId; files: number; unread: number; unreadable: number; size: number }[];
    return new Map(
      rows.map((r) => [
        r.place_id,
        { files: r.files, unread: r.unread, unreadable: r.unreadable, sizeInBytes: r.size },
      ]),
    );
  },
};
