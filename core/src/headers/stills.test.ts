import { describe, expect, test } from '@jest/globals';
import { be, joined, le, readerOf } from '../testing/bytes.ts';
import { readHeader } from './index.ts';

const read = (...parts: (Uint8Array | string | number[])[]) => readHeader(readerOf(joined(...parts)));

describe('PNG', () => {
  const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  const png = (width: number, height: number, depth: number, colour: number, end = 'IEND') =>
    read(signature, be(13, 4), 'IHDR', be(width, 4), be(height, 4), [depth, colour, 0, 0, 0], be(0, 4), end, be(0, 4));

  test.each([
    [8, 2, 'RGB'],
    [16, 6, 'RGB'],
    [8, 0, 'grey'],
    [8, 3, null],
  ])('%i bits, colour type %i', (bitDepth, colour, chroma) => {
    expect(png(640, 480, bitDepth, colour)).toMatchObject({
      kind: 'facts',
      facts: {
        kind: 'still',
        codec: 'png',
        raster: { width: 640, height: 480 },
        bitDepth,
        chroma,
        length: null,
        rate: null,
      },
    });
  });

  test('few colours, and colours of no standard, are left to a decoder', () => {
    expect(png(640, 480, 1, 0).kind).toBe('pass');
    expect(png(640, 480, 8, 5).kind).toBe('pass');
    expect(read(signature, be(13, 4), 'tEXt', new Uint8Array(30), 'IEND').kind).toBe('pass');
  });

  test('one without its end is cut off', () => {
    expect(png(640, 480, 8, 2, 'IDAT')).toMatchObject({ kind: 'unreadable', reason: { code: 'truncated' } });
  });

  test('a few bytes that would unpack to gigabytes are not decoded', () => {
    expect(png(60_000, 60_000, 8, 2)).toEqual({
      kind: 'unreadable',
      reason: { code: 'too-large-to-decode', detail: { code: 'pixels', width: 60_000, height: 60_000 } },
    });
    expect(png(0xffff_ffff, 0xffff_ffff, 8, 2)).toMatchObject({ reason: { code: 'too-large-to-decode' } });
  });
});

describe('JPEG', () => {
  const part = (marker: number, body: Uint8Array | number[]) =>
    joined([0xff, marker], be(body.length + 2, 2), [...body]);
  const frame = (factors: number[], depth = 8, width = 800, height = 600, marker = 0xc0) =>
    part(marker, [
      depth,
      ...be(height, 2),
      ...be(width, 2),
      factors.length,
      ...factors.flatMap((factor, i) => [i + 1, factor, 0]),
    ]);

  test.each([
    ['4:2:0', [0x22, 0x11, 0x11]],
    ['4:2:2', [0x21, 0x11, 0x11]],
    ['4:4:4', [0x11, 0x11, 0x11]],
    ['4:1:1', [0x41, 0x11, 0x11]],
  ])('sampled %s, behind profiles and previews', (chroma, factors) => {
    const preview = joined([0xff, 0xd8], frame([0x11, 0x11, 0x11], 8, 160, 120), [0xff, 0xd9]);
    expect(read([0xff, 0xd8], part(0xe1, preview), part(0xe2, new Uint8Array(60_000)), frame(factors))).toMatchObject({
      kind: 'facts',
      facts: { codec: 'mjpeg', raster: { width: 800, height: 600 }, chroma, bitDepth: 8 },
    });
  });

  test('progressive is read alike; four colours, grey, odd sampling and 12 bits are left to a decoder', () => {
    const start = [0xff, 0xd8];
    expect(read(start, frame([0x22, 0x11, 0x11], 8, 800, 600, 0xc2)).kind).toBe('facts');
    expect(read(start, frame([0x11, 0x11, 0x11, 0x11])).kind).toBe('pass');
    expect(read(start, frame([0x11])).kind).toBe('pass');
    expect(read(start, frame([0x22, 0x12, 0x11])).kind).toBe('pass');
    expect(read(start, frame([0x22, 0x11, 0x11], 12)).kind).toBe('pass');
    expect(read(start, frame([0x22, 0x11, 0x11], 8, 0, 600)).kind).toBe('pass');
  });

  test('parts that do not follow one another, and ones without end, are passed on', () => {
    const start = [0xff, 0xd8];
    expect(read(start, part(0xe0, []), [0x00, 0xc0, 0, 0], new Uint8Array(40)).kind).toBe('pass');
    expect(read(start, part(0xe0, new Uint8Array(10))).kind).toBe('pass');
    expect(read(start, ...Array.from({ length: 500 }, () => part(0xe0, [])), frame([0x22, 0x11, 0x11])).kind).toBe(
      'pass',
    );
    // A length of nothing at all would stand still.
    expect(read(start, [0xff, 0xe0, 0, 0], new Uint8Array(40)).kind).toBe('pass');
  });
});

describe('where a file says that it ends', () => {
  const body = new Uint8Array(40);
  const isCut = (...parts: (Uint8Array | string | number[])[]) => {
    const reading = read(...parts);
    return reading.kind === 'unreadable' && reading.reason.code === 'truncated';
  };

  test('AVI and AIFF, by their own order of bytes', () => {
    expect(isCut('RIFF', le(44, 4), 'AVI ', body)).toBe(false);
    expect(isCut('RIFF', le(60, 4), 'AVI ', body)).toBe(true);
    expect(isCut('FORM', be(44, 4), 'AIFF', body)).toBe(false);
    expect(isCut('FORM', be(60, 4), 'AIFF', body)).toBe(true);
    // An odd file whose last, padding byte nobody wrote is whole.
    expect(isCut('RIFF', le(45, 4), 'AVI ', body)).toBe(false);
  });

  test('an AVI that was written into a pipe states no size: it is not cut off for that', () => {
    expect(isCut('RIFF', [0xff, 0xff, 0xff, 0xff], 'AVI ', body)).toBe(false);
  });

  const matroska = (size: number[], content = body) =>
    isCut([0x1a, 0x45, 0xdf, 0xa3], [0x84], be(0, 4), [0x18, 0x53, 0x80, 0x67], size, content);

  test('Matroska: sizes of one to eight bytes, and the unknown', () => {
    expect(matroska([0x80 | 40])).toBe(false);
    expect(matroska([0x80 | 41])).toBe(true);
    expect(matroska([0x01, ...be(40, 7)])).toBe(false);
    expect(matroska([0x01, ...be(4_000_000_000, 7)])).toBe(true);
    expect(matroska([0xff])).toBe(false);
    expect(matroska([0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff])).toBe(false);
    expect(matroska([0x00, 0xff])).toBe(false);
  });
});
