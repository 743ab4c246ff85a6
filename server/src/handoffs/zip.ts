import { constants } from 'node:fs';
import { open, stat, type FileHandle } from 'node:fs/promises';
import { Xxh64 } from '@node-rs/xxhash';
import { configure, Reader, Uint8ArrayReader, Writer, ZipReader, ZipWriter, type Entry } from '@zip.js/zip.js';
import { writeProblem, type FencedFolder } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';
import { hashFile, type CopyOptions } from './copy.ts';

configure({ useWebWorkers: false, chunkSize: 1024 * 1024 });

/** What goes into a zip: a file of a place, or text made here. */
export type ZipPart = { readonly name: string } & ({ readonly source: string } | { readonly text: string });

/**
 * Writes a zip of stored files so that it is proven: written aside, each file hashed (xxh64) as it goes in, the whole
 * flushed, every entry read back out of it and compared, and only then named. Returns the hashes by entry name.
 */
export async function writeZipVerified(
  folder: FencedFolder,
  target: string,
  parts: readonly ZipPart[],
  options: CopyOptions,
): Promise<Map<string, string>> {
  const aside = `${target}.part`;
  await folder.discard(aside);
  try {
    const file = await folder.create(aside);
    const hashes = new Map<string, string>();
    try {
      const zip = new ZipWriter(new HandleWriter(file), { level: 0, keepOrder: true, extendedTimestamp: false });
      for (const part of parts) hashes.set(part.name, await addPart(zip, part, options));
      await zip.close();
      await file.sync();
      await verify(file, target, hashes, options.signal);
    } catch (error) {
      throw writeProblem(error, folder.resolve(aside));
    } finally {
      await file.close();
    }
    await folder.publish(aside, target);
    return hashes;
  } catch (error) {
    await folder.discard(aside);
    throw error;
  }
}

/** One file in a zip: its path in there, and how long it is once it is out. */
export type ZippedFile = { readonly name: string; readonly sizeInBytes: number };

export async function listZip(path: string): Promise<ZippedFile[]> {
  return reading(path, async (zip) =>
    (await zip.getEntries())
      .filter((e) => !e.directory)
      .map((e) => ({ name: e.filename, sizeInBytes: e.uncompressedSize })),
  );
}

/**
 * Takes files out of a zip into a folder, each proven: written aside, held to the checksum in the zip, read back from
 * the disk and compared, and only then named. Names that would leave the folder are refused. Files that are there
 * already from before are left as they are.
 */
export async function unzipVerified(
  path: string,
  folder: FencedFolder,
  wanted: readonly ZippedFile[],
  options: CopyOptions,
): Promise<void> {
  await reading(path, async (zip) => {
    const entries = new Map((await zip.getEntries()).map((e) => [e.filename, e]));
    for (const { name, sizeInBytes } of wanted) {
      options.signal.throwIfAborted();
      if (await folder.has(name)) {
        options.onBytes(sizeInBytes);
        continue;
      }
      const entry = entries.get(name);
      if (entry && !entry.directory) await unzipOne(entry, folder, name, options);
    }
  });
}

async function unzipOne(
  entry: Extract<Entry, { directory: false }>,
  folder: FencedFolder,
  name: string,
  options: CopyOptions,
): Promise<void> {
  const aside = `${name}.part`;
  await folder.discard(aside);
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
    const readBack = await hashFile(folder.resolve(aside), { signal: options.signal, direct: true });
    if (readBack !== hex(writer.hasher.digest()))
      throw new UserProblem({ code: 'reads-back-differently', path: name, inside: null });
    await folder.publish(aside, name);
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

async function reading<T>(path: string, use: (zip: ZipReader<FileHandle>) => Promise<T>): Promise<T> {
  const file = await open(path, constants.O_RDONLY);
  try {
    const { size } = await file.stat();
    const reader = new HandleReader(file, size, { signal: new AbortController().signal, onBytes: () => undefined });
    const zip = new ZipReader(reader);
    try {
      return await use(zip);
    } finally {
      await zip.close();
    }
  } finally {
    await file.close();
  }
}

async function addPart(zip: ZipWriter<unknown>, part: ZipPart, options: CopyOptions): Promise<string> {
  if ('text' in part) {
    const bytes = new TextEncoder().encode(part.text);
    await zip.add(part.name, new Uint8ArrayReader(bytes));
    return hex(new Xxh64().update(bytes).digest());
  }
  const source = await open(part.source, constants.O_RDONLY).catch((error: unknown) => {
    throw new UserProblem({ code: 'source-unreadable', path: part.source }, error);
  });
  try {
    const before = await source.stat();
    const reader = new HandleReader(source, before.size, options);
    await zip.add(part.name, reader, { zip64: before.size > 0xffff_0000 });
    const after = await stat(part.source);
    if (after.size !== before.size || after.mtimeMs !== before.mtimeMs) {
      throw new UserProblem({ code: 'source-changed', path: part.source });
    }
    return hex(reader.hasher.digest());
  } finally {
    await source.close();
  }
}

async function verify(
  file: FileHandle,
  target: string,
  hashes: ReadonlyMap<string, string>,
  signal: AbortSignal,
): Promise<void> {
  const { size } = await file.stat();
  const zip = new ZipReader(new HandleReader(file, size, { signal, onBytes: () => undefined }));
  try {
    const entries = await zip.getEntries();
    for (const [name, hash] of hashes) {
      const entry = entries.find((e) => e.filename === name);
      const writer = new HashWriter();
      if (entry && !entry.directory) await entry.getData(writer);
      if (!entry || hex(writer.hasher.digest()) !== hash) {
        throw new UserProblem({ code: 'reads-back-differently', path: name, inside: target });
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
  readonly #options: CopyOptions;
  constructor(file: FileHandle, size: number, options: CopyOptions) {
    super(file);
    this.#file = file;
    this.#options = options;
    this.size = size;
  }
  override async readUint8Array(index: number, length: number): Promise<Uint8Array> {
    this.#options.signal.throwIfAborted();
    const buffer = new Uint8Array(Math.max(0, Math.min(length, this.size - index)));
    const { bytesRead } = await this.#file.read(buffer, 0, buffer.length, index);
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

const hex = (value: bigint): string => value.toString(16).padStart(16, '0');
