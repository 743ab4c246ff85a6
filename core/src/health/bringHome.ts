import { binBy } from '../bins/fileBy.ts';
import { placesFor } from '../consolidate/names.ts';
import { folderFor, type FolderTemplate } from '../folders/index.ts';
import type { MediaKind } from '../model/edit.ts';
import type { MediaFileId } from '../model/ids.ts';
import { safeName } from '../paths/names.ts';
import type { Home } from './home.ts';

/** A file in use, and where in the place of home it goes. */
export type WayHome = { readonly mediaFileId: MediaFileId; readonly path: string };

export type ToBringHome = {
  readonly id: MediaFileId;
  readonly kind: MediaKind | null;
  /** The name of its place, and its folders there, top first. */
  readonly folders: readonly string[];
  readonly name: string;
};

/**
 * Where each file goes in the home folder, from the root of its place: into the folder of the template that takes its kind,
 * then by the card or folder that it came from, under its own name made safe. None is put where something lies already (`taken`, paths in that place).
 */
export function waysHome(
  files: readonly ToBringHome[],
  { folder: home }: Pick<Home, 'folder'>,
  template: FolderTemplate,
  taken: readonly string[],
): Map<MediaFileId, string> {
  const wanted = files.map(({ kind, folders, name }) => {
    const [card] = binBy('by-card', { kind, reel: null, folders, writtenMs: null }) ?? [];
    const parts = [home, folderFor(template, kind ?? 'other'), ...(card === undefined ? [] : [safeName(card)])];
    return { folder: parts.filter(Boolean).join('/'), name: safeName(name), from: folders.slice(0, -1).join(' ') };
  });
  // What lies there goes first, so that it is ours that gives way.
  const there = taken.map((path) => ({ folder: '', name: path, from: 'there' }));
  const paths = placesFor([...there, ...wanted]).slice(there.length);
  return new Map(files.map((file, i) => [file.id, paths[i]!]));
}
