import type { MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import { bytesByUse, roomShares } from '@legame/core/report';
import { isDark } from '@legame/core/state';
import {
  type MediaUse,
  mediaUses,
  type roomFileSchema,
  type Cleared,
  type RoomByPlace,
  type RoomMap,
  type RoomShareView,
} from '@legame/core/contract';
import { relative } from 'node:path';
import type { z } from 'zod';
import { loadProject } from '../clips/project.ts';
import type { Context, Looking } from '../context.ts';
import { isInside } from '../disk/fence.ts';
import { addUp, roomOf } from '../disk/room.ts';
import { clearedStore } from '../stores/cleared.ts';
import { type FileForRoom, mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { settingsStore } from '../stores/settings.ts';

const mostListed = 200;

/** More entries than this are too small to see; the rest is shown as one. */
const mostEntries = 100;

const mostInside = 40;

const allUses = Object.fromEntries(mediaUses.map((use) => [use, 0])) as Record<MediaUse, number>;

/** What uses each file: names of clips of this project, names of other projects, dark clips that may need it. */
export type Uses = {
  readonly here: ReadonlyMap<MediaFileId, readonly string[]>;
  readonly elsewhere: ReadonlyMap<MediaFileId, readonly string[]>;
  readonly wanted: ReadonlyMap<MediaFileId, readonly string[]>;
};

/** Clips of `projectId` and other projects by the files they are tied to, or may be. */
export async function usesOfFiles({ db }: Looking, projectId: ProjectId | null): Promise<Uses> {
  const here = new Map<MediaFileId, string[]>();
  const elsewhere = new Map<MediaFileId, string[]>();
  const wanted = new Map<MediaFileId, string[]>();
  const note = (map: Map<MediaFileId, string[]>, id: MediaFileId, name: string) => {
    const known = map.get(id) ?? [];
    if (!known.includes(name)) map.set(id, [...known, name]);
  };
  for (const project of await projectStore.listProjects(db)) {
    const isHere = project.id === projectId;
    for (const { clip, tied, status } of (await loadProject(db, project.id)).states) {
      if (tied) note(isHere ? here : elsewhere, tied.file.id, isHere ? clip.name : project.name);
      if (!isDark(status.status)) continue;
      for (const { mediaFileId } of clip.proposal?.candidates ?? [])
        note(wanted, mediaFileId, isHere ? clip.name : project.name);
    }
  }
  return { here, elsewhere, wanted };
}

/** What takes up a place, by folder and by use: for one project's eyes, from `folder` down. */
export async function roomMap(
  { db, config }: Pick<Context, 'db' | 'config'>,
  projectId: ProjectId,
  placeId: PlaceId,
  folder: string,
): Promise<RoomMap> {
  const place = await placeStore.getPlace(db, placeId);
  const [files, uses, cleared, copies] = await Promise.all([
    mediaFileStore.listForRoom(db, placeId),
    usesOfFiles({ db }, projectId),
    clearedStore.listHeld(db, placeId),
    mediaFileStore.listSharedFingerprints(db),
  ]);
  const used = files.map((file) => {
    const { folder: lies, name, sizeInBytes } = file;
    return { folder: lies, name, sizeInBytes, file, use: useOf(file, uses, copies) };
  });
  const held = cleared.map(asHeld);
  const all = [...used, ...held, ...(await cacheIn(place.path, config.cacheFolder))];
  const sharesOf = (of: string): RoomShareView[] =>
    roomShares<MediaUse, (typeof all)[number]>(all, of).map(({ file, ...share }) => ({
      ...share,
      mediaFileId: file?.file?.id ?? null,
      byUse: { ...allUses, ...share.byUse },
    }));
  const shown = firstParting(folder, sharesOf);
  const isUnder = (f: { folder: string }) => folder === '' || f.folder === folder || f.folder.startsWith(`${folder}/`);
  const media = used.filter(isUnder).sort((a, b) => b.sizeInBytes - a.sizeInBytes);
  const view = ({ file, use }: (typeof used)[number]): z.input<typeof roomFileSchema> => ({
    mediaFileId: file.id,
    folder: file.folder,
    name: file.name,
    sizeInBytes: file.sizeInBytes,
    use,
    usedBy: [...(uses.here.get(file.id) ?? []), ...(uses.elsewhere.get(file.id) ?? []).map((p) => `project ${p}`)],
    wantedBy: [...(uses.wanted.get(file.id) ?? [])],
  });
  return {
    placeId,
    placeName: place.name,
    folder: shown,
    entries: withRest(sharesOf(shown), mostEntries).map((share) => ({
      ...share,
      inside: share.folder === null ? [] : withRest(sharesOf(share.folder), mostInside),
    })),
    byUse: { ...allUses, ...bytesByUse(all.filter(isUnder)) },
    room: place.there ? await roomOf(place.path) : null,
    headroomShare: await settingsStore.headroomShare(db),
    largest: media.slice(0, mostListed).map(view),
    unused: media
      .filter((f) => f.use === 'unused' || f.use === 'duplicate')
      .slice(0, mostListed)
      .map(view),
  };
}

/** What takes up all places, by use: where room is lost, before anybody looks into one of them. */
export async function roomByPlace(
  { db, config }: Pick<Context, 'db' | 'config'>,
  projectId: ProjectId,
): Promise<RoomByPlace> {
  const [places, uses, copies] = await Promise.all([
    placeStore.listPlaces(db),
    usesOfFiles({ db }, projectId),
    mediaFileStore.listSharedFingerprints(db),
  ]);
  return Promise.all(
    places.map(async ({ id, name, path }) => {
      const [files, cleared, cache] = await Promise.all([
        mediaFileStore.listForRoom(db, id),
        clearedStore.listHeld(db, id),
        cacheIn(path, config.cacheFolder),
      ]);
      const used = files.map((file) => ({ sizeInBytes: file.sizeInBytes, use: useOf(file, uses, copies) }));
      const byUse = bytesByUse<MediaUse>([...used, ...cleared.map(asHeld), ...cache]);
      return { placeId: id, placeName: name, byUse: { ...allUses, ...byUse } };
    }),
  );
}

const asHeld = ({ holding, sizeInBytes }: Cleared) => ({
  folder: holding.split('/').slice(0, -1).join('/'),
  name: holding.split('/').at(-1)!,
  sizeInBytes,
  use: 'holding' as const,
  file: null,
});

/** The largest shares, and all the rest as one without a name of its own. */
function withRest(shares: readonly RoomShareView[], most: number): RoomShareView[] {
  if (shares.length <= most) return [...shares];
  const rest = shares.slice(most);
  const byUse = { ...allUses };
  for (const share of rest) for (const use of mediaUses) byUse[use] += share.byUse[use];
  const sum = (of: (share: RoomShareView) => number) => rest.reduce((total, share) => total + of(share), 0);
  return [
    ...shares.slice(0, most),
    {
      name: '',
      folder: null,
      mediaFileId: null,
      files: sum((s) => s.files),
      sizeInBytes: sum((s) => s.sizeInBytes),
      byUse,
    },
  ];
}

/** Legame's own cache as one entry, where it lies inside the place; it is hidden from the index. */
async function cacheIn(placePath: string, cacheFolder: string) {
  if (!isInside(placePath, cacheFolder)) return [];
  const sizeInBytes = await addUp(cacheFolder);
  const parts = relative(placePath, cacheFolder).split('/');
  return [
    { folder: parts.slice(0, -1).join('/'), name: parts.at(-1)!, sizeInBytes, use: 'cache' as const, file: null },
  ];
}

/** A folder that holds nothing but one folder says nothing; the first below it that parts does. */
function firstParting(folder: string, sharesOf: (folder: string) => readonly RoomShareView[]): string {
  for (let at = folder; ;) {
    const [only, ...others] = sharesOf(at);
    if (!only || only.folder === null || others.length > 0) return at;
    at = only.folder;
  }
}

/** In use counts before all else; then what a dark clip may need; then whether the content lies elsewhere as well. */
function useOf(file: FileForRoom, uses: Uses, copies: ReadonlySet<string>): MediaUse {
  if (uses.here.has(file.id)) return 'this-project';
  if (uses.elsewhere.has(file.id)) return 'other-projects';
  if (uses.wanted.has(file.id)) return 'wanted';
  if (file.isNoMedia) return 'other';
  return file.fingerprint !== null && copies.has(file.fingerprint) ? 'duplicate' : 'unused';
}

/** What of a place is held in its holding folder, newest first. */
export const listHeld = (...args: Parameters<typeof clearedStore.listHeld>) => clearedStore.listHeld(...args);
