import type { Detail } from '@legame/core/model';
import { basename, join, relative } from 'node:path';
import type { z } from 'zod';
import type { acceptedCopySchema, Job } from '@legame/core/contract';
import { codedAs, codedBytes, roomAfter, type Coded, type Coding } from '@legame/core/consolidate';
import { acceptsAll, type Facts, type ProjectId } from '@legame/core/model';
import { safeName, splitExtension } from '@legame/core/paths';
import type { Database } from '../db/database.ts';
import { asIndexed, copyVerified } from '../handoffs/copy.ts';
import { enqueue } from '../queue/queue.ts';
import { folderInsideRoots, isInside } from '../disk/fence.ts';
import { roomOf } from '../disk/room.ts';
import { FencedFolder, requireWritable } from '../disk/writing.ts';
import { Ours } from '../made/ours.ts';
import { UserProblem } from '../problems.ts';
import { pathInPlace } from '../media/read.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { acceptedCopyStore } from '../stores/acceptedCopies.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { groundOf, placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { loadProject } from '../clips/project.ts';
import type { Context, JobContext } from '../context.ts';
import { indexPlace } from '../places/indexPlace.ts';
import { linkClips } from '../links/link.ts';
import { settingsStore } from '../stores/settings.ts';

/**
 * Begins to make a copy of a film in a form that the project accepts, in a folder of a place: same name, same frames,
 * same timecode and reel. When it is proven, it is linked in the original's stead; the original stays as it is.
 */
export async function startAcceptedCopy(
  { db, config }: Context,
  projectId: ProjectId,
  request: z.infer<typeof acceptedCopySchema>,
): Promise<Job> {
  const file = await mediaFileStore.getMediaFile(db, request.mediaFileId);
  if (file.facts?.kind !== 'picture' || !file.facts.rate || file.facts.length === null || file.sequence)
    throw new UserProblem({ code: 'not-a-film', file: file.name, mediaFileId: file.id });
  const folder = await folderInsideRoots(request.targetFolder, config.roots);
  await placeOf(await placeStore.listPlaces(db), folder);
  await requireWritable({ path: folder });
  const coded = await codedFor(db, projectId, file, request.codec);
  await requireRoom(db, folder, file.facts, coded);
  return db.transaction(async (trx) => {
    const id = await acceptedCopyStore.insert(trx, { projectId, mediaFileId: file.id, folder, codec: request.codec });
    return enqueue(trx, 'accepted-copy', { copyId: id }, file.name, { on: file.placeId });
  });
}

/** What the copy will be, as the project accepts it. */
async function codedFor(
  db: Database,
  projectId: ProjectId,
  { facts, name }: MediaFileRecord,
  codec: Coding,
): Promise<Coded> {
  const coded = codedAs(facts!, codec, (await projectStore.getProject(db, projectId)).acceptance ?? acceptsAll);
  if (!('because' in coded)) return coded;
  switch (coded.because) {
    case 'coded-is-refused':
      throw new UserProblem({ code: 'copy-not-accepted', refusal: coded.refusal });
    case 'odd-raster':
      throw new UserProblem({ code: 'copy-not-made', file: name, detail: { code: 'odd-sides' } });
    case 'small-raster':
      throw new UserProblem({ code: 'copy-not-made', file: name, detail: { code: 'picture-too-small' } });
  }
}

/** Says before anything begins that the copy would not fit beside the headroom. */
async function requireRoom(db: Database, folder: string, facts: Facts, coded: Coded): Promise<void> {
  const room = await roomOf(folder);
  if (!room) return;
  const needed = codedBytes(facts, coded, facts.length ?? 0);
  const { fits, usableInBytes } = roomAfter(needed, { ...room, headroomShare: await settingsStore.headroomShare(db) });
  if (fits) return;
  throw new UserProblem({ code: 'no-room', for: 'copy', folder, neededInBytes: needed, usableInBytes });
}

async function placeOf(places: readonly PlaceRecord[], folder: string): Promise<PlaceRecord> {
  const place = places.find((p) => p.there && isInside(p.path, folder));
  if (place) return Promise.resolve(place);
  throw new UserProblem({ code: 'copy-in-no-place', folder });
}

/** Carries it out: written aside, measured, held against the original, named, indexed, linked. */
export async function makeAcceptedCopy(job: JobContext, id: string): Promise<void> {
  const { db, signal, report, readLog } = job;
  const copy = await acceptedCopyStore.get(db, id);
  const file = await mediaFileStore.getMediaFile(db, copy.mediaFileId);
  const from = await placeStore.getPlace(db, file.placeId);
  const { facts } = file;
  if (!from.there || !facts)
    throw new UserProblem({ code: 'file-away', file: file.name, place: from.name, for: 'copy' });
  const to = await placeOf(await placeStore.listPlaces(db), copy.folder);
  const target = await FencedFolder.of({ path: copy.folder });
  if (copy.madePath === null) {
    const coded = await codedFor(db, copy.projectId, file, copy.codec);
    const ours = await Ours.in(db, `copy:${id}`, target);
    const name = await freeName(target, splitExtension(file.name).stem, coded.extension);
    await ours.note([name]);
    const path = pathInPlace(file);
    const opened = readLog.open({ what: 'copy', placeId: from.id, mediaFileId: file.id, path: `${from.name}/${path}` });
    const range = { start: 0, end: facts.length! };
    const of = codedBytes(facts, coded, range.end);
    let done = 0;
    const onBytes = (bytes: number) => {
      done = Math.min(of, done + bytes);
      void report({ done, of, unit: 'bytes', doing: { code: 'making-copy', file: file.name, codec: copy.codec } });
    };
    onBytes(0);
    const copier = new ReaderProcess();
    try {
      const startsAt = facts.timecodeSource === 'none' ? null : facts.start;
      const source = { ...groundOf(from), file: path };
      const toMake = { source, expected: asIndexed(file), trim: { range, startsAt, facts, coded }, target: name };
      await copyVerified(copier, toMake, [ours], { signal, onBytes });
      opened.close('ok');
    } catch (error) {
      const detail = detailOf(error);
      opened.close('failed', detail === null ? null : { detail });
      throw detail === null ? error : new UserProblem({ code: 'copy-not-made', file: file.name, detail });
    } finally {
      copier.stop();
    }
    await acceptedCopyStore.setMade(db, id, join(copy.folder, name));
  }
  const made = (await acceptedCopyStore.get(db, id)).madePath!;
  const folder = relative(to.path, copy.folder).split('\\').join('/');
  await indexPlace(job, { placeId: to.id, folder });
  const record = (await mediaFileStore.listInFolder(db, to.id, folder)).find((f) => f.name === basename(made));
  if (!record?.facts) throw new UserProblem({ code: 'copy-not-indexed', path: made, place: to.name });
  const { states } = await loadProject(db, copy.projectId);
  const links = states
    .filter((s) => s.tied?.file.id === file.id)
    .map((s) => ({ clipId: s.clip.id, mediaFileId: record.id }));
  if (links.length > 0) await linkClips({ db }, copy.projectId, { by: 'hand' }, links);
}

/** What the decoder or encoder complained about; null where something else went wrong. */
const detailOf = (error: unknown): Detail | null =>
  error instanceof UserProblem && error.problem.code === 'trim-not-proven' ? error.problem.detail : null;

async function freeName(folder: FencedFolder, stem: string, extension: string): Promise<string> {
  let name = safeName(`${stem}.${extension}`);
  for (let n = 2; await folder.has(name); n += 1) name = safeName(`${stem} (${n}).${extension}`);
  return name;
}
