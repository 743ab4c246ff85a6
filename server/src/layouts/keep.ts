import type { Layout, TableName } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { Context, Looking } from '../context.ts';
import { layoutStore } from '../stores/layouts.ts';
import { projectStore } from '../stores/projects.ts';

type Of = { readonly projectId: ProjectId; readonly table: TableName };

/** The layouts of a table, of the project and of all. */
export const listLayouts = ({ db }: Looking, of: Of): Promise<Layout[]> => layoutStore.list(db, of);

/** Keeps how a table is arranged under a name; what was kept under it before is another then. */
export async function keepLayout({ db }: Context, of: Of, layout: Layout): Promise<Layout[]> {
  await projectStore.inTurn(db, of.projectId, (trx) => layoutStore.put(trx, of, layout));
  return listLayouts({ db }, of);
}

export async function dropLayout({ db }: Context, of: Of, layout: Pick<Layout, 'name' | 'forAll'>): Promise<Layout[]> {
  await projectStore.inTurn(db, of.projectId, (trx) => layoutStore.remove(trx, of, layout));
  return listLayouts({ db }, of);
}
