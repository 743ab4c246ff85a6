import type { Coding } from '@legame/core/consolidate';
import type { MediaFileId, ProjectId } from '@legame/core/model';
import { notFound } from '../problems.ts';
import type { Database, Transaction } from '../db/database.ts';

export type AcceptedCopy = {
  readonly id: string;
  readonly projectId: ProjectId;
  readonly mediaFileId: MediaFileId;
  readonly folder: string;
  readonly codec: Coding;
  /** The finished file; null until there is one. */
  readonly madePath: string | null;
};
type Row = {
  id: string;
  project_id: ProjectId;
  media_file_id: MediaFileId;
  folder: string;
  codec: Coding;
  made_path: string | null;
};

/** Copies that are made because a project does not accept the original. */
export const acceptedCopyStore = {
  async insert(db: Database | Transaction, copy: Omit<AcceptedCopy, 'id' | 'madePath'>): Promise<string> {
    const [row] = (await db('accepted_copies')
      .insert({ project_id: copy.projectId, media_file_id: copy.mediaFileId, folder: copy.folder, codec: copy.codec })
      .returning('id')) as [{ id: string }];
    return row.id;
  },
  async get(db: Database | Transaction, id: string): Promise<AcceptedCopy> {
    const r = (await db('accepted_copies').where({ id }).first()) as Row | undefined;
    if (!r) throw notFound('copy');
    return {
      id: r.id,
      projectId: r.project_id,
      mediaFileId: r.media_file_id,
      folder: r.folder,
      codec: r.codec,
      madePath: r.made_path,
    };
  },
  async listMadePaths(db: Database | Transaction): Promise<string[]> {
    return (await db('accepted_copies').whereNotNull('made_path').pluck('made_path')) as string[];
  },
  async setMade(db: Database | Transaction, id: string, madePath: string): Promise<void> {
    await db('accepted_copies').where({ id }).update({ made_path: madePath });
  },
};
