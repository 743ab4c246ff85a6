import { acceptanceSchema, rulesSchema } from '@legame/core/contract';
import { defaultRules, type AcceptanceProfile, type MatchRules, type ProjectId } from '@legame/core';
import type { Database, Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';

export type ProjectRecord = {
  readonly id: ProjectId;
  readonly name: string;
  readonly rules: MatchRules;
  /** What the project accepts as media; null accepts everything. */
  readonly acceptance: AcceptanceProfile | null;
  readonly createdAt: Date;
};

type Row = { id: ProjectId; name: string; rules: unknown; acceptance: unknown; created_at: Date };
const toRecord = (row: Row): ProjectRecord => ({
  id: row.id,
  name: row.name,
  rules: rulesSchema.parse(row.rules),
  acceptance: acceptanceSchema.nullable().parse(row.acceptance),
  createdAt: row.created_at,
});

export const projectStore = {
  async listProjects(db: Database | Transaction): Promise<ProjectRecord[]> {
    return (await db<Row>('projects').orderBy('created_at')).map((row) => toRecord(row));
  },
  async getProject(db: Database | Transaction, id: ProjectId): Promise<ProjectRecord> {
    const row = await db<Row>('projects')
      .where({ id } as Partial<Row>)
      .first();
    if (!row) throw notFound('project');
    return toRecord(row);
  },
  async createProject(db: Database | Transaction, name: string): Promise<ProjectRecord> {
    const [row] = (await db('projects')
      .insert({ name, rules: JSON.stringify(defaultRules) })
      .returning('*')) as [Row];
    return toRecord(row);
  },
  async setAcceptance(db: Database | Transaction, id: ProjectId, acceptance: AcceptanceProfile): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ acceptance: JSON.stringify(acceptance) });
  },
  async setRules(db: Database | Transaction, id: ProjectId, rules: MatchRules): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ rules: JSON.stringify(rules) });
  },
};
