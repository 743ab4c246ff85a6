import type { Looking } from '../context.ts';
import { acceptsAll, type ProjectId, refusalOf } from '@legame/core/model';
import type { Rate } from '@legame/core/time';
import type { ProjectAcceptance } from '@legame/core/contract';
import { loadProject } from '../clips/project.ts';

/** What a project accepts, what its media are, and how many clips it refuses by that. */
export async function viewAcceptance({ db }: Looking, projectId: ProjectId): Promise<ProjectAcceptance> {
  const { states, acceptance } = await loadProject(db, projectId);
  const facts = states.flatMap((s) => s.tied?.file.facts ?? []).filter((f) => f.kind === 'picture');
  const distinct = <T extends string | number>(values: readonly (T | null)[]): T[] =>
    [...new Set(values.filter((v) => v !== null))].sort();
  const rates = new Map<string, Rate>();
  for (const { rate } of facts) if (rate) rates.set(`${rate.num}/${rate.den}`, rate);
  const profile = acceptance ?? acceptsAll;
  return {
    profile,
    found: {
      containers: distinct(facts.map((f) => f.container)),
      codecs: distinct(facts.map((f) => f.codec)),
      chroma: distinct(facts.map((f) => f.chroma)),
      bitDepths: distinct(facts.map((f) => f.bitDepth)),
      rates: [...rates.values()],
    },
    refused: states.filter((s) => s.tied?.file.facts && refusalOf(s.tied.file.facts, profile)).length,
  };
}
