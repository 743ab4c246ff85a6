import type { Looking } from '../context.ts';
import type { ProjectId } from '@legame/core/model';
import { isDark } from '@legame/core/state';
import type { Project, ProjectSummary } from '@legame/core/contract';
import { viewCut } from '../clips/cutViews.ts';
import { certainFile, loadProject } from '../clips/state.ts';
import { type JournalEntry, journalStore } from '../stores/journal.ts';
import { type ProjectRecord, projectStore } from '../stores/projects.ts';

const actInShort = ({ id, verb, clips, madeAt }: JournalEntry) => ({
  id,
  verb,
  count: clips,
  madeAt: madeAt.toISOString(),
});

export async function summarize({ db }: Looking, projectId: ProjectId): Promise<ProjectSummary> {
  const record = await projectStore.getProject(db, projectId);
  const [{ states }, cut, last, redoable] = await Promise.all([
    loadProject(db, projectId),
    viewCut({ db }, projectId),
    journalStore.findLast(db, projectId),
    journalStore.findRedoable(db, projectId),
  ]);
  const statuses = { linked: 0, missing: 0, changed: 0, unreadable: 0, short: 0, parked: 0, waived: 0 };
  for (const { status } of states) statuses[status.status] += 1;
  const seconds = (frames: number, rate: { num: number; den: number }) => (frames * rate.den) / rate.num;
  const top = cut.filter((t) => t.top);
  return {
    id: record.id,
    name: record.name,
    createdAt: record.createdAt.toISOString(),
    rules: record.rules,
    clips: states.length,
    toDo: states.filter((s) => isDark(s.status.status)).length,
    certain: states.filter((s) => certainFile(s) !== null).length,
    statuses,
    darkSeconds: top.reduce((sum, t) => sum + seconds(t.darkInFrames, t.rate), 0),
    cutSeconds: top.reduce((sum, t) => sum + seconds(t.length, t.rate), 0),
    lastAct: last && actInShort(last),
    redoable: redoable && actInShort(redoable),
  };
}

export const viewProject = (p: ProjectRecord): Project => ({
  id: p.id,
  name: p.name,
  createdAt: p.createdAt.toISOString(),
});

export const listProjects = async ({ db }: Looking): Promise<Project[]> =>
  (await projectStore.listProjects(db)).map(viewProject);

export const getProject = async ({ db }: Looking, id: ProjectId): Promise<Project> =>
  viewProject(await projectStore.getProject(db, id));
