import type { RuleSet } from '@legame/core/match';
import type { ProjectId } from '@legame/core/model';
import type { RuleSets } from '@legame/core/contract';
import type { Context } from '../context.ts';
import { listRuleSets } from './views.ts';
import { projectStore } from '../stores/projects.ts';

/** Keeps these sets, and no others, beside the shipped ones. */
export async function keepRuleSets(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  sets: readonly RuleSet[],
): Promise<RuleSets> {
  await projectStore.getProject(db, projectId);
  await projectStore.setRuleSets(db, projectId, [...new Map(sets.map((s) => [s.name, s])).values()]);
  return listRuleSets({ db }, projectId);
}
