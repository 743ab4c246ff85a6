import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import type { Job, newTrialSchema, Reach, TrialView } from '@legame/core/contract';
import type { z } from 'zod';
import { loadProject } from '../clips/project.ts';
import type { Context, JobContext } from '../context.ts';
import { isThere } from '../disk/presence.ts';
import { tell } from '../events/tell.ts';
import { matchAllProjects } from '../matching/matchProject.ts';
import { tryReading } from '../media/trial.ts';
import { UserProblem } from '../problems.ts';
import { enqueue } from '../queue/queue.ts';
import { inOrder, reachesOf } from './trialOrder.ts';
import { viewTrial } from './trialViews.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { groundOf, placeStore } from '../stores/places.ts';
import { type TrialFile, trialStore } from '../stores/trials.ts';

/**
 * Begins to decode files from end to end: those of chosen clips, of all clips in use, or, to find the culprit that makes
 * an edit fail, all in use in the order of suspicion.
 */
export async function startTrial(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  { scope, clipIds }: z.infer<typeof newTrialSchema>,
): Promise<{ trial: TrialView; job: Job }> {
  const project = await loadProject(db, projectId);
  const reaches = reachesOf(project);
  const chosen = new Set<ClipId>(clipIds);
  const wanted = new Map<MediaFileId, { file: MediaFileRecord; reachedBy: Reach[] }>();
  for (const { clip, tied } of project.states) {
    const ways = reaches.get(clip.id) ?? [];
    if (!tied || !(scope === 'chosen' ? chosen.has(clip.id) : ways.length > 0)) continue;
    const known = wanted.get(tied.file.id) ?? { file: tied.file, reachedBy: [] };
    known.reachedBy.push(...ways);
    wanted.set(tied.file.id, known);
  }
  if (wanted.size === 0) throw new UserProblem({ code: 'nothing-to-try', scope });
  const files = inOrder([...wanted.values()], scope);
  return db.transaction(async (trx) => {
    const { id } = await trialStore.insert(trx, { projectId, scope }, files);
    const job = await enqueue(trx, 'trial-read', { trialId: id, scope }, `${files.length}`);
    await trialStore.setJob(trx, id, job.id);
    const trial = await viewTrial(trx, await trialStore.get(trx, id));
    return { trial, job };
  });
}

/** Carries a trial read on from where it is. What fails is unreadable from then on, with the frame. */
export async function runTrial({ db, signal, report, readLog }: JobContext, id: string): Promise<void> {
  const all = await trialStore.listFiles(db, id);
  const { projectId } = await trialStore.get(db, id);
  const places = new Map((await placeStore.listPlaces(db)).map((p) => [p.id, p]));
  let done = all.filter((f) => f.state !== 'waiting').length;
  for (const entry of all) {
    if (entry.state !== 'waiting') continue;
    signal.throwIfAborted();
    const file = await mediaFileStore.getMediaFile(db, entry.mediaFileId);
    const place = places.get(file.placeId);
    await report({ done, of: all.length, unit: 'files', doing: { code: 'decoding', file: file.name } });
    const save = (state: TrialFile['state'], result: { frames: number | null; reason: TrialFile['reason'] }) =>
      trialStore.saveResult(db, id, entry.position, state, result);
    // A drive that stalls is no fault of the file's; the others are tried all the same.
    if (!place?.there || file.gone || !(await isThere(place.path)))
      await save('skipped', { frames: null, reason: null });
    // What could not even be measured, or hung a decoder before, is a culprit without being opened again.
    else if (!file.facts || file.quarantined)
      await save(file.unreadable ? 'fails' : 'skipped', { frames: null, reason: file.unreadable });
    else {
      const path = [place.name, file.folder, file.name].filter(Boolean).join('/');
      const opened = readLog.open({ what: 'trial', placeId: place.id, mediaFileId: file.id, path });
      const result = await tryReading(groundOf(place), file, file.facts, signal);
      if (result.state === 'aborted') {
        opened.close('stopped');
        throw new DOMException('Aborted', 'AbortError');
      }
      const at = new Date().toISOString();
      await mediaFileStore.saveTrial(db, file.id, { ...result, at });
      const isWhole = result.state === 'whole';
      opened.close(isWhole ? 'ok' : 'unreadable', isWhole ? null : { reason: result.reason });
      await save(
        result.state,
        isWhole ? { frames: result.frames, reason: null } : { frames: null, reason: result.reason },
      );
      if (!isWhole) await tell(db, 'project', projectId);
    }
    done += 1;
    await tell(db, 'jobs', null);
  }
  await report({ done, of: all.length, unit: 'files', doing: { code: 'tried' } });
  await matchAllProjects(db);
  await tell(db, 'project', projectId);
}
