import { describe, expect, test } from '@jest/globals';
import { be, joined, readerOf } from '../testing/bytes.ts';
import { readHeader } from './index.ts';

/** A header partition, set by set (SMPTE ST 377-1). */
const hex = (text: string) => Uint8Array.from(text.match(/../g)!, (pair) => parseInt(pair, 16));
const klv = (key: string, body: Uint8Array) => joined(hex(key), [0x83], be(body.length, 3), body);
const tag = (number: number, value: Uint8Array | number[]) => joined(be(number, 2), be(value.length, 2), [...value]);
const id = (n: number) => hex(n.toString(16).padStart(32, '0'));
const set = (kind: string, number: number, ...tags: Uint8Array[]) =>
  klv(`060e2b34025301010d0101010101${kind}00`, joined(tag(0x3c0a, id(number)), ...tags));
const refs = (...numbers: number[]) => joined(be(numbers.length, 4), be(16, 4), ...numbers.map(id));
const rational = (num: number, den: number) => [...be(num, 4), ...be(den, 4)];
const utf16 = (text: string) => [...text].flatMap((c) => be(c.charCodeAt(0), 2));
const long = (value: number) => (value < 0 ? [...hex('ffffffffffffffff')] : be(value, 8));
const mpeg2 = '060e2b34040101030401020201040300';

type Made = {
  rate?: [number, number];
  length?: number | null;
  start?: { frames: number; base?: number; drop?: boolean } | null;
  coding?: string;
  stored?: [number, number];
  fields?: boolean;
  sampling?: [number, number];
  depth?: number;
  reel?: string | null;
  sound?: boolean;
  essence?: Uint8Array;
  footer?: number | 'none';
  stated?: number;
  second?: boolean;
};

function mxf(made: Made = {}): Uint8Array {
  const { rate = [25, 1], length = 100, start = { frames: 90_000 }, stored = [1920, 1080] } = made;
  const { sampling = [2, 1], depth = 8, reel = null, essence = new Uint8Array() } = made;
  const duration = length === null ? [] : [tag(0x0202, long(length))];
  const picture = set(
    '28', 10,
    tag(0x3006, be(1, 4)), tag(0x3201, hex(made.coding ?? mpeg2)),
    tag(0x3203, be(stored[0], 4)), tag(0x3202, be(stored[1], 4)), tag(0x320c, [made.fields ? 1 : 0]),
    tag(0x3301, be(depth, 4)), tag(0x3302, be(sampling[0], 4)), tag(0x3308, be(sampling[1], 4)),
  ); // prettier-ignore
  const sound = set('42', 11, tag(0x3006, be(2, 4)), tag(0x3d03, rational(48_000, 1)), tag(0x3d07, be(4, 4)));
  const clock = start && [
    set('3b', 20, tag(0x4b01, rational(...rate)), tag(0x4803, id(21))),
    set('0f', 21, tag(0x1001, refs(22))),
    set('14', 22, tag(0x1501, long(start.frames)), ...(start.base === 0 ? [] : [tag(0x1502, be(start.base ?? 25, 2))]), tag(0x1503, [start.drop ? 1 : 0])),
  ]; // prettier-ignore
  const file = (number: number) =>
    set('37', number, tag(0x4401, new Uint8Array(32)), tag(0x4701, id(12)), tag(0x4403, refs(31)));
  const sets = joined(
    set('36', 1, tag(0x4403, refs(...(start ? [20] : [])))),
    ...(clock ?? []),
    file(2),
    ...(made.second ? [file(3)] : []),
    set('3b', 31, tag(0x4801, be(1, 4)), tag(0x4b01, rational(...rate)), tag(0x4803, id(32))),
    set('0f', 32, ...duration),
    set('44', 12, tag(0x3f01, refs(10, ...(made.sound ? [11] : [])))),
    picture,
    ...(made.sound ? [sound] : []),
    ...(reel === null ? [] : [set('37', 4, tag(0x4701, id(40)), tag(0x4402, utf16(reel))), set('2e', 40)]),
  );
  const partition = '060e2b34020501010d01020101';
  const pack = (footer: number, headerBytes: number) =>
    klv(
      `${partition}020400`,
      joined(be(0, 8), be(0, 8), be(0, 8), be(footer, 8), be(headerBytes, 8), new Uint8Array(48)),
    );
  const stated = made.stated ?? sets.length;
  const end = pack(0, stated).length + sets.length + essence.length;
  const footer = made.footer === 'none' ? 0 : (made.footer ?? end);
  return joined(
    pack(footer, stated),
    sets,
    essence,
    made.footer === 'none' ? [] : klv(`${partition}040400`, new Uint8Array(88)),
  );
}
const read = (made?: Made) => readHeader(readerOf(mxf(made)));
const factsOf = (made?: Made) => {
  const reading = read(made);
  return reading.kind === 'facts' ? reading.facts : reading;
};
const frame = (bytes: number) => klv('060e2b34010201010d01030115010500', new Uint8Array(bytes));

describe('an MXF’s facts', () => {
  test('rate, length, start, raster, depth and sampling', () => {
    expect(factsOf({ sound: true, reel: 'KILN_A' })).toMatchObject({
      container: 'mxf',
      codec: 'mpeg2video',
      rate: { num: 25, den: 1 },
      length: 100,
      start: 90_000,
      counting: 'non-drop',
      raster: { width: 1920, height: 1080 },
      bitDepth: 8,
      chroma: '4:2:2',
      sampleRate: 48_000,
      channels: 4,
      reel: 'KILN_A',
      doubts: [],
    });
  });

  test('a file of 50 frames that counts its timecode at 25 begins where its timecode says', () => {
    expect(factsOf({ rate: [50, 1], start: { frames: 90_000, base: 25 } })).toMatchObject({ start: 180_000 });
    expect(factsOf({ rate: [60_000, 1001], start: { frames: 107_892, base: 30, drop: true } })).toMatchObject({
      start: 215_784,
      counting: 'drop',
    });
    // A base that does not go into the rate: only a decoder may say.
    expect(read({ rate: [25, 1], start: { frames: 1, base: 24 } }).kind).toBe('pass');
    // No base at all: the file's own rate.
    expect(factsOf({ rate: [50, 1], start: { frames: 1500, base: 0 } })).toMatchObject({ start: 1500 });
  });

  test('zero, or none, is no timecode', () => {
    for (const start of [null, { frames: 0 }, { frames: -1 }])
      expect(factsOf({ start })).toMatchObject({
        timecodeSource: 'none',
        start: 0,
        doubts: ['timecode-missing'],
      });
  });

  test('fields are described one by one: a frame is twice as high', () => {
    expect(factsOf({ stored: [1920, 540], fields: true })).toMatchObject({ raster: { width: 1920, height: 1080 } });
  });

  test.each([
    ['4:2:0', [2, 2]],
    ['4:4:4', [1, 1]],
    [null, [4, 1]],
  ] as const)('sampling %s', (chroma, sampling) => {
    expect(factsOf({ sampling: [...sampling] })).toMatchObject({ chroma });
  });

  test.each([
    ['AVC', '060e2b340401010a0401020201313001', 'h264'],
    ['VC-3', '060e2b340401010a0401020271010000', 'dnxhd'],
  ])('%s by its label', (_name, coding, codec) => {
    expect(factsOf({ coding })).toMatchObject({ codec });
  });

  test('a label that a decoder must read, no depth, no raster, two file packages', () => {
    expect(read({ coding: '060e2b340401010a0401020203020100' }).kind).toBe('pass');
    expect(read({ coding: '00000000000000000000000000000000' }).kind).toBe('pass');
    expect(read({ depth: 0 }).kind).toBe('pass');
    expect(read({ stored: [0, 1080] }).kind).toBe('pass');
    expect(read({ second: true }).kind).toBe('pass');
  });

  test('a reel is read without what pads it, and an empty one is none', () => {
    expect(factsOf({ reel: 'YARD_3\0\0' })).toMatchObject({ reel: 'YARD_3' });
    expect(factsOf({ reel: '  \0' })).toMatchObject({ reel: null });
  });
});

describe('not whole, or odd', () => {
  test('a length never written is asked of a decoder', () => {
    expect(read({ length: -1 }).kind).toBe('pass');
    expect(read({ length: null }).kind).toBe('pass');
  });

  test('a footer past the end: the frames that are there are counted', () => {
    const essence = joined(frame(200), frame(200), frame(200), frame(200).subarray(0, 90));
    expect(read({ essence, footer: 9_000_000 })).toEqual({
      kind: 'unreadable',
      reason: { code: 'truncated', presentInFrames: 3, expectedInFrames: 100, unit: 'frames' },
    });
  });

  test('sound between the pictures is not counted as pictures', () => {
    const wave = klv('060e2b34010201010d01030116010100', new Uint8Array(50));
    const essence = joined(frame(200), wave, wave, frame(200), wave);
    expect(read({ essence, footer: 9_000_000 })).toMatchObject({ reason: { presentInFrames: 2 } });
  });

  test('a footer inside the file that is none: truncated and written over', () => {
    expect(read({ essence: joined(frame(300)), footer: 40 })).toMatchObject({ reason: { code: 'truncated' } });
  });

  test('a header cut off; a header of unusual size; a header elsewhere', () => {
    const whole = mxf();
    expect(readHeader(readerOf(mxf({ stated: 9000, footer: 'none' })))).toMatchObject({
      kind: 'unreadable',
      reason: { detail: { code: 'ends-in-header' } },
    });
    expect(read({ stated: 0 }).kind).toBe('pass');
    expect(read({ stated: 90_000_000 }).kind).toBe('pass');
    // Cut anywhere, it never throws, and never claims facts of a header that it did not see whole.
    for (let end = 17; end < whole.length - 120; end += 7)
      expect(readHeader(readerOf(whole.subarray(0, end))).kind).not.toBe('facts');
  });

  test('a value longer than its set is said to be so', () => {
    const bytes = mxf();
    const at = bytes.findIndex((_, i) => bytes[i] === 0x33 && bytes[i + 1] === 0x01 && bytes[i + 3] === 4);
    bytes.set([0xff, 0xff], at + 2);
    expect(readHeader(readerOf(bytes))).toMatchObject({
      kind: 'pass',
      suspicion: { code: 'header-broken', detail: { fault: { code: 'ends-in-value' } } },
    });
  });
});
