import type { z } from 'zod';
import type { Job, newTrialSchema, Reach, TrialView } from '@legame/core/contract';
import { inOrderOfSuspicion, usesOf, type ClipId, type MediaFileId, type ProjectId } from '@legame/core';
import { enqueue } from '../queue/queue.ts';
import { isThere } from '../places/presence.ts';
import { UserProblem } from '../problems.ts';
import { tryReading } from '../reading/trial.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { trialStore, type TrialFile, type TrialScope } from '../stores/trials.ts';
import { loadProject, type ProjectState } from './clipViews.ts';
import type { Context, JobContext } from './context.ts';
import { matchAllProjects } from './matchProject.ts';
import { tell } from '../events/tell.ts';

const mostWaysTold = 8;

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
  if (wanted.size === 0)
    throw new UserProblem(
      'nothing-to-try',
      409,
      scope === 'chosen'
        ? 'None of these clips has a file to try. Link them first.'
        : 'Nothing that the timelines use has a file to try. Link clips first.',
    );
  const files = inOrder([...wanted.values()], scope);
  return db.transaction(async (trx) => {
    const { id } = await trialStore.insert(trx, { projectId, scope }, files);
    const job = await enqueue(
      trx,
      'trial-read',
      id,
      scope === 'culprit' ? 'Find the culprit' : `Trial read of ${files.length}`,
    );
    await trialStore.setJob(trx, id, job.id);
    const trial = await viewTrial(trx, await trialStore.get(trx, id));
    return { trial, job };
  });
}

type Wanted = { readonly file: MediaFileRecord; readonly reachedBy: readonly Reach[] };
type ToTry = Pick<TrialFile, 'mediaFileId' | 'suspicion' | 'reachedBy'>;

function inOrder(wanted: readonly Wanted[], scope: TrialScope): ToTry[] {
  const entry = ({ file, reachedBy }: Wanted, suspicion: TrialFile['suspicion']): ToTry => ({
    mediaFileId: file.id,
    suspicion,
    reachedBy: reachedBy.slice(0, mostWaysTold),
  });
  if (scope !== 'culprit') return wanted.map((w) => entry(w, scope));
  const suspects = wanted.map((w) => ({
    ...w,
    modifiedMs: w.file.modifiedMs,
    sizeInBytes: w.file.sizeInBytes,
    failedBefore: w.file.unreadable !== null || w.file.trial?.state === 'fails',
  }));
  return inOrderOfSuspicion(suspects).map(({ file, suspicion }) => entry(file, suspicion));
}

/** Every way by which the timelines reach each clip, nests included. */
function reachesOf({ documents, states }: ProjectState): Map<ClipId, Reach[]> {
  const reaches = new Map<ClipId, Reach[]>();
  for (const document of documents) {
    const clips = states.map((s) => s.clip).filter((c) => c.documentId === document.id);
    const byKey = new Map(clips.map((c) => [c.key, c]));
    const timelines = new Map(document.timelines.map((t) => [t.key, t]));
    for (const { clipKey, steps, record } of usesOf({ timelines: document.timelines, clips })) {
      const clip = byKey.get(clipKey);
      if (!clip) continue;
      const top = timelines.get(steps[0]!.timelineKey)!;
      const reach: Reach = {
        clipId: clip.id,
        clipName: clip.name,
        steps: steps.map(({ timelineKey, event }) => ({
          timeline: timelines.get(timelineKey)!.name,
          track: event.track,
          event: event.number,
        })),
        record,
        rate: top.rate,
        counting: top.counting,
      };
      const known = reaches.get(clip.id);
      if (known) known.push(reach);
      else reaches.set(clip.id, [reach]);
    }
  }
  return reaches;
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
    await report({ done, of: all.length, unit: 'files', doing: `decoding ${file.name}` });
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
      const result = await tryReading(place.path, file, file.facts, signal);
      if (result.state === 'aborted') {
        opened.close('stopped');
        throw new DOMException('Aborted', 'AbortError');
      }
      const at = new Date().toISOString();
      await mediaFileStore.saveTrial(db, file.id, { ...result, at });
      const isWhole = result.state === 'whole';
      opened.close(isWhole ? 'ok' : 'unreadable', isWhole ? null : result.reason);
      await save(
        result.state,
        isWhole ? { frames: result.frames, reason: null } : { frames: null, reason: result.reason },
      );
      if (!isWhole) await tell(db, 'project', projectId);
    }
    done += 1;
    await tell(db, 'jobs', null);
  }
  await report({ done, of: all.length, unit: 'files', doing: 'tried' });
  await matchAllProjects(db);
  await tell(db, 'project', projectId);
}

export async function listTrials({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<TrialView[]> {
  const trials = await trialStore.list(db, projectId);
  return Promise.all(trials.map((trial) => viewTrial(db, trial)));
}

async function viewTrial(
  db: Parameters<typeof trialStore.get>[0],
  trial: Awaited<ReturnType<typeof trialStore.get>>,
): Promise<TrialView> {
  const entries = await trialStore.listFiles(db, trial.id);
  const files = new Map(
    (
      await mediaFileStore.listByIds(
        db,
        entries.map((e) => e.mediaFileId),
      )
    ).map((f) => [f.id, f]),
  );
  const places = new Map((await placeStore.listPlaces(db)).map((p) => [p.id, p.name]));
  return {
    id: trial.id,
    scope: trial.scope,
    createdAt: trial.createdAt.toISOString(),
    jobId: trial.jobId,
    files: entries.map((entry) => {
      const file = files.get(entry.mediaFileId);
      return {
        mediaFileId: entry.mediaFileId,
        name: file?.name ?? '',
        where: file ? [places.get(file.placeId), file.folder].filter(Boolean).join('/') : '',
        suspicion: entry.suspicion,
        reachedBy: [...entry.reachedBy],
        state: entry.state,
        frames: entry.frames,
        reason: entry.reason,
      };
    }),
  };
}
