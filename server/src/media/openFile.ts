import { closeSync, fstatSync, readSync } from 'node:fs';
import { join } from 'node:path';
import { Xxh64 } from '@node-rs/xxhash';
import type { ByteReader } from '@legame/core/headers';
import { endure } from '../disk/conditions.ts';
import { holdFolderSync, type Ground } from '../disk/held.ts';
import { hexOf } from './hashing.ts';

export type OpenFile = {
  readonly path: string;
  readonly source: ByteReader;
  readonly modifiedMs: number;
  readonly look: () => { sizeInBytes: number; modifiedMs: number };
};

/** Opens a file of a place for reading while `use` runs. */
export function withFile(
  { path, ...ground }: { readonly root: string; readonly is?: Ground['is']; readonly path: string },
  use: (file: OpenFile) => void,
): void {
  endure(ground.root);
  const root = holdFolderSync({ path: ground.root, is: ground.is });
  let descriptor: number;
  try {
    descriptor = root.file(path);
  } finally {
    root.close();
  }
  try {
    const before = fstatSync(descriptor);
    use({
      path: join(ground.root, path),
      source: windowed(descriptor, before.size),
      modifiedMs: before.mtimeMs,
      look: () => {
        const now = fstatSync(descriptor);
        return { sizeInBytes: now.size, modifiedMs: now.mtimeMs };
      },
    });
  } finally {
    closeSync(descriptor);
  }
}

/** Pieces of an opened file. */
export const readerOf = (descriptor: number, size: number): ByteReader => windowed(descriptor, size);

const windowInBytes = 65_536;

/** Header readers ask for many small pieces that lie together; one window of the file answers most of them. */
function windowed(descriptor: number, size: number): ByteReader {
  let windowAt = -1;
  let held: Buffer = Buffer.alloc(0);
  const fill = (offset: number, length: number): Buffer => {
    const wanted = Math.max(0, Math.min(length, size - offset));
    const buffer = Buffer.allocUnsafe(wanted);
    let done = 0;
    while (done < wanted) {
      const got = readSync(descriptor, buffer, done, wanted - done, offset + done);
      if (got === 0) break;
      done += got;
    }
    return buffer.subarray(0, done);
  };
  return {
    size,
    read: (offset, length) => {
      if (length > windowInBytes / 2) return fill(offset, length);
      if (windowAt < 0 || offset < windowAt || offset + length > windowAt + held.length) {
        windowAt = offset;
        held = fill(offset, windowInBytes);
      }
      return held.subarray(offset - windowAt, offset - windowAt + length);
    },
  };
}

const sampleInBytes = 65_536;
const samples = 5;

/**
 * A fast identity of a file's content: its size and the xxh64 of five blocks spread over it, first and last among them.
 * Files that differ in size or in one of these blocks are certainly different; equal ones are very likely the same.
 */
export function fingerprintOf(source: ByteReader): string {
  const hasher = new Xxh64();
  const last = Math.max(0, source.size - sampleInBytes);
  const at = last === 0 ? [0] : Array.from({ length: samples }, (_, i) => Math.floor((last * i) / (samples - 1)));
  for (const offset of at) hasher.update(Buffer.from(source.read(offset, sampleInBytes)));
  return `${source.size.toString(36)}-${hexOf(hasher.digest())}`;
}
