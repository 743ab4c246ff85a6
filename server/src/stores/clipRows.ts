import type { BinPath } from '@legame/core/bins';
import type { ClipId, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import type { StatusName } from '@legame/core/state';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import { tellOfRows } from '../db/statistics.ts';
import { notFound } from '../problems.ts';

/** How a document uses a clip, and in which bin it has it: what only changes with the document. */
export type Used = { readonly bin: BinPath; readonly uses: number; readonly usedSeconds: number };

/** A row as the screen shows it, or what of it is otherwise, with what can be counted of it. */
export type ShownRow = { readonly json: string; readonly status: StatusName; readonly isCertain: boolean };

/** What is kept of a clip for lists: as it shows while the place of its file is there, and while it is away. */
export type KeptRow = Used & {
  readonly clipId: ClipId;
  readonly tiedId: MediaFileId | null;
  readonly placeId: PlaceId | null;
  /** The file that it is shown beside while it is tied to none. */
  readonly likeliestId: MediaFileId | null;
  readonly likeliestPlaceId: PlaceId | null;
  /** It says that a file cannot be used, which holds only while the file's place is there. */
  readonly isUnusable: boolean;
  readonly there: ShownRow;
  /** Null where it is tied to no file. */
  readonly away: ShownRow | null;
};

/** Up to where a list is known: rows and places that changed later are told by what comes after. */
export type Known = { readonly version: number; readonly turned: number };
export type ListState = Known & { readonly epoch: number; readonly total: number };

const shown = `case when places.there is false and clip_rows.away is not null then (clip_rows.there::jsonb || clip_rows.away::jsonb)::text
  else clip_rows.there end`;
const status = `case when places.there is false and status_away is not null then status_away else status_there end`;
const certain = `case when places.there is false and certain_away is not null then certain_away else certain_there end`;

/** Looked up by two indexes: one condition that held either would have all rows of the project gone through. */
const touchedSince = `select clip_id from clip_rows where project_id = :projectId and version > :version
  union
  select clip_id from clip_rows join places on places.id = clip_rows.place_id
    where project_id = :projectId and turned > :turned`;

/** By document as they came in, then as the document has it. */
export const orderOfList = 'documents.brought_in_at, clips.ordinal';

const binOf = (json: string | null): BinPath => (json === null ? [] : (JSON.parse(json) as BinPath));

/** Rows of lists, kept; which of them are to be made anew is noted in `staleRows.ts`. */
export const clipRowStore = {
  /** Clips that take what they know of their media from others, which may be others now. */
  async listEnriched(db: Database | Transaction, projectId: ProjectId): Promise<ClipId[]> {
    return (await db('clips')
      .where({ project_id: projectId, retired: false })
      .whereRaw(`body->>'reel' is not null and body->>'available' is null and body->>'remembered' is null`)
      .pluck('id')) as ClipId[];
  },
  async listUsed(db: Database | Transaction, ids: readonly ClipId[]): Promise<Map<ClipId, Used>> {
    if (ids.length === 0) return new Map();
    const rows = (await db('clip_rows')
      .whereRaw('clip_id = any(?::uuid[])', listBindings([...ids]))
      .select('clip_id', 'bin', 'uses', 'used_seconds')) as {
      clip_id: ClipId;
      bin: string | null;
      uses: number;
      used_seconds: number;
    }[];
    return new Map(rows.map((r) => [r.clip_id, { bin: binOf(r.bin), uses: r.uses, usedSeconds: r.used_seconds }]));
  },
  /** Where each clip stands in the list of its project, from zero. */
  async listPositions(trx: Transaction, projectId: ProjectId): Promise<Map<ClipId, number>> {
    const { rows } = (await trx.raw(
      `select clips.id from clips join documents on documents.id = clips.document_id
       where clips.project_id = ? and not clips.retired order by ${orderOfList}`,
      [projectId],
    )) as { rows: { id: ClipId }[] };
    return new Map(rows.map(({ id }, position) => [id, position]));
  },
  /**
   * Clips that are taken out at this moment are passed over. Rows stand where `positions` says, and where they stood
   * before if it is not given.
   */
  async putRows(
    trx: Transaction,
    projectId: ProjectId,
    rows: readonly KeptRow[],
    positions: ReadonlyMap<ClipId, number> | null = null,
  ): Promise<void> {
    if (rows.length === 0) return;
    await trx.raw(
      `insert into clip_rows (clip_id, position, project_id, version, tied_id, place_id, decided_id, decided_place_id,
         is_unusable, bin, uses, used_seconds, there, away, status_there, status_away, certain_there, certain_away)
       select clips.id, coalesce(position, 0), ?::uuid, nextval('clip_row_versions'), tied_id, place_id, decided_id,
         decided_place_id, is_unusable, bin, uses, used_seconds, there, away, status_there, status_away, certain_there, certain_away
       from unnest(?::uuid[], ?::uuid[], ?::uuid[], ?::uuid[], ?::uuid[], ?::boolean[], ?::text[], ?::int[], ?::float8[],
         ?::text[], ?::text[], ?::text[], ?::text[], ?::boolean[], ?::boolean[], ?::int[])
         as given(clip_id, tied_id, place_id, decided_id, decided_place_id, is_unusable, bin, uses, used_seconds,
           there, away, status_there, status_away, certain_there, certain_away, position)
         join clips on clips.id = given.clip_id
       for key share of clips
       on conflict (clip_id) do update set position = ${positions ? 'excluded' : 'clip_rows'}.position,
         version = excluded.version, tied_id = excluded.tied_id,
         place_id = excluded.place_id, decided_id = excluded.decided_id, decided_place_id = excluded.decided_place_id,
         is_unusable = excluded.is_unusable, bin = excluded.bin, uses = excluded.uses,
         used_seconds = excluded.used_seconds, there = excluded.there, away = excluded.away,
         status_there = excluded.status_there, status_away = excluded.status_away,
         certain_there = excluded.certain_there, certain_away = excluded.certain_away`,
      [
        projectId,
        ...listBindings(
          rows.map((r) => r.clipId),
          rows.map((r) => r.tiedId),
          rows.map((r) => r.placeId),
          rows.map((r) => r.likeliestId),
          rows.map((r) => r.likeliestPlaceId),
          rows.map((r) => r.isUnusable),
          rows.map((r) => (r.bin.length > 0 ? JSON.stringify(r.bin) : null)),
          rows.map((r) => r.uses),
          rows.map((r) => r.usedSeconds),
          rows.map((r) => r.there.json),
          rows.map((r) => r.away?.json ?? null),
          rows.map((r) => r.there.status),
          rows.map((r) => r.away?.status ?? null),
          rows.map((r) => r.there.isCertain),
          rows.map((r) => r.away?.isCertain ?? null),
          rows.map((r) => positions?.get(r.clipId) ?? null),
        ),
      ],
    );
    await tellOfRows(trx, 'clip_rows', rows.length);
  },
  /** Takes out the rows of clips that their documents have no more. */
  async dropRows(trx: Transaction, ids: readonly ClipId[]): Promise<void> {
    if (ids.length > 0)
      await trx('clip_rows')
        .whereRaw('clip_id = any(?::uuid[])', listBindings([...ids]))
        .delete();
  },
  /** Counts the rows through, in the order of the list. */
  async renumber(trx: Transaction, projectId: ProjectId): Promise<void> {
    const { rows } = (await trx.raw(
      `with ordered as (
         select clips.id, row_number() over (order by ${orderOfList}) - 1 as position
         from clips join documents on documents.id = clips.document_id
         where clips.project_id = ? and not clips.retired
       ), moved as (
         update clip_rows set position = ordered.position from ordered
         where clip_rows.clip_id = ordered.id and clip_rows.position <> ordered.position
         returning 1
       )
       select count(*)::int as moved from moved`,
      [projectId],
    )) as { rows: [{ moved: number }] };
    if (rows[0].moved > 0)
      await trx.raw(`update projects set list_epoch = nextval('clip_row_versions') where id = ?`, [projectId]);
  },
  async stateOfList(db: Database | Transaction, projectId: ProjectId): Promise<ListState> {
    const { rows } = (await db.raw(
      `select list_epoch as epoch, list_total as total,
         (select coalesce(max(turned), 0) from places) as turned,
         (select coalesce(max(version), 0) from clip_rows where project_id = projects.id) as version
       from projects where id = ?`,
      [projectId],
    )) as { rows: { epoch: string; turned: string; version: string; total: number }[] };
    const [r] = rows;
    if (!r) throw notFound('project');
    return { epoch: Number(r.epoch), turned: Number(r.turned), version: Number(r.version), total: r.total };
  },
  /**
   * Rows as JSON, in the order of the list: so many of them after the first `from`. Positions order and do not count:
   * where a document went there is none of some.
   */
  async listJson(db: Database | Transaction, projectId: ProjectId, from = 0, limit = 1_000_000_000): Promise<string[]> {
    const { rows } = (await db.raw(
      `select ${shown} as row from
         (select * from clip_rows where project_id = ? order by position offset ? limit ?) as clip_rows
         left join places on places.id = clip_rows.place_id order by position`,
      [projectId, from, limit],
    )) as { rows: { row: string }[] };
    return rows.map((r) => r.row);
  },
  /** Rows, as JSON, that are others than somebody knows who looked at `since`. */
  async listJsonSince(db: Database | Transaction, projectId: ProjectId, since: Known): Promise<string[]> {
    const { rows } = (await db.raw(
      `select ${shown} as row from clip_rows left join places on places.id = clip_rows.place_id
       where clip_id in (${touchedSince}) order by position`,
      { projectId, ...since },
    )) as { rows: { row: string }[] };
    return rows.map((r) => r.row);
  },
  /** Everything that is kept of a project's clips, in the order of the list. */
  async listKept(db: Database | Transaction, projectId: ProjectId): Promise<KeptRow[]> {
    const rows = (await db('clip_rows').where({ project_id: projectId }).orderBy('position')) as {
      clip_id: ClipId;
      tied_id: MediaFileId | null;
      place_id: PlaceId | null;
      decided_id: MediaFileId | null;
      decided_place_id: PlaceId | null;
      is_unusable: boolean;
      bin: string | null;
      uses: number;
      used_seconds: number;
      there: string;
      away: string | null;
      status_there: StatusName;
      status_away: StatusName | null;
      certain_there: boolean;
      certain_away: boolean | null;
    }[];
    return rows.map((r) => ({
      clipId: r.clip_id,
      tiedId: r.tied_id,
      placeId: r.place_id,
      likeliestId: r.decided_id,
      likeliestPlaceId: r.decided_place_id,
      isUnusable: r.is_unusable,
      bin: binOf(r.bin),
      uses: r.uses,
      usedSeconds: r.used_seconds,
      there: { json: r.there, status: r.status_there, isCertain: r.certain_there },
      away: r.away === null ? null : { json: r.away, status: r.status_away!, isCertain: r.certain_away! },
    }));
  },
  /** The clips that something touched since, and where `turned` is told those whose place came or went. */
  async listTouched(
    db: Database | Transaction,
    projectId: ProjectId,
    since: { readonly version: number; readonly turned?: number },
  ): Promise<ClipId[]> {
    const { rows } = (await db.raw(touchedSince, {
      projectId,
      version: since.version,
      turned: since.turned ?? Number.MAX_SAFE_INTEGER,
    })) as { rows: { clip_id: ClipId }[] };
    return rows.map((r) => r.clip_id);
  },
  async countStatuses(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ readonly status: StatusName; readonly certain: number; readonly count: number }[]> {
    const { rows } = (await db.raw(
      `select ${status} as status, count(*) filter (where ${certain})::int as certain, count(*)::int as count
       from clip_rows left join places on places.id = clip_rows.place_id where project_id = ? group by 1`,
      [projectId],
    )) as { rows: { status: StatusName; certain: number; count: number }[] };
    return rows;
  },
  /** The clips, or those of these, that a rule would link now. */
  async listCertain(
    db: Database | Transaction,
    projectId: ProjectId,
    among: readonly ClipId[] | null,
  ): Promise<ClipId[]> {
    const { rows } = (await db.raw(
      `select clip_id as id from clip_rows left join places on places.id = clip_rows.place_id
       where project_id = ? and ${certain} ${among ? 'and clip_id = any(?::uuid[])' : ''} order by position`,
      [projectId, ...(among ? listBindings([...among]) : [])],
    )) as { rows: { id: ClipId }[] };
    return rows.map((r) => r.id);
  },
  /** The files that clips of any project are tied to. */
  async listTied(db: Database | Transaction): Promise<Set<MediaFileId>> {
    const ids = (await db('clip_rows')
      .join('projects', 'projects.id', 'clip_rows.project_id')
      .whereNull('projects.deleted_at')
      .whereNotNull('tied_id')
      .distinct()
      .pluck('tied_id')) as MediaFileId[];
    return new Set(ids);
  },
  /** Other projects that are tied to the same files, or to copies of them, and how many of this one's these are. */
  async listShares(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ readonly id: ProjectId; readonly name: string; readonly files: number }[]> {
    const { rows } = await db.raw<{ rows: { id: ProjectId; name: string; files: number }[] }>(
      `with mine as (
         select distinct file.id, file.fingerprint from clip_rows join media_files as file on file.id = clip_rows.tied_id
           where clip_rows.project_id = :projectId
       ), alike as (
         select id as mine, id from mine
         union
         select mine.id, file.id from mine join media_files as file on file.fingerprint = mine.fingerprint
       )
       select projects.id, projects.name, count(distinct alike.mine)::int as files
         from alike join clip_rows on clip_rows.tied_id = alike.id
         join projects on projects.id = clip_rows.project_id
         where projects.id <> :projectId and projects.deleted_at is null
         group by projects.id, projects.name order by files desc, projects.name`,
      { projectId },
    );
    return rows;
  },
  /** Ids and status of a project's clips, by document and key. */
  async listStatuses(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<
    { readonly id: ClipId; readonly documentId: string; readonly key: string; readonly status: StatusName }[]
  > {
    const { rows } = (await db.raw(
      `select clip_id as id, document_id as "documentId", body->>'key' as key, ${status} as status
       from clip_rows join clips on clips.id = clip_id left join places on places.id = clip_rows.place_id
       where clip_rows.project_id = ?`,
      [projectId],
    )) as { rows: { id: ClipId; documentId: string; key: string; status: StatusName }[] };
    return rows;
  },
};
