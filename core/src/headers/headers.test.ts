import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { joined, latin, le, readerOf as source } from '../testing/bytes.ts';
import { readHeader, type ByteReader } from './index.ts';

const chunk = (id: string, body: Uint8Array, stated = body.length) =>
  joined(id, le(stated, 4), body, body.length % 2 ? [0] : []);
const format = (channels: number, bits: number, rate = 48_000) =>
  chunk(
    'fmt ',
    joined(
      le(1, 2),
      le(channels, 2),
      le(rate, 4),
      le((rate * channels * bits) / 8, 4),
      le((channels * bits) / 8, 2),
      le(bits, 2),
    ),
  );
const wave = (...chunks: Uint8Array[]) => {
  const body = joined('WAVE', ...chunks);
  return joined('RIFF', le(body.length, 4), body);
};

describe('WAVE', () => {
  const bext = (reference: number) => {
    const body = new Uint8Array(602);
    body.set(le(reference, 8), 338);
    return chunk('bext', body);
  };

  test('start in samples since midnight, past 2^32, and the recorder’s roll', () => {
    const reference = 23 * 3600 * 192_000;
    const xml = chunk('iXML', latin('<?xml version="1.0"?><BWFXML><TAPE>SND &amp; 07</TAPE></BWFXML>'));
    const read = readHeader(
      source(wave(bext(reference), xml, format(2, 24, 192_000), chunk('data', new Uint8Array(600)))),
    );
    expect(read).toMatchObject({
      kind: 'facts',
      facts: {
        start: reference,
        reel: 'SND & 07',
        length: 100,
        channels: 2,
        bitDepth: 24,
        sampleRate: 192_000,
        doubts: [],
      },
    });
  });

  test('start and roll may stand behind the sound', () => {
    const read = readHeader(source(wave(format(1, 16), chunk('data', new Uint8Array(7)), bext(48_000))));
    expect(read).toMatchObject({
      kind: 'facts',
      facts: { start: 48_000, length: 3, timecodeSource: 'time-reference' },
    });
  });

  test('shorter than it says, it tells what is there', () => {
    const read = readHeader(source(wave(format(1, 16), chunk('data', new Uint8Array(100), 1000))));
    expect(read).toEqual({
      kind: 'unreadable',
      reason: { code: 'truncated', presentInFrames: 50, expectedInFrames: 500, unit: 'samples' },
    });
  });

  test('compressed sound, and sound before its format, are left to a decoder', () => {
    const mp3 = joined('fmt ', le(16, 4), le(0x55, 2), le(2, 2), le(48_000, 4), le(16_000, 4), le(1, 2), le(0, 2));
    expect(readHeader(source(wave(mp3, chunk('data', new Uint8Array(10)))))).toMatchObject({ kind: 'pass' });
    expect(readHeader(source(wave(chunk('data', new Uint8Array(10)), format(1, 16))))).toMatchObject({ kind: 'pass' });
  });
});

describe('what is no film', () => {
  test('empty, short, other', () => {
    expect(readHeader(source(new Uint8Array()))).toEqual({ kind: 'unreadable', reason: { code: 'file-empty' } });
    expect(readHeader(source(latin('RIFF')))).toMatchObject({ kind: 'pass' });
    expect(readHeader(source(latin('RIFF....AVI LIST....')))).toMatchObject({
      kind: 'unreadable',
      reason: { code: 'truncated' },
    });
  });

  test('a recording that was stopped hard has no index', () => {
    const film = joined([0, 0, 0, 16], 'ftypqt  ', [0, 0, 0, 0], [0, 0, 4, 0], 'mdat', new Uint8Array(100));
    expect(readHeader(source(film))).toMatchObject({
      kind: 'unreadable',
      reason: { code: 'header-broken', detail: { code: 'index-unwritten' } },
    });
  });

  test('whatever the bytes, it answers, and reads nothing outside the file', () => {
    const heads = [
      'RIFF\u0010\u0000\u0000\u0000WAVEfmt ',
      '\u0000\u0000\u0000\u0008moov',
      '\u0000\u0000\u0001\u0000moov\u0000\u0000\u0000\u0060trak',
      '\u0006\u000e+4\u0002\u0005\u0001\u0001\r\u0001\u0002\u0001\u0001\u0002\u0004\u0000',
    ];
    fc.assert(
      fc.property(fc.constantFrom(...heads), fc.uint8Array({ maxLength: 400 }), (head, tail) => {
        const bytes = joined(head, tail);
        const guarded: ByteReader = {
          size: bytes.length,
          read: (at, length) => {
            expect(at).toBeGreaterThanOrEqual(0);
            expect(Number.isFinite(length)).toBe(true);
            return source(bytes).read(at, length);
          },
        };
        expect(['facts', 'pass', 'unreadable']).toContain(readHeader(guarded).kind);
      }),
      { numRuns: 400 },
    );
  });
});
