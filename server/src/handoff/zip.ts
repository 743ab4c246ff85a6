import { constants } from 'node:fs';
import { open, stat, type FileHandle } from 'node:fs/promises';
import { Xxh64 } from '@node-rs/xxhash';
import { configure, Reader, Uint8ArrayReader, Writer, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { writeProblem, type FencedFolder } from '../places/writing.ts';
import { UserProblem } from '../problems.ts';
import type { CopyOptions } from './copy.ts';

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

async function addPart(zip: ZipWriter<unknown>, part: ZipPart, options: CopyOptions): Promise<string> {
  if ('text' in part) {
    const bytes = new TextEncoder().encode(part.text);
    await zip.add(part.name, new Uint8ArrayReader(bytes));
    return hex(new Xxh64().update(bytes).digest());
  }
  const source = await open(part.source, constants.O_RDONLY).catch((error: unknown) => {
    throw new UserProblem(
      'not-found',
      404,
      `"${part.source}" cannot be read any more. Check the drive it lies on.`,
      {},
      error,
    );
  });
  try {
    const before = await source.stat();
    const reader = new HandleReader(source, before.size, options);
    await zip.add(part.name, reader, { zip64: before.size > 0xffff_0000 });
    const after = await stat(part.source);
    if (after.size !== before.size || after.mtimeMs !== before.mtimeMs) {
      throw new UserProblem(
        'busy',
        409,
        `"${part.source}" changed while it was being copied. Wait until nothing writes to it, then continue.`,
      );
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
        throw new UserProblem(
          'target-not-writable',
          500,
          `"${name}" reads back differently from what was written into "${target}". The target drive or its cable is failing; the bundle was thrown away.`,
        );
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

class HandleWriter extends Writer<undefined> {
  readonly #file: FileHandle;
  #at = 0;
  constructor(file: FileHandle) {
    super();
    this.#file = file;
  }
  override async writeUint8Array(piece: Uint8Array): Promise<void> {
    for (let done = 0; done < piece.length;)
      done += (await this.#file.write(piece, done, piece.length - done, this.#at + done)).bytesWritten;
    this.#at += piece.length;
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
