import { joinBytes, type ByteReader } from '../headers/bytes.ts';

/** Files made byte by byte, as the standards draw them. */
export const latin = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

export function joined(...parts: (Uint8Array | string | number[])[]): Uint8Array {
  return joinBytes(parts.map((p) => (typeof p === 'string' ? latin(p) : Uint8Array.from(p))));
}

export const le = (value: number, bytes: number): number[] =>
  Array.from({ length: bytes }, (_, i) => Math.floor(value / 256 ** i) % 256);
export const be = (value: number, bytes: number): number[] => le(value, bytes).reverse();

export const readerOf = (bytes: Uint8Array): ByteReader => ({
  size: bytes.length,
  read: (at, length) => bytes.subarray(Math.min(at, bytes.length), Math.min(bytes.length, at + length)),
});
