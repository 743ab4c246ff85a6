import { pullRequestSchema } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { PullRequest } from '@legame/core/report';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';

export type PullMarked = { readonly key: string; readonly request: PullRequest | null };

/** What was asked for of the sources that a project wants fetched, by their keys. */
export const pullStore = {
  async listRequests(db: Database | Transaction, projectId: ProjectId): Promise<Map<string, PullRequest>> {
    const rows = (await db('pull_requests').where({ project_id: projectId })) as { key: string; request: unknown }[];
    return new Map(rows.map((r) => [r.key, pullRequestSchema.parse(r.request)]));
  },
  /** Says what was asked for, or that nothing was. */
  async setRequests(trx: Transaction, projectId: ProjectId, marked: readonly PullMarked[]): Promise<void> {
    await trx.raw(`delete from pull_requests where project_id = ? and key = any(?::text[])`, [
      projectId,
      ...listBindings(marked.map((m) => m.key)),
    ]);
    const asked = marked.flatMap(({ key, request }) => (request ? [{ key, request }] : []));
    await trx.raw(
      `insert into pull_requests (project_id, key, request) select ?::uuid, * from unnest(?::text[], ?::jsonb[])`,
      [
        projectId,
        ...listBindings(
          asked.map((a) => a.key),
          asked.map((a) => JSON.stringify(a.request)),
        ),
      ],
    );
  },
};
