import type { Looking } from '../context.ts';
import type { Interpretation, MediaFileId, ProjectId } from '@legame/core/model';
import { parseRememberedPath, pathKeys, placeNames, wayInto } from '@legame/core/paths';
import type { History, HistoryChange } from '@legame/core/contract';
import { loadProject } from '../clips/project.ts';
import type { Context } from '../context.ts';
import type { Home } from '@legame/core/health';
import { notFound } from '../problems.ts';
import { clipStore } from '../stores/clips.ts';
import type { Noted } from '@legame/core/bins';
import { projectStore } from '../stores/projects.ts';
import { type Change, isOfClip, journalStore, type NameLearned } from '../stores/journal.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';

/** What has been done in a project, newest first, and the checkpoints that it can return to. */
export async function history({ db }: Looking, projectId: ProjectId): Promise<History> {
  const [entries, checkpoints] = await Promise.all([
    journalStore.listEntries(db, projectId),
    journalStore.listCheckpoints(db, projectId),
  ]);
  return {
    entries: entries.map(({ id, verb, about, clips, madeAt, undone, overtaken }) => ({
      id,
      verb,
      about,
      count: clips,
      madeAt: madeAt.toISOString(),
      state: overtaken ? 'overtaken' : undone ? 'undone' : 'done',
    })),
    checkpoints: checkpoints.map((c) => ({ ...c, madeAt: c.madeAt.toISOString() })),
  };
}

/** Most changes that are shown of one act. */
const changesShown = 2000;

/** One act in full: each clip before and after. */
export async function historyChanges({ db }: Looking, projectId: ProjectId, id: number): Promise<HistoryChange[]> {
  const entry = await journalStore.findEntry(db, projectId, id);
  if (!entry) throw notFound('act');
  const changes = await journalStore.listChanges(db, id);
  return [
    ...(await tellChanges(db, projectId, changes)),
    ...(await followingFrom(db, projectId, changes.slice(0, changesShown))),
  ];
}

/** Changes as they are told: names of clips and places, paths of files; the first of very many. */
export async function tellChanges(
  db: Looking['db'],
  projectId: ProjectId,
  changes: readonly Change[],
): Promise<HistoryChange[]> {
  const shown = changes.slice(0, changesShown);
  const clipIds = shown.filter(isOfClip).map((c) => c.clipId);
  const fileIds = shown.flatMap((c) =>
    c.what === 'link'
      ? [c.before?.mediaFileId, c.after?.mediaFileId].filter((f) => f !== undefined)
      : c.what === 'decline' || c.what === 'rename'
        ? [c.mediaFileId]
        : [],
  );
  const [{ labels }, clips, files, places] = await Promise.all([
    projectStore.getProject(db, projectId),
    clipStore.listByIds(db, clipIds),
    mediaFileStore.listByIds(db, fileIds),
    placeStore.listPlaces(db),
  ]);
  const clipNames = new Map(clips.map((c) => [c.id, c.name]));
  const rates = new Map(clips.map((c) => [c.id, c.asStated.rate]));
  const namesOfPlaces = new Map(places.map((p) => [p.id, p.name]));
  const filePaths = new Map(
    files.map((f) => [f.id, [namesOfPlaces.get(f.placeId), f.folder, f.name].filter(Boolean).join('/')]),
  );
  const file = (id: MediaFileId | undefined) => (id === undefined ? null : { path: filePaths.get(id) ?? null });
  return shown.map((change): HistoryChange => {
    if (change.what === 'learn')
      return { what: 'learn', placeName: namesOfPlaces.get(change.placeId) ?? null, name: change.name };
    if (change.what === 'rename') {
      const path = filePaths.get(change.mediaFileId);
      const folder = path === undefined ? null : path.slice(0, Math.max(0, path.lastIndexOf('/')));
      return { what: 'rename', folder, before: change.before, after: change.after };
    }
    if (change.what === 'bins' || change.what === 'labels' || change.what === 'folders') return change;
    if (change.what === 'accept') {
      const { what, check, subject, before, after } = change;
      return { what, check, subject, before: before?.note ?? null, after: after?.note ?? null };
    }
    if (change.what === 'pull') {
      const { what, before, after } = change;
      const { reel = null, file = '' } = after ?? before ?? {};
      return { what, reel, file, before, after };
    }
    if (change.what === 'home') {
      const path = (home: Home | null) =>
        home && [namesOfPlaces.get(home.placeId) ?? '', home.folder].filter(Boolean).join('/');
      return { what: 'home', before: path(change.before), after: path(change.after) };
    }
    const clipName = clipNames.get(change.clipId) ?? null;
    switch (change.what) {
      case 'link': {
        const [before, after] = [file(change.before?.mediaFileId), file(change.after?.mediaFileId)];
        return { clipName, what: 'link', before, after };
      }
      case 'offline':
      case 'pin':
        return { clipName, what: change.what, before: change.before, after: change.after };
      case 'set-aside':
        return { clipName, what: 'set-aside', before: change.before, after: change.after };
      case 'interpret': {
        const read = (how: Interpretation | null) => how && { ...how, statedRate: rates.get(change.clipId) ?? null };
        return { clipName, what: 'interpret', before: read(change.before), after: read(change.after) };
      }
      case 'note': {
        const then = (noted: Noted | null) =>
          noted && { ...noted, label: labels.find((l) => l.id === noted.label)?.name ?? null };
        return { clipName, what: 'note', before: then(change.before), after: then(change.after) };
      }
      case 'decline': {
        const declined = file(change.mediaFileId);
        return change.back
          ? { clipName, what: 'decline', before: declined, after: null }
          : { clipName, what: 'decline', before: null, after: declined };
      }
    }
  });
}

/** Clips that are tied by nothing but a name that an act taught a place: they follow from that act, and go with it. */
async function followingFrom(
  db: Context['db'],
  projectId: ProjectId,
  changes: readonly Change[],
): Promise<HistoryChange[]> {
  const learned = changes.filter((change): change is NameLearned => change.what === 'learn');
  if (learned.length === 0) return [];
  const { states, places } = await loadProject(db, projectId);
  return learned.flatMap(({ placeId, name }) => {
    const place = places.get(placeId);
    if (!place) return [];
    const byThisName = placeNames({ ...place, knownAs: [name], taught: [name] });
    return states.flatMap(({ clip, tied }): HistoryChange[] => {
      if (tied?.by !== 'remembered' || tied.place.id !== placeId || !clip.remembered) return [];
      const way = wayInto(pathKeys(parseRememberedPath(clip.remembered)), byThisName);
      if (way?.by !== 'taught-name') return [];
      const path = [tied.place.name, tied.file.folder, tied.file.name].filter(Boolean).join('/');
      return [{ clipName: clip.name, what: 'follows', before: null, after: { path } }];
    });
  });
}
