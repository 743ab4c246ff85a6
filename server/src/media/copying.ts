import type { FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { Xxh64 } from '@node-rs/xxhash';
import type { AlsoHashed } from '@legame/core/consolidate';
import type { LostTrait } from '@legame/core/contract';
import type { Hashes } from '@legame/core/mhl';
import { endureAsync } from '../disk/conditions.ts';
import { withFileOf, type Ground } from '../disk/held.ts';
import { writeProblem } from '../disk/failures.ts';
import { FencedFolder, type SurelyThat } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';
import { hashesOf, hexOf } from './hashing.ts';
import { fingerprintOf, readerOf } from './openFile.ts';
import { chunkInBytes, withChunks } from './pages.ts';

/** What a source was when it was decided to copy it; what is not known is not asked. */
export type Expected = {
  readonly sizeInBytes: number | null;
  /** When it was written to last; of a frame of a sequence, when the last of its frames was. */
  readonly modifiedMs: number | null;
  readonly isFrame: boolean;
  readonly fingerprint: string | null;
};

/** Where a file is written, under a name in the folder that nobody else knows. */
export type Aside = { readonly folder: SurelyThat; readonly aside: string };

export type ToCopy = {
  readonly source: Ground & { readonly file: string };
  readonly expected: Expected;
  /** In each of these alike, while the source is read once. */
  readonly into: readonly Aside[];
};

/** What was written and proven: its xxh64 as 16 hex digits. */
export type Copied = {
  readonly xxh64: string;
  readonly sizeInBytes: number;
  /** The hashes that were asked for beside it. */
  readonly others: Hashes;
  /** What its source states beside its frames and it could not keep. */
  readonly lost: readonly LostTrait[];
};
export type CopyOptions = {
  readonly signal: AbortSignal;
  /** So many bytes more were read of the source; none, and it goes on all the same. */
  readonly onBytes: (bytes: number) => void;
  /** Hashes of what was written that are wanted beside xxh64. */
  readonly also?: readonly AlsoHashed[] | undefined;
};

/**
 * Copies one file aside, into one folder or several, so that each copy is proven: hashed on the way (xxh64), flushed, read
 * back from the disk itself and compared. The source is opened for reading only; one that is not what was decided on, or
 * changes meanwhile, is refused.
 */
export async function copyAside({ source, expected, into }: ToCopy, options: CopyOptions): Promise<Copied> {
  const path = join(source.path, source.file);
  if (!(await endureAsync(path, options))) throw new UserProblem({ code: 'file-stalls', path });
  const targets = await targetsOf(into);
  const { hash, sizeInBytes } = await reading(source, async (file) => {
    const before = await file.stat();
    requireExpected(file, before, expected, path);
    const copied = await copyInto(targets, file, options);
    const after = await file.stat();
    if (after.size !== before.size || after.mtimeMs !== before.mtimeMs)
      throw new UserProblem({ code: 'source-changed', path, since: 'begun' });
    return { hash: copied, sizeInBytes: before.size };
  });
  const others = await requireReadsBack(targets, hash, options);
  return { xxh64: hash, sizeInBytes, others, lost: [] };
}

/** A folder that is held, and the name in it. */
export type Target = { readonly folder: FencedFolder; readonly aside: string };

export const targetsOf = (into: readonly Aside[]): Promise<Target[]> =>
  Promise.all(into.map(async ({ folder, aside }) => ({ folder: await FencedFolder.of(folder), aside })));

/** What was written is what each disk itself holds. Returns the other hashes that are wanted, of what was read back. */
export async function requireReadsBack(
  targets: readonly Target[],
  hash: string,
  { signal, onBytes, also = [] }: CopyOptions,
): Promise<Hashes> {
  const [others] = await Promise.all(
    targets.map(async ({ folder, aside }, i) => {
      const back = await folder.open(aside);
      try {
        const names = ['xxh64', ...(i === 0 ? also : [])] as const;
        // Who waits for a large file on a slow disk is told that it answers.
        const { xxh64, ...found } = await hashesOf(back, names, { signal, isProof: true, onPiece: () => onBytes(0) });
        if (xxh64 !== hash)
          throw new UserProblem({ code: 'reads-back-differently', path: folder.resolve(aside), inside: null });
        return found;
      } finally {
        await back.close();
      }
    }),
  );
  return others ?? {};
}

/** Opens a source while `use` runs; that it cannot be read is the source's problem, and no other's. */
export async function reading<T>(
  { file, ...ground }: Ground & { readonly file: string },
  use: (file: FileHandle) => Promise<T>,
): Promise<T> {
  let isOpen = false;
  return withFileOf(ground, file, (opened) => {
    isOpen = true;
    return use(opened);
  }).catch((error: unknown) => {
    if (isOpen || error instanceof UserProblem) throw error;
    throw new UserProblem({ code: 'source-unreadable', path: join(ground.path, file) }, error);
  });
}

/** Times are kept to two seconds by some file systems, and as floating numbers by us. */
const timeToleranceMs = 2001;

/** A source is held against what was planned: bytes of the same size and another content are another file. */
export function requireExpected(
  file: FileHandle,
  { size, mtimeMs }: { size: number; mtimeMs: number },
  { sizeInBytes, modifiedMs, isFrame, fingerprint }: Expected,
  path: string,
): void {
  const isAnother =
    (sizeInBytes !== null && size !== sizeInBytes) ||
    (modifiedMs !== null &&
      (isFrame ? mtimeMs > modifiedMs + timeToleranceMs : Math.abs(mtimeMs - modifiedMs) > timeToleranceMs)) ||
    (fingerprint !== null && fingerprintOf(readerOf(file.fd, size)) !== fingerprint);
  if (isAnother) throw new UserProblem({ code: 'source-changed', path, since: 'planned' });
}

/** Writes all of an opened file into each, and says the hash of what was read. */
export async function copyInto(
  targets: readonly Target[],
  source: FileHandle,
  { signal, onBytes }: CopyOptions,
): Promise<string> {
  const hasher = new Xxh64();
  const copies: Copying[] = [];
  try {
    for (const target of targets) copies.push(await Copying.begin(target));
    await withChunks(2, async (buffers) => {
      let writing: Promise<unknown> = Promise.resolve();
      try {
        // While one buffer is being written, the next is read.
        for (let turn = 0, at = 0; ; turn += 1) {
          signal.throwIfAborted();
          const buffer = buffers[turn % 2]!;
          const { bytesRead } = await source.read(buffer, 0, chunkInBytes, at);
          await writing;
          if (bytesRead === 0) break;
          at += bytesRead;
          const piece = buffer.subarray(0, bytesRead);
          hasher.update(piece);
          onBytes(bytesRead);
          writing = Promise.all(copies.map((copy) => copy.write(piece)));
          // A rejection is met at the next await; this keeps it from being called unhandled before.
          writing.catch(() => undefined);
        }
      } finally {
        // Nobody gets a buffer that is still written from.
        await Promise.all(copies.map((copy) => copy.written()));
      }
    });
    await Promise.all(copies.map((copy) => copy.flush()));
  } finally {
    // A write to one may still be under way when the other failed.
    for (const copy of copies) await copy.close();
  }
  return hexOf(hasher.digest());
}

/** A copy in the making. What goes wrong with it is told as its own target's. */
class Copying {
  readonly #target: Target;
  readonly #file: FileHandle;
  #unflushed = 0;
  #flushing: Promise<unknown> = Promise.resolve();
  #writing: Promise<unknown> = Promise.resolve();

  private constructor(target: Target, file: FileHandle) {
    this.#target = target;
    this.#file = file;
  }

  static async begin(target: Target): Promise<Copying> {
    const file = await target.folder.create(target.aside).catch((error: unknown) => {
      throw writeProblem(error, target.folder.resolve(target.aside));
    });
    return new Copying(target, file);
  }

  write(piece: Uint8Array): Promise<void> {
    const written = this.#telling(async () => {
      await writeAll(this.#file, piece);
      this.#unflushed += piece.length;
      if (this.#unflushed < flushedInBytes) return;
      // The disk works off what came while more is read, so that at the end little is left to wait for.
      await this.#flushing;
      this.#unflushed = 0;
      this.#flushing = this.#file.datasync();
      this.#flushing.catch(() => undefined);
    });
    this.#writing = written.catch(() => undefined);
    return written;
  }

  flush(): Promise<void> {
    return this.#telling(async () => {
      await this.#flushing;
      await this.#file.sync();
    });
  }

  /** What was given to be written is, or failed. */
  async written(): Promise<void> {
    await this.#writing;
  }

  async close(): Promise<void> {
    await this.written();
    await this.#flushing.catch(() => undefined);
    await this.#file.close();
  }

  async #telling(use: () => Promise<void>): Promise<void> {
    try {
      await use();
    } catch (error) {
      throw writeProblem(error, this.#target.folder.resolve(this.#target.aside));
    }
  }
}
const flushedInBytes = 64 * 1024 * 1024;

export async function writeAll(file: FileHandle, piece: Uint8Array): Promise<void> {
  for (let at = 0; at < piece.length;) at += (await file.write(piece, at, piece.length - at)).bytesWritten;
}
