import { setTimeout as after } from 'node:timers/promises';
import { basename, extname } from 'node:path';
import { bundleParts, unpackDocument } from '@legame/core/bundle';
import type { JobPayload, Project } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { Context, JobContext } from '../context.ts';
import { listDocumentsIn, withFileSource } from '../disk/documents.ts';
import { isInside } from '../disk/fence.ts';
import { withFolder, type Ground } from '../disk/held.ts';
import { bringInApart } from '../documents/apart.ts';
import { tell } from '../events/tell.ts';
import { linkCertain } from '../links/link.ts';
import { addPlace } from '../places/change.ts';
import { startIndexOf } from '../places/states.ts';
import { viewProject } from '../projects/views.ts';
import { enqueue } from '../queue/queue.ts';
import { UserProblem } from '../problems.ts';
import { problemOfFault } from '../reading/faults.ts';
import { jobStore } from '../stores/jobs.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { setCheckStore } from '../stores/setChecks.ts';

/** What of a set is its edit, the fullest form first: of one form all are brought in, and what says less is left. */
const forms: readonly ((name: string) => boolean)[] = [
  (name) => extname(name).toLowerCase() === '.otio',
  (name) => extname(name).toLowerCase() === '.edl',
];

/**
 * Opens a received set: its timelines as a project of their own, its folder as a place, and what its media are certain to
 * be linked by rule once they are read. Nothing of it is kept where a timeline cannot be read.
 */
export async function openSet(context: Context, id: string, name: string | undefined): Promise<Project> {
  const { db } = context;
  const check = await setCheckStore.get(db, id);
  const ground = { path: check.folder, is: check.ground };
  // Says what is wrong where it is not that folder any more.
  await withFolder(ground, () => Promise.resolve());
  const lying = (await listDocumentsIn(ground, ''))?.documents.filter((d) => !d.isBundleFolder) ?? [];
  const documents = forms.map((is) => lying.filter((d) => is(d.name))).find((found) => found.length > 0);
  if (!documents) throw new UserProblem({ code: 'set-has-no-timeline', folder: check.folder });
  const project = await projectStore.createProject(db, name ?? basename(check.folder));
  try {
    for (const document of documents) await bringIn(context, project.id, ground, document.name);
    const place = await placeOf(context, check.folder);
    await enqueue(db, 'open-set', { projectId: project.id, placeId: place.id }, project.name);
  } catch (error) {
    await projectStore.discard(db, project.id);
    throw error;
  } finally {
    await tell(db, 'project', project.id);
  }
  return viewProject(await projectStore.getProject(db, project.id));
}

async function bringIn(context: Context, projectId: ProjectId, ground: Ground, path: string): Promise<void> {
  const unpacked = await withFileSource(ground, path, (source) =>
    unpackDocument(source, context.config.documentLimitInBytes),
  );
  // A bundle calls its document by the same name everywhere; the folder tells sets apart.
  const name = path === bundleParts.content ? `${basename(ground.path)}.otio` : path;
  if (!unpacked.ok) throw problemOfFault(unpacked.fault, name);
  const { content: bytes } = unpacked;
  await bringInApart(context, projectId, {
    name,
    bytes,
    reading: {},
    folder: ground.path,
    mediaInside: [],
    beside: true,
  });
}

/** The place that a folder is or lies in, which is looked through anew; else it becomes one. */
async function placeOf(context: Context, folder: string): Promise<PlaceRecord> {
  const known = (await placeStore.listPlaces(context.db)).find((p) => p.there && isInside(p.path, folder));
  if (!known) return addPlace(context, { path: folder, knownAs: [] });
  await startIndexOf(context.db, known, folder.slice(known.path.length + 1));
  return known;
}

const lookEveryMs = 300;

/** Waits until the files of an opened set are read and its clips are matched, then links by rule what is certain. */
export async function linkOpened(job: JobContext, { projectId, placeId }: JobPayload<'open-set'>): Promise<void> {
  const { db, signal, report } = job;
  for (;;) {
    const what = (await jobStore.hasActive(db, 'index-place', { placeId }))
      ? 'index'
      : (await jobStore.hasActive(db, 'match-project', { projectId }))
        ? 'match'
        : null;
    if (what === null) break;
    await report({ done: 0, of: null, unit: 'files', doing: { code: 'waiting-for', what } });
    await after(lookEveryMs, undefined, { signal });
  }
  await linkCertain(job, projectId);
}
