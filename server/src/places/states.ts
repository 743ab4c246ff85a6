import type { PlaceId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { together } from '../db/together.ts';
import { enqueue } from '../queue/queue.ts';
import { isInside } from '../disk/fence.ts';
import {
  fileSystemIdOf,
  foldersNearby,
  leastSample,
  otherTree,
  sameTree,
  sampleSize,
  treeFit,
  type TreeSample,
} from '../disk/identity.ts';
import { isSameFolder } from '../disk/held.ts';
import { lookAt, type Presence } from '../disk/presence.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore, type PlaceRecord, type PlaceUpdate } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import type { Context } from '../context.ts';
import { matchAllProjects } from '../matching/matchProject.ts';
import { tell } from '../events/tell.ts';

/** Without a sign of change a place is walked again after this time: not every storage tells of its changes. */
const walkAgainAfterMs = 15 * 60_000;

/** Queues the index of a place, or of one folder of it. */
export const startIndexOf = (db: Database | Transaction, place: Pick<PlaceRecord, 'id' | 'name'>, folder = '') =>
  enqueue(db, 'index-place', { placeId: place.id, folder }, folder === '' ? place.name : `${place.name}/${folder}`);

/**
 * Looks at every place: is it there, does it answer, may it be written to; is a drive that is away mounted somewhere
 * else now; has a file that was still being written come to rest. What changed is noted, and clips turn by it.
 */
export const sweepPlaces = ({ db, config }: Pick<Context, 'db' | 'config'>): Promise<void> =>
  // One after another, or what was seen first could be noted last.
  together(db, `places within ${config.roots.join('\n')}`, () => sweep(db, config.roots));

async function sweep(db: Database, roots: readonly string[]): Promise<void> {
  const places = await placeStore.listPlaces(db);
  const seen = await Promise.all(places.map(async (place) => ({ place, presence: await lookAt(place.path) })));
  const judged = await Promise.all(seen.map(async (s) => ({ ...s, update: await judge(db, s.place, s.presence) })));
  const changed = judged.filter(({ place, update }) => differs(place, update));
  const away = judged.filter(({ place, update }) => !(update.there ?? place.there)).map((j) => j.place);
  const moved = await findMoved(db, away, places, roots);
  await rereadGrowing(db, places);
  await walkStale(db, places);
  if (changed.length === 0 && moved.length === 0) return;
  await db.transaction(async (trx) => {
    for (const { place, update } of changed) {
      await placeStore.updatePlace(trx, place.id, update);
      if (update.there && !place.there) await startIndexOf(trx, place);
    }
    for (const { place, path } of moved) await settleAt(trx, place, path);
    const turned = changed.some(({ place, update }) => update.there !== undefined && update.there !== place.there);
    if (turned || moved.length > 0) await rematch(trx);
    await tell(trx, 'places');
  });
}

const differs = (place: PlaceRecord, update: PlaceUpdate): boolean =>
  update.root !== undefined ||
  (['there', 'awayBecause', 'readOnly', 'slow', 'silent'] as const).some(
    (k) => update[k] !== undefined && update[k] !== place[k],
  );

/** Notes that a place gives no answer in the middle of work; clips turn by it. */
export const noteSilent = (db: Database, id: PlaceId): Promise<void> =>
  db.transaction(async (trx) => {
    await placeStore.updatePlace(trx, id, { there: false, awayBecause: 'no-answer' });
    await rematch(trx);
    await tell(trx, 'places');
  });

async function rematch(trx: Transaction): Promise<void> {
  await matchAllProjects(trx);
  for (const project of await projectStore.listProjects(trx)) await tell(trx, 'project', project.id);
}

/** What a look says of a place. One that comes back is held against what is known of it: it may be another drive. */
async function judge(db: Database, place: PlaceRecord, presence: Presence): Promise<PlaceUpdate> {
  // Nothing is known by that: it stays as it was.
  if (presence.there === null) return { silent: true };
  if (!presence.there) return { there: false, awayBecause: presence.because, slow: false, silent: false };
  const { slow, readOnly } = presence;
  const answers = { slow, readOnly, silent: false };
  const isSameRoot = place.root !== null && isSameFolder(place.root, presence.root);
  if (place.there && (isSameRoot || place.root === null))
    return { there: true, awayBecause: null, ...answers, ...(isSameRoot ? {} : { root: presence.root }) };
  // It was unplugged and its folder stayed, or something else lies there now: what is in it tells.
  if (await isAnotherDrive(db, place, presence.isEmpty))
    return { there: false, awayBecause: presence.isEmpty ? 'not-plugged-in' : 'another-drive', ...answers };
  return { there: true, awayBecause: null, ...answers, root: presence.root };
}

async function isAnotherDrive(db: Database, place: PlaceRecord, isEmpty: boolean): Promise<boolean> {
  const id = place.fileSystemId === null ? null : await fileSystemIdOf(place.path);
  if (id !== null) return id !== place.fileSystemId;
  const sample = await treeOf(db, place);
  // An empty folder in the stead of one that held anything is where a drive was mounted.
  if (isEmpty) return sample.length > 0;
  return sample.length >= leastSample && (await treeFit(place.path, sample)) <= otherTree;
}

/** Drives that are away and lie under another path now. Where two could be meant, none is: a person can say. */
async function findMoved(
  db: Database,
  away: readonly PlaceRecord[],
  places: readonly PlaceRecord[],
  roots: readonly string[],
): Promise<{ place: PlaceRecord; path: string }[]> {
  if (away.length === 0) return [];
  const free = (
    await foldersNearby(
      away.map((p) => p.path),
      roots,
    )
  ).filter((folder) => !places.some((p) => p.there && (isInside(p.path, folder) || isInside(folder, p.path))));
  const fitting: { place: PlaceRecord; path: string }[] = [];
  for (const place of away) {
    const sample = await treeOf(db, place);
    for (const path of free)
      if (path !== place.path && (await isSameDrive(place, sample, path))) fitting.push({ place, path });
  }
  const isOnly = (one: (typeof fitting)[number]) =>
    fitting.every((f) => f === one || (f.place !== one.place && f.path !== one.path));
  return fitting.filter(isOnly);
}

async function isSameDrive(place: PlaceRecord, sample: TreeSample, path: string): Promise<boolean> {
  const id = place.fileSystemId === null ? null : await fileSystemIdOf(path);
  if (id !== null) return id === place.fileSystemId;
  return sample.length >= leastSample && (await treeFit(path, sample)) >= sameTree;
}

/** Samples of places that are away, which do not change: they are looked for every few seconds. */
const trees = new Map<PlaceId, { indexedAt: number; sample: TreeSample }>();

async function treeOf(db: Database, place: PlaceRecord): Promise<TreeSample> {
  const indexedAt = place.indexedAt?.getTime() ?? 0;
  const known = trees.get(place.id);
  if (known?.indexedAt === indexedAt) return known.sample;
  const sample = await placeStore.sampleOfTree(db, place.id, sampleSize);
  trees.set(place.id, { indexedAt, sample });
  return sample;
}

/** Notes that a place lies at another path from now on, and looks what changed in it. */
export async function settleAt(trx: Transaction, place: PlaceRecord, path: string): Promise<void> {
  await placeStore.updatePlace(trx, place.id, {
    path,
    movedFrom: place.path,
    there: true,
    awayBecause: null,
    // Learned at the next look.
    root: null,
  });
  await startIndexOf(trx, place);
}

/** A known place that is away and whose tree this folder holds; null when it is none. */
export async function knownDriveAt(db: Database, path: string): Promise<PlaceRecord | null> {
  const away = (await placeStore.listPlaces(db)).filter((p) => !p.there);
  for (const place of away) if (await isSameDrive(place, await treeOf(db, place), path)) return place;
  return null;
}

/** Files that were still being written are looked at again until size and time stay. */
async function rereadGrowing(db: Database, places: readonly PlaceRecord[]): Promise<void> {
  const there = new Map<PlaceId, PlaceRecord>(places.filter((p) => p.there).map((p) => [p.id, p]));
  for (const { placeId, folder } of await mediaFileStore.listGrowing(db)) {
    const place = there.get(placeId);
    if (!place) continue;
    await mediaFileStore.forgetGrowing(db, placeId, folder);
    await startIndexOf(db, place, folder);
  }
}

async function walkStale(db: Database, places: readonly PlaceRecord[]): Promise<void> {
  for (const place of places) {
    const isStale = place.indexedAt !== null && Date.now() - place.indexedAt.getTime() > walkAgainAfterMs;
    if (place.there && isStale) await startIndexOf(db, place);
  }
}
