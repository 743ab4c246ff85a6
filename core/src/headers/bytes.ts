import type { HeaderFault } from '../remarks/detail.ts';
/**
 * The bytes of a file, read where asked. `read` gives fewer bytes than asked for only at the end of the file, and
 * throws when the storage does.
 */
export type ByteReader = {
  readonly size: number;
  readonly read: (offset: number, length: number) => Uint8Array;
};

/** A file that ends or nests where its own structure says that it cannot. */
export class HeaderBroken extends Error {
  readonly fault: HeaderFault;
  constructor(fault: HeaderFault) {
    super(fault.code);
    this.fault = fault;
  }
}

/** Reads numbers and text out of a piece of a file. Past its end it throws `HeaderBroken`. */
export class Cursor {
  readonly #view: DataView;
  readonly length: number;
  at: number;

  constructor(bytes: Uint8Array, at = 0) {
    this.#view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.length = bytes.byteLength;
    this.at = at;
  }

  #take(length: number): number {
    const { at } = this;
    if (length < 0 || at + length > this.length) throw new HeaderBroken({ code: 'ends-in-field', at });
    this.at += length;
    return at;
  }
  readonly u8 = (): number => this.#view.getUint8(this.#take(1));
  readonly u16 = (little = false): number => this.#view.getUint16(this.#take(2), little);
  readonly u32 = (little = false): number => this.#view.getUint32(this.#take(4), little);
  /** A 64-bit count; counts past 2^53 are no sizes of anything and are broken. */
  readonly u64 = (little = false): number => {
    const value = Number(this.#view.getBigUint64(this.#take(8), little));
    if (!Number.isSafeInteger(value)) throw new HeaderBroken({ code: 'size-of-no-file' });
    return value;
  };
  readonly i64 = (): bigint => this.#view.getBigInt64(this.#take(8));
  readonly f64 = (): number => this.#view.getFloat64(this.#take(8));
  readonly bytes = (length: number): Uint8Array => {
    const at = this.#take(length);
    return new Uint8Array(this.#view.buffer, this.#view.byteOffset + at, length);
  };
  readonly latin = (length: number): string => latinOf(this.bytes(length));
  readonly skip = (length: number): void => void this.#take(length);
  get left(): number {
    return this.length - this.at;
  }
}

export const latinOf = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return text;
};

export const hexOf = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += byte.toString(16).padStart(2, '0');
  return text;
};

export function joinBytes(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}
