import { arrangementSchema, type Arrangement, type Layout, type TableName } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';

type Row = { project_id: ProjectId | null; name: string; body: unknown };
type Of = { readonly projectId: ProjectId; readonly table: TableName };

/** Columns as a table shows them, kept under names: of one project, or of all. */
export const layoutStore = {
  /** Those of the project and those of all, by name. */
  async list(db: Database | Transaction, { projectId, table }: Of): Promise<Layout[]> {
    const rows = await db<Row>('layouts')
      .where({ of_table: table } as Partial<Row>)
      .where((query) => void query.where({ project_id: projectId }).orWhereNull('project_id'))
      .orderBy('name');
    return rows.map((row) => ({
      name: row.name,
      forAll: row.project_id === null,
      arrangement: arrangementSchema.parse(row.body),
    }));
  },
  /** All that are kept for one project alone, of whatever table. */
  async listOwn(
    db: Database | Transaction,
    projectId: ProjectId,
  ): Promise<{ table: TableName; name: string; arrangement: Arrangement }[]> {
    const rows = (await db('layouts').where({ project_id: projectId }).orderBy(['of_table', 'name'])) as (Row & {
      of_table: TableName;
    })[];
    return rows.map((r) => ({ table: r.of_table, name: r.name, arrangement: arrangementSchema.parse(r.body) }));
  },
  /** Keeps one; the one of that name before it is another then. */
  async put(trx: Transaction, { projectId, table }: Of, { name, forAll, arrangement }: Layout): Promise<void> {
    await this.remove(trx, { projectId, table }, { name, forAll });
    await trx('layouts').insert({
      project_id: forAll ? null : projectId,
      of_table: table,
      name,
      body: JSON.stringify(arrangement),
    });
  },
  async remove(
    trx: Database | Transaction,
    { projectId, table }: Of,
    { name, forAll }: Pick<Layout, 'name' | 'forAll'>,
  ): Promise<void> {
    await trx('layouts')
      .where({ of_table: table, name })
      .where((query) => void (forAll ? query.whereNull('project_id') : query.where({ project_id: projectId })))
      .delete();
  },
};
