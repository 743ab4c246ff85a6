import { createHash } from 'node:crypto';
import { xxh3, Xxh32, Xxh64 } from '@node-rs/xxhash';
import { createXXHash128 } from 'hash-wasm';
import { c4Of, type Hashes, type HashName } from '@legame/core/mhl';
import type { OpenFile } from './openFile.ts';

type Hasher = { readonly update: (piece: Buffer) => unknown; readonly end: () => string };

const hexOf = (hash: bigint | number, digits: number): string => hash.toString(16).padStart(digits, '0');
const ofCrypto = (algorithm: string) => (): Hasher => {
  const hash = createHash(algorithm);
  return { update: (piece) => hash.update(piece), end: () => hash.digest('hex') };
};

const hashers: Readonly<Record<HashName, () => Hasher | Promise<Hasher>>> = {
  xxh64: () => {
    const hash = new Xxh64();
    return { update: (piece) => hash.update(piece), end: () => hexOf(hash.digest(), 16) };
  },
  xxh3: () => {
    const hash = xxh3.Xxh3.withSeed();
    return { update: (piece) => hash.update(piece), end: () => hexOf(hash.digest(), 16) };
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

/** Reckons hashes of whole files, in hexadecimal digits or as C4 identifiers, by reading each once. */
export async function hasherOf(
  names: readonly HashName[],
): Promise<(file: OpenFile, onBytes: (bytes: number) => void) => Hashes> {
  const hashing = await hashingBy(names);
  return ({ eachPiece }, onBytes) => {
    let done = 0;
    eachPiece((piece) => {
      hashing.update(piece);
      done += piece.length;
      onBytes(done);
    });
    return hashing.end();
  };
}
