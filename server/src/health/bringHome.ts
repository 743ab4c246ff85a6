import { randomUUID } from 'node:crypto';
import { posix } from 'node:path';
import { roomAfter } from '@legame/core/consolidate';
import type { BringingHome, Job, JobPayload, NotBroughtHome, Problem, homeChecks } from '@legame/core/contract';
import { isAtHome, waysHome, type Home } from '@legame/core/health';
import type { MediaFileId, ProjectId } from '@legame/core/model';
import { loadProject } from '../clips/project.ts';
import type { Context, JobContext } from '../context.ts';
import type { Database } from '../db/database.ts';
import { roomOf } from '../disk/room.ts';
import { FencedFolder } from '../disk/writing.ts';
import { viewFolders } from '../folders/views.ts';
import { copyWhole } from '../handoffs/copy.ts';
import { linkClips } from '../links/link.ts';
import { Ours } from '../made/ours.ts';
import { indexPlace } from '../places/indexPlace.ts';
import { UserProblem } from '../problems.ts';
import { enqueue } from '../queue/queue.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { groundOf, type PlaceRecord, placeStore } from '../stores/places.ts';
import { lookAtOpen } from './look.ts';
import { settingsStore } from '../stores/settings.ts';

type HomeCheck = (typeof homeChecks)[number];
type Planned = {
  readonly home: Home;
  readonly place: PlaceRecord;
  readonly files: readonly { readonly file: MediaFileRecord; readonly path: string; readonly target: string }[];
  readonly left: BringingHome['left'];
};

/** What bringing home would do about what a check found and nobody accepted. Nothing is written. */
export async function previewBringingHome(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  check: HomeCheck,
): Promise<BringingHome> {
  const { home, place, files, left } = await planFor(db, projectId, check);
  return {
    home: [place.name, home.folder].filter(Boolean).join('/'),
    files: files.map(({ file, path, target }) => ({
      path,
      target: `${place.name}/${target}`,
      sizeInBytes: file.sizeInBytes,
    })),
    left,
    ...(await roomFor(db, { place, files })),
  };
}

/** What is to be copied, and what may be written there with headroom kept; null where that is not known. */
async function roomFor(db: Database, { place, files }: Pick<Planned, 'place' | 'files'>) {
  const headroomShare = await settingsStore.headroomShare(db);
  const sizeInBytes = files.reduce((sum, { file }) => sum + file.sizeInBytes, 0);
  const room = await roomOf(place.path);
  const usableInBytes = room && roomAfter(sizeInBytes, { ...room, headroomShare }).usableInBytes;
  return { sizeInBytes, usableInBytes };
}

/** Begins to copy them home, as one job: proven copies, then one act that moves the links to them. */
export async function startBringingHome(
  context: Pick<Context, 'db'>,
  projectId: ProjectId,
  check: HomeCheck,
): Promise<Job> {
  const { place, files, left } = await planFor(context.db, projectId, check);
  if (files.length === 0) throw new UserProblem({ code: 'nothing-to-bring-home', why: left[0]?.why ?? null });
  if (!place.there) throw new UserProblem({ code: 'place-away', place: place.name, path: place.path, for: 'use' });
  if (place.readOnly) throw new UserProblem({ code: 'home-read-only', place: place.name });
  const { sizeInBytes: wantedInBytes, usableInBytes } = await roomFor(context.db, { place, files });
  if (usableInBytes !== null && wantedInBytes > usableInBytes)
    throw new UserProblem({ code: 'no-room-at-home', place: place.name, wantedInBytes, usableInBytes });
  return enqueue(
    context.db,
    'bring-home',
    {
      id: randomUUID(),
      projectId,
      placeId: place.id,
      files: files.map(({ file, target }) => ({ mediaFileId: file.id, path: target })),
    },
    files.length === 1 ? files[0]!.file.name : `${files.length} files`,
    { on: place.id },
  );
}

function whyItStays(file: MediaFileRecord, place: PlaceRecord | undefined): NotBroughtHome | null {
  if (file.sequence) return 'sequence';
  if (!place?.there) return 'place-away';
  return file.wasRead ? null : 'not-read';
}

async function planFor(db: Database, projectId: ProjectId, check: HomeCheck): Promise<Planned> {
  const { home, findings: open } = await lookAtOpen({ db }, projectId, check);
  const { template } = await viewFolders({ db }, projectId);
  if (!home) throw new UserProblem({ code: 'no-home' });
  const places = new Map((await placeStore.listPlaces(db)).map((p) => [p.id, p]));
  const pathOf = (file: MediaFileRecord) =>
    [places.get(file.placeId)?.name ?? '', file.folder, file.name].filter(Boolean).join('/');
  const all = await mediaFileStore.listByIds(
    db,
    open.flatMap((f) => f.mediaFileIds),
  );
  const stray = all.filter((file) => !isAtHome(home, file)).sort((a, b) => (pathOf(a) < pathOf(b) ? -1 : 1));
  const left: BringingHome['left'][number][] = [];
  const going = stray.filter((file) => {
    const why = whyItStays(file, places.get(file.placeId));
    if (why) left.push({ path: pathOf(file), why });
    return why === null;
  });
  const taken = (await mediaFileStore.listForRoom(db, home.placeId)).map((f) => posix.join(f.folder, f.name));
  const ways = waysHome(
    going.map((file) => ({
      id: file.id,
      kind: file.facts?.kind ?? null,
      folders: [places.get(file.placeId)!.name, ...file.folder.split('/').filter(Boolean)],
      name: file.name,
    })),
    home,
    template,
    taken,
  );
  const files = going.map((file) => ({ file, path: pathOf(file), target: ways.get(file.id)! }));
  return { home, place: places.get(home.placeId)!, files, left };
}

/**
 * Carries one out. What was copied before it was stopped is known as ours and not copied again; a file that cannot be
 * copied keeps its links, and the others go on.
 */
export async function bringHome(
  job: JobContext,
  { id, projectId, placeId, files }: JobPayload<'bring-home'>,
): Promise<void> {
  const { db, signal, report } = job;
  const place = await placeStore.getPlace(db, placeId);
  const places = new Map((await placeStore.listPlaces(db)).map((p) => [p.id, p]));
  const records = new Map(
    (
      await mediaFileStore.listByIds(
        db,
        files.map((f) => f.mediaFileId),
      )
    ).map((f) => [f.id, f]),
  );
  const ours = await Ours.in(db, `bring-home:${id}`, await FencedFolder.of(groundOf(place)));
  await ours.note(files.map((f) => f.path));
  const brought = new Map<MediaFileId, string>();
  const failed: { readonly path: string; readonly because: Problem }[] = [];
  try {
    for (const [done, { mediaFileId, path }] of files.entries()) {
      signal.throwIfAborted();
      await report({ done, of: files.length, unit: 'files', doing: { code: 'copying', file: posix.basename(path) } });
      const file = records.get(mediaFileId);
      const from = file && places.get(file.placeId);
      const because = file && from ? await copyHome(job, file, from, path, ours) : goneSince;
      if (because) failed.push({ path, because });
      else brought.set(mediaFileId, path);
    }
  } finally {
    // Stopped, what is home by then is linked there all the same: copies that nobody uses would be copied once more.
    await moveLinks({ ...job, signal: new AbortController().signal }, projectId, place, brought);
  }
  if (failed.length > 0)
    throw new UserProblem({
      code: 'not-all-brought-home',
      files: failed.length,
      of: files.length,
      path: `${place.name}/${failed[0]!.path}`,
      because: failed[0]!.because,
    });
}

/** Its record, or its place, was taken off meanwhile. */
const goneSince: Problem = { code: 'not-found', what: 'media-file' };

/** Why it did not come home; null where it lies there now, proven. */
async function copyHome(
  job: JobContext,
  file: MediaFileRecord,
  from: PlaceRecord,
  path: string,
  ours: Ours,
): Promise<Problem | null> {
  const there = await ours.stateOf(path, job.signal);
  if (there === 'ours') return null;
  if (there === 'another') return { code: 'target-exists', path: ours.folder.resolve(path), when: 'copied' };
  if (!from.there) return { code: 'place-away', place: from.name, path: from.path, for: 'use' };
  if (file.gone) return goneSince;
  try {
    // Of many small files each is done before its bytes could be told.
    await copyWhole({ signal: job.signal, report: () => Promise.resolve() }, file, from, path, ours);
    return null;
  } catch (error) {
    if (error instanceof UserProblem) return error.problem;
    throw error;
  }
}

/** Ties every clip of the project that is tied to what was brought to its copy, as one act. */
async function moveLinks(
  job: JobContext,
  projectId: ProjectId,
  place: PlaceRecord,
  brought: ReadonlyMap<MediaFileId, string>,
): Promise<void> {
  const { db } = job;
  const folders = new Set([...brought.values()].map((path) => posix.dirname(path)));
  const copies = new Map<string, MediaFileId>();
  for (const folder of folders) {
    await indexPlace(job, { placeId: place.id, folder });
    for (const file of await mediaFileStore.listInFolder(db, place.id, folder))
      copies.set(posix.join(file.folder, file.name), file.id);
  }
  const { states } = await loadProject(db, projectId);
  const links = states.flatMap(({ clip, tied }) => {
    const path = tied && brought.get(tied.file.id);
    const copy = path ? copies.get(path) : undefined;
    return copy ? [{ clipId: clip.id, mediaFileId: copy }] : [];
  });
  if (links.length > 0) await linkClips({ db }, projectId, { by: 'hand', verb: 'bring-home', shareOn: true }, links);
}
