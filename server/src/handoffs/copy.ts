import { constants } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { Xxh64 } from '@node-rs/xxhash';
import { endureAsync } from '../disk/conditions.ts';
import { writeProblem, type FencedFolder } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';

const chunkInBytes = 4 * 1024 * 1024;

export type CopyOptions = { readonly signal: AbortSignal; readonly onBytes: (bytes: number) => void };

/**
 * Copies one file into a handoff so that it is proven: written aside, hashed on the way (xxh64), flushed, read back
 * from the disk and compared, and only then named. The source is opened for reading only; if it changes meanwhile,
 * the copy is refused. Returns the hash as 16 hex digits.
 */
export async function copyVerified(
  sourcePath: string,
  folder: FencedFolder,
  target: string,
  options: CopyOptions,
): Promise<string> {
  const aside = `${target}.part`;
  await folder.discard(aside);
  try {
    const hash = await copyAside(sourcePath, folder, aside, options);
    const readBack = await hashFile(folder.resolve(aside), { ...options, direct: true });
    if (readBack !== hash) {
      throw new UserProblem({ code: 'reads-back-differently', path: target, inside: null });
    }
    await folder.publish(aside, target);
    return hash;
  } catch (error) {
    await folder.discard(aside);
    throw error;
  }
}

async function copyAside(
  sourcePath: string,
  folder: FencedFolder,
  aside: string,
  { signal, onBytes }: CopyOptions,
): Promise<string> {
  const hasher = new Xxh64();
  if (!(await endureAsync(sourcePath, { signal }))) throw noAnswer(sourcePath);
  const source = await open(sourcePath, constants.O_RDONLY).catch((error: unknown) => {
    throw new UserProblem({ code: 'source-unreadable', path: sourcePath }, error);
  });
  try {
    const before = await source.stat();
    const copy = await folder.create(aside);
    try {
      const buffers = [Buffer.allocUnsafe(chunkInBytes), Buffer.allocUnsafe(chunkInBytes)] as const;
      let writing: Promise<unknown> = Promise.resolve();
      // While one buffer is being written, the next is read.
      for (let turn = 0; ; turn += 1) {
        signal.throwIfAborted();
        const buffer = buffers[turn % 2 === 0 ? 0 : 1];
        const { bytesRead } = await source.read(buffer, 0, chunkInBytes, null);
        await writing;
        if (bytesRead === 0) break;
        const piece = buffer.subarray(0, bytesRead);
        hasher.update(piece);
        onBytes(bytesRead);
        writing = writeAll(copy, piece);
        // A rejection is met at the next await; this keeps it from being called unhandled before.
        writing.catch(() => undefined);
      }
      await copy.sync();
    } catch (error) {
      throw writeProblem(error, folder.resolve(aside));
    } finally {
      await copy.close();
    }
    const after = await stat(sourcePath);
    if (after.size !== before.size || after.mtimeMs !== before.mtimeMs) {
      throw new UserProblem({ code: 'source-changed', path: sourcePath });
    }
  } finally {
    await source.close();
  }
  return hex(hasher.digest());
}

const noAnswer = (path: string) => new UserProblem({ code: 'file-stalls', path });

async function writeAll(
  file: { write: (b: Uint8Array, o: number, l: number) => Promise<{ bytesWritten: number }> },
  piece: Uint8Array,
): Promise<void> {
  for (let at = 0; at < piece.length;) at += (await file.write(piece, at, piece.length - at)).bytesWritten;
}

/** xxh64 of a file. `direct` reads past the page cache where the file system can, so that the disk itself answers. */
export async function hashFile(path: string, options: { signal: AbortSignal; direct?: boolean }): Promise<string> {
  const direct = options.direct ? await open(path, constants.O_RDONLY | constants.O_DIRECT).catch(() => null) : null;
  if (direct) {
    const hash = await hashOpen(direct, options.signal).catch((error: unknown) => {
      if ((error as { code?: unknown } | null)?.code === 'EINVAL') return null;
      throw error;
    });
    if (hash !== null) return hash;
  }
  return hashOpen(await open(path, constants.O_RDONLY), options.signal);
}

async function hashOpen(file: Awaited<ReturnType<typeof open>>, signal: AbortSignal): Promise<string> {
  try {
    const hasher = new Xxh64();
    const buffer = Buffer.from(new ArrayBuffer(chunkInBytes));
    for (;;) {
      signal.throwIfAborted();
      const { bytesRead } = await file.read(buffer, 0, chunkInBytes, null);
      if (bytesRead === 0) return hex(hasher.digest());
      hasher.update(buffer.subarray(0, bytesRead));
    }
  } finally {
    await file.close();
  }
}

const hex = (value: bigint): string => value.toString(16).padStart(16, '0');
