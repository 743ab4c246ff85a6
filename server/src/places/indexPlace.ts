import { setTimeout as pause } from 'node:timers/promises';
import type { JobPayload } from '@legame/core/contract';
import type { MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import { nameKey, parseRememberedPath, splitExtension } from '@legame/core/paths';
import { isDark } from '@legame/core/state';
import type { Database } from '../db/database.ts';
import { isThere } from '../disk/presence.ts';
import { UserProblem } from '../problems.ts';
import { readMediaFile, type Measured } from '../media/read.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { fromList } from '../media/readerTalk.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { groundOf, placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { beginWalk, type WalkChanges } from '../stores/walks.ts';
import { loadProject } from '../clips/project.ts';
import { linkClips, type WantedLink } from '../links/link.ts';
import { matchAllProjects, matchTouched } from '../matching/matchProject.ts';
import { settleAwaited } from '../projects/package.ts';
import type { JobContext } from '../context.ts';
import type { Opened, ReadLog } from '../reading/readLog.ts';
import { tell } from '../events/tell.ts';
import { noteSilent } from './states.ts';

/** More readers at a time read no faster on two cores. */
const readersAtOnce = 2;
/** A share that lists nothing for so long has stalled. */
const listPatienceMs = 10_000;
/** Of more changes than this one certainly touches something. */
const mostLookedAt = 5000;
const saveEvery = 100;
const saveEveryMs = 300;

/**
 * Walks a place, or one folder of it, records the difference, then reads facts of what was not read
 * before: first what dark clips may need, then what is used, then the rest. Interrupted, it goes on where it was.
 */
export async function indexPlace(job: JobContext, { placeId, folder }: JobPayload<'index-place'>): Promise<void> {
  const { db } = job;
  const place = await placeStore.getPlace(db, placeId);
  if (!(await isThere(place.path))) throw away(place);
  const readers = Array.from({ length: readersAtOnce }, () => new ReaderProcess());
  try {
    const changes = await listUntilSure(job, readers[0]!, place, folder);
    if (changes.added + changes.changed + changes.gone > 0) {
      await settleAwaited(db);
      await matchChanged(db, placeId, changes);
    }
    await tell(db, 'places', placeId);
    const unread = await inOrderOfNeed(db, await mediaFileStore.listUnread(db, placeId, folder));
    await readFacts(job, readers, place, unread);
    if (changes.which?.gone.length) await followRenamed(db, changes.which.gone);
    // What was read is weighed anew: it may be what somebody waits for.
    await matchRead(db, unread);
  } finally {
    for (const reader of readers) reader.stop();
    await tell(db, 'places', placeId);
  }
}

async function matchChanged(db: Database, placeId: PlaceId, { which }: WalkChanges): Promise<void> {
  if (!which || which.paths.length > mostLookedAt) return matchAllProjects(db);
  const files = await mediaFileStore.listAtPaths(db, placeId, which.paths);
  return matchTouched(db, { files, gone: which.gone });
}

async function matchRead(db: Database, read: readonly MediaFileRecord[]): Promise<void> {
  if (read.length === 0) return;
  if (read.length > mostLookedAt) return matchAllProjects(db);
  const files = await mediaFileStore.listByIds(
    db,
    read.map((f) => f.id),
  );
  return matchTouched(db, { files, gone: [] });
}

/**
 * A linked file that was renamed or moved on its own drive is followed: the file system says it is the same file, and its
 * content does. An act of each project, which can be undone like any other; undone, it is not followed again.
 */
async function followRenamed(db: Database, gone: readonly MediaFileId[]): Promise<void> {
  const byProject = new Map<ProjectId, WantedLink[]>();
  for (const { projectId, clipId, mediaFileId } of await mediaFileStore.listRenamed(db, gone)) {
    const links = byProject.get(projectId) ?? [];
    links.push({ clipId, mediaFileId });
    byProject.set(projectId, links);
  }
  for (const [projectId, links] of byProject) await linkClips({ db }, projectId, { by: 'follow' }, links);
}

const away = (place: PlaceRecord) =>
  new UserProblem({ code: 'place-away', place: place.name, path: place.path, for: 'index-later' });
const stalled = (place: PlaceRecord, doing: 'listing' | 'measuring') =>
  new UserProblem({ code: 'place-stalls', place: place.name, doing });

/** What was listed while Legame renamed files there tells nothing: it is listed once more. */
async function listUntilSure(...asked: Parameters<typeof listFiles>): Promise<WalkChanges> {
  for (;;) {
    asked[0].signal.throwIfAborted();
    const changes = await listFiles(...asked);
    if (changes !== 'overtaken') return changes;
    await pause(listAgainAfterMs);
  }
}
const listAgainAfterMs = 300;

async function listFiles(
  job: JobContext,
  reader: ReaderProcess,
  place: PlaceRecord,
  folder: string,
): Promise<WalkChanges | 'overtaken'> {
  const { readLog } = job;
  const opened = readLog.open({
    what: 'list',
    placeId: place.id,
    path: [place.name, folder].filter(Boolean).join('/'),
  });
  try {
    return await listInto(job, reader, place, folder, opened);
  } finally {
    // Whatever ended it: no entry of the log outlives what it tells of.
    opened.close('failed');
  }
}

async function listInto(
  job: JobContext,
  reader: ReaderProcess,
  place: PlaceRecord,
  folder: string,
  opened: Opened,
): Promise<WalkChanges | 'overtaken'> {
  const { db, signal, report } = job;
  const walk = await beginWalk(db, place.id, folder);
  let count = 0;
  const listed = await reader.ask(
    { do: 'list', root: place.path, is: place.root, folder, excluded: [...place.excluded] },
    {
      patienceMs: listPatienceMs,
      signal,
      onPart: (part) => {
        if (part.part !== 'files') return;
        walk.add(part.files.map(fromList));
        count += part.files.length;
        void report({
          done: count,
          of: null,
          unit: 'files',
          doing: { code: 'listing', folder: part.folder || place.name },
        });
      },
    },
  );
  if (listed.part !== 'listed') {
    await walk.abandon();
    if (listed.part === 'aborted') {
      opened.close('stopped');
      throw new DOMException('Aborted', 'AbortError');
    }
    const isStalled = listed.part === 'no-answer';
    opened.close(isStalled ? 'no-answer' : 'failed', listed.part === 'failed' ? { detail: listed.detail } : null);
    if (isStalled) await noteSilent(db, place.id);
    if (listed.part === 'failed' && listed.problem) throw new UserProblem(listed.problem);
    throw isStalled || !(await isThere(place.path)) ? stalled(place, 'listing') : unlistable(place);
  }
  const changes = await walk.finish(listed.skipped.unlisted);
  opened.close('ok', { detail: { code: 'files-listed', files: count } });
  // Whether it is there is noted by who looks at all places: then clips turn by it, and screens are told.
  if (folder === '') await placeStore.updatePlace(db, place.id, { indexedAt: new Date(), skipped: listed.skipped });
  return changes;
}

const unlistable = (place: PlaceRecord) =>
  new UserProblem({ code: 'folder-closed', path: place.path, place: place.name });

/** Reads facts of files in this order, several at a time; saved in batches, so that an interruption costs a moment. */
export async function readFacts(
  job: JobContext,
  readers: readonly ReaderProcess[],
  place: PlaceRecord,
  unread: readonly MediaFileRecord[],
): Promise<void> {
  const { db, signal, report } = job;
  const queue = [...unread];
  const save = saver(db);
  let done = 0;
  const work = async (reader: ReaderProcess) => {
    for (let file = queue.shift(); file; file = queue.shift()) {
      signal.throwIfAborted();
      await report({ done, of: unread.length, unit: 'files', doing: { code: 'reading', file: file.name } });
      const reading = await readOne(job, reader, place, file);
      if (reading.unreadable?.code === 'no-answer' && !(await isThere(place.path))) {
        queue.length = 0;
        throw stalled(place, 'measuring');
      }
      await save.add(file, reading);
      done += 1;
    }
  };
  try {
    await Promise.all(readers.map(work));
  } finally {
    await save.flush();
  }
  await report({ done, of: unread.length, unit: 'files', doing: { code: 'read' } });
}

async function readOne(
  job: JobContext,
  reader: ReaderProcess,
  place: PlaceRecord,
  file: MediaFileRecord,
): Promise<Measured> {
  const path = [place.name, file.folder, file.name].filter(Boolean).join('/');
  const about = { placeId: place.id, mediaFileId: file.id, path };
  const opened = job.readLog.open({ what: 'facts', ...about });
  let decoding: ReturnType<ReadLog['open']> | null = null;
  const reading = await readMediaFile(reader, groundOf(place), file, {
    signal: job.signal,
    onDecoder: () => (decoding = job.readLog.open({ what: 'decoder', ...about })),
  });
  const close = (...args: Parameters<typeof opened.close>) => {
    opened.close(...args);
    decoding?.close(...args);
  };
  if (reading === 'aborted') {
    close('stopped');
    throw new DOMException('Aborted', 'AbortError');
  }
  const reason = reading.unreadable;
  if (!reason) close('ok');
  else {
    const { code } = reason;
    close(code === 'no-answer' ? 'no-answer' : code === 'decoder-too-slow' ? 'too-slow' : 'unreadable', { reason });
  }
  return reading;
}

function saver(db: Database) {
  let held: (Pick<MediaFileRecord, 'id' | 'name'> & Measured)[] = [];
  let savedAt = performance.now();
  const flush = async () => {
    const batch = held;
    held = [];
    savedAt = performance.now();
    await mediaFileStore.saveReadings(db, batch);
  };
  return {
    flush,
    add: async ({ id, name }: MediaFileRecord, measured: Measured) => {
      held.push({ id, name, ...measured });
      if (held.length >= saveEvery || performance.now() - savedAt > saveEveryMs) await flush();
    },
  };
}

/** Files that a dark clip may need come first, then those in use, then the rest. */
async function inOrderOfNeed(db: Database, files: readonly MediaFileRecord[]): Promise<MediaFileRecord[]> {
  if (files.length < 2) return [...files];
  const wanted = { dark: new Set<string>(), used: new Set<string>() };
  const tied = new Set<MediaFileId>();
  for (const project of await projectStore.listProjects(db)) {
    for (const { clip, status, tied: tie } of (await loadProject(db, project.id)).states) {
      const name = clip.remembered ? parseRememberedPath(clip.remembered).name : clip.name;
      (isDark(status.status) ? wanted.dark : wanted.used).add(nameKey(splitExtension(name).stem));
      if (tie) tied.add(tie.file.id);
    }
  }
  const need = (file: MediaFileRecord) => {
    const key = nameKey(splitExtension(file.name).stem);
    return wanted.dark.has(key) ? 0 : tied.has(file.id) || wanted.used.has(key) ? 1 : 2;
  };
  return files
    .map((file) => ({ file, need: need(file) }))
    .sort((a, b) => a.need - b.need)
    .map(({ file }) => file);
}
