import { open, readdir, stat } from 'node:fs/promises';
import { extname, join } from 'node:path';
import type { ByteSource } from '@legame/core/bundle';
import type { PlaceDocuments } from '@legame/core/contract';

/** Endings under which timelines, lists, logs and zipped bundles go. */
const endings = new Set(['.edl', '.otio', '.otioz', '.csv', '.tsv', '.txt']);
const isBundleFolder = (name: string): boolean => extname(name).toLowerCase() === '.otiod';

/** What a folder holds that could be brought in; null when it cannot be listed. Nothing is opened; hidden names are left out. */
export async function listDocumentsIn(path: string): Promise<Omit<PlaceDocuments, 'folder'> | null> {
  const entries = await readdir(path, { withFileTypes: true }).catch(() => null);
  if (!entries) return null;
  const shown = entries.filter((e) => !e.name.startsWith('.')).sort((a, b) => a.name.localeCompare(b.name));
  const files = shown.filter((e) => e.isFile() && endings.has(extname(e.name).toLowerCase()));
  const folders = shown.filter((e) => e.isDirectory()).map((e) => e.name);
  const sized = await Promise.all(
    files.map(async ({ name }) => {
      const { size } = await stat(join(path, name));
      return { name, sizeInBytes: size, isBundleFolder: false };
    }),
  );
  const bundles = folders.filter(isBundleFolder).map((name) => ({ name, sizeInBytes: 0, isBundleFolder: true }));
  return { folders: folders.filter((name) => !isBundleFolder(name)), documents: [...bundles, ...sized] };
}

/** Opens a file, for reading only, for as long as `use` runs. */
export async function withFileSource<T>(path: string, use: (source: ByteSource) => Promise<T>): Promise<T> {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    return await use({
      size,
      read: async (offset, length) => {
        const buffer = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
        const { bytesRead } = await file.read(buffer, 0, buffer.length, offset);
        return buffer.subarray(0, bytesRead);
      },
    });
  } finally {
    await file.close();
  }
}
