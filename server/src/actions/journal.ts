import type { About, Act, History, HistoryChange, Verb } from '@legame/core/contract';
import {
  formatRate,
  formatTimecode,
  nameKey,
  parseRememberedPath,
  pathKeys,
  placeNames,
  wayInto,
  type ClipId,
  type Interpretation,
  type MediaFileId,
  type ProjectId,
  type Rate,
} from '@legame/core';
import type { Transaction } from '../db/database.ts';
import { notFound, UserProblem } from '../problems.ts';
import { clipStore, type ClipRecord, type LinkRecord, type SetAside } from '../stores/clips.ts';
import {
  journalStore,
  type Change,
  type ClipChange,
  type DecidedThen,
  type JournalEntry,
  type NameLearned,
} from '../stores/journal.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { loadProject } from './clipViews.ts';
import type { Context } from './context.ts';
import { startMatch } from './matchProject.ts';
import { tell } from '../events/tell.ts';

type Skipped = Act['skipped'];

/** Carries changes out and writes them down as one act. Every change to links of a project comes through here. */
export async function act(
  trx: Transaction,
  projectId: ProjectId,
  verb: Verb,
  changes: readonly Change[],
  { skipped = [], about = null }: { skipped?: Skipped; about?: About | null } = {},
): Promise<Act> {
  if (changes.length === 0) return { id: 0, verb, count: 0, madeAt: new Date().toISOString(), skipped };
  await apply(trx, changes, 'after');
  const entry = await journalStore.append(trx, projectId, { verb, changes, about });
  await followUp(trx, projectId);
  return viewAct(entry, skipped);
}

/** Takes back the newest act that was not taken back yet. */
export async function undo({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<Act> {
  return db.transaction(async (trx) => {
    const entry = await journalStore.findLast(trx, projectId);
    if (!entry)
      throw new UserProblem('nothing-to-undo', 409, 'There is nothing to undo: no link was changed in this project.');
    await apply(trx, entry.changes.toReversed(), 'before');
    await journalStore.setUndone(trx, entry.id, true);
    await followUp(trx, projectId);
    return viewAct(entry);
  });
}

/** Does the act again that was undone last, if no other came after it. */
export async function redo({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<Act> {
  return db.transaction(async (trx) => {
    const entry = await journalStore.findRedoable(trx, projectId);
    if (!entry)
      throw new UserProblem(
        'nothing-to-redo',
        409,
        'There is nothing to do again: the last thing done was not an undo.',
      );
    await apply(trx, entry.changes, 'after');
    await journalStore.setUndone(trx, entry.id, false);
    await followUp(trx, projectId);
    return viewAct(entry);
  });
}

async function followUp(trx: Transaction, projectId: ProjectId): Promise<void> {
  const project = await projectStore.getProject(trx, projectId);
  await startMatch(trx, projectId, project.name);
  await tell(trx, 'project', projectId);
}

export const viewAct = (entry: JournalEntry, skipped: Skipped = []): Act => ({
  id: entry.id,
  verb: entry.verb,
  count: entry.clips,
  madeAt: entry.madeAt.toISOString(),
  skipped,
});

/** Puts clips into the state on one side of an act. A file whose record is gone for good cannot be linked to again. */
async function apply(trx: Transaction, changes: readonly Change[], side: 'before' | 'after'): Promise<void> {
  const links: ({ clipId: ClipId } & LinkRecord)[] = [];
  const unlinked: ClipId[] = [];
  const aside: { clipId: ClipId; setAside: SetAside | null }[] = [];
  const offline: { clipId: ClipId; takenOffline: boolean }[] = [];
  const pins: { clipId: ClipId; pinned: boolean }[] = [];
  const read: { clipId: ClipId; interpretation: Interpretation | null }[] = [];
  for (const change of changes) {
    switch (change.what) {
      case 'link': {
        const link = change[side];
        if (link) links.push({ clipId: change.clipId, ...link });
        else unlinked.push(change.clipId);
        break;
      }
      case 'offline':
        offline.push({ clipId: change.clipId, takenOffline: change[side] });
        break;
      case 'set-aside':
        aside.push({ clipId: change.clipId, setAside: change[side] });
        break;
      case 'pin':
        pins.push({ clipId: change.clipId, pinned: change[side] });
        break;
      case 'interpret':
        read.push({ clipId: change.clipId, interpretation: change[side] });
        break;
      case 'decline':
        if ((side === 'after') !== (change.back ?? false))
          await clipStore.decline(trx, change.clipId, change.mediaFileId);
        else await clipStore.undecline(trx, change.clipId, change.mediaFileId);
        break;
      case 'learn':
        await setLearned(trx, change, side === 'after');
        break;
      default:
        change satisfies never;
    }
  }
  await requireFiles(trx, links);
  await clipStore.deleteLinks(trx, unlinked);
  await clipStore.putLinks(trx, links);
  if (offline.length) await clipStore.setTakenOffline(trx, offline);
  if (aside.length) await clipStore.setAside(trx, aside);
  if (pins.length) await clipStore.setPinned(trx, pins);
  if (read.length) await clipStore.setInterpretations(trx, read);
}

async function requireFiles(trx: Transaction, links: readonly LinkRecord[]): Promise<void> {
  const ids = links.map((l) => l.mediaFileId);
  const known = new Set((await mediaFileStore.listByIds(trx, ids)).map((f) => f.id));
  if (ids.some((id) => !known.has(id)))
    throw new UserProblem(
      'undo-overtaken',
      409,
      'This cannot be undone: the place that held the files of before was forgotten. Add the place again and link by rule.',
    );
}

async function setLearned(trx: Transaction, { placeId, name }: NameLearned, isLearned: boolean): Promise<void> {
  const place = (await placeStore.listPlaces(trx)).find((p) => p.id === placeId);
  if (!place) return;
  const others = place.learnedNames.filter((n) => nameKey(n) !== nameKey(name));
  await placeStore.updatePlace(trx, placeId, { learnedNames: isLearned ? [...others, name] : others });
  await tell(trx, 'places', placeId);
}

/** What has been done in a project, newest first, and the checkpoints that it can return to. */
export async function history({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<History> {
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
export async function historyChanges(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  id: number,
): Promise<HistoryChange[]> {
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

/** Gives the present state of a project's links a name, to return to. */
export async function setCheckpoint({ db }: Pick<Context, 'db'>, projectId: ProjectId, name: string): Promise<History> {
  await projectStore.getProject(db, projectId);
  const clips = await clipStore.listClips(db, projectId);
  await journalStore.addCheckpoint(db, projectId, name, clips.map(decidedNow));
  await tell(db, 'project', projectId);
  return history({ db }, projectId);
}

const decidedNow = (clip: ClipRecord): DecidedThen => ({
  clipId: clip.id,
  link: clip.link,
  setAside: clip.setAside,
  pinned: clip.pinned,
  interpretation: clip.interpretation,
  declined: clip.declined,
  takenOffline: clip.takenOffline,
});

/** Puts every clip back to what it was at a checkpoint, as one act that can be undone like any other. */
export async function returnToCheckpoint(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  checkpointId: number,
): Promise<Act> {
  return db.transaction(async (trx) => {
    const checkpoint = await journalStore.findCheckpoint(trx, projectId, checkpointId);
    if (!checkpoint) throw notFound('checkpoint');
    const then = new Map(checkpoint.state.map((s) => [s.clipId, s]));
    const clips = await clipStore.listClips(trx, projectId);
    const changes = clips.flatMap((clip) => differences(decidedNow(clip), then.get(clip.id) ?? untouched(clip.id)));
    return act(trx, projectId, 'return', changes, { about: { code: 'checkpoint', name: checkpoint.name } });
  });
}

/** A clip that came into the project after the checkpoint: nothing had been decided of it. */
const untouched = (clipId: ClipId): DecidedThen => ({
  clipId,
  link: null,
  setAside: null,
  pinned: false,
  interpretation: null,
  declined: [],
});

function differences(now: DecidedThen, then: DecidedThen): ClipChange[] {
  const { clipId } = now;
  const differ = (a: unknown, b: unknown) => JSON.stringify(a) !== JSON.stringify(b);
  const changes: ClipChange[] = [];
  if (now.link?.mediaFileId !== then.link?.mediaFileId || now.link?.by !== then.link?.by)
    changes.push({ what: 'link', clipId, before: now.link, after: then.link });
  const [offlineNow, offlineThen] = [now.takenOffline ?? false, then.takenOffline ?? false];
  if (offlineNow !== offlineThen) changes.push({ what: 'offline', clipId, before: offlineNow, after: offlineThen });
  if (differ(now.setAside, then.setAside))
    changes.push({ what: 'set-aside', clipId, before: now.setAside, after: then.setAside });
  if (now.pinned !== then.pinned) changes.push({ what: 'pin', clipId, before: now.pinned, after: then.pinned });
  if (differ(now.interpretation, then.interpretation))
    changes.push({ what: 'interpret', clipId, before: now.interpretation, after: then.interpretation });
  for (const mediaFileId of then.declined)
    if (!now.declined.includes(mediaFileId)) changes.push({ what: 'decline', clipId, mediaFileId });
  for (const mediaFileId of now.declined)
    if (!then.declined.includes(mediaFileId)) changes.push({ what: 'decline', clipId, mediaFileId, back: true });
  return changes;
}
