import { Cursor, hexOf, latinOf, type ByteReader } from './bytes.ts';

/**
 * Where a file says that it ends, for containers that only a decoder reads but that state their size: Matroska (EBML,
 * RFC 9559), AVI (RIFF), AIFF (FORM), PNG. A decoder opens these happily when their end is missing. Null where nothing
 * is stated.
 */
export function isCutOff(source: ByteReader): boolean {
  const head = source.read(0, 64);
  if (head.length < 16) return false;
  const id = latinOf(head.subarray(0, 4));
  // WAVE tells more by its own reader.
  if (id === 'RIFF' && latinOf(head.subarray(8, 12)) !== 'WAVE') {
    const stated = new Cursor(head, 4).u32(true);
    return stated !== unstated && 8 + stated > source.size + 1;
  }
  if (id === 'FORM') return 8 + new Cursor(head, 4).u32() > source.size + 1;
  if (hexOf(head.subarray(0, 4)) === '89504e47')
    return !latinOf(source.read(Math.max(0, source.size - 4096), 4096)).includes('IEND');
  if (hexOf(head.subarray(0, 4)) === '1a45dfa3') return matroskaEnd(head) > source.size;
  return false;
}

/** What a writer puts who cannot come back to the beginning, as into a pipe. */
const unstated = 0xffff_ffff;

function matroskaEnd(head: Uint8Array): number {
  const cursor = new Cursor(head, 4);
  const headerSize = vint(cursor);
  if (headerSize === null || headerSize + 12 > cursor.left) return 0;
  cursor.skip(headerSize);
  if (hexOf(cursor.bytes(4)) !== '18538067') return 0;
  const size = vint(cursor);
  return size === null ? 0 : cursor.at + size;
}

/** A size as EBML writes it; null for "unknown". */
function vint(cursor: Cursor): number | null {
  const first = cursor.u8();
  const length = Math.clz32(first) - 23;
  if (length > 8 || length < 1) return null;
  let value = first & (0xff >> length);
  let isUnknown = value === 0xff >> length;
  for (let i = 1; i < length; i += 1) {
    const byte = cursor.u8();
    isUnknown &&= byte === 0xff;
    value = value * 256 + byte;
  }
  return isUnknown ? null : value;
}
