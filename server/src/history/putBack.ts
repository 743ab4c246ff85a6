import { join } from 'node:path';
import type { PutBackAnswer } from '@legame/core/contract';
import type { ClipId, ProjectId } from '@legame/core/model';
import { notFound, UserProblem } from '../problems.ts';
import { copyWhole } from '../handoffs/copy.ts';
import { enqueue } from '../queue/queue.ts';
import { FencedFolder } from '../disk/writing.ts';
import { Ours } from '../made/ours.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { groundOf } from '../stores/places.ts';
import { loadProject } from '../clips/project.ts';
import type { Context, JobContext } from '../context.ts';
import { indexPlace } from '../places/indexPlace.ts';
import { linkClips } from '../links/link.ts';
import { putBackTarget } from '../clips/putBackTarget.ts';

/** Copies the files that clips are tied to, to where the edit expects them, one job each. Nothing is written over. */
export async function startPutBack(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  clipIds: readonly ClipId[],
): Promise<PutBackAnswer> {
  const project = await loadProject(db, projectId);
  const chosen = new Set(clipIds);
  const skipped: PutBackAnswer['skipped'][number][] = [];
  let started = 0;
  await db.transaction(async (trx) => {
    for (const state of project.states.filter((s) => chosen.has(s.clip.id))) {
      const target = putBackTarget(state, project);
      if ('code' in target) {
        skipped.push({ clipId: state.clip.id, why: target });
        continue;
      }
      await enqueue(
        trx,
        'put-back',
        { clipId: state.clip.id },
        [target.place.name, target.folder, target.name].filter(Boolean).join('/'),
        { on: target.place.id },
      );
      started += 1;
    }
  });
  if (started === 0) throw new UserProblem({ code: 'nothing-to-put-back', why: skipped[0]?.why ?? null });
  return { started, skipped };
}

/** Carries one out: copies, proves the copy, indexes it and ties the clip to it. */
export async function putBack(job: JobContext, clipId: ClipId): Promise<void> {
  const { db, signal } = job;
  const clip = await clipStore.getClip(db, clipId);
  const project = await loadProject(db, clip.projectId);
  const state = project.states.find((s) => s.clip.id === clip.id);
  const target = state ? putBackTarget(state, project) : ({ code: 'clip-gone' } as const);
  if ('code' in target) throw new UserProblem({ code: 'nothing-to-put-back', why: target });
  if (!state?.tied) throw notFound('file');
  const { file, place } = state.tied;
  const ours = await Ours.in(
    db,
    `put-back:${clipId}:${target.place.id}`,
    await FencedFolder.of(groundOf(target.place)),
  );
  const path = join(target.folder, target.name);
  await ours.note([path]);
  const there = await ours.stateOf(path, signal);
  if (there === 'another')
    throw new UserProblem({
      code: 'nothing-to-put-back',
      why: { code: 'taken', name: target.name, folder: [target.place.name, target.folder].filter(Boolean).join('/') },
    });
  if (there === 'absent') await copyWhole(job, file, place, path, ours);
  await indexPlace(job, { placeId: target.place.id, folder: target.folder });
  const record = (await mediaFileStore.listInFolder(db, target.place.id, target.folder)).find(
    (f) => f.name === target.name,
  );
  if (!record) throw new UserProblem({ code: 'put-back-not-indexed', file: target.name, place: target.place.name });
  await linkClips({ db }, clip.projectId, { by: 'hand', verb: 'put-back' }, [
    { clipId: clip.id, mediaFileId: record.id },
  ]);
}
