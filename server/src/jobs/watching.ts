import type { BaseLogger } from 'pino';
import type { PlaceId } from '@legame/core/model';
import { startIndexOf } from '../places/states.ts';
import type { Database } from '../db/database.ts';
import { lookAt } from '../disk/presence.ts';
import { PlaceWatcher } from '../disk/watch.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';

const lookEveryMs = 5000;
/** Changes in more folders at once are looked at in one walk of the whole place. */
const mostAlone = 4;

/** Watches the folders of all places that are there and quick, and has changed ones indexed. */
export function watchPlaces(db: Database, log: BaseLogger): { stop: () => void } {
  const watchers = new Map<PlaceId, { watcher: PlaceWatcher; path: string; indexedAt: number }>();
  const index = async (place: PlaceRecord, folders: string[]) => {
    // A drive that is being unplugged changes too; what is gone is looked at when it comes back.
    if (!(await lookAt(place.path)).there) return;
    const chosen = folders.length > mostAlone ? [''] : folders;
    await Promise.all(chosen.map((folder) => startIndexOf(db, place, folder)));
  };
  const look = async () => {
    const places = new Map((await placeStore.listPlaces(db)).map((p) => [p.id, p]));
    for (const [id, { watcher, path }] of watchers) {
      const place = places.get(id);
      if (place?.there && !place.slow && place.path === path) continue;
      watcher.close();
      watchers.delete(id);
    }
    for (const place of places.values()) {
      // A slow share is not asked for more than it must be.
      if (!place.there || place.slow || !place.indexedAt) continue;
      const known = watchers.get(place.id) ?? {
        watcher: new PlaceWatcher(place.path, (folders) => {
          index(place, folders).catch((error: unknown) => log.warn(error, 'a change was not indexed'));
        }),
        path: place.path,
        indexedAt: 0,
      };
      watchers.set(place.id, known);
      if (known.indexedAt === place.indexedAt.getTime()) continue;
      known.indexedAt = place.indexedAt.getTime();
      known.watcher.follow(await mediaFileStore.listAllFolders(db, place.id));
    }
  };
  const timer = setInterval(() => {
    look().catch((error: unknown) => log.warn(error, 'places are not watched'));
  }, lookEveryMs);
  return {
    stop: () => {
      clearInterval(timer);
      for (const { watcher } of watchers.values()) watcher.close();
    },
  };
}
