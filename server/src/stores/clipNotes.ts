import type { Noted } from '@legame/core/bins';
import { notedSchema } from '@legame/core/contract';
import type { ClipId, ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import { tellOfRows } from '../db/statistics.ts';
import { trusted } from './trusted.ts';

const noted = trusted(notedSchema);
type Row = {
  id: ClipId;
  noted: unknown;
  metadata: Record<string, string>;
  bin_key: string | null;
  document_id: string;
};

/** What was noted of a clip, with what its document says of it in words. */
export type ClipNotes = {
  readonly id: ClipId;
  readonly documentId: string;
  readonly binKey: string | null;
  readonly metadata: Readonly<Record<string, string>>;
  readonly noted: Noted | null;
};

/** What people note of clips: bins, labels and values of columns. */
export const clipNoteStore = {
  /** Of these clips, those that the project has; of all where `ids` is null. */
  async listNotes(
    db: Database | Transaction,
    projectId: ProjectId,
    ids: readonly ClipId[] | null,
  ): Promise<ClipNotes[]> {
    const { rows } = (await db.raw(
      `select clips.id, clips.document_id, clips.body->>'binKey' as bin_key, clips.body->'metadata' as metadata, noted
       from clips left join clip_notes on clip_id = clips.id
       where project_id = ? and not retired ${ids ? 'and clips.id = any(?::uuid[])' : ''}`,
      [projectId, ...(ids ? listBindings([...ids]) : [])],
    )) as { rows: Row[] };
    return rows.map((r) => ({
      id: r.id,
      documentId: r.document_id,
      binKey: r.bin_key,
      metadata: r.metadata,
      noted: r.noted === null ? null : noted.parse(r.noted),
    }));
  },
  /** Notes of clips that are taken out at this moment are passed over. */
  async setNotes(
    trx: Transaction,
    notes: readonly { readonly clipId: ClipId; readonly noted: Noted | null }[],
  ): Promise<void> {
    const kept = notes.filter((n) => n.noted !== null);
    const gone = notes.filter((n) => n.noted === null);
    await trx('clip_notes')
      .whereRaw('clip_id = any(?::uuid[])', listBindings(gone.map((n) => n.clipId)))
      .delete();
    await trx.raw(
      `insert into clip_notes (clip_id, noted)
       select clips.id, given.noted from unnest(?::uuid[], ?::jsonb[]) as given(id, noted)
         join clips on clips.id = given.id
       on conflict (clip_id) do update set noted = excluded.noted`,
      listBindings(
        kept.map((n) => n.clipId),
        kept.map((n) => JSON.stringify(n.noted)),
      ),
    );
    await tellOfRows(trx, 'clip_notes', kept.length);
  },
};
