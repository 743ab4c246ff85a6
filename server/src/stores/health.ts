import type { Accepted } from '@legame/core/contract';
import type { HealthCheck, HealthFinding } from '@legame/core/health';
import type { ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';

type Named = Pick<HealthFinding, 'check' | 'key'>;
export type AcceptedFinding = Named & { readonly accepted: Accepted | null };

/** A finding of one check, as a text. */
export const findingKey = ({ check, key }: Named): string => `${check} ${key}`;

/** What of a project's health was accepted, and what was found when it was kept last. */
export const healthStore = {
  async listAccepted(db: Database | Transaction, projectId: ProjectId): Promise<Map<string, Accepted>> {
    const rows = (await db('accepted_findings').where({ project_id: projectId })) as {
      of_check: HealthCheck;
      key: string;
      note: string;
      accepted_at: Date;
    }[];
    return new Map(
      rows.map((r) => [
        findingKey({ check: r.of_check, key: r.key }),
        { note: r.note, at: r.accepted_at.toISOString() },
      ]),
    );
  },
  /** Accepts findings, with a note each, or takes that back. */
  async setAccepted(trx: Transaction, projectId: ProjectId, findings: readonly AcceptedFinding[]): Promise<void> {
    const open = findings.filter((f) => f.accepted === null);
    const accepted = findings.flatMap((f) => (f.accepted ? [{ ...f, accepted: f.accepted }] : []));
    await trx.raw(
      `delete from accepted_findings using unnest(?::text[], ?::text[]) as given(of_check, key)
       where project_id = ? and accepted_findings.of_check = given.of_check and accepted_findings.key = given.key`,
      [
        ...listBindings(
          open.map((f) => f.check),
          open.map((f) => f.key),
        ),
        projectId,
      ],
    );
    await trx.raw(
      `insert into accepted_findings (project_id, of_check, key, note, accepted_at)
       select ?::uuid, * from unnest(?::text[], ?::text[], ?::text[], ?::timestamptz[])
       on conflict (project_id, of_check, key) do update set note = excluded.note, accepted_at = excluded.accepted_at`,
      [
        projectId,
        ...listBindings(
          accepted.map((f) => f.check),
          accepted.map((f) => f.key),
          accepted.map((f) => f.accepted.note),
          accepted.map((f) => f.accepted.at),
        ),
      ],
    );
  },
  async listKept(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ readonly at: Date | null; readonly findings: readonly Named[] }> {
    const row = (await db('projects').where({ id: projectId }).first('health_kept_at')) as
      { health_kept_at: Date | null } | undefined;
    const rows = (await db('kept_findings').where({ project_id: projectId })) as {
      of_check: HealthCheck;
      key: string;
    }[];
    return { at: row?.health_kept_at ?? null, findings: rows.map((r) => ({ check: r.of_check, key: r.key })) };
  },
  /** Keeps what is found now, in the place of what was kept before. */
  async keep(trx: Transaction, projectId: ProjectId, findings: readonly Named[]): Promise<void> {
    await trx('kept_findings').where({ project_id: projectId }).delete();
    await trx.raw(
      `insert into kept_findings (project_id, of_check, key) select ?::uuid, * from unnest(?::text[], ?::text[])
       on conflict do nothing`,
      [
        projectId,
        ...listBindings(
          findings.map((f) => f.check),
          findings.map((f) => f.key),
        ),
      ],
    );
    await trx('projects')
      .where({ id: projectId })
      .update({ health_kept_at: trx.raw('clock_timestamp()') });
  },
};
