import { Reader, Writer, ZipReader, configure, type Entry } from '@zip.js/zip.js';

// One thread less to fence, and core starts none: the caller decides where the work is done.
configure({ useWebWorkers: false });

/** Bytes at a place in something large: a file on disk, a file dropped on the page, a buffer. */
export type ByteSource = {
  readonly size: number;
  readonly read: (offset: number, length: number) => Promise<Uint8Array>;
};

export const bytesSource = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read: (offset, length) => Promise.resolve(bytes.subarray(offset, offset + length)),
});

class SourceReader extends Reader<ByteSource> {
  readonly #source: ByteSource;
  constructor(source: ByteSource) {
    super(source);
    this.#source = source;
    this.size = source.size;
  }
  override readUint8Array(index: number, length: number): Promise<Uint8Array> {
    return this.#source.read(index, Math.max(0, Math.min(length, this.size - index)));
  }
}

export class TooLarge extends Error {}

/** Collects at most `limit` bytes: what a zip says of its sizes is not believed, so repetition cannot fill the memory. */
class LimitedWriter extends Writer<Uint8Array> {
  readonly #limit: number;
  readonly #parts: Uint8Array[] = [];
  #length = 0;
  constructor(limit: number) {
    super();
    this.#limit = limit;
  }
  override writeUint8Array(part: Uint8Array): Promise<void> {
    this.#length += part.length;
    if (this.#length > this.#limit) return Promise.reject(new TooLarge());
    this.#parts.push(part.slice());
    return Promise.resolve();
  }
  override getData(): Promise<Uint8Array> {
    const all = new Uint8Array(this.#length);
    let at = 0;
    for (const part of this.#parts) {
      all.set(part, at);
      at += part.length;
    }
    return Promise.resolve(all);
  }
}

export const isZip = (head: Uint8Array): boolean =>
  head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4;

/** More entries than this are no bundle of an edit. */
const mostEntries = 200_000;

/** Opens a zip for as long as `use` runs. */
export async function withZip<T>(source: ByteSource, use: (entries: readonly Entry[]) => Promise<T>): Promise<T> {
  const zip = new ZipReader(new SourceReader(source));
  try {
    const entries: Entry[] = [];
    for await (const entry of zip.getEntriesGenerator()) {
      entries.push(entry);
      if (entries.length > mostEntries) throw new TooLarge();
    }
    return await use(entries);
  } finally {
    await zip.close();
  }
}

/** The content of one entry. Throws TooLarge as soon as more than `limit` bytes come out of it. */
export async function readEntry(entry: Entry, limit: number): Promise<Uint8Array> {
  if (entry.directory) throw new Error('a folder has no content');
  if (entry.uncompressedSize > limit) throw new TooLarge();
  return entry.getData(new LimitedWriter(limit));
}
