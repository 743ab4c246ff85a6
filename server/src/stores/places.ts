import type { PlaceId } from '@legame/core';
import type { Database, Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';

export type PlaceRecord = {
  readonly id: PlaceId;
  readonly name: string;
  readonly path: string;
  readonly knownAs: readonly string[];
  readonly there: boolean;
  readonly indexedAt: Date | null;
};

type Row = { id: PlaceId; name: string; path: string; known_as: string[]; there: boolean; indexed_at: Date | null };
const toRecord = (r: Row): PlaceRecord => ({
  id: r.id,
  name: r.name,
  path: r.path,
  knownAs: r.known_as,
  there: r.there,
  indexedAt: r.indexed_at,
});

export type PlaceCounts = {
  readonly files: number;
  readonly unread: number;
  readonly unreadable: number;
  readonly sizeInBytes: number;
};

export const placeStore = {
  async listPlaces(db: Database | Transaction): Promise<PlaceRecord[]> {
    return ((await db('places').orderBy('created_at')) as Row[]).map(toRecord);
  },
  async getPlace(db: Database | Transaction, id: PlaceId): Promise<PlaceRecord> {
    const row = (await db('places').where({ id }).first()) as Row | undefined;
    if (!row) throw notFound('place');
    return toRecord(row);
  },
  async findPlaceByPath(db: Database | Transaction, path: string): Promise<PlaceRecord | null> {
    const row = (await db('places').where({ path }).first()) as Row | undefined;
    return row ? toRecord(row) : null;
  },
  async insertPlace(
    db: Database | Transaction,
    place: Pick<PlaceRecord, 'name' | 'path' | 'knownAs'>,
  ): Promise<PlaceRecord> {
    const [row] = (await db('places')
      .insert({ name: place.name, path: place.path, known_as: [...place.knownAs] })
      .returning('*')) as [Row];
    return toRecord(row);
  },
  async updatePlace(
    db: Database | Transaction,
    id: PlaceId,
    change: Partial<{ name: string; knownAs: string[]; there: boolean; indexedAt: Date }>,
  ): Promise<void> {
    const columns = { name: change.name, known_as: change.knownAs, there: change.there, indexed_at: change.indexedAt };
    await db('places')
      .where({ id })
      .update(Object.fromEntries(Object.entries(columns).filter(([, value]) => value !== undefined)));
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
