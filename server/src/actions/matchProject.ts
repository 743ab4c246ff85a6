import {
  match,
  prepareFiles,
  Reach,
  type MatchResult,
  type MediaFileId,
  type ProjectId,
  type Standing,
} from '@legame/core';
import type { Database, Transaction } from '../db/database.ts';
import { enqueue } from '../jobs/queue.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { acceptedAmong } from './acceptedFiles.ts';
import type { JobContext } from './context.ts';
import { tell } from './tell.ts';

/** More candidates than a person looks through say nothing more. */
const candidatesKept = 16;

/** The closest, and whatever the decision is about. */
function kept({ candidates, decision }: MatchResult): MatchResult['candidates'] {
  if (candidates.length <= candidatesKept) return candidates;
  const named =
    decision.kind === 'ask' ? decision.mediaFileIds : 'mediaFileId' in decision ? [decision.mediaFileId] : [];
  return candidates.filter((c, i) => i < candidatesKept || named.includes(c.file.id));
}

/** What is not kept was weighed, and is a rival all the same: a decision made anew on what is kept must know of it. */
function standingOf(result: MatchResult): Standing {
  const { namesakes, outOfTime, leftOut } = result.clip;
  const dropped = result.candidates.length - kept(result).length;
  return { namesakes, outOfTime: outOfTime + dropped, leftOut };
}

/** Works out candidates, decisions and reasons for all clips of a project, and keeps them as proposals. Nothing is linked by this. */
export async function matchProject(
  { db, report }: Pick<JobContext, 'db' | 'report'>,
  projectId: ProjectId,
): Promise<void> {
  const project = await projectStore.getProject(db, projectId);
  const [clips, files, places] = await Promise.all([
    clipStore.listClips(db, projectId),
    mediaFileStore.listPresent(db),
    placeStore.listPlaces(db),
  ]);
  await report({
    done: 0,
    of: clips.length,
    unit: 'clips',
    doing: `weighing ${files.length} files for ${clips.length} clips`,
  });
  const begun = performance.now();
  const results = match({
    clips: clips.map((clip) => ({ ...clip, linkedTo: clip.link?.mediaFileId ?? null })),
    files,
    places,
    rules: project.rules,
    preferredForm: project.preferredForm ?? undefined,
    accepted: await acceptedAmong(db, files, new Map(places.map((p) => [p.id, p]))),
  });
  await db.transaction(async (trx) => {
    await clipStore.saveProposals(
      trx,
      results.map((result) => ({
        clipId: result.clip.id,
        whereRemembered: result.whereRemembered,
        decision: result.decision,
        why: result.why,
        standing: standingOf(result),
        candidates: kept(result).map(({ file, marks, levels, form }) => ({
          mediaFileId: file.id,
          marks,
          levels,
          form: form ?? null,
        })),
      })),
    );
    await tell(trx, 'project', projectId);
  });
  const tookMs = performance.now() - begun;
  lastMatches.set(projectId, { reach: new Reach(results), tookMs, endedAt: performance.now() });
  await report({ done: clips.length, of: clips.length, unit: 'clips', doing: 'matched' });
}

/** What the last matching of each project reached, as this worker remembers it; one that does not matches anew. */
const lastMatches = new Map<ProjectId, { readonly reach: Reach; readonly tookMs: number; readonly endedAt: number }>();
/** Of a core that matching by itself may take, where files come in without end: one part in so many. */
const shareOfCore = 20;
const longestWaitMs = 60_000;

/** What came, changed or went on the storage. */
export type StorageChange = { readonly files: readonly MediaFileRecord[]; readonly gone: readonly MediaFileId[] };

/**
 * Matches the projects anew that a change of the storage can touch, and no others; and those not so often that files
 * coming in one by one would keep a core busy. What a person asks for is matched at once.
 */
export async function matchTouched(db: Database, { files, gone }: StorageChange): Promise<void> {
  const places = await placeStore.listPlaces(db);
  const prepared = prepareFiles(files, places);
  for (const project of await projectStore.listProjects(db)) {
    const last = lastMatches.get(project.id);
    if (last && !gone.some(last.reach.knows) && !prepared.some(last.reach.reaches)) continue;
    const rest = last ? last.endedAt + last.tookMs * (shareOfCore - 1) - performance.now() : 0;
    const afterMs = Math.max(0, Math.min(longestWaitMs, Math.ceil(rest)));
    await enqueue(db, 'match-project', project.id, `Match ${project.name}`, { afterMs });
  }
}

export async function startMatch(db: Database | Transaction, projectId: ProjectId, projectName: string) {
  return enqueue(db, 'match-project', projectId, `Match ${projectName}`);
}

/** Matches projects whose proposals are of another shape, after an update. */
export async function matchUnmatched(db: Database): Promise<void> {
  for (const project of await projectStore.listUnmatched(db)) await startMatch(db, project.id, project.name);
}

export async function matchAllProjects(db: Database | Transaction): Promise<void> {
  for (const project of await projectStore.listProjects(db)) await startMatch(db, project.id, project.name);
}
