import type { ClipId, DocumentId, ProjectId } from '@legame/core/model';
import type { Rate } from '@legame/core/time';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import type { ClipRecord, StatedRate } from './clips.ts';

/** The little that is asked of all clips of a project at once, where clips in full would be megabytes. */
export const clipKeyStore = {
  async listRates(db: Database | Transaction, projectId: ProjectId): Promise<StatedRate[]> {
    const { rows } = (await db.raw(
      `select document_id, body->>'key' as key, body->'rate' as rate from clips where project_id = ? and not retired`,
      [projectId],
    )) as { rows: { document_id: DocumentId; key: string; rate: Rate }[] };
    return rows.map((r) => ({ documentId: r.document_id, key: r.key, asStated: { rate: r.rate } }));
  },
  async countByDocument(db: Database | Transaction, projectId: ProjectId): Promise<Map<DocumentId, number>> {
    const { rows } = (await db.raw(
      `select document_id as id, count(*)::int as count from clips where project_id = ? and not retired group by 1`,
      [projectId],
    )) as { rows: { id: DocumentId; count: number }[] };
    return new Map(rows.map((r) => [r.id, r.count]));
  },
  /** Which clip of a document has which id. */
  async listKeys(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ readonly id: ClipId; readonly documentId: DocumentId; readonly key: string }[]> {
    const { rows } = (await db.raw(
      `select id, document_id as "documentId", body->>'key' as key from clips where project_id = ? and not retired`,
      [projectId],
    )) as { rows: { id: ClipId; documentId: DocumentId; key: string }[] };
    return rows;
  },
  /** The bins of documents that clips lie in there, each once. */
  async listBinsUsed(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ readonly documentId: DocumentId; readonly binKey: string }[]> {
    const { rows } = (await db.raw(
      `select distinct document_id as "documentId", body->>'binKey' as "binKey" from clips
       where project_id = ? and not retired and body->>'binKey' is not null`,
      [projectId],
    )) as { rows: { documentId: DocumentId; binKey: string }[] };
    return rows;
  },
  /** What people decided of these clips, of those that the project has. */
  async listDecided(
    db: Database | Transaction,
    projectId: ProjectId,
    ids: readonly ClipId[],
  ): Promise<Pick<ClipRecord, 'id' | 'setAside' | 'pinned' | 'interpretation'>[]> {
    const { rows } = (await db.raw(
      `select id, set_aside as "setAside", pinned, interpretation from clips
       where project_id = ? and id = any(?::uuid[]) and not retired`,
      [projectId, ...listBindings([...ids])],
    )) as { rows: Pick<ClipRecord, 'id' | 'setAside' | 'pinned' | 'interpretation'>[] };
    return rows;
  },
};
