import type { Looking } from '../context.ts';
import type { Interpretation, MediaFileId, ProjectId } from '@legame/core/model';
import { parseRememberedPath, pathKeys, placeNames, wayInto } from '@legame/core/paths';
import { formatRate, formatTimecode, type Rate } from '@legame/core/time';
import type { History, HistoryChange } from '@legame/core/contract';
import { loadProject } from '../clips/state.ts';
import type { Context } from '../context.ts';
import { notFound } from '../problems.ts';
import { clipStore, type SetAside } from '../stores/clips.ts';
import { type Change, journalStore, type NameLearned } from '../stores/journal.ts';
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
  const shown = entry.changes.slice(0, changesShown);
  const clipIds = shown.flatMap((c) => (c.what === 'learn' ? [] : [c.clipId]));
  const fileIds = shown.flatMap((c) =>
    c.what === 'link'
      ? [c.before?.mediaFileId, c.after?.mediaFileId].filter((f) => f !== undefined)
      : c.what === 'decline'
        ? [c.mediaFileId]
        : [],
  );
  const [clips, files, places] = await Promise.all([
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
  const path = (fileId: MediaFileId | undefined) =>
    fileId === undefined ? '' : (filePaths.get(fileId) ?? 'a file of a forgotten place');
  const told = shown.map((change): HistoryChange => {
    const clipName = change.what === 'learn' ? '' : (clipNames.get(change.clipId) ?? 'a clip taken out since');
    switch (change.what) {
      case 'link':
        return {
          clipName,
          what: 'link',
          before: path(change.before?.mediaFileId),
          after: path(change.after?.mediaFileId),
        };
      case 'offline':
        return {
          clipName,
          what: 'offline',
          before: change.before ? 'offline on purpose' : 'where the edit says',
          after: change.after ? 'offline on purpose' : 'where the edit says',
        };
      case 'set-aside':
        return { clipName, what: 'set-aside', before: asideText(change.before), after: asideText(change.after) };
      case 'pin':
        return { clipName, what: 'pin', before: change.before ? 'pinned' : '', after: change.after ? 'pinned' : '' };
      case 'interpret':
        return {
          clipName,
          what: 'interpret',
          before: readText(change.before, rates.get(change.clipId)),
          after: readText(change.after, rates.get(change.clipId)),
        };
      case 'decline': {
        const [before, after] = change.back ? [path(change.mediaFileId), ''] : ['', path(change.mediaFileId)];
        return { clipName, what: 'decline', before, after };
      }
      case 'learn':
        return {
          clipName: namesOfPlaces.get(change.placeId) ?? 'a forgotten place',
          what: 'learn',
          before: '',
          after: change.name,
        };
    }
  });
  return [...told, ...(await followingFrom(db, projectId, shown))];
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
      return [{ clipName: clip.name, what: 'follows', before: '', after: path }];
    });
  });
}

const asideText = (aside: SetAside | null): string =>
  aside ? [aside.as, aside.reason].filter(Boolean).join(': ') : '';

/** A reading as a person says it: the rate, and the shift as a signed timecode. */
function readText(read: Interpretation | null, stated: Rate | undefined): string {
  if (!read) return '';
  const rate = read.countedAt ?? stated;
  const shift = rate && formatTimecode(Math.abs(read.shiftInFrames), rate);
  return [
    read.countedAt && `at ${formatRate(read.countedAt)}`,
    read.shiftInFrames !== 0 &&
      `${read.shiftInFrames < 0 ? '−' : '+'}${shift ?? `${Math.abs(read.shiftInFrames)} frames`}`,
  ]
    .filter(Boolean)
    .join(', ');
}
