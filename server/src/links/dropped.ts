import { type DroppedFile, fitsOf, offeredBy, sameAmong } from '@legame/core/match';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import { nameKey } from '@legame/core/paths';
import { isDark } from '@legame/core/state';
import type { DroppedAnswer } from '@legame/core/contract';
import { join } from 'node:path';
import { loadProject } from '../clips/project.ts';
import type { ClipState, ProjectState } from '../clips/state.ts';
import type { Context } from '../context.ts';
import { existingRoots, isInside } from '../disk/fence.ts';
import { whereabouts } from '../disk/whereabouts.ts';
import { toMatch } from '../matching/matchProject.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { type LeftOut, previewOf, type WantedMember } from './previews.ts';

/**
 * What files are that somebody dropped onto the page: those that lie in a place, with the dark clips that matching would
 * link to them; those that lie in none, with how many clips they would fit and where on this machine they lie. A name
 * alone decides nothing here either: a clip is linked to what its own matching offers, the dropped files only say which.
 */
export async function lookAtDropped(
  { db, config }: Pick<Context, 'db' | 'config'>,
  projectId: ProjectId,
  { files, clipId }: { readonly files: readonly DroppedFile[]; readonly clipId?: ClipId | undefined },
): Promise<DroppedAnswer> {
  const [project, alike] = await Promise.all([loadProject(db, projectId), mediaFileStore.listAlike(db, files)]);
  const open = project.states.filter((s) => isDark(s.status.status) && (!clipId || s.clip.id === clipId));
  const byName = new Map<string, MediaFileRecord[]>();
  for (const file of alike) {
    if (!project.places.get(file.placeId)?.there) continue;
    const key = nameKey(file.name);
    byName.set(key, [...(byName.get(key) ?? []), file]);
  }
  const known = files.map((file) => sameAmong(file, byName.get(nameKey(file.name)) ?? []));
  const inHand = new Map(known.flat().map((file) => [file.id, file as MediaFileRecord]));
  const wanted = open.flatMap((state) => wantedOf(state, inHand));
  const elsewhere = files.filter((_, i) => known[i]!.length === 0);
  return {
    ...previewOf({ ...project, files: new Map([...project.files, ...inHand]) }, wanted),
    here: files.length - elsewhere.length,
    elsewhere: await foldersOf(project, open, elsewhere, config.roots),
  };
}

/** The dropped file that the clip's own matching names; of several, only copies of one content are no question. */
function wantedOf(state: ClipState, inHand: ReadonlyMap<MediaFileId, MediaFileRecord>): WantedMember[] {
  const named = offeredBy(state.clip.proposal?.decision).flatMap((id) => inHand.get(id) ?? []);
  const [first] = named;
  if (!first) return [];
  const areCopies = first.fingerprint !== null && named.every((file) => file.fingerprint === first.fingerprint);
  const leftOut: LeftOut | null = state.clip.pinned ? 'pinned' : named.length > 1 && !areCopies ? 'choice' : null;
  return [{ state, mediaFileId: leftOut ? null : first.id, leftOut }];
}

/** Files that lie in no place, by the folder that was dropped. */
async function foldersOf(
  project: ProjectState,
  open: readonly ClipState[],
  files: readonly DroppedFile[],
  roots: readonly string[],
): Promise<DroppedAnswer['elsewhere']> {
  const groups = new Map<string | null, DroppedFile[]>();
  for (const file of files) {
    const top = file.folders[0] ?? null;
    groups.set(top, [...(groups.get(top) ?? []), file]);
  }
  const fits = fitsOf(
    files,
    open.map(({ clip }) => toMatch(clip)),
    project.rules,
  );
  const list = [...groups].map(([folder, of]) => ({
    folder,
    of,
    // What fits a clip is what is looked for, not the first of thousands.
    sample: of.find((file) => fits.has(file)) ?? of[0]!,
    clips: new Set(of.flatMap((file) => fits.get(file) ?? [])),
  }));
  const lie = await whereabouts(
    await existingRoots(roots),
    list.map(({ sample }) => ({ steps: [...sample.folders, sample.name], sizeInBytes: sample.sizeInBytes })),
  );
  const places = [...project.places.values()].filter((place) => place.there);
  return list.map(({ folder, of, clips }, i) => {
    const paths = lie[i]!.map((path) => (folder === null ? path : join(path, folder)));
    const holding = places.find((place) => paths.some((path) => isInside(place.path, path)));
    return {
      folder,
      files: of.length,
      sizeInBytes: of.reduce((sum, file) => sum + file.sizeInBytes, 0),
      clips: clips.size,
      names: of.slice(0, 3).map((file) => file.name),
      lies: paths.filter((path) => !places.some((place) => isInside(place.path, path))),
      inPlace: holding?.name ?? null,
    };
  });
}
