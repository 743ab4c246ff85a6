import type { FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { Xxh64 } from '@node-rs/xxhash';
import { configure, Reader, Uint8ArrayReader, Writer, ZipReader, ZipWriter, type Entry } from '@zip.js/zip.js';
import { writeProblem } from '../disk/failures.ts';
import type { FencedFolder } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';
import { reading, requireExpected, type Copied, type CopyOptions } from '../media/copying.ts';
import { hashesOf, hashOf, hexOf, xxh64Of } from '../media/hashing.ts';
import type { Ours } from '../made/ours.ts';
import { endureAsync } from '../disk/conditions.ts';
import type { Copy } from './copy.ts';

configure({ useWebWorkers: false, chunkSize: 1024 * 1024 });

/** What goes into a zip: a file of a place, or text made here. */
export type ZipPart = { readonly name: string } & (
  { readonly copy: Pick<Copy, 'source' | 'expected'> } | { readonly text: string }
);

/** What was written, of one piece; `parts` are the xxh64 of its files by their names in there. */
export type WrittenZip = Pick<Copied, 'xxh64' | 'others'> & { readonly parts: ReadonlyMap<string, string> };

/**
 * Writes a zip of stored files aside so that it is proven: each file hashed (xxh64) as it goes in, the whole flushed,
 * every entry read back out of it and compared, and the whole once more as the disk itself holds it.
 */
export async function writeZipVerified(
  folder: FencedFolder,
  aside: string,
  parts: readonly ZipPart[],
  options: CopyOptions,
): Promise<WrittenZip> {
  const { signal, also = [] } = options;
  try {
    const file = await folder.create(aside);
    try {
      const hashes = new Map<string, string>();
      const writer = new HandleWriter(file);
      const zip = new ZipWriter(writer, { level: 0, keepOrder: true, extendedTimestamp: false });
      for (const part of parts) hashes.set(part.name, await addPart(zip, part, options));
      await zip.close();
      await file.sync();
      await verify(file, folder.path, hashes, signal);
      const { xxh64, ...others } = await hashesOf(file, ['xxh64', ...also], { signal, isProof: true });
      if (xxh64 !== hexOf(writer.hasher.digest()))
        throw new UserProblem({ code: 'reads-back-differently', path: folder.resolve(aside), inside: null });
      return { parts: hashes, xxh64, others };
    } catch (error) {
      throw writeProblem(error, folder.resolve(aside));
    } finally {
      await file.close();
    }
  } catch (error) {
    await folder.discard(aside);
    throw error;
  }
}

/** One file in a zip: its path in there, and how long it is once it is out. */
export type ZippedFile = { readonly name: string; readonly sizeInBytes: number; readonly isLink: boolean };

export async function listZip(file: FileHandle): Promise<ZippedFile[]> {
  return readingZip(file, async (zip) =>
    (await zip.getEntries())
      .filter((e) => !e.directory)
      .map((e) => ({ name: e.filename, sizeInBytes: e.uncompressedSize, isLink: isLink(e) })),
  );
}

/**
 * Takes files out of a zip into a folder, each proven: written aside, held to the checksum in the zip, read back from
 * the disk and compared, and only then named. Names that would leave the folder are refused. Files that are there
 * already from before stay if they are still what was made; others are nobody's to replace.
 */
export async function unzipVerified(
  zipped: FileHandle,
  ours: Ours,
  wanted: readonly ZippedFile[],
  options: CopyOptions,
): Promise<void> {
  await ours.note(wanted.map((w) => w.name));
  await readingZip(zipped, async (zip) => {
    const entries = new Map((await zip.getEntries()).map((e) => [e.filename, e]));
    for (const { name, sizeInBytes } of wanted) {
      options.signal.throwIfAborted();
      const state = await ours.stateOf(name, options.signal);
      if (state === 'another')
        throw new UserProblem({ code: 'target-exists', path: ours.folder.resolve(name), when: 'copied' });
      if (state === 'ours') {
        options.onBytes(sizeInBytes);
        continue;
      }
      const entry = entries.get(name);
      if (entry && !entry.directory) await unzipOne(entry, ours, name, options);
    }
  });
}

/** As zips of Unix say it of an entry, in the upper half of its attributes. */
const isLink = ({ externalFileAttributes = 0 }: Pick<Entry, 'externalFileAttributes'>): boolean =>
  ((externalFileAttributes >>> 16) & 0o170000) === 0o120000;

async function unzipOne(
  entry: Extract<Entry, { directory: false }>,
  ours: Ours,
  name: string,
  options: CopyOptions,
): Promise<void> {
  const { folder } = ours;
  const { aside } = ours.of(name);
  try {
    const file = await folder.create(aside);
    const writer = new HandleWriter(file, { ...options, limit: entry.uncompressedSize });
    try {
      await entry.getData(writer, { checkSignature: true });
      await file.sync();
    } catch (error) {
      throw unzipProblem(error, name, folder.resolve(aside));
    } finally {
      await file.close();
    }
    const hash = hexOf(writer.hasher.digest());
    const back = await folder.open(aside);
    try {
      if ((await hashOf(back, { signal: options.signal, isProof: true })) !== hash)
        throw new UserProblem({ code: 'reads-back-differently', path: name, inside: null });
    } finally {
      await back.close();
    }
    await ours.name(name, hash);
  } catch (error) {
    await folder.discard(aside);
    throw error;
  }
}

function unzipProblem(error: unknown, name: string, path: string): unknown {
  const known = writeProblem(error, path);
  if (known !== error || error instanceof UserProblem || !(error as { message?: unknown } | null)?.message)
    return known;
  if (error instanceof DOMException) return error;
  return new UserProblem(
    { code: 'part-damaged', name, detail: String((error as { message: unknown }).message) },
    error,
  );
}

async function readingZip<T>(file: FileHandle, use: (zip: ZipReader<FileHandle>) => Promise<T>): Promise<T> {
  const { size } = await file.stat();
  const reader = new HandleReader(file, size, 'the zip', {
    signal: new AbortController().signal,
    onBytes: () => undefined,
  });
  const zip = new ZipReader(reader);
  try {
    return await use(zip);
  } finally {
    await zip.close();
  }
}

async function addPart(zip: ZipWriter<unknown>, part: ZipPart, options: CopyOptions): Promise<string> {
  if ('text' in part) {
    const bytes = new TextEncoder().encode(part.text);
    await zip.add(part.name, new Uint8ArrayReader(bytes));
    return xxh64Of(bytes);
  }
  const { source, expected } = part.copy;
  const path = join(source.path, source.file);
  if (!(await endureAsync(path, options))) throw new UserProblem({ code: 'file-stalls', path });
  return reading(source, async (file) => {
    const before = await file.stat();
    requireExpected(file, before, expected, path);
    const reader = new HandleReader(file, before.size, path, options);
    await zip.add(part.name, reader, { zip64: before.size > 0xffff_0000 });
    const after = await file.stat();
    if (after.size !== before.size || after.mtimeMs !== before.mtimeMs)
      throw new UserProblem({ code: 'source-changed', path, since: 'begun' });
    return hexOf(reader.hasher.digest());
  });
}

async function verify(
  file: FileHandle,
  inside: string,
  hashes: ReadonlyMap<string, string>,
  signal: AbortSignal,
): Promise<void> {
  const { size } = await file.stat();
  const zip = new ZipReader(new HandleReader(file, size, inside, { signal, onBytes: () => undefined }));
  try {
    const entries = await zip.getEntries();
    for (const [name, hash] of hashes) {
      const entry = entries.find((e) => e.filename === name);
      const writer = new HashWriter();
      if (entry && !entry.directory) await entry.getData(writer);
      if (!entry || hexOf(writer.hasher.digest()) !== hash) {
        throw new UserProblem({ code: 'reads-back-differently', path: name, inside });
      }
    }
  } finally {
    await zip.close();
  }
}

/** Reads a file front to back for the zip, hashing what passes. */
class HandleReader extends Reader<FileHandle> {
  readonly hasher = new Xxh64();
  readonly #file: FileHandle;
  /** As people know it, for telling them that it does not answer. */
  readonly #path: string;
  readonly #options: CopyOptions;
  constructor(file: FileHandle, size: number, path: string, options: CopyOptions) {
    super(file);
    this.#file = file;
    this.#path = path;
    this.#options = options;
    this.size = size;
  }
  override async readUint8Array(index: number, length: number): Promise<Uint8Array> {
    this.#options.signal.throwIfAborted();
    const buffer = new Uint8Array(Math.max(0, Math.min(length, this.size - index)));
    const { bytesRead } = await inTime(this.#file.read(buffer, 0, buffer.length, index), this.#path);
    const piece = buffer.subarray(0, bytesRead);
    this.hasher.update(piece);
    this.#options.onBytes(bytesRead);
    return piece;
  }
}

/** Writes front to back, hashing what passes; no more than `limit` bytes, whatever comes. */
class HandleWriter extends Writer<undefined> {
  readonly hasher = new Xxh64();
  readonly #file: FileHandle;
  readonly #options: Partial<CopyOptions> & { readonly limit?: number };
  #at = 0;
  constructor(file: FileHandle, options: Partial<CopyOptions> & { readonly limit?: number } = {}) {
    super();
    this.#file = file;
    this.#options = options;
  }
  override async writeUint8Array(piece: Uint8Array): Promise<void> {
    this.#options.signal?.throwIfAborted();
    if (this.#at + piece.length > (this.#options.limit ?? Infinity)) throw new Error('it is longer than it says');
    this.hasher.update(piece);
    for (let done = 0; done < piece.length;)
      done += (await this.#file.write(piece, done, piece.length - done, this.#at + done)).bytesWritten;
    this.#at += piece.length;
    this.#options.onBytes?.(piece.length);
  }
  override getData(): Promise<undefined> {
    return Promise.resolve(undefined);
  }
}

class HashWriter extends Writer<undefined> {
  readonly hasher = new Xxh64();
  override writeUint8Array(piece: Uint8Array): Promise<void> {
    this.hasher.update(piece);
    return Promise.resolve();
  }
  override getData(): Promise<undefined> {
    return Promise.resolve(undefined);
  }
}

const patienceMs = 60_000;

/** A drive that does not answer holds up nobody for ever. */
async function inTime<T>(read: Promise<T>, path: string): Promise<T> {
  const over = new AbortController();
  try {
    return await Promise.race([
      read,
      after(patienceMs, undefined, { signal: over.signal, ref: false }).then(() => {
        throw new UserProblem({ code: 'file-stalls', path });
      }),
    ]);
  } finally {
    over.abort();
  }
}
