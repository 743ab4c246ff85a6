import { describe, expect, test } from '@jest/globals';
import { readHeader } from './index.ts';
import { cutWave } from './waveCut.ts';

const latin = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
const u16 = (n: number) => Uint8Array.of(n & 255, n >> 8);
const u32 = (n: number) => Uint8Array.of(n & 255, (n >> 8) & 255, (n >> 16) & 255, n >>> 24);
const joined = (...parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((p) => [...p]));
const chunk = (id: string, body: Uint8Array) =>
  joined(latin(id), u32(body.length), body, new Uint8Array(body.length % 2));
/** Two channels of 24 bits: an odd number of samples has an odd number of bytes. */
const format = chunk('fmt ', joined(u16(1), u16(2), u32(48_000), u32(288_000), u16(6), u16(24)));
const bext = (reference: number) => {
  const body = new Uint8Array(602);
  body.set(latin('a voice'), 0);
  new DataView(body.buffer).setBigUint64(338, BigInt(reference), true);
  return chunk('bext', body);
};
const sound = Uint8Array.from({ length: 6 * 101 }, (_, i) => (i * 7) % 251);
const wave = (...chunks: Uint8Array[]) => {
  const body = joined(latin('WAVE'), ...chunks);
  return joined(latin('RIFF'), u32(body.length), body);
};
const sourceOf = (bytes: Uint8Array) => ({
  size: bytes.length,
  read: (offset: number, length: number) => bytes.slice(offset, offset + length),
});
function cut(bytes: Uint8Array, start: number, end: number, startsAt: number | null): Uint8Array {
  const part = cutWave(sourceOf(bytes), { start, end }, startsAt)!;
  const { offset, length } = part.data;
  return joined(part.head, bytes.slice(offset, offset + length), part.tail);
}
const factsOf = (bytes: Uint8Array) => {
  const read = readHeader(sourceOf(bytes));
  if (read.kind !== 'facts') throw new Error(read.kind);
  return read.facts;
};
const chunksOf = (bytes: Uint8Array) => {
  const found = new Map<string, Uint8Array>();
  for (let at = 12; at + 8 <= bytes.length;) {
    const view = new DataView(bytes.buffer, bytes.byteOffset + at);
    const length = view.getUint32(4, true);
    found.set(String.fromCharCode(...bytes.slice(at, at + 4)), bytes.slice(at + 8, at + 8 + length));
    at += 8 + length + (length % 2);
  }
  return found;
};

describe('a part of a wave file', () => {
  test('holds these samples and no others, starts where they stood, and says its size rightly', () => {
    const part = cut(wave(format, bext(1_000_000), chunk('data', sound)), 10, 41, 1_000_010);
    expect(chunksOf(part).get('data')).toEqual(sound.slice(60, 246));
    expect(factsOf(part)).toMatchObject({ length: 31, start: 1_000_010, timecodeSource: 'time-reference' });
    expect(new DataView(part.buffer).getUint32(4, true)).toBe(part.length - 8);
    expect(part.length % 2).toBe(0);
  });

  test('keeps every chunk, before and behind the sound; time references inside of iXML move, too', () => {
    const xml =
      '<BWFXML><TAPE>S 1</TAPE><SPEED><TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI>0</TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI>' +
      '<TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO>1000000</TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO></SPEED></BWFXML>';
    const odd = chunk('odd ', latin('abc'));
    const part = cut(
      wave(odd, format, bext(1_000_000), chunk('data', sound), chunk('iXML', latin(xml))),
      1,
      100,
      1_000_001,
    );
    const chunks = chunksOf(part);
    expect([...chunks.keys()]).toEqual(['odd ', 'fmt ', 'bext', 'data', 'iXML']);
    expect(chunks.get('odd ')).toEqual(latin('abc'));
    expect(String.fromCharCode(...chunks.get('iXML')!)).toBe(xml.replace('1000000', '1000001'));
    expect(factsOf(part).reel).toBe('S 1');
  });

  test('cue points inside of it count from its first sample; the others stay behind', () => {
    const cue = (id: number, at: number) => joined(u32(id), u32(at), latin('data'), u32(0), u32(0), u32(at));
    const cues = chunk('cue ', joined(u32(3), cue(1, 5), cue(2, 20), cue(3, 60)));
    const body = chunksOf(cut(wave(format, cues, chunk('data', sound)), 10, 50, null)).get('cue ')!;
    expect(body).toEqual(joined(u32(1), cue(2, 10)));
  });

  test('one without a time reference gets one, or stays without', () => {
    const bare = wave(format, chunk('data', sound));
    expect(factsOf(cut(bare, 10, 20, 90_010)).start).toBe(90_010);
    expect(factsOf(cut(bare, 10, 20, null)).timecodeSource).toBe('none');
  });

  test('a long form stays readable: the sizes stand in their own chunk', () => {
    const body = joined(
      latin('WAVE'),
      chunk('ds64', joined(u32(0), u32(0), u32(606), u32(0), u32(101), u32(0), u32(0))),
      format,
    );
    const long = joined(latin('BW64'), u32(0xffff_ffff), body, latin('data'), u32(0xffff_ffff), sound);
    const part = cut(long, 3, 50, null);
    expect(String.fromCharCode(...part.slice(0, 4))).toBe('BW64');
    expect(factsOf(part).length).toBe(47);
  });

  test.each<[string, Uint8Array]>([
    ['no wave file', latin('OggS and more of it')],
    ['no sound', wave(format)],
    ['cut off', wave(format, chunk('data', sound)).slice(0, 100)],
    ['a chunk that ends nowhere', joined(wave(format), latin('LIST'), u32(1_000_000))],
    ['empty', new Uint8Array()],
  ])('is refused: %s', (_, bytes) => {
    expect(cutWave(sourceOf(bytes), { start: 0, end: 1 }, null)).toBeNull();
  });

  test('is refused: samples that are not there', () => {
    expect(cutWave(sourceOf(wave(format, chunk('data', sound))), { start: 50, end: 102 }, null)).toBeNull();
  });
});
