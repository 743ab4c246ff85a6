import type { z } from 'zod';
import type { MediaUse, RoomMap, roomFileSchema } from '@legame/core/contract';
import {
  bytesByUse,
  defaultHeadroomShare,
  roomShares,
  type MediaFileId,
  type PlaceId,
  type ProjectId,
} from '@legame/core';
import type { Database } from '../db/database.ts';
import { roomOf } from '../places/room.ts';
import { clearedStore } from '../stores/cleared.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { loadProject } from './clipViews.ts';

const mostListed = 200;
const allUses: Record<MediaUse, number> = {
  'this-project': 0,
  'other-projects': 0,
  duplicate: 0,
  unused: 0,
  holding: 0,
  other: 0,
};

/** What uses each file: names of clips of this project, and names of other projects. */
export type Uses = {
  readonly here: ReadonlyMap<MediaFileId, readonly string[]>;
  readonly elsewhere: ReadonlyMap<MediaFileId, readonly string[]>;
};

/** Clips of `projectId` and other projects by the files they are tied to. */
export async function usesOfFiles(db: Database, projectId: ProjectId | null): Promise<Uses> {
  const here = new Map<MediaFileId, string[]>();
  const elsewhere = new Map<MediaFileId, string[]>();
  for (const project of await projectStore.listProjects(db)) {
    const isHere = project.id === projectId;
    for (const { clip, tied } of (await loadProject(db, project.id)).states) {
      if (!tied) continue;
      const [map, name] = isHere ? [here, clip.name] : [elsewhere, project.name];
      const known = map.get(tied.file.id) ?? [];
      if (!known.includes(name)) map.set(tied.file.id, [...known, name]);
    }
  }
  return { here, elsewhere };
}

/** What takes up a place, by folder and by use: for one project's eyes, from `folder` down. */
export async function roomMap(db: Database, projectId: ProjectId, placeId: PlaceId, folder: string): Promise<RoomMap> {
  const place = await placeStore.getPlace(db, placeId);
  const [files, uses, cleared, copies] = await Promise.all([
    mediaFileStore.listUnder(db, placeId, ''),
    usesOfFiles(db, projectId),
    clearedStore.listHeld(db, placeId),
    mediaFileStore.listSharedFingerprints(db),
  ]);
  const used = files.map((file) => ({ ...file, file, use: useOf(file, uses, copies) }));
  const held = cleared.map((c) => ({
    folder: c.holding.split('/').slice(0, -1).join('/'),
    name: c.holding.split('/').at(-1)!,
    sizeInBytes: c.sizeInBytes,
    use: 'holding' as const,
    file: null,
  }));
  const all = [...used, ...held];
  const under = all.filter((f) => folder === '' || f.folder === folder || f.folder.startsWith(`${folder}/`));
  const media = used.filter((f) => under.includes(f)).sort((a, b) => b.sizeInBytes - a.sizeInBytes);
  const view = ({ file, use }: (typeof used)[number]): z.input<typeof roomFileSchema> => ({
    mediaFileId: file.id,
    folder: file.folder,
    name: file.name,
    sizeInBytes: file.sizeInBytes,
    use,
    usedBy: [...(uses.here.get(file.id) ?? []), ...(uses.elsewhere.get(file.id) ?? []).map((p) => `project ${p}`)],
  });
  return {
    placeId,
    placeName: place.name,
    folder,
    entries: roomShares<MediaUse, (typeof all)[number]>(all, folder).map(({ file, ...share }) => ({
      ...share,
      mediaFileId: file?.file?.id ?? null,
      byUse: { ...allUses, ...share.byUse },
    })),
    byUse: { ...allUses, ...bytesByUse(under) },
    room: place.there ? await roomOf(place.path) : null,
    headroomShare: defaultHeadroomShare,
    largest: media.slice(0, mostListed).map(view),
    unused: media
      .filter((f) => f.use === 'unused' || f.use === 'duplicate')
      .slice(0, mostListed)
      .map(view),
  };
}

/** In use counts before all else; then whether the same content lies somewhere else as well. */
function useOf(file: MediaFileRecord, uses: Uses, copies: ReadonlySet<string>): MediaUse {
  if (uses.here.has(file.id)) return 'this-project';
  if (uses.elsewhere.has(file.id)) return 'other-projects';
  if (file.unreadable?.code === 'not-media' || (file.wasRead && !file.facts && !file.unreadable)) return 'other';
  return file.fingerprint !== null && copies.has(file.fingerprint) ? 'duplicate' : 'unused';
}
