import { join } from 'node:path';
import type { NotPutBack, PutBackAnswer } from '@legame/core/contract';
import type { ClipId, ProjectId } from '@legame/core/model';
import { foldersInPlace, parseRememberedPath, pathKeys, placeNames, type RememberedPath } from '@legame/core/paths';
import { notFound, UserProblem } from '../problems.ts';
import { copyVerified } from '../handoffs/copy.ts';
import { enqueue } from '../queue/queue.ts';
import { FencedFolder } from '../disk/writing.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import type { PlaceRecord } from '../stores/places.ts';
import { loadProject } from '../clips/project.ts';
import { type ClipState, type ProjectState } from '../clips/state.ts';
import type { Context, JobContext } from '../context.ts';
import { indexPlace } from '../places/indexPlace.ts';
import { linkClips } from '../links/link.ts';

/** Where a clip's file has to lie for the edit to find it by itself: a folder of one place that is there, and a name. */
type Target = { readonly place: PlaceRecord; readonly folder: string; readonly name: string };

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
      const target = targetOf(state, project);
      if ('code' in target) {
        skipped.push({ clipId: state.clip.id, why: target });
        continue;
      }
      await enqueue(
        trx,
        'put-back',
        { clipId: state.clip.id },
        [target.place.name, target.folder, target.name].filter(Boolean).join('/'),
      );
      started += 1;
    }
  });
  if (started === 0) throw new UserProblem({ code: 'nothing-to-put-back', why: skipped[0]?.why ?? null });
  return { started, skipped };
}

/** The target, or why there is none. */
function targetOf({ clip, tied, status }: ClipState, { places }: ProjectState): Target | NotPutBack {
  if (!tied) return { code: 'not-tied', clip: clip.name };
  if (tied.by === 'remembered') return { code: 'lies-there', clip: clip.name };
  if (!tied.place.there || tied.file.gone || status.status === 'unreadable')
    return { code: 'unreadable', clip: clip.name };
  if (tied.file.sequence) return { code: 'sequence', file: tied.file.name };
  if (!clip.remembered) return { code: 'no-path', clip: clip.name };
  const path = parseRememberedPath(clip.remembered);
  const homes = [...places.values()].flatMap((place) => {
    const folders = path.form === 'relative' ? null : foldersInPlace(pathKeys(path), placeNames(place));
    return folders ? [{ place, depth: folders.length }] : [];
  });
  const [home] = homes;
  if (!home || homes.length > 1) return { code: 'no-place', path: clip.remembered };
  if (!home.place.there) return { code: 'place-away', place: home.place.name };
  if (home.place.readOnly) return { code: 'place-read-only', place: home.place.name };
  return { place: home.place, folder: lastFolders(path, home.depth), name: path.name };
}

/** The folders below the place, as the edit spells them. */
function lastFolders(path: RememberedPath, depth: number): string {
  const all = path.fromRoot ?? path.folders;
  return all.slice(all.length - depth).join('/');
}

/** Carries one out: copies, proves the copy, indexes it and ties the clip to it. */
export async function putBack(job: JobContext, clipId: ClipId): Promise<void> {
  const { db, signal, report } = job;
  const clip = await clipStore.getClip(db, clipId);
  const project = await loadProject(db, clip.projectId);
  const state = project.states.find((s) => s.clip.id === clip.id);
  const target = state ? targetOf(state, project) : ({ code: 'clip-gone' } as const);
  if ('code' in target) throw new UserProblem({ code: 'nothing-to-put-back', why: target });
  if (!state?.tied) throw notFound('file');
  const { file, place } = state.tied;
  const into = await FencedFolder.own(target.place.path);
  const path = join(target.folder, target.name);
  if (await into.has(path))
    throw new UserProblem({
      code: 'nothing-to-put-back',
      why: { code: 'taken', name: target.name, folder: [target.place.name, target.folder].filter(Boolean).join('/') },
    });
  let done = 0;
  await copyVerified(join(place.path, file.folder, file.name), into, path, {
    signal,
    onBytes: (bytes) => {
      done += bytes;
      void report({ done, of: file.sizeInBytes, unit: 'bytes', doing: { code: 'copying', file: file.name } });
    },
  });
  await indexPlace(job, { placeId: target.place.id, folder: target.folder });
  const record = (await mediaFileStore.listInFolder(db, target.place.id, target.folder)).find(
    (f) => f.name === target.name,
  );
  if (!record) throw new UserProblem({ code: 'put-back-not-indexed', file: target.name, place: target.place.name });
  await linkClips({ db }, clip.projectId, { by: 'hand', verb: 'put-back' }, [
    { clipId: clip.id, mediaFileId: record.id },
  ]);
}
