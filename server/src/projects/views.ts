import type { Looking } from '../context.ts';
import type { ProjectId } from '@legame/core/model';
import { isDark, statusNames } from '@legame/core/state';
import type { DeletedProject, Project, ProjectStanding, ProjectSummary } from '@legame/core/contract';
import { viewDarkness } from '../clips/cutViews.ts';
import { renewRows } from '../clips/renewal.ts';
import { lookAtHealth } from '../health/look.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import { documentStore } from '../stores/documents.ts';
import { findingKey, healthStore } from '../stores/health.ts';
import { type JournalEntry, journalStore } from '../stores/journal.ts';
import { keptForMs, type ProjectRecord, projectStore } from '../stores/projects.ts';

const actInShort = ({ id, verb, clips, madeAt }: JournalEntry) => ({
  id,
  verb,
  count: clips,
  madeAt: madeAt.toISOString(),
});

export async function summarize({ db }: Looking, projectId: ProjectId): Promise<ProjectSummary> {
  const record = await projectStore.getProject(db, projectId);
  await renewRows(db, projectId, { onlyLooks: true });
  const [counted, documents, darkness, last, redoable] = await Promise.all([
    clipRowStore.countStatuses(db, projectId),
    documentStore.listDocuments(db, projectId),
    viewDarkness({ db }, projectId),
    journalStore.findLast(db, projectId),
    journalStore.findRedoable(db, projectId),
  ]);
  const statuses = Object.fromEntries(statusNames.map((name) => [name, 0])) as ProjectSummary['statuses'];
  for (const { status, count } of counted) statuses[status] += count;
  const sum = (counts: readonly number[]) => counts.reduce((all, n) => all + n, 0);
  const seconds = (frames: number, rate: { num: number; den: number }) => (frames * rate.den) / rate.num;
  const top = documents.flatMap((d) => d.timelines.filter((t) => t.top).map((t) => ({ ...t, documentId: d.id })));
  const darkIn = new Map(darkness.map((d) => [`${d.documentId}/${d.key}`, d.darkInFrames]));
  return {
    id: record.id,
    name: record.name,
    createdAt: record.createdAt.toISOString(),
    rules: record.rules,
    clips: sum(counted.map((c) => c.count)),
    toDo: sum(counted.filter((c) => isDark(c.status)).map((c) => c.count)),
    certain: sum(counted.map((c) => c.certain)),
    statuses,
    darkSeconds: sum(top.map((t) => seconds(darkIn.get(`${t.documentId}/${t.key}`) ?? 0, t.rate))),
    cutSeconds: sum(top.map((t) => seconds(t.length, t.rate))),
    lastAct: last && actInShort(last),
    redoable: redoable && actInShort(redoable),
  };
}

/** What checks of health find of a project, and what it has in common with others. */
export async function viewStanding({ db }: Looking, projectId: ProjectId): Promise<ProjectStanding> {
  const [looked, accepted] = await Promise.all([
    lookAtHealth({ db }, projectId),
    healthStore.listAccepted(db, projectId),
  ]);
  const open = looked.findings.filter((f) => !accepted.has(findingKey(f)));
  // Health has brought the rows of every project up to date.
  return { openChecks: new Set(open.map((f) => f.check)).size, shares: await clipRowStore.listShares(db, projectId) };
}

export const viewProject = (p: ProjectRecord): Project => ({
  id: p.id,
  name: p.name,
  createdAt: p.createdAt.toISOString(),
});

export const listProjects = async ({ db }: Looking): Promise<Project[]> =>
  (await projectStore.listProjects(db)).map(viewProject);

/** Deleted projects that can still be brought back. */
export const listDeleted = async ({ db }: Looking): Promise<DeletedProject[]> =>
  (await projectStore.listDeleted(db)).map((p) => ({
    ...viewProject(p),
    deletedAt: p.deletedAt!.toISOString(),
    keptUntil: new Date(p.deletedAt!.getTime() + keptForMs).toISOString(),
  }));

/** Whether nobody is to see this project: it was deleted. */
export const isDeleted = ({ db }: Looking, id: ProjectId): Promise<boolean> => projectStore.isDeleted(db, id);

export const getProject = async ({ db }: Looking, id: ProjectId): Promise<Project> =>
  viewProject(await projectStore.getProject(db, id));
