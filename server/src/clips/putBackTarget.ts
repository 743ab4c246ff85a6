import type { NotPutBack } from '@legame/core/contract';
import { foldersInPlace, parseRememberedPath, pathKeys, placeNames, type RememberedPath } from '@legame/core/paths';
import type { PlaceRecord } from '../stores/places.ts';
import type { ClipState, ProjectState } from './state.ts';

/** Where a clip's file has to lie for the edit to find it by itself: a folder of one place that is there, and a name. */
type Target = { readonly place: PlaceRecord; readonly folder: string; readonly name: string };

/** The target, or why there is none. */
export function putBackTarget(
  { clip, tied, status }: Pick<ClipState, 'clip' | 'tied' | 'status'>,
  { places }: Pick<ProjectState, 'places'>,
): Target | NotPutBack {
  if (!tied) return { code: 'not-tied', clip: clip.name };
  if (tied.by === 'remembered') return { code: 'lies-there', clip: clip.name };
  if (!tied.place.there || tied.file.gone || status.status === 'unreadable')
    return { code: 'unreadable', clip: clip.name };
  if (tied.file.sequence) return { code: 'sequence', file: tied.file.name };
  if (!clip.remembered) return { code: 'no-path', clip: clip.name };
  const path = parseRememberedPath(clip.remembered);
  const homes = [...places.values()].flatMap((place) => {
    const folders = path.form === 'relative' ? null : foldersInPlace(pathKeys(path), placeNames(place));
    return folders ? [{ place, depth: folders.length }] : [];
  });
  const [home] = homes;
  if (!home || homes.length > 1) return { code: 'no-place', path: clip.remembered };
  if (!home.place.there) return { code: 'place-away', place: home.place.name };
  if (home.place.readOnly) return { code: 'place-read-only', place: home.place.name };
  const folder = lastFolders(path, home.depth);
  const { file, place } = tied;
  if (place.id === home.place.id && file.folder === folder && file.name === path.name)
    return { code: 'lies-there', clip: clip.name };
  return { place: home.place, folder, name: path.name };
}

/** The folders below the place, as the edit spells them. */
function lastFolders(path: RememberedPath, depth: number): string {
  const all = path.fromRoot ?? path.folders;
  return all.slice(all.length - depth).join('/');
}
