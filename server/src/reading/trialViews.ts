import type { Looking } from '../context.ts';
import type { ProjectId } from '@legame/core/model';
import type { TrialView } from '@legame/core/contract';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { trialStore } from '../stores/trials.ts';

export async function listTrials({ db }: Looking, projectId: ProjectId): Promise<TrialView[]> {
  const trials = await trialStore.list(db, projectId);
  return Promise.all(trials.map((trial) => viewTrial(db, trial)));
}

export async function viewTrial(
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
        reachedBy: entry.reachedBy,
        state: entry.state,
        frames: entry.frames,
        reason: entry.reason,
      };
    }),
  };
}
