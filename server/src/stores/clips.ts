import { randomUUID } from 'node:crypto';
import type { Clip, ClipId, DocumentId, Interpretation, MediaFileId, ProjectId } from '@legame/core/model';
import { copyRows } from '../db/copy.ts';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import { tellOfRows } from '../db/statistics.ts';
import { mapInSlices } from '../inSlices.ts';
import { notFound } from '../problems.ts';
import {
  clipQuery as query,
  toClipRecord as toRecord,
  type AwaitedLink,
  type ClipRecord,
  type LinkRecord,
  type Retirable,
  type SetAside,
} from './clipRecord.ts';

export type { AwaitedLink, ClipRecord, LinkMaker, LinkRecord, Retirable, SetAside, StatedRate } from './clipRecord.ts';

export const clipStore = {
  async listClips(db: Database | Transaction, projectId: ProjectId): Promise<ClipRecord[]> {
    const rows: unknown[] = await query(db)
      .join('documents', 'documents.id', 'clips.document_id')
      .where({ 'clips.project_id': projectId, 'clips.retired': false })
      .orderBy(['documents.brought_in_at', 'clips.ordinal']);
    return mapInSlices(rows, toRecord);
  },
  /**
   * The clips of a project in the same order, each with a text that is another whenever matching would see it otherwise:
   * what is said of it or how that is read, its link, what was declined for it.
   */
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
        db.raw(`concat_ws('.', clips.meant_in, coalesce(links.xmin::text, '-'), (select string_agg(declined.media_file_id::text, ' '
          order by declined.media_file_id) from declined where declined.clip_id = clips.id)) as version`),
      )) as { id: ClipId; version: string }[];
  },
  /** The clips of one document, those that its present version has no more included. */
  async listOfDocument(db: Database | Transaction, documentId: DocumentId): Promise<(ClipRecord & Retirable)[]> {
    const rows = (await query(db)
      .select('clips.retired')
      .where({ 'clips.document_id': documentId })
      .orderBy('clips.ordinal')) as { retired: boolean }[];
    return rows.map((row) => ({ retired: row.retired, ...toRecord(row) }));
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
    trx: Transaction,
    projectId: ProjectId,
    documentId: DocumentId,
    clips: readonly Clip[],
    ordinals: readonly number[] = clips.map((_, i) => i),
  ): Promise<ClipId[]> {
    const ids = clips.map(() => randomUUID() as string as ClipId);
    await copyRows(trx, 'clips', ['id', 'project_id', 'document_id', 'ordinal', 'body'], clips, (clip, i) => [
      ids[i]!,
      projectId,
      documentId,
      ordinals[i]!,
      JSON.stringify(clip),
    ]);
    await tellOfRows(trx, 'clips', clips.length);
    return ids;
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
    // Each part is written out while the database takes in the one before.
    let writing: Promise<unknown> = Promise.resolve();
    for (let at = 0; at < proposals.length; at += 5000) {
      const some = proposals.slice(at, at + 5000);
      const lists = listBindings(
        some.map((p) => p.clipId),
        some.map((p) => p.whereRemembered),
        some.map((p) => JSON.stringify(p.decision)),
        some.map((p) => JSON.stringify(p.why)),
        some.map((p) => JSON.stringify(p.candidates)),
        some.map((p) => JSON.stringify(p.standing)),
      );
      await writing;
      writing = trx
        .raw(
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
          lists,
        )
        .then();
      // Heard of where it is waited for.
      writing.catch(() => undefined);
    }
    await writing;
    await tellOfRows(trx, 'proposals', proposals.length);
  },
  /** What was decided by itself for these clips is nothing any more; what lies where they remember it still does. */
  async forgetDecisions(trx: Transaction, ids: readonly ClipId[]): Promise<void> {
    if (ids.length > 0)
      await trx('proposals')
        .whereRaw('clip_id = any(?::uuid[])', listBindings([...ids]))
        .update({ decision: { kind: 'nothing' }, why: { code: 'still-reading' }, candidates: '[]' });
  },
  /** What was proposed for these clips is nothing any more: they are to be matched anew. */
  async dropProposals(trx: Transaction, ids: readonly ClipId[]): Promise<void> {
    if (ids.length > 0)
      await trx('proposals')
        .whereRaw('clip_id = any(?::uuid[])', listBindings([...ids]))
        .delete();
  },
  async putLinks(
    db: Database | Transaction,
    links: readonly ({ readonly clipId: ClipId } & LinkRecord)[],
  ): Promise<void> {
    if (links.length === 0) return;
    // What links of one act rest on is much the same: each is sent and taken apart once.
    const reasons = new Map<string, number>();
    const reasonOf = ({ because }: LinkRecord): number | null => {
      if (!because) return null;
      const text = JSON.stringify(because);
      const number = reasons.get(text) ?? reasons.size + 1;
      reasons.set(text, number);
      return number;
    };
    const lists = listBindings(
      links.map((l) => l.clipId),
      links.map((l) => l.mediaFileId),
      links.map((l) => l.by),
      links.map((l) => JSON.stringify(l.seen)),
      links.map(reasonOf),
    );
    await db.raw(
      `insert into links (clip_id, media_file_id, made_by, seen, because, made_at)
       select clip_id, media_file_id, made_by, seen, because, clock_timestamp()
       from unnest(?::uuid[], ?::uuid[], ?::text[], ?::jsonb[], ?::int[])
           as given(clip_id, media_file_id, made_by, seen, reason)
         left join unnest(?::jsonb[]) with ordinality as reasons(because, number) on number = reason
       on conflict (clip_id) do update set media_file_id = excluded.media_file_id, made_by = excluded.made_by,
         seen = excluded.seen, because = excluded.because, made_at = excluded.made_at`,
      [...lists, ...listBindings([...reasons.keys()])],
    );
    await tellOfRows(db, 'links', links.length);
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
