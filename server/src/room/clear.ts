import type { MediaFileId, PlaceId } from '@legame/core/model';
import { safeName } from '@legame/core/paths';
import type { clearAnswerSchema, Cleared, NotCleared } from '@legame/core/contract';
import { dirname } from 'node:path';
import pLimit, { type LimitFunction } from 'p-limit';
import type { z } from 'zod';
import type { Context } from '../context.ts';
import { isThere } from '../disk/presence.ts';
import { holdingFolder } from '../disk/walk.ts';
import { FencedFolder, moveInside, requireWritable } from '../disk/writing.ts';
import { tell } from '../events/tell.ts';
import { startIndexOf } from '../places/states.ts';
import { UserProblem } from '../problems.ts';
import { usesOfFiles } from './views.ts';
import { clearedStore } from '../stores/cleared.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { groundOf, type PlaceRecord, placeStore } from '../stores/places.ts';

/**
 * Moves chosen files of a place into its holding folder, under today's date and the path they had, with a way back.
 * Nothing is deleted. What a project uses is not moved, and says so; nor is a sequence, whose files are many.
 */
export const clearFiles = (
  context: Context,
  placeId: PlaceId,
  ids: readonly MediaFileId[],
): Promise<z.input<typeof clearAnswerSchema>> => inTurn(context, placeId, (place) => clear(context, place, ids));

/**
 * Files of one place are moved by one after another, each on what the one before left: each is a note in the database,
 * a move on the disk, and another note, and only this process moves them. What ended in between, in this process or in
 * one before it, is settled first.
 */
function inTurn<T>(context: Context, placeId: PlaceId, run: (place: PlaceRecord) => Promise<T>): Promise<T> {
  const turn = turns.get(placeId) ?? pLimit(1);
  turns.set(placeId, turn);
  return turn(async () => {
    const place = await writablePlace(context, placeId);
    await settleMoves(context, place);
    return run(place);
  });
}
const turns = new Map<PlaceId, LimitFunction>();

/** At start: files whose move ended midway, of all places that are there. One that is not is settled when it is used. */
export async function settlePlaces(context: Context): Promise<void> {
  for (const { id } of await clearedStore.listPlacesHolding(context.db))
    await inTurn(context, id, () => Promise.resolve()).catch((error: unknown) => {
      if (!(error instanceof UserProblem)) throw error;
    });
}

/**
 * What became of moves that were noted and not ended. A move gives the file its second name before it takes the first
 * away, so it lies under one of them or under both, and is nowhere else.
 */
async function settleMoves({ db }: Context, place: PlaceRecord): Promise<void> {
  const folder = await FencedFolder.of(groundOf(place));
  for (const { id, holding, original, restoring } of await clearedStore.listHeld(db, place.id)) {
    const [held, back] = [await folder.look(holding), await folder.look(restoring ?? original)];
    if (!back || (held && (held.inode !== back.inode || held.device !== back.device))) continue;
    if (held && !(await folder.takeBack(holding, held))) continue;
    if (restoring === null) await clearedStore.remove(db, id);
    else await clearedStore.markRestored(db, id);
  }
}

async function clear(
  context: Context,
  place: PlaceRecord,
  ids: readonly MediaFileId[],
): Promise<z.input<typeof clearAnswerSchema>> {
  const { db } = context;
  const [files, uses] = await Promise.all([mediaFileStore.listByIds(db, ids), usesOfFiles({ db }, null)]);
  const day = `${holdingFolder}/${new Date().toISOString().slice(0, 10)}`;
  const cleared: Cleared[] = [];
  const skipped: { name: string; why: NotCleared }[] = [];
  for (const file of files) {
    const usedBy = uses.elsewhere.get(file.id);
    const wantedBy = uses.wanted.get(file.id);
    const why: NotCleared | null =
      file.placeId !== place.id || file.gone
        ? { code: 'not-there' }
        : usedBy
          ? { code: 'used', by: usedBy }
          : wantedBy
            ? { code: 'wanted', by: wantedBy }
            : file.sequence
              ? { code: 'sequence' }
              : null;
    if (why) skipped.push({ name: file.name, why });
    else {
      const moved = await moveIfUnused(context, place, file, day);
      if ('why' in moved) skipped.push({ name: file.name, why: moved.why });
      else cleared.push(moved);
    }
  }
  if (cleared.length > 0) await startIndexOf(db, place);
  await tell(db, 'places', place.id);
  return { cleared, skipped };
}

/** What a clip was linked to meanwhile is not moved either: that is asked while nobody else can link to it. */
const moveIfUnused = (
  context: Context,
  place: PlaceRecord,
  file: MediaFileRecord,
  day: string,
): Promise<Cleared | { why: NotCleared }> =>
  context.db.transaction(async (trx) => {
    const by = await clearedStore.takeToClear(trx, file.id);
    if (by.length > 0) return { why: { code: 'used', by } };
    const moved = await moveToHolding(context, place, file, day);
    if (!('why' in moved)) await clearedStore.markGone(trx, file.id);
    return moved;
  });

async function moveToHolding(
  { db }: Context,
  place: PlaceRecord,
  file: MediaFileRecord,
  day: string,
): Promise<Cleared | { why: NotCleared }> {
  const original = file.folder === '' ? file.name : `${file.folder}/${file.name}`;
  // A file of the same name may have been cleared from here today already.
  const taken = new Set((await clearedStore.listHeld(db, place.id)).map((c) => c.holding));
  let holding = `${day}/${original}`;
  for (let n = 2; taken.has(holding); n += 1) holding = `${day} (${n})/${original}`;
  // Noted before it is moved, so that whatever happens the way back is known.
  const record = await clearedStore.insert(db, {
    placeId: place.id,
    original,
    holding,
    sizeInBytes: file.sizeInBytes,
  });
  try {
    await moveInside(groundOf(place), original, holding);
    return record;
  } catch (error) {
    await clearedStore.remove(db, record.id);
    if (error instanceof UserProblem) return { why: { code: 'problem', problem: error.problem } };
    throw error;
  }
}

/** Moves a cleared file back to where it was. If that name is taken now, it comes back beside it under a new one. */
export async function restoreCleared(context: Context, id: string): Promise<{ path: string }> {
  const { placeId } = await clearedStore.get(context.db, id);
  return inTurn(context, placeId, (place) => restore(context, place, id));
}

async function restore(context: Context, place: PlaceRecord, id: string): Promise<{ path: string }> {
  const { db } = context;
  const file = await clearedStore.get(db, id);
  if (file.restoredAt !== null) throw new UserProblem({ code: 'restored-already', path: file.original });
  const folder = await FencedFolder.of(groundOf(place));
  let path = file.original;
  for (let n = 1; await folder.has(path); n += 1) path = beside(file.original, n);
  await clearedStore.noteRestoring(db, id, path);
  await moveInside(groundOf(place), file.holding, path);
  await clearedStore.markRestored(db, id);
  const at = dirname(path);
  await startIndexOf(db, place, at === '.' ? '' : at);
  await tell(db, 'places', place.id);
  return { path };
}

function beside(original: string, n: number): string {
  const [folder, name] = [dirname(original), original.split('/').at(-1)!];
  const renamed = safeName(name.replace(/(\.[^.]*)?$/, (extension) => ` (restored ${n})${extension}`));
  return folder === '.' ? renamed : `${folder}/${renamed}`;
}

async function writablePlace({ db }: Context, placeId: PlaceId): Promise<PlaceRecord> {
  const place = await placeStore.getPlace(db, placeId);
  if (!(await isThere(place.path)))
    throw new UserProblem({ code: 'place-away', place: place.name, path: null, for: 'use' });
  await requireWritable(groundOf(place));
  return place;
}
