import { z } from 'zod';
import { openingSchema, type OpeningView } from '@legame/core/contract';
import type { Detail, MediaFileId, PlaceId } from '@legame/core/model';
import type { Database } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';

export type LogEntry = {
  readonly worker: string;
  readonly what: OpeningView['what'];
  readonly placeId: PlaceId | null;
  readonly mediaFileId: MediaFileId | null;
  readonly path: string;
  /** How many files this entry stands for: quick reads without any trouble are counted together. */
  readonly files: number;
  readonly begunAt: Date;
  readonly endedAt: Date | null;
  readonly outcome: OpeningView['outcome'];
  readonly detail: Detail | null;
  readonly reason: OpeningView['reason'];
};

const mostKept = 20_000;
const rowSchema = z.object({
  id: z.coerce.number(),
  worker: z.string(),
  what: openingSchema.shape.what,
  place_id: z.custom<PlaceId>().nullable(),
  media_file_id: z.custom<MediaFileId>().nullable(),
  path: z.string(),
  files: z.int(),
  begun_at: z.date(),
  ended_at: z.date().nullable(),
  outcome: openingSchema.shape.outcome,
  detail: openingSchema.shape.detail,
  reason: openingSchema.shape.reason,
});

const asJson = (value: object | string | null): string | null => (value === null ? null : JSON.stringify(value));

export const readLogStore = {
  /** Adds entries, in order; returns their ids. */
  async append(db: Database, entries: readonly LogEntry[]): Promise<number[]> {
    if (entries.length === 0) return [];
    const { rows } = (await db.raw(
      `insert into read_log (worker, what, place_id, media_file_id, path, files, begun_at, ended_at, outcome, detail, reason)
       select * from unnest(?::text[], ?::text[], ?::uuid[], ?::uuid[], ?::text[], ?::int[], ?::timestamptz[],
         ?::timestamptz[], ?::text[], ?::jsonb[], ?::jsonb[]) returning id`,
      listBindings(
        entries.map((e) => e.worker),
        entries.map((e) => e.what),
        entries.map((e) => e.placeId),
        entries.map((e) => e.mediaFileId),
        entries.map((e) => e.path),
        entries.map((e) => e.files),
        entries.map((e) => e.begunAt.toISOString()),
        entries.map((e) => e.endedAt?.toISOString() ?? null),
        entries.map((e) => e.outcome),
        entries.map((e) => asJson(e.detail)),
        entries.map((e) => asJson(e.reason)),
      ),
    )) as { rows: { id: string }[] };
    return rows.map((r) => Number(r.id));
  },
  async close(
    db: Database,
    id: number,
    { outcome, detail, reason }: Pick<LogEntry, 'outcome' | 'detail' | 'reason'>,
  ): Promise<void> {
    const why = { detail: asJson(detail), reason: asJson(reason) };
    await db('read_log')
      .where({ id })
      .update({ ended_at: new Date(), outcome, ...why });
  },
  /** Newest first, those still open before all others. */
  async list(
    db: Database,
    filter: { text?: string | undefined; only?: 'open' | 'trouble' | undefined; limit: number },
  ): Promise<OpeningView[]> {
    const rows = (await db('read_log')
      .modify((query) => {
        if (filter.text) void query.whereRaw('position(lower(?) in lower(path)) > 0', [filter.text]);
        if (filter.only === 'open') void query.whereNull('ended_at');
        if (filter.only === 'trouble') void query.whereNotNull('outcome').whereNot({ outcome: 'ok' });
      })
      .orderByRaw('ended_at is not null, begun_at desc')
      .limit(filter.limit)) as unknown[];
    return rows.map((row) => {
      const r = rowSchema.parse(row);
      return {
        id: r.id,
        worker: r.worker,
        what: r.what,
        placeId: r.place_id,
        mediaFileId: r.media_file_id,
        path: r.path,
        files: r.files,
        begunAt: r.begun_at.toISOString(),
        endedAt: r.ended_at?.toISOString() ?? null,
        outcome: r.outcome,
        detail: r.detail,
        reason: r.reason,
      };
    });
  },
  async listOpenWorkers(db: Database): Promise<string[]> {
    const rows = (await db('read_log').whereNull('ended_at').distinct('worker')) as { worker: string }[];
    return rows.map((r) => r.worker);
  },
  /** Whatever this worker had open when it ended is not open any more. */
  async closeLost(db: Database, worker: string): Promise<void> {
    await db('read_log')
      .where({ worker })
      .whereNull('ended_at')
      .update({ ended_at: new Date(), outcome: 'lost', detail: null });
  },
  async prune(db: Database): Promise<void> {
    await db('read_log')
      .where('id', '<', db.raw(`(select max(id) - ? from read_log)`, [mostKept]))
      .delete();
  },
};
