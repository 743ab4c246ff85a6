import { z } from 'zod';
import {
  becauseSchema,
  candidateSchema,
  clipSchema,
  decisionSchema,
  interpretationSchema,
  notedSchema,
  standingSchema,
  whySchema,
  type Because,
  type CandidateRecord,
} from '@legame/core/contract';
import type { Noted } from '@legame/core/bins';
import type { Decision, Standing, Why } from '@legame/core/match';
import {
  nothingKnown,
  readAs,
  type Clip,
  type ClipId,
  type Counted,
  type DocumentId,
  type Interpretation,
  type Known,
  type MediaFileId,
  type ProjectId,
} from '@legame/core/model';
import type { PackedClip } from '@legame/core/project';
import type { Seen } from '@legame/core/state';
import { listBindings, type Database, type Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';
import { trusted } from './trusted.ts';

export type LinkMaker = 'rule' | 'hand' | 'carry' | 'cause' | 'follow';
export type LinkRecord = {
  readonly mediaFileId: MediaFileId;
  readonly by: LinkMaker;
  readonly seen: Seen;
  /** What it rested on when it was made; absent in links from before that was kept. */
  readonly because?: Because | null | undefined;
};
/** A link of a project that was brought in, to a file that no place here holds yet. */
export type AwaitedLink = NonNullable<PackedClip['link']>;
export type SetAside = { readonly as: 'parked' | 'waived'; readonly reason: string };

/**
 * A clip with its link, what a person decided about it, and what matching last proposed. Its addresses are as its
 * interpretation reads them; `asStated` is how the document counts.
 */
export type ClipRecord = Clip & {
  readonly asStated: Counted;
  readonly interpretation: Interpretation | null;
  /** No rule, carry or cause may change its link. */
  readonly pinned: boolean;
  readonly known: Known | null;
  readonly id: ClipId;
  readonly projectId: ProjectId;
  readonly documentId: DocumentId;
  readonly setAside: SetAside | null;
  /** A person untied it on purpose. */
  readonly takenOffline: boolean;
  /** What people note of it: its bin, its label, values of columns. */
  readonly noted: Noted | null;
  readonly link: LinkRecord | null;
  readonly declined: readonly MediaFileId[];
  readonly proposal: {
    readonly whereRemembered: MediaFileId | null;
    readonly decision: Decision;
    readonly why: Why;
    readonly candidates: readonly CandidateRecord[];
    readonly standing: Standing;
  } | null;
};

/** At which rate a clip of a document counts, as the document states it. */
export type StatedRate = Pick<ClipRecord, 'documentId' | 'key'> & { readonly asStated: Pick<Counted, 'rate'> };

/** A clip that the present version of its document has no more is retired: out of sight, with all that was decided of it. */
export type Retirable = { readonly retired: boolean };

const number = z.number().nullable().default(null);
const text = z.string().nullable().default(null);
const seenSchema = z.object({
  sizeInBytes: z.number(),
  start: number,
  length: number,
  writtenMs: number,
  fingerprint: text,
  fullHash: text,
  codec: text,
  channels: number,
  sampleRate: number,
});
const rowSchema = z.object({
  id: z.custom<ClipId>(),
  project_id: z.custom<ProjectId>(),
  document_id: z.custom<DocumentId>(),
  body: trusted(clipSchema),
  set_aside: z.object({ as: z.enum(['parked', 'waived']), reason: z.string() }).nullable(),
  media_file_id: z.custom<MediaFileId>().nullable(),
  interpretation: trusted(interpretationSchema.nullable()),
  pinned: z.boolean(),
  made_by: z.enum(['rule', 'hand', 'carry', 'cause', 'follow']).nullable(),
  seen: seenSchema.nullable(),
  because: trusted(becauseSchema.nullable()),
  taken_offline: z.boolean(),
  noted: trusted(notedSchema.nullable()),
  declined: z.array(z.custom<MediaFileId>()).nullable(),
  where_remembered: z.custom<MediaFileId>().nullable(),
  decision: trusted(decisionSchema.nullable()),
  why: trusted(whySchema.nullable()),
  candidates: trusted(z.array(candidateSchema).nullable()),
  standing: trusted(standingSchema.nullable()),
});

function toRecord(row: unknown): ClipRecord {
  const r = rowSchema.parse(row);
  const { rate, counting, available, used } = r.body;
  return {
    ...readAs(r.body, r.interpretation),
    asStated: { rate, counting, available, used },
    interpretation: r.interpretation,
    pinned: r.pinned,
    known: r.seen && { ...nothingKnown, ...r.seen },
    id: r.id,
    projectId: r.project_id,
    documentId: r.document_id,
    setAside: r.set_aside,
    takenOffline: r.taken_offline,
    noted: r.noted,
    link:
      r.media_file_id && r.made_by && r.seen
        ? { mediaFileId: r.media_file_id, by: r.made_by, seen: r.seen, because: r.because }
        : null,
    declined: r.declined ?? [],
    proposal:
      r.decision && r.why && r.standing
        ? {
            whereRemembered: r.where_remembered,
            decision: r.decision,
            why: r.why,
            candidates: r.candidates ?? [],
            standing: r.standing,
          }
        : null,
  };
}

const query = (db: Database | Transaction) =>
  db('clips')
    .leftJoin('links', 'links.clip_id', 'clips.id')
    .leftJoin('clip_notes', 'clip_notes.clip_id', 'clips.id')
    .leftJoin('proposals', 'proposals.clip_id', 'clips.id')
    .select(
      'clips.id',
      'clips.project_id',
      'clips.document_id',
      'clips.body',
      'clips.set_aside',
      'clips.interpretation',
      'clips.pinned',
      'clips.taken_offline',
      'clip_notes.noted',
      'links.media_file_id',
      'links.made_by',
      'links.seen',
      'links.because',
      'proposals.where_remembered',
      'proposals.decision',
      'proposals.why',
      'proposals.candidates',
      'proposals.standing',
      db.raw('(select array_agg(media_file_id::text) from declined where declined.clip_id = clips.id) as declined'),
    );

export const clipStore = {
  async listClips(db: Database | Transaction, projectId: ProjectId): Promise<ClipRecord[]> {
    const rows: unknown[] = await query(db)
      .join('documents', 'documents.id', 'clips.document_id')
      .where({ 'clips.project_id': projectId, 'clips.retired': false })
      .orderBy(['documents.brought_in_at', 'clips.ordinal']);
    return rows.map(toRecord);
  },
  /** The clips of a project in the same order, each with a text that is another whenever anything decided or read of it is. */
  async listVersions(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ readonly id: ClipId; readonly version: string }[]> {
    return (await db('clips')
      .join('documents', 'documents.id', 'clips.document_id')
      .leftJoin('links', 'links.clip_id', 'clips.id')
      .where({ 'clips.project_id': projectId, 'clips.retired': false })
      .orderBy(['documents.brought_in_at', 'clips.ordinal'])
      .select(
        'clips.id',
        db.raw(`concat_ws('.', clips.xmin::text, coalesce(links.xmin::text, '-'), (select string_agg(declined.media_file_id::text, ' '
          order by declined.media_file_id) from declined where declined.clip_id = clips.id)) as version`),
      )) as { id: ClipId; version: string }[];
  },
  /** The clips of one document, those that its present version has no more included. */
  async listOfDocument(db: Database | Transaction, documentId: DocumentId): Promise<(ClipRecord & Retirable)[]> {
    const rows = (await query(db)
      .select('clips.retired')
      .where({ 'clips.document_id': documentId })
      .orderBy('clips.ordinal')) as { retired: boolean }[];
    return rows.map((row) => ({ ...toRecord(row), retired: row.retired }));
  },
  /** Of these, the clips that their documents have. */
  async listByIds(db: Database | Transaction, ids: readonly ClipId[]): Promise<ClipRecord[]> {
    if (ids.length === 0) return [];
    const rows: unknown[] = await query(db)
      .whereRaw('clips.id = any(?::uuid[])', listBindings([...ids]))
      .where({ 'clips.retired': false });
    return rows.map(toRecord);
  },
  async getClip(db: Database | Transaction, id: ClipId): Promise<ClipRecord> {
    const row: unknown = await query(db).where({ 'clips.id': id }).first();
    if (!row) throw notFound('clip');
    return toRecord(row);
  },
  /** Adds clips to a document; `ordinals` are their places in its order, from zero where absent. Ids in the same order. */
  async insertClips(
    db: Database | Transaction,
    projectId: ProjectId,
    documentId: DocumentId,
    clips: readonly Clip[],
    ordinals: readonly number[] = clips.map((_, i) => i),
  ): Promise<ClipId[]> {
    const { rows } = (await db.raw(
      `insert into clips (project_id, document_id, ordinal, body)
       select ?::uuid, ?::uuid, ordinal, body from unnest(?::int[], ?::jsonb[]) with ordinality
         as given(ordinal, body, at) order by at
       returning id`,
      [
        projectId,
        documentId,
        ...listBindings(
          clips.map((_, i) => ordinals[i]!),
          clips.map((clip) => JSON.stringify(clip)),
        ),
      ] as string[],
    )) as { rows: { id: ClipId }[] };
    return rows.map((r) => r.id);
  },
  /** Gives clips a new body and place, and brings them back if they were retired. */
  async updateClips(
    db: Database | Transaction,
    clips: readonly { readonly id: ClipId; readonly ordinal: number; readonly clip: Clip }[],
  ): Promise<void> {
    if (clips.length === 0) return;
    await db.raw(
      `update clips set body = given.body, ordinal = given.ordinal, retired = false
       from unnest(?::uuid[], ?::int[], ?::jsonb[]) as given(id, ordinal, body) where clips.id = given.id`,
      listBindings(
        clips.map((c) => c.id),
        clips.map((c) => c.ordinal),
        clips.map((c) => JSON.stringify(c.clip)),
      ),
    );
  },
  async retireClips(db: Database | Transaction, ids: readonly ClipId[]): Promise<void> {
    await db('clips')
      .whereIn('id', [...ids])
      .update({ retired: true });
  },
  /** Notes links to files that are not known here yet. */
  async setAwaited(
    db: Database | Transaction,
    values: readonly { readonly clipId: ClipId; readonly awaited: AwaitedLink | null }[],
  ): Promise<void> {
    if (values.length === 0) return;
    await db.raw(
      `update clips set awaited = given.value from unnest(?::uuid[], ?::jsonb[]) as given(id, value) where clips.id = given.id`,
      listBindings(
        values.map((v) => v.clipId),
        values.map((v) => (v.awaited ? JSON.stringify(v.awaited) : null)),
      ),
    );
  },
  async listAwaiting(
    db: Database | Transaction,
  ): Promise<{ clipId: ClipId; projectId: ProjectId; awaited: AwaitedLink }[]> {
    const rows = (await db('clips').whereNotNull('awaited').select('id', 'project_id', 'awaited')) as {
      id: ClipId;
      project_id: ProjectId;
      awaited: AwaitedLink;
    }[];
    return rows.map((r) => ({ clipId: r.id, projectId: r.project_id, awaited: r.awaited }));
  },
  /**
   * Replaces all proposals of these clips; what says the same as before is not touched. Clips that were taken out
   * meanwhile are passed over.
   */
  async saveProposals(
    trx: Transaction,
    proposals: readonly ({ readonly clipId: ClipId } & NonNullable<ClipRecord['proposal']>)[],
  ): Promise<void> {
    for (let at = 0; at < proposals.length; at += 5000) {
      const some = proposals.slice(at, at + 5000);
      await trx.raw(
        `insert into proposals (clip_id, where_remembered, decision, why, candidates, standing)
         select clips.id, where_remembered, decision, why, candidates, standing
         from unnest(?::uuid[], ?::uuid[], ?::jsonb[], ?::jsonb[], ?::jsonb[], ?::jsonb[])
             as given(clip_id, where_remembered, decision, why, candidates, standing)
           join clips on clips.id = given.clip_id
         for key share of clips
         on conflict (clip_id) do update set where_remembered = excluded.where_remembered, decision = excluded.decision,
           why = excluded.why, candidates = excluded.candidates, standing = excluded.standing
         where (proposals.where_remembered, proposals.decision, proposals.why, proposals.candidates, proposals.standing)
           is distinct from (excluded.where_remembered, excluded.decision, excluded.why, excluded.candidates,
             excluded.standing)`,
        listBindings(
          some.map((p) => p.clipId),
          some.map((p) => p.whereRemembered),
          some.map((p) => JSON.stringify(p.decision)),
          some.map((p) => JSON.stringify(p.why)),
          some.map((p) => JSON.stringify(p.candidates)),
          some.map((p) => JSON.stringify(p.standing)),
        ),
      );
    }
  },
  async putLinks(
    db: Database | Transaction,
    links: readonly ({ readonly clipId: ClipId } & LinkRecord)[],
  ): Promise<void> {
    if (links.length === 0) return;
    await db.raw(
      `insert into links (clip_id, media_file_id, made_by, seen, because, made_at)
       select clip_id, media_file_id, made_by, seen, because, clock_timestamp()
       from unnest(?::uuid[], ?::uuid[], ?::text[], ?::jsonb[], ?::jsonb[])
         as given(clip_id, media_file_id, made_by, seen, because)
       on conflict (clip_id) do update set media_file_id = excluded.media_file_id, made_by = excluded.made_by,
         seen = excluded.seen, because = excluded.because, made_at = excluded.made_at`,
      listBindings(
        links.map((l) => l.clipId),
        links.map((l) => l.mediaFileId),
        links.map((l) => l.by),
        links.map((l) => JSON.stringify(l.seen)),
        links.map((l) => (l.because ? JSON.stringify(l.because) : null)),
      ),
    );
  },
  async deleteLinks(db: Database | Transaction, clipIds: readonly ClipId[]): Promise<void> {
    if (clipIds.length > 0)
      await db('links')
        .whereRaw('clip_id = any(?::uuid[])', listBindings([...clipIds]))
        .delete();
  },
  async setAside(
    db: Database | Transaction,
    values: readonly { clipId: ClipId; setAside: SetAside | null }[],
  ): Promise<void> {
    await db.raw(
      `update clips set set_aside = given.value from unnest(?::uuid[], ?::jsonb[]) as given(id, value) where clips.id = given.id`,
      listBindings(
        values.map((v) => v.clipId),
        values.map((v) => (v.setAside ? JSON.stringify(v.setAside) : null)),
      ),
    );
  },
  async setInterpretations(
    db: Database | Transaction,
    values: readonly { clipId: ClipId; interpretation: Interpretation | null }[],
  ): Promise<void> {
    await db.raw(
      `update clips set interpretation = given.value from unnest(?::uuid[], ?::jsonb[]) as given(id, value) where clips.id = given.id`,
      listBindings(
        values.map((v) => v.clipId),
        values.map((v) => (v.interpretation ? JSON.stringify(v.interpretation) : null)),
      ),
    );
  },
  async setTakenOffline(
    db: Database | Transaction,
    values: readonly { clipId: ClipId; takenOffline: boolean }[],
  ): Promise<void> {
    await db.raw(
      `update clips set taken_offline = given.value from unnest(?::uuid[], ?::boolean[]) as given(id, value) where clips.id = given.id`,
      listBindings(
        values.map((v) => v.clipId),
        values.map((v) => v.takenOffline),
      ),
    );
  },
  async setPinned(db: Database | Transaction, values: readonly { clipId: ClipId; pinned: boolean }[]): Promise<void> {
    await db.raw(
      `update clips set pinned = given.value from unnest(?::uuid[], ?::boolean[]) as given(id, value) where clips.id = given.id`,
      listBindings(
        values.map((v) => v.clipId),
        values.map((v) => v.pinned),
      ),
    );
  },
  async decline(db: Database | Transaction, clipId: ClipId, mediaFileId: MediaFileId): Promise<void> {
    await db('declined').insert({ clip_id: clipId, media_file_id: mediaFileId }).onConflict().ignore();
  },
  async undecline(db: Database | Transaction, clipId: ClipId, mediaFileId: MediaFileId): Promise<void> {
    await db('declined').where({ clip_id: clipId, media_file_id: mediaFileId }).delete();
  },
};
