import type { Knex } from 'knex';
import { z } from 'zod';
import { factsSchema, sequenceSchema, unreadableSchema } from '@legame/core/contract';
import {
  type ClipId,
  quarantining,
  type Facts,
  type MediaFile,
  type MediaFileId,
  type PlaceId,
  type Unreadable,
  type ProjectId,
} from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import { mapInSlices } from '../inSlices.ts';
import { notFound } from '../problems.ts';
import { trusted } from './trusted.ts';

export type MediaFileRecord = MediaFile & {
  readonly modifiedMs: number;
  readonly gone: boolean;
  readonly wasRead: boolean;
  /** Changes whenever it is read anew, so that pictures of before are not taken for it. */
  readonly readAt: number | null;
  readonly fingerprint: string | null;
  readonly fullHash: string | null;
  readonly trial: Trial | null;
  /** It hung or crashed what read it, and is not opened again until somebody asks for it. */
  readonly quarantined: boolean;
  /** The transaction that changed it last: another number whenever anything of it is otherwise. */
  readonly version: number;
};

/** What somebody has at hand of a file, which may be as it was. */
export type KnownFile = (id: MediaFileId) => MediaFileRecord | undefined;

export type FileForRoom = Pick<MediaFile, 'id' | 'folder' | 'name' | 'sizeInBytes'> & {
  readonly fingerprint: string | null;
  readonly isNoMedia: boolean;
};

/** What a trial read, from end to end, found out about a file. Frames of picture, or samples of sound. */
export type Trial =
  | { readonly state: 'whole'; readonly frames: number | null; readonly at: string }
  | { readonly state: 'fails'; readonly reason: Unreadable; readonly at: string };

const rowSchema = z.object({
  id: z.custom<MediaFileId>(),
  place_id: z.custom<PlaceId>(),
  folder: z.string(),
  name: z.string(),
  size_in_bytes: z.coerce.number(),
  modified_ms: z.number(),
  sequence: trusted(sequenceSchema.nullable()),
  facts: trusted(factsSchema.nullable()),
  unreadable: trusted(unreadableSchema.nullable()),
  read_at: z.date().nullable(),
  gone: z.boolean(),
  fingerprint: z.string().nullable(),
  full_hash: z.string().nullable(),
  trial: z.custom<Trial>((v) => typeof v === 'object' && v !== null && 'state' in v).nullable(),
  quarantined: z.boolean(),
  changed_in: z.coerce.number(),
});

export function toRecord(row: unknown): MediaFileRecord {
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
    readAt: r.read_at?.getTime() ?? null,
    fingerprint: r.fingerprint,
    fullHash: r.full_hash,
    trial: r.trial,
    quarantined: r.quarantined,
    version: r.changed_in,
  };
}

/** Keeps a query to a folder of a place and all under it; the whole place for "". */
export function fromFolderDown(query: Knex.QueryBuilder, folder: string): void {
  if (folder === '') return;
  void query.where((q) => {
    void q.where({ folder }).orWhereRaw('starts_with(folder, ?)', [`${folder}/`]);
  });
}

/** A clip tied to a file that is gone, and the one file that is it under another name. */
export type Renamed = { readonly projectId: ProjectId; readonly clipId: ClipId; readonly mediaFileId: MediaFileId };

const ofIds = (db: Database | Transaction, ids: readonly MediaFileId[]) =>
  db('media_files').whereRaw('id = any(?::uuid[])', listBindings([...ids]));

/** Records are large, and most of those at hand are as they were: only the others are read. */
async function sameOrRead(
  db: Database | Transaction,
  now: readonly { readonly id: MediaFileId; readonly changed_in: string }[],
  known: KnownFile,
): Promise<MediaFileRecord[]> {
  const same: MediaFileRecord[] = [];
  const others: MediaFileId[] = [];
  for (const { id, changed_in: version } of now) {
    const file = known(id);
    if (file?.version === Number(version)) same.push(file);
    else others.push(id);
  }
  return [...same, ...(await mediaFileStore.listByIds(db, others))];
}

export const mediaFileStore = {
  /**
   * Links to files that went, of which the same file lies elsewhere in its place: the same to the file system (inode,
   * size, time) and in content. Where two could be it, neither is.
   */
  async listRenamed(db: Database | Transaction, gone: readonly MediaFileId[]): Promise<Renamed[]> {
    const { rows } = (await db.raw(
      `select clips.project_id, clips.id as clip_id, min(now.id::text)::uuid as media_file_id
       from links
         join clips on clips.id = links.clip_id and not clips.retired
         join media_files old on old.id = links.media_file_id
         join media_files now on now.place_id = old.place_id and now.inode = old.inode and not now.gone
           and now.size_in_bytes = old.size_in_bytes and now.modified_ms = old.modified_ms
           and now.fingerprint = old.fingerprint
       where old.id = any(?::uuid[]) and old.gone and old.inode is not null
       group by clips.project_id, clips.id having count(*) = 1`,
      listBindings([...gone]),
    )) as { rows: { project_id: ProjectId; clip_id: ClipId; media_file_id: MediaFileId }[] };
    return rows.map((r) => ({ projectId: r.project_id, clipId: r.clip_id, mediaFileId: r.media_file_id }));
  },
  /** Files that were there when their place was last walked. */
  async listPresent(db: Database | Transaction): Promise<MediaFileRecord[]> {
    return ((await db('media_files').where({ gone: false })) as unknown[]).map(toRecord);
  },
  /**
   * Files that changed since, those that went included; all that are there where `since` is null. `asOf` is what to ask
   * by the next time: what was not yet committed is told then.
   */
  async listChanged(
    db: Database | Transaction,
    since: string | null,
  ): Promise<{ readonly files: readonly MediaFileRecord[]; readonly asOf: string | null }> {
    const rows = (await db('media_files')
      .modify((query) => {
        if (since === null) void query.where({ gone: false });
        else void query.whereRaw('changed_in >= ?::xid8', [since]);
      })
      .select('*', db.raw('pg_snapshot_xmin(pg_current_snapshot())::text as as_of'))) as { as_of: string }[];
    return { files: rows.map(toRecord), asOf: rows[0]?.as_of ?? since };
  },
  /** Files that start at this address and are this long, in their own counting: the forms of one recording are among them. */
  async listOfExtent(db: Database | Transaction, start: number, length: number): Promise<MediaFileRecord[]> {
    const rows = (await db('media_files')
      .where({ gone: false })
      .whereRaw(`facts @> ?::jsonb`, [JSON.stringify({ start, length })])) as unknown[];
    return rows.map(toRecord);
  },
  async countPresent(db: Database | Transaction): Promise<number> {
    const [row] = (await db('media_files').where({ gone: false }).count({ count: '*' })) as {
      count: string | number;
    }[];
    return Number(row!.count);
  },
  /** Those that are known as they are now are not read again. */
  async listByIds(
    db: Database | Transaction,
    ids: readonly MediaFileId[],
    known?: KnownFile,
  ): Promise<MediaFileRecord[]> {
    if (ids.length === 0) return [];
    if (known) return sameOrRead(db, await ofIds(db, ids).select('id', 'changed_in'), known);
    return mapInSlices((await ofIds(db, ids)) as unknown[], toRecord);
  },
  /** Files that are there, of these names and sizes, pair by pair; names by whatever case and Unicode form. */
  async listAlike(
    db: Database | Transaction,
    wanted: readonly { readonly name: string; readonly sizeInBytes: number }[],
  ): Promise<MediaFileRecord[]> {
    const rows = (await db('media_files')
      .where({ gone: false })
      .whereRaw(
        `(lower(normalize(name)), size_in_bytes) in (
           select lower(normalize(name)), size from unnest(?::text[], ?::bigint[]) as given(name, size))`,
        listBindings(
          wanted.map((w) => w.name),
          wanted.map((w) => w.sizeInBytes),
        ),
      )) as unknown[];
    return rows.map(toRecord);
  },
  /** For clips that are about to be linked to them: while that lasts nobody takes one away to clear it. */
  async listToLink(trx: Transaction, ids: readonly MediaFileId[], known: KnownFile): Promise<MediaFileRecord[]> {
    return sameOrRead(trx, await mediaFileStore.hold(trx, ids), known);
  },
  /** As long as the transaction lasts nobody takes one of these away to clear it. With the version of each. */
  async hold(trx: Transaction, ids: readonly MediaFileId[]): Promise<{ id: MediaFileId; changed_in: string }[]> {
    return ids.length === 0 ? [] : ofIds(trx, ids).select('id', 'changed_in').forKeyShare();
  },
  async listAtPaths(
    db: Database | Transaction,
    placeId: PlaceId,
    paths: readonly { readonly folder: string; readonly name: string }[],
  ): Promise<MediaFileRecord[]> {
    if (paths.length === 0) return [];
    const rows = (await db('media_files')
      .where({ place_id: placeId })
      .whereRaw(
        '(folder, name) in (select * from unnest(?::text[], ?::text[]))',
        listBindings(
          paths.map((p) => p.folder),
          paths.map((p) => p.name),
        ),
      )) as unknown[];
    return rows.map(toRecord);
  },
  async listInFolder(db: Database | Transaction, placeId: PlaceId, folder: string): Promise<MediaFileRecord[]> {
    return (
      (await db('media_files').where({ place_id: placeId, folder, gone: false }).orderBy('name')) as unknown[]
    ).map(toRecord);
  },
  /** Every folder that holds files, with the folders above it, the place's own among them. */
  async listAllFolders(db: Database | Transaction, placeId: PlaceId): Promise<string[]> {
    const rows = (await db('media_files').where({ place_id: placeId, gone: false }).distinct('folder')) as {
      folder: string;
    }[];
    const folders = new Set(['']);
    for (const { folder } of rows)
      for (let at = folder; at !== ''; at = at.includes('/') ? at.slice(0, at.lastIndexOf('/')) : '') folders.add(at);
    return [...folders];
  },
  /** Everything from a folder of a place down. */
  async listUnder(db: Database | Transaction, placeId: PlaceId, folder: string): Promise<MediaFileRecord[]> {
    const rows = (await db('media_files')
      .where({ place_id: placeId, gone: false })
      .modify(fromFolderDown, folder)) as unknown[];
    return rows.map(toRecord);
  },
  /** All files of a place with what the map of its room needs of them; facts stay where they are. */
  async listForRoom(db: Database | Transaction, placeId: PlaceId): Promise<FileForRoom[]> {
    const rows = (await db('media_files')
      .where({ place_id: placeId, gone: false })
      .select(
        'id',
        'folder',
        'name',
        'size_in_bytes',
        'fingerprint',
        db.raw(`coalesce(unreadable->>'code' = 'not-media', false) as no_media`),
      )) as {
      id: MediaFileId;
      folder: string;
      name: string;
      size_in_bytes: string;
      fingerprint: string | null;
      no_media: boolean;
    }[];
    return rows.map((r) => ({
      id: r.id,
      folder: r.folder,
      name: r.name,
      sizeInBytes: Number(r.size_in_bytes),
      fingerprint: r.fingerprint,
      isNoMedia: r.no_media,
    }));
  },
  /** Files of a place that cannot be used, by folder and name. */
  async listTrouble(db: Database | Transaction, placeId: PlaceId): Promise<MediaFileRecord[]> {
    const rows: unknown[] = await db('media_files')
      .where({ place_id: placeId, gone: false })
      .whereNotNull('unreadable')
      .orderBy(['folder', 'name'])
      .limit(2000);
    return rows.map(toRecord);
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
    if (!row) throw notFound('media-file');
    return toRecord(row);
  },
  async listUnread(db: Database | Transaction, placeId: PlaceId, folder = ''): Promise<MediaFileRecord[]> {
    const rows = (await db('media_files')
      .where({ place_id: placeId, gone: false })
      .whereNull('read_at')
      .modify(fromFolderDown, folder)
      .orderBy(['folder', 'name'])) as unknown[];
    return rows.map(toRecord);
  },
  /** What was measured of files, many at once. */
  async saveReadings(
    db: Database | Transaction,
    readings: readonly {
      readonly id: MediaFileId;
      /** What it was called when it was read: under another name it may have been another file. */
      readonly name?: string;
      readonly facts: Facts | null;
      readonly unreadable: Unreadable | null;
      readonly fingerprint: string | null;
    }[],
  ): Promise<void> {
    if (readings.length === 0) return;
    const json = (value: unknown) => (value === null ? null : JSON.stringify(value));
    await db.raw(
      `update media_files set facts = given.facts, unreadable = given.unreadable, fingerprint = given.fingerprint,
         trial = null, quarantined = given.quarantined, read_at = clock_timestamp()
       from unnest(?::uuid[], ?::text[], ?::jsonb[], ?::jsonb[], ?::text[], ?::boolean[])
         as given(id, name, facts, unreadable, fingerprint, quarantined)
       where media_files.id = given.id and media_files.name = coalesce(given.name, media_files.name)`,
      listBindings(
        readings.map((r) => r.id),
        readings.map((r) => r.name ?? null),
        readings.map((r) => json(r.facts)),
        readings.map((r) => json(r.unreadable)),
        readings.map((r) => r.fingerprint),
        readings.map((r) => r.unreadable !== null && quarantining.includes(r.unreadable.code)),
      ),
    );
  },
  /** What a trial read found. A file that fails is unreadable from then on; its facts stay. */
  async saveTrial(db: Database | Transaction, id: MediaFileId, trial: Trial): Promise<void> {
    const reason = trial.state === 'fails' ? trial.reason : null;
    await db('media_files')
      .where({ id })
      .update({
        trial: JSON.stringify(trial),
        unreadable: reason ? JSON.stringify(reason) : null,
        quarantined: reason !== null && quarantining.includes(reason.code),
      });
  },
  /** Fingerprints of content that lies in more than one file that is there. */
  async listSharedFingerprints(db: Database | Transaction): Promise<Set<string>> {
    const rows = (await db('media_files')
      .where({ gone: false })
      .whereNotNull('fingerprint')
      .groupBy('fingerprint')
      .havingRaw('count(*) > 1')
      .select('fingerprint')) as { fingerprint: string }[];
    return new Set(rows.map((r) => r.fingerprint));
  },
  /** Which of these fingerprints files of more than one place have. */
  async listInSeveralPlaces(db: Database | Transaction, fingerprints: readonly string[]): Promise<Set<string>> {
    const { rows } = (await db.raw(
      `select fingerprint from media_files where not gone and fingerprint = any(?::text[])
       group by fingerprint having count(distinct place_id) > 1`,
      listBindings(fingerprints),
    )) as { rows: { fingerprint: string }[] };
    return new Set(rows.map((r) => r.fingerprint));
  },
  async saveFullHash(db: Database | Transaction, id: MediaFileId, hash: string): Promise<void> {
    await db('media_files').where({ id }).update({ full_hash: hash });
  },
  /** Places that hold files which were still being written when they were read, with the folders of those. */
  async listGrowing(db: Database | Transaction): Promise<{ placeId: PlaceId; folder: string }[]> {
    const rows = (await db('media_files')
      .where({ gone: false })
      .whereNotNull('unreadable')
      .whereRaw(`unreadable->>'code' = 'growing' and read_at < clock_timestamp() - interval '4 seconds'`)
      .distinct('place_id', 'folder')
      .limit(100)) as { place_id: PlaceId; folder: string }[];
    return rows.map((r) => ({ placeId: r.place_id, folder: r.folder }));
  },
  async forgetGrowing(db: Database | Transaction, placeId: PlaceId, folder: string): Promise<void> {
    await db('media_files')
      .where({ place_id: placeId, folder, gone: false })
      .whereRaw(`unreadable->>'code' = 'growing'`)
      .update({ facts: null, unreadable: null, read_at: null });
  },
  async forgetReading(db: Database | Transaction, ids: readonly MediaFileId[]): Promise<void> {
    await db('media_files')
      .whereIn('id', [...ids])
      .update({
        facts: null,
        unreadable: null,
        read_at: null,
        fingerprint: null,
        full_hash: null,
        trial: null,
        quarantined: false,
      });
  },
};
