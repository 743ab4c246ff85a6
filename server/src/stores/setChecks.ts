import { z } from 'zod';
import { setListSchema, type SetCheck, type SetFile, type SetList } from '@legame/core/contract';
import { checkStates, hashNames, type CheckState, type Hashes, type HashName, type HashedFile } from '@legame/core/mhl';
import type { HandoffId, JobId, ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import { folderIdentitySchema, type FolderIdentity } from '../disk/held.ts';
import { notFound } from '../problems.ts';

export type SetCheckRecord = {
  readonly id: string;
  readonly folder: string;
  readonly ground: FolderIdentity;
  readonly addsGeneration: boolean;
  readonly lists: readonly SetList[] | null;
  readonly listsGone: readonly string[];
  readonly unlisted: readonly string[];
  readonly handoffId: HandoffId | null;
  readonly listedOtherwise: number;
  readonly generation: string | null;
  readonly jobId: JobId | null;
  readonly createdAt: Date;
};
const recordSchema = z
  .object({
    id: z.string(),
    folder: z.string(),
    ground: folderIdentitySchema,
    adds_generation: z.boolean(),
    lists: z.array(setListSchema).nullable(),
    lists_gone: z.array(z.string()),
    unlisted: z.array(z.string()),
    handoff_id: z.custom<HandoffId>().nullable(),
    listed_otherwise: z.int(),
    generation: z.string().nullable(),
    job_id: z.custom<JobId>().nullable(),
    created_at: z.date(),
  })
  .transform((r): SetCheckRecord => ({
    id: r.id,
    folder: r.folder,
    ground: r.ground,
    addsGeneration: r.adds_generation,
    lists: r.lists,
    listsGone: r.lists_gone,
    unlisted: r.unlisted,
    handoffId: r.handoff_id,
    listedOtherwise: r.listed_otherwise,
    generation: r.generation,
    jobId: r.job_id,
    createdAt: r.created_at,
  }));

export type SetCheckFile = SetFile & {
  readonly key: string;
  readonly modifiedMs: number | null;
  readonly wanted: HashName | null;
  readonly toReckon: readonly HashName[] | null;
};
const size = z.coerce.number().nullable();
const hashes = z.custom<Hashes>();
const fileSchema = z
  .object({
    key: z.string(),
    path: z.string(),
    listed_path: z.string().nullable(),
    listed_size: size,
    hashes: hashes.nullable(),
    found_size: size,
    modified_ms: z.number().nullable(),
    found: hashes,
    wanted: z.enum(hashNames).nullable(),
    to_reckon: z.array(z.enum(hashNames)).nullable(),
    state: z.enum(checkStates),
    detail: z.string().nullable(),
  })
  .transform((r): SetCheckFile => ({
    key: r.key,
    path: r.path,
    listedPath: r.listed_path,
    listedInBytes: r.listed_size,
    listed: r.hashes,
    foundInBytes: r.found_size,
    modifiedMs: r.modified_ms,
    found: r.found,
    wanted: r.wanted,
    toReckon: r.to_reckon,
    state: r.state,
    detail: r.detail,
  }));
const toFiles = (rows: unknown): SetCheckFile[] => z.array(fileSchema).parse(rows);

export type FoundFile = { readonly path: string; readonly sizeInBytes: number; readonly modifiedMs: number };
/** How systems differ in spelling the same name is no difference. */
const keyOf = (path: string): string => path.normalize('NFC');

/** What a judgement changes of a file. */
export type Judged = Pick<SetCheckFile, 'key' | 'state' | 'wanted' | 'toReckon'>;

/** Received sets that are checked: what their lists say of each file, what lies there, and what came of it. */
export const setCheckStore = {
  async insert(
    db: Database | Transaction,
    { folder, ground, addsGeneration }: Pick<SetCheckRecord, 'folder' | 'ground' | 'addsGeneration'>,
  ): Promise<SetCheckRecord> {
    const row = { folder, ground: JSON.stringify(ground), adds_generation: addsGeneration };
    return recordSchema.parse(((await db('set_checks').insert(row).returning('*')) as unknown[])[0]);
  },
  async get(db: Database | Transaction, id: string): Promise<SetCheckRecord> {
    const row: unknown = await db('set_checks').where({ id }).first();
    if (!row) throw notFound('set-check');
    return recordSchema.parse(row);
  },
  /** Newest first. */
  async list(db: Database): Promise<SetCheckRecord[]> {
    return z.array(recordSchema).parse(await db('set_checks').orderBy('created_at', 'desc').limit(200));
  },
  async remove(db: Database | Transaction, id: string): Promise<void> {
    await db('set_checks').where({ id }).delete();
  },
  async setJob(db: Database | Transaction, id: string, jobId: JobId): Promise<void> {
    await db('set_checks').where({ id }).update({ job_id: jobId });
  },
  async setLists(
    db: Database | Transaction,
    id: string,
    { lists, listsGone, unlisted }: Pick<SetCheckRecord, 'listsGone' | 'unlisted'> & { lists: readonly SetList[] },
  ): Promise<void> {
    await db('set_checks')
      .where({ id })
      .update({
        lists: JSON.stringify(lists),
        lists_gone: JSON.stringify(listsGone),
        unlisted: JSON.stringify(unlisted),
      });
  },
  async setGeneration(db: Database, id: string, generation: string): Promise<void> {
    await db('set_checks').where({ id }).update({ generation });
  },

  async clearFiles(db: Database, id: string): Promise<void> {
    await db('set_check_files').where({ check_id: id }).delete();
  },
  /** Files as they lie. Two that are spelled alike but for how letters are composed are both kept. */
  async addFound(db: Database, id: string, files: readonly FoundFile[]): Promise<void> {
    const insert = async (keyed: readonly (FoundFile & { key: string })[]): Promise<Set<string>> => {
      const { rows } = await db.raw<{ rows: { path: string }[] }>(
        `insert into set_check_files (check_id, key, path, found_size, modified_ms)
           select ?, * from unnest(?::text[], ?::text[], ?::bigint[], ?::float8[]) on conflict do nothing returning path`,
        [
          id,
          ...listBindings(
            keyed.map((f) => f.key),
            keyed.map((f) => f.path),
            keyed.map((f) => f.sizeInBytes),
            keyed.map((f) => f.modifiedMs),
          ),
        ],
      );
      return new Set(rows.map((r) => r.path));
    };
    const kept = await insert(files.map((f) => ({ ...f, key: keyOf(f.path) })));
    const twins = files.filter((f) => !kept.has(f.path));
    // No path in a folder begins with a slash.
    if (twins.length > 0) await insert(twins.map((f) => ({ ...f, key: `/${f.path}` })));
  },
  /** What a list says of files. Of several lists the first that says something of a file is believed. */
  async addListed(db: Database, id: string, files: readonly HashedFile[]): Promise<void> {
    for (const { path, previousPath } of files) if (previousPath !== null) await rename(db, id, previousPath, path);
    // A list may name a file twice, which one insertion may not.
    const byKey = new Map<string, HashedFile>();
    for (const file of files) {
      const known = byKey.get(keyOf(file.path));
      byKey.set(keyOf(file.path), known ? { ...known, hashes: { ...file.hashes, ...known.hashes } } : file);
    }
    const said = [...byKey.values()];
    await db.raw(
      `insert into set_check_files as known (check_id, key, path, listed_size, hashes)
         select ?, * from unnest(?::text[], ?::text[], ?::bigint[], ?::jsonb[])
       on conflict (check_id, key) do update
         set hashes = excluded.hashes || coalesce(known.hashes, '{}'),
             listed_size = coalesce(known.listed_size, excluded.listed_size)`,
      [
        id,
        ...listBindings(
          [...byKey.keys()],
          said.map((f) => f.path),
          said.map((f) => f.sizeInBytes),
          said.map((f) => JSON.stringify(f.hashes)),
        ),
      ],
    );
  },
  /** Files that no list tells of and that are to be passed over. */
  async removeNew(db: Database, id: string, keys: readonly string[]): Promise<void> {
    await db('set_check_files').where({ check_id: id, hashes: null }).whereIn('key', keys).delete();
  },

  /** A stretch of the files in order of their keys. */
  async listAfter(
    db: Database,
    id: string,
    key: string,
    { limit, only }: { limit: number; only?: 'new' | 'missing' | 'to-reckon' },
  ): Promise<SetCheckFile[]> {
    const rows: unknown = await db('set_check_files')
      .where({ check_id: id })
      .where('key', '>', key)
      .modify((query) => {
        if (only === 'to-reckon') void query.whereNotNull('to_reckon');
        else if (only) void query.where({ state: only });
      })
      .orderBy('key')
      .limit(limit);
    return toFiles(rows);
  },
  async setJudged(db: Database, id: string, judged: readonly Judged[]): Promise<void> {
    await db.raw(
      `update set_check_files f set state = j.state, wanted = j.wanted, to_reckon = string_to_array(j.to_reckon, ' ')
         from unnest(?::text[], ?::text[], ?::text[], ?::text[]) as j (key, state, wanted, to_reckon)
         where f.check_id = ? and f.key = j.key`,
      [
        ...listBindings(
          judged.map((j) => j.key),
          judged.map((j) => j.state),
          judged.map((j) => j.wanted),
          judged.map((j) => j.toReckon?.join(' ') ?? null),
        ),
        id,
      ],
    );
  },
  /** New files that may be missing ones under another name: they are as large, so their bytes will tell. */
  async suspectMoved(db: Database, id: string): Promise<void> {
    await db.raw(
      `with missing as (
         select listed_size, array_agg(distinct wanted) as wanted from set_check_files
           where check_id = ? and state = 'missing' and wanted is not null group by listed_size
       )
       update set_check_files f
         set to_reckon = (select array_agg(distinct w) from unnest(coalesce(f.to_reckon, '{}') || missing.wanted) w)
         from missing
         where f.check_id = ? and f.state = 'new' and (missing.listed_size is null or missing.listed_size = f.found_size)`,
      [id, id],
    );
  },
  async setReckoned(
    db: Database,
    id: string,
    { key, state, found, detail }: Pick<SetCheckFile, 'key' | 'state' | 'found' | 'detail'>,
  ): Promise<void> {
    await db('set_check_files')
      .where({ check_id: id, key })
      .update({ state, found: JSON.stringify(found), detail, to_reckon: null });
  },
  /** A missing file lies under another name: the two are one. */
  async setMoved(db: Database, id: string, missing: SetCheckFile, found: SetCheckFile): Promise<void> {
    await db.transaction(async (trx) => {
      await trx('set_check_files').where({ check_id: id, key: found.key }).delete();
      await trx('set_check_files')
        .where({ check_id: id, key: missing.key })
        .update({
          state: 'moved',
          listed_path: missing.path,
          path: found.path,
          found_size: found.foundInBytes,
          modified_ms: found.modifiedMs,
          found: JSON.stringify(found.found),
        });
    });
  },
  async bytesToReckon(db: Database, id: string): Promise<{ left: number; of: number }> {
    const row = (await db('set_check_files')
      .where({ check_id: id })
      .select(
        db.raw(`coalesce(sum(found_size) filter (where to_reckon is not null), 0)::float8 as left_over`),
        db.raw(`coalesce(sum(found_size) filter (where to_reckon is not null or found <> '{}'), 0)::float8 as total`),
      )
      .first()) as { left_over: number; total: number };
    return { left: row.left_over, of: row.total };
  },

  /** The handoff that wrote most of these files, if it wrote more than half of what it wrote, and where lists differ from it. */
  async recogniseHandoff(db: Database, id: string): Promise<void> {
    await db.raw(
      `with alike as (
         select h.handoff_id, count(*) as files,
                count(*) filter (where f.hashes ->> 'xxh64' is distinct from h.xxh64) as otherwise
           from handoff_files h join set_check_files f on f.check_id = ? and f.key = normalize(h.target, NFC)
           where h.xxh64 is not null and f.hashes is not null
           group by h.handoff_id
       ), likely as (
         select alike.* from alike
           where (files - otherwise) * 2 > (select count(*) from handoff_files h where h.handoff_id = alike.handoff_id)
           order by files - otherwise desc limit 1
       )
       update set_checks set handoff_id = likely.handoff_id, listed_otherwise = likely.otherwise from likely where id = ?`,
      [id, id],
    );
  },
  async handoffOf(
    db: Database,
    id: HandoffId,
  ): Promise<{ projectId: ProjectId; project: string; createdAt: Date } | null> {
    const row = (await db('handoffs')
      .join('projects', 'projects.id', 'handoffs.project_id')
      .where({ 'handoffs.id': id })
      .whereNull('projects.deleted_at')
      .first('projects.id as projectId', 'projects.name as project', 'handoffs.created_at as createdAt')) as
      { projectId: ProjectId; project: string; createdAt: Date } | undefined;
    return row ?? null;
  },
  async count(db: Database, id: string): Promise<SetCheck['counts']> {
    const rows = (await db('set_check_files')
      .where({ check_id: id })
      .groupBy('state')
      .select(
        'state',
        db.raw('count(*)::int as files'),
        db.raw('coalesce(sum(coalesce(found_size, listed_size)), 0)::float8 as bytes'),
      )) as {
      state: CheckState;
      files: number;
      bytes: number;
    }[];
    const none = { files: 0, bytes: 0 };
    const of = (state: CheckState) => {
      const row = rows.find((r) => r.state === state);
      return row ? { files: row.files, bytes: row.bytes } : none;
    };
    return Object.fromEntries(checkStates.map((state) => [state, of(state)])) as SetCheck['counts'];
  },
  /** A page for people: what is wrong first, then by path; `after` is where the page before ended. */
  async page(
    db: Database,
    id: string,
    { state, after, limit }: { state?: CheckState | undefined; after?: string | undefined; limit: number },
  ): Promise<{ files: SetCheckFile[]; next: string | null }> {
    const [, rank, key] = /^(\d+):(.*)$/s.exec(after ?? '') ?? [];
    const ranked = `array_position(array[${checkStates.map(() => '?').join(', ')}]::text[], state)`;
    const rows = (await db('set_check_files')
      .where({ check_id: id })
      .modify((query) => {
        if (state) void query.where({ state });
        if (rank !== undefined)
          void query.whereRaw(`(${ranked}, key) > (?::int, ?::text)`, [...checkStates, Number(rank), key!]);
      })
      .orderByRaw(`${ranked}, key`, [...checkStates])
      .limit(limit + 1)) as unknown[];
    const files = toFiles(rows.slice(0, limit));
    const last = files.at(-1);
    const next = rows.length > limit && last ? `${checkStates.indexOf(last.state) + 1}:${last.key}` : null;
    return { files, next };
  },
};

/** A list says that a file is the one that was called otherwise in the lists before. */
async function rename(db: Database, id: string, from: string, to: string): Promise<void> {
  await db.transaction(async (trx) => {
    const before = (await trx('set_check_files')
      .where({ check_id: id, key: keyOf(from) })
      .first()) as { hashes: Hashes | null; listed_size: string | null; found_size: string | null } | undefined;
    if (!before?.hashes) return;
    const said = { hashes: JSON.stringify(before.hashes), listed_size: before.listed_size };
    await trx('set_check_files')
      .insert({ check_id: id, key: keyOf(to), path: to, ...said })
      .onConflict(['check_id', 'key'])
      .merge(said);
    const of = trx('set_check_files').where({ check_id: id, key: keyOf(from) });
    // What lies under the former name is another file now.
    await (before.found_size === null ? of.delete() : of.update({ hashes: null, listed_size: null }));
  });
}
