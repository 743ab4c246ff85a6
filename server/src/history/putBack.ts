import { join } from 'node:path';
import type { Act } from '@legame/core/contract';
import type { ClipId, ProjectId } from '@legame/core/model';
import { foldersInPlace, parseRememberedPath, pathKeys, placeNames, type RememberedPath } from '@legame/core/paths';
import { notFound, UserProblem } from '../problems.ts';
import { copyVerified } from '../handoffs/copy.ts';
import { enqueue } from '../queue/queue.ts';
import { FencedFolder } from '../disk/writing.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import type { PlaceRecord } from '../stores/places.ts';
import { loadProject, type ClipState, type ProjectState } from '../clips/state.ts';
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
): Promise<{ started: number; skipped: Act['skipped'] }> {
  const project = await loadProject(db, projectId);
  const chosen = new Set(clipIds);
  const skipped: Act['skipped'][number][] = [];
  let started = 0;
  await db.transaction(async (trx) => {
    for (const state of project.states.filter((s) => chosen.has(s.clip.id))) {
      const target = targetOf(state, project);
      if (typeof target === 'string') {
        skipped.push({ clipId: state.clip.id, why: target });
        continue;
      }
      await enqueue(trx, 'put-back', state.clip.id, `Put back ${target.name} in ${target.place.name}/${target.folder}`);
      started += 1;
    }
  });
  if (started === 0)
    throw new UserProblem(
      'nothing-to-put-back',
      409,
      `Nothing can be put back: ${skipped[0]?.why ?? 'no clip was chosen'}.`,
    );
  return { started, skipped };
}

/** The target, or why there is none. */
function targetOf({ clip, tied, status }: ClipState, { places }: ProjectState): Target | string {
  if (!tied) return `"${clip.name}" is tied to no file yet; link it first`;
  if (tied.by === 'remembered') return `"${clip.name}" lies where the edit expects it`;
  if (!tied.place.there || tied.file.gone || status.status === 'unreadable')
    return `the file of "${clip.name}" cannot be read now`;
  if (tied.file.sequence) return `"${tied.file.name}" is an image sequence; only single files are put back`;
  if (!clip.remembered) return `the edit remembers no path for "${clip.name}"`;
  const path = parseRememberedPath(clip.remembered);
  const homes = [...places.values()].flatMap((place) => {
    const folders = path.form === 'relative' ? null : foldersInPlace(pathKeys(path), placeNames(place));
    return folders ? [{ place, depth: folders.length }] : [];
  });
  const [home] = homes;
  if (!home || homes.length > 1)
    return `"${clip.remembered}" lies in no place that is known here; add the place, or say which it is`;
  if (!home.place.there) return `${home.place.name} is not plugged in`;
  if (home.place.readOnly) return `${home.place.name} cannot be written to`;
  return { place: home.place, folder: lastFolders(path, home.depth), name: path.name };
}

/** The folders below the place, as the edit spells them. */
function lastFolders(path: RememberedPath, depth: number): string {
  const all = path.fromRoot ?? path.folders;
  return all.slice(all.length - depth).join('/');
}

/** Carries one out: copies, proves the copy, indexes it and ties the clip to it. The subject is the clip. */
export async function putBack(job: JobContext, subject: string): Promise<void> {
  const { db, signal, report } = job;
  const clip = await clipStore.getClip(db, subject as ClipId);
  const project = await loadProject(db, clip.projectId);
  const state = project.states.find((s) => s.clip.id === clip.id);
  const target = state ? targetOf(state, project) : 'the clip is not there any more';
  if (typeof target === 'string') throw new UserProblem('nothing-to-put-back', 409, `Nothing was put back: ${target}.`);
  if (!state?.tied) throw notFound('file');
  const { file, place } = state.tied;
  const into = await FencedFolder.own(target.place.path);
  const path = join(target.folder, target.name);
  if (await into.has(path))
    throw new UserProblem(
      'target-exists',
      409,
      `"${target.name}" lies in ${target.place.name}/${target.folder} already, and nothing is ever written over.`,
    );
  let done = 0;
  await copyVerified(join(place.path, file.folder, file.name), into, path, {
    signal,
    onBytes: (bytes) => {
      done += bytes;
      void report({ done, of: file.sizeInBytes, unit: 'bytes', doing: `copying ${file.name}` });
    },
  });
  await indexPlace(job, target.folder === '' ? target.place.id : `${target.place.id} ${target.folder}`);
  const record = (await mediaFileStore.listInFolder(db, target.place.id, target.folder)).find(
    (f) => f.name === target.name,
  );
  if (!record)
    throw new UserProblem(
      'nothing-to-put-back',
      422,
      `"${target.name}" was copied, but could not be indexed. Index ${target.place.name}; the clip finds it then by itself.`,
    );
  await linkClips({ db }, clip.projectId, { by: 'hand', verb: 'put-back' }, [
    { clipId: clip.id, mediaFileId: record.id },
  ]);
}
