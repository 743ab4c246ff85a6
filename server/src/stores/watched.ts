import type { DocumentId, PlaceId, ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';

export type WatchedFolder = {
  readonly placeId: PlaceId;
  readonly folder: string;
  /** SHA-256 of documents that are not told of. */
  readonly passedOver: readonly string[];
};

/** The folder in which newer versions of a project's documents are looked for. */
export const watchedStore = {
  async findFolder(db: Database | Transaction, projectId: ProjectId): Promise<WatchedFolder | null> {
    const row = (await db('watched_folders').where({ project_id: projectId }).first()) as
      { place_id: PlaceId; folder: string; passed_over: string[] } | undefined;
    return row ? { placeId: row.place_id, folder: row.folder, passedOver: row.passed_over } : null;
  },
  async setFolder(
    db: Database | Transaction,
    projectId: ProjectId,
    folder: Pick<WatchedFolder, 'placeId' | 'folder'> | null,
  ): Promise<void> {
    if (!folder) return void (await db('watched_folders').where({ project_id: projectId }).delete());
    await db('watched_folders')
      .insert({ project_id: projectId, place_id: folder.placeId, folder: folder.folder })
      .onConflict('project_id')
      .merge();
  },
  async passOver(db: Database | Transaction, projectId: ProjectId, sha256: string): Promise<void> {
    await db('watched_folders')
      .where({ project_id: projectId })
      .update({ passed_over: db.raw('array_append(passed_over, ?)', [sha256]) });
  },
  /** SHA-256 of the bytes of documents, and of every version they replaced. */
  async listHashes(db: Database | Transaction, ids: readonly DocumentId[]): Promise<Map<DocumentId, string[]>> {
    const { rows } = (await db.raw(
      `with wanted as (select unnest(?::uuid[]) as id)
       select id, encode(sha256(content), 'hex') as hash from documents join wanted using (id)
       union all
       select document_id, encode(sha256(content), 'hex') from document_versions join wanted on wanted.id = document_id`,
      listBindings(ids),
    )) as { rows: { id: DocumentId; hash: string }[] };
    const hashes = new Map<DocumentId, string[]>();
    for (const { id, hash } of rows) hashes.set(id, [...(hashes.get(id) ?? []), hash]);
    return hashes;
  },
};
