import { Cursor, HeaderBroken, latinOf, type ByteReader } from './bytes.ts';

/** A box of the file's top level: where it stands, how large it says it is. */
export type TopBox = {
  readonly type: string;
  readonly offset: number;
  readonly size: number;
  readonly headerSize: number;
};

/** The boxes of a file's top level; `cutOff` is the one that says it goes on past the end of the file. */
export function topBoxes(source: ByteReader): { boxes: TopBox[]; cutOff: TopBox | null } {
  const boxes: TopBox[] = [];
  for (let at = 0; at + 8 <= source.size && boxes.length < 10_000;) {
    const head = new Cursor(source.read(at, 16));
    const short = head.u32();
    const type = head.latin(4);
    const headerSize = short === 1 ? 16 : 8;
    const size = short === 1 ? head.u64() : short === 0 ? source.size - at : short;
    if (size < headerSize) throw new HeaderBroken({ code: 'part-below-head' });
    const box = { type, offset: at, size, headerSize };
    boxes.push(box);
    if (at + size > source.size) return { boxes, cutOff: box };
    at += size;
  }
  return { boxes, cutOff: null };
}

const deepest = 16;

/** A box inside an index that was read whole. */
export class Box {
  readonly type: string;
  readonly size: number;
  readonly #bytes: Uint8Array;
  readonly #depth: number;

  constructor(type: string, bytes: Uint8Array, depth: number) {
    this.type = type;
    this.size = bytes.length;
    this.#bytes = bytes;
    this.#depth = depth;
  }
  cursor(): Cursor {
    return new Cursor(this.#bytes);
  }
  children(from: number): Box[] {
    if (this.#depth > deepest) throw new HeaderBroken({ code: 'parts-too-deep' });
    return childrenOf(this.#bytes, from, this.#depth + 1);
  }
  latinAt(at: number): string {
    return latinOf(this.#bytes.subarray(at, at + 4));
  }
  text(from = 0): string {
    return new TextDecoder().decode(this.#bytes.subarray(from, from + 1000));
  }
  /** In a list of metadata the type is the number of a key. */
  typeNumber(): number {
    return [...this.type].reduce((sum, c) => sum * 256 + c.charCodeAt(0), 0);
  }
}

export function childrenOf(bytes: Uint8Array, from: number, depth = 0): Box[] {
  const boxes: Box[] = [];
  for (let at = from; at + 8 <= bytes.length;) {
    const head = new Cursor(bytes, at);
    const short = head.u32();
    const type = head.latin(4);
    const size = short === 1 ? head.u64() : short;
    // QuickTime ends some lists with a zero.
    if (size === 0) break;
    const headerSize = short === 1 ? 16 : 8;
    if (size < headerSize || at + size > bytes.length) throw new HeaderBroken({ code: 'part-above-whole', part: type });
    boxes.push(new Box(type, bytes.subarray(at + headerSize, at + size), depth));
    at += size;
  }
  return boxes;
}

export function findBox(box: Box, ...path: readonly string[]): Box | null {
  let here: Box | null = box;
  for (const type of path) here = here?.children(0).find((b) => b.type === type) ?? null;
  return here;
}
