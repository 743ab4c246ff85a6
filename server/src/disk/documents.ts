import { extname } from 'node:path';
import { bundleParts, type ByteSource } from '@legame/core/bundle';
import type { PlaceDocuments } from '@legame/core/contract';
import { UserProblem } from '../problems.ts';
import { withFileOf, withFolder, type Ground, type HeldFolder } from './held.ts';

/** Endings under which timelines, lists, logs and zipped bundles go. */
const endings = new Set(['.edl', '.otio', '.otioz', '.csv', '.tsv', '.txt']);
const isBundleFolder = (name: string): boolean => extname(name).toLowerCase() === '.otiod';

/** A document as it lies in a folder; of a bundle folder the times are those of its document. */
export type DocumentThere = PlaceDocuments['documents'][number] & {
  readonly modifiedMs: number;
  readonly changedMs: number;
};
type Listed = { readonly folders: readonly string[]; readonly documents: readonly DocumentThere[] };

/**
 * What a folder of a place holds that could be brought in; null when it cannot be listed. Nothing is opened; hidden names
 * are left out.
 */
export async function listDocumentsIn(ground: Ground, folder: string): Promise<Listed | null> {
  return withFolder(ground, async (root) => {
    const held = await root.folder(folder);
    try {
      return await listIn(held);
    } finally {
      await held.close();
    }
  }).catch((error: unknown) => {
    if (error instanceof UserProblem && error.code !== 'outside-folder') throw error;
    return null;
  });
}

async function listIn(folder: HeldFolder): Promise<Listed> {
  const entries = await folder.entries();
  const shown = entries.filter((e) => !e.name.startsWith('.')).sort((a, b) => a.name.localeCompare(b.name));
  const files = shown.filter((e) => e.isFile() && endings.has(extname(e.name).toLowerCase()));
  const folders = shown.filter((e) => e.isDirectory()).map((e) => e.name);
  const sized = await Promise.all(
    files.map(async ({ name }): Promise<DocumentThere> => {
      const stats = await folder.look(name);
      const [modifiedMs, changedMs] = [stats?.mtimeMs ?? 0, stats?.ctimeMs ?? 0];
      return { name, sizeInBytes: stats?.size ?? 0, isBundleFolder: false, modifiedMs, changedMs };
    }),
  );
  // Of a bundle folder, its document.
  const bundles = await Promise.all(
    folders.filter(isBundleFolder).map(async (name): Promise<DocumentThere> => {
      const stats = await folder.look(`${name}/${bundleParts.content}`).catch(() => null);
      const [modifiedMs, changedMs] = [stats?.mtimeMs ?? 0, stats?.ctimeMs ?? 0];
      return { name, sizeInBytes: 0, isBundleFolder: true, modifiedMs, changedMs };
    }),
  );
  return { folders: folders.filter((name) => !isBundleFolder(name)), documents: [...bundles, ...sized] };
}

/** Opens a file of a place, for reading only, for as long as `use` runs. */
export async function withFileSource<T>(
  ground: Ground,
  path: string,
  use: (source: ByteSource) => Promise<T>,
): Promise<T> {
  return withFileOf(ground, path, async (file) => {
    const { size } = await file.stat();
    return use({
      size,
      read: async (offset, length) => {
        const buffer = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
        const { bytesRead } = await file.read(buffer, 0, buffer.length, offset);
        return buffer.subarray(0, bytesRead);
      },
    });
  });
}
