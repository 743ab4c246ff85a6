import { createHash } from 'node:crypto';
import type { FileHandle } from 'node:fs/promises';
import { xxh3, Xxh32, Xxh64 } from '@node-rs/xxhash';
import { createXXHash128 } from 'hash-wasm';
import { c4Of, type Hashes, type HashName } from '@legame/core/mhl';
import { codeOf } from '../disk/failures.ts';
import { openPastCache } from '../disk/held.ts';
import { chunkInBytes, withChunks } from './pages.ts';

type Hasher = { readonly update: (piece: Buffer) => unknown; readonly end: () => string };

export const hexOf = (hash: bigint | number, digits = 16): string => hash.toString(16).padStart(digits, '0');
const ofCrypto = (algorithm: string) => (): Hasher => {
  const hash = createHash(algorithm);
  return { update: (piece) => hash.update(piece), end: () => hash.digest('hex') };
};

const hashers: Readonly<Record<HashName, () => Hasher | Promise<Hasher>>> = {
  xxh64: () => {
    const hash = new Xxh64();
    return { update: (piece) => hash.update(piece), end: () => hexOf(hash.digest()) };
  },
  xxh3: () => {
    const hash = xxh3.Xxh3.withSeed();
    return { update: (piece) => hash.update(piece), end: () => hexOf(hash.digest()) };
  },
  xxh32: () => {
    const hash = new Xxh32();
    return { update: (piece) => hash.update(piece), end: () => hexOf(hash.digest(), 8) };
  },
  xxh128: async () => {
    const hash = await createXXHash128();
    return { update: (piece) => hash.update(piece), end: () => hash.digest('hex') };
  },
  md5: ofCrypto('md5'),
  sha1: ofCrypto('sha1'),
  c4: () => {
    const hash = createHash('sha512');
    return { update: (piece) => hash.update(piece), end: () => c4Of(hash.digest()) };
  },
};

/** Several hashes of the same bytes, which come piece by piece. */
export async function hashingBy(
  names: readonly HashName[],
): Promise<{ readonly update: (piece: Buffer) => void; readonly end: () => Hashes }> {
  const all: { name: HashName; hasher: Hasher }[] = [];
  for (const name of names) all.push({ name, hasher: await hashers[name]() });
  return {
    update: (piece) => {
      for (const { hasher } of all) hasher.update(piece);
    },
    end: () => Object.fromEntries(all.map(({ name, hasher }) => [name, hasher.end()])),
  };
}

export const xxh64Of = (content: Uint8Array | string): string => hexOf(new Xxh64().update(content).digest());

type Hashing = {
  readonly signal: AbortSignal;
  /** What the disk itself holds is meant: it is read past the system's cache, where the file system can. */
  readonly isProof?: boolean;
  /** So many bytes were read by now. */
  readonly onPiece?: (bytes: number) => void;
};

/** xxh64 of an opened file. */
export const hashOf = async (file: FileHandle, hashing: Hashing): Promise<string> =>
  (await hashesOf(file, ['xxh64'], hashing)).xxh64;

/** Hashes of an opened file, in hexadecimal digits or as C4 identifiers, by reading it once. */
export async function hashesOf<N extends HashName>(
  file: FileHandle,
  names: readonly N[],
  { isProof = false, ...options }: Hashing,
): Promise<Record<N, string>> {
  if (isProof) {
    const past = await openPastCache(file).catch(() => null);
    try {
      if (past) return await hashFromStart(past, names, options);
    } catch (error) {
      if (codeOf(error) !== 'EINVAL') throw error;
    } finally {
      await past?.close();
    }
  }
  return hashFromStart(file, names, options);
}

async function hashFromStart<N extends HashName>(
  file: FileHandle,
  names: readonly N[],
  { signal, onPiece }: Hashing,
): Promise<Record<N, string>> {
  const hashing = await hashingBy(names);
  let read = 0;
  await eachPiece(file, signal, (piece) => {
    hashing.update(piece);
    read += piece.length;
    onPiece?.(read);
  });
  return hashing.end() as Record<N, string>;
}

/** Reads a file from its start to its end; while something is done with one piece, the next is read. */
async function eachPiece(file: FileHandle, signal: AbortSignal, use: (piece: Buffer) => void): Promise<void> {
  await withChunks(2, async (buffers) => {
    const read = (turn: number, at: number) => {
      const reading = file.read(buffers[turn % 2]!, 0, chunkInBytes, at);
      reading.catch(() => undefined);
      return reading;
    };
    let reading = read(0, 0);
    try {
      for (let turn = 0, at = 0; ; turn += 1) {
        signal.throwIfAborted();
        const { bytesRead, buffer } = await reading;
        at += bytesRead;
        // Past the cache nothing can be read that begins where a file's odd end was.
        const isEnd = bytesRead === 0 || (bytesRead < chunkInBytes && at === (await file.stat()).size);
        if (!isEnd) reading = read(turn + 1, at);
        use(buffer.subarray(0, bytesRead));
        if (isEnd) return;
      }
    } finally {
      // Nobody gets a buffer that is still read into.
      await reading.catch(() => undefined);
    }
  });
}
