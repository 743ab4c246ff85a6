import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import type { MediaFileId, PlaceId } from '@legame/core/model';
import { nameKey } from '@legame/core/paths';
import pLimit from 'p-limit';
import type { Database, Transaction } from '../db/database.ts';
import { codeOf } from '../disk/failures.ts';
import { withFolder } from '../disk/held.ts';
import { FencedFolder, isSameFile, moveInside, nameAside } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';
import { enqueue } from '../queue/queue.ts';
import type { Change, FileRenamed } from '../stores/journal.ts';
import { fileNameStore } from '../stores/fileNames.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { groundOf, placeStore } from '../stores/places.ts';
import { type NotedRename, renameStore } from '../stores/renames.ts';
import { inWalksTurn } from '../stores/walks.ts';

/** Times are kept to two seconds by some file systems. */
const timeToleranceMs = 2001;

/** One renaming after another, in this process, which is the only one that renames. */
const turn = pLimit(1);
export const inRenamingTurn = <T>(db: Database, run: () => Promise<T>): Promise<T> =>
  turn(async () => {
    await settleNow(db);
    try {
      return await run();
    } catch (error) {
      // The database may have gone away when all was moved; it is back soon.
      void turn(() => settleSoon(db));
      throw error;
    }
  });

/**
 * Moves files to the names that an act gives them, on one side of it: all, or none. Runs last in the transaction that
 * says so in the database; the note that it was begun is forgotten by that transaction. If it never ends, what was moved
 * goes back (`settleRenames`): the database is believed.
 */
export async function carryRenames(
  db: Database,
  trx: Transaction,
  changes: readonly Change[],
  side: 'before' | 'after',
): Promise<void> {
  const renamed = changes.filter((c): c is FileRenamed => c.what === 'rename');
  if (renamed.length === 0) return;
  const noted = await notesFor(trx, renamed, side);
  const batch = randomUUID();
  await renameStore.note(db, batch, noted);
  try {
    await forward(noted);
  } catch (error) {
    if (await back(noted)) await renameStore.forget(db, batch);
    throw error;
  }
  await renameStore.forget(trx, batch);
  for (const { placeId, placeName, folder } of foldersOf(noted))
    await enqueue(trx, 'index-place', { placeId, folder }, folder === '' ? placeName : `${placeName}/${folder}`);
}

/**
 * First of all in such a transaction: while it lasts, nobody writes down what was seen in these places, and what was seen
 * before it is thrown away.
 */
export async function holdPlaces(trx: Transaction, files: readonly MediaFileId[]): Promise<void> {
  const places = new Set((await mediaFileStore.listByIds(trx, files)).map((f) => f.placeId));
  for (const id of [...places].sort()) {
    await inWalksTurn(trx, id);
    await placeStore.countRenaming(trx, id);
  }
}

/** Which files an act renames. */
export const renamedIn = (changes: readonly Change[]): readonly MediaFileId[] =>
  changes.flatMap((c) => (c.what === 'rename' ? [c.mediaFileId] : []));

const foldersOf = (noted: readonly Noted[]): Noted[] => [
  ...new Map(noted.map((n) => [`${n.placeId}/${n.folder}`, n])).values(),
];

async function settleSoon(db: Database): Promise<void> {
  for (let tries = 0; tries < 100; tries += 1)
    try {
      return await settleNow(db);
    } catch {
      await pause(200);
    }
}

/** At start, and ever and again: what was begun and not said in the database goes back to the names that it says. */
export const settleRenames = async ({ db }: { readonly db: Database }): Promise<void> => {
  // Whoever renames now has settled first.
  if (turn.activeCount === 0) await turn(() => settleNow(db));
};

async function settleNow(db: Database): Promise<void> {
  const places = await placeStore.listPlaces(db);
  for (const [batch, noted] of await renameStore.listBegun(db)) {
    if (!(await back(noted))) continue;
    // Somebody may have read one under the name of another.
    for (const { ground, folder, from } of noted) {
      const place = places.find((p) => p.path === ground.path);
      if (!place) continue;
      await fileNameStore.forgetReadings(db, place.id, folder, [from]);
      await enqueue(db, 'index-place', { placeId: place.id, folder }, place.name);
    }
    await renameStore.forget(db, batch);
  }
}

type Noted = NotedRename & { readonly placeId: PlaceId; readonly placeName: string };

/** What each file is now; one that is not what was indexed is another. */
async function notesFor(trx: Transaction, renamed: readonly FileRenamed[], side: 'before' | 'after'): Promise<Noted[]> {
  const files = await mediaFileStore.listByIds(
    trx,
    renamed.map((r) => r.mediaFileId),
  );
  const records = new Map(files.map((f) => [f.id, f]));
  const places = new Map((await placeStore.listPlaces(trx)).map((p) => [p.id, p]));
  const noted: Noted[] = [];
  for (const { mediaFileId, before, after } of renamed) {
    const record = records.get(mediaFileId);
    const place = record && places.get(record.placeId);
    if (!place) throw new UserProblem({ code: 'undo-overtaken' });
    if (!place.there) throw new UserProblem({ code: 'place-away', place: place.name, path: place.path, for: 'use' });
    const [from, to] = side === 'after' ? [before, after] : [after, before];
    const folder = await FencedFolder.of(groundOf(place));
    const path = within(record.folder, from);
    const found = await folder.look(path);
    const isSame =
      found?.isFile &&
      found.sizeInBytes === record.sizeInBytes &&
      Math.abs(found.modifiedMs - record.modifiedMs) <= timeToleranceMs;
    if (!isSame) throw new UserProblem({ code: 'source-changed', path: folder.resolve(path), since: 'planned' });
    const { isFile: _, ...identity } = found;
    const names = { folder: record.folder, from, to, aside: nameAside() };
    noted.push({ ...names, ground: groundOf(place), identity, placeId: place.id, placeName: place.name });
  }
  return noted;
}

const within = (folder: string, name: string): string => (folder === '' ? name : `${folder}/${name}`);

/** A name that another of them gives up, or that only differs in how it is written, is free only when all stepped aside. */
async function forward(noted: readonly NotedRename[]): Promise<void> {
  const keyOf = ({ ground, folder }: NotedRename, name: string) => `${ground.path}\0${folder}\0${nameKey(name)}`;
  const givenUp = new Set(noted.map((n) => keyOf(n, n.from)));
  const stepsAside = (n: NotedRename) => givenUp.has(keyOf(n, n.to));
  for (const one of noted.filter(stepsAside)) await move(one, one.from, one.aside);
  for (const one of noted) await move(one, stepsAside(one) ? one.aside : one.from, one.to);
}

const move = ({ ground, folder }: NotedRename, from: string, to: string): Promise<void> =>
  moveInside(ground, within(folder, from), within(folder, to));

/** Brings back whatever was moved, wherever it was stopped. False where that has to be tried again. */
async function back(noted: readonly NotedRename[]): Promise<boolean> {
  try {
    const aside: NotedRename[] = [];
    for (const one of noted) if (await stepAside(one)) aside.push(one);
    for (const one of aside) await move(one, one.aside, one.from);
    return true;
  } catch (error) {
    // A drive that is away, a folder that is full: it is tried again when something is renamed next, or at start.
    if (error instanceof UserProblem || codeOf(error) !== undefined) return false;
    throw error;
  }
}

/**
 * Takes a file from its new name to the one that nobody knows, unless it has its old one. A move gives a file its second
 * name before it takes the first away. Names are compared to the letter, as the folder lists them: where case is folded,
 * two spellings lead to one file.
 */
async function stepAside(one: NotedRename): Promise<boolean> {
  const { ground, folder, from, to, aside, identity } = one;
  const listed = await withFolder(ground, async (root) => {
    const at = folder === '' ? root : await root.folder(folder, { strict: true });
    try {
      return new Set((await at.entries()).map((entry) => entry.name));
    } finally {
      if (at !== root) await at.close();
    }
  });
  const root = await FencedFolder.of(ground);
  const isAt = async (name: string) => {
    const found = listed.has(name) ? await root.look(within(folder, name)) : null;
    return found !== null && isSameFile(found, identity);
  };
  if (await isAt(from)) {
    for (const name of [aside, to]) if (await isAt(name)) await root.takeBack(within(folder, name), identity);
    return false;
  }
  if (await isAt(aside)) {
    if (await isAt(to)) await root.takeBack(within(folder, to), identity);
    return true;
  }
  if (!(await isAt(to))) return false;
  await move(one, to, aside);
  return true;
}
