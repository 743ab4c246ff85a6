import { joinBytes } from '../headers/bytes.ts';

/** The xxh64 of bytes as 16 hex digits. */
export type HashBytes = (bytes: Uint8Array) => string;
export type DirectoryHash = { readonly content: string; readonly structure: string };

type Folder = { readonly folders: Map<string, Folder>; readonly files: Map<string, string> };

/**
 * Hashes of folders after ASC MHL 2.0. Content: of all hashes inside, sorted. Structure: the same over names with their
 * hashes. Folders come children first, sorted by name.
 */
export function directoriesOf(
  files: readonly { readonly path: string; readonly xxh64: string }[],
  hash: HashBytes,
): { readonly root: DirectoryHash; readonly folders: readonly (readonly [string, DirectoryHash])[] } {
  const top: Folder = { folders: new Map(), files: new Map() };
  for (const { path, xxh64 } of files) {
    const parts = path.split('/');
    let at = top;
    for (const part of parts.slice(0, -1)) {
      const next = at.folders.get(part) ?? { folders: new Map(), files: new Map() };
      at.folders.set(part, next);
      at = next;
    }
    at.files.set(parts.at(-1)!, xxh64);
  }
  const folders: (readonly [string, DirectoryHash])[] = [];
  const visit = (folder: Folder, path: string): DirectoryHash => {
    const content: string[] = [];
    const structure: string[] = [];
    for (const [name, child] of [...folder.folders].sort(byName)) {
      const of = visit(child, path === '' ? name : `${path}/${name}`);
      content.push(of.content);
      structure.push(named(name, of.structure));
    }
    for (const [name, xxh64] of folder.files) {
      content.push(xxh64);
      structure.push(named(name, xxh64));
    }
    const found = { content: ofList(content), structure: ofList(structure) };
    if (path !== '') folders.push([path, found]);
    return found;
  };
  const named = (name: string, of: string) => hash(joinBytes([new TextEncoder().encode(name), bytesOf(of)]));
  const ofList = (hashes: readonly string[]) => hash(joinBytes(hashes.toSorted().map(bytesOf)));
  return { root: visit(top, ''), folders };
}

const byName = ([a]: readonly [string, unknown], [b]: readonly [string, unknown]): number => (a < b ? -1 : 1);
const bytesOf = (hex: string): Uint8Array =>
  Uint8Array.from({ length: hex.length / 2 }, (_, i) => parseInt(hex.slice(i * 2, i * 2 + 2), 16));
