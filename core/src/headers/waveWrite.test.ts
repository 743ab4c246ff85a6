import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { waveCodecs } from '../consolidate/waveCodec.ts';
import { readHeader } from './index.ts';
import { waveAround } from './waveWrite.ts';

/** A file of this head and tail with sound that nobody has to hold in memory. */
function factsOf({ head, tail }: { head: Uint8Array; tail: Uint8Array }, soundInBytes: number) {
  const size = head.length + soundInBytes + tail.length;
  const read = (offset: number, length: number) => {
    const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
    for (let i = 0; i < bytes.length; i += 1) {
      const at = offset + i;
      bytes[i] = at < head.length ? head[at]! : (tail[at - head.length - soundInBytes] ?? 0);
    }
    return bytes;
  };
  const found = readHeader({ size, read });
  if (found.kind !== 'facts') throw new Error(JSON.stringify(found));
  return found.facts;
}

describe('a WAVE file that is made anew', () => {
  test('says what it holds, whatever that is, also beyond four gigabytes', () => {
    const given = fc.record({
      codec: fc.constantFrom(...waveCodecs),
      channels: fc.integer({ min: 1, max: 64 }),
      sampleRate: fc.constantFrom(8000, 44_100, 48_000, 96_000, 192_000),
      samples: fc.oneof(fc.integer({ min: 0, max: 5000 }), fc.integer({ min: 1_000_000_000, max: 3_000_000_000 })),
      startsAt: fc.option(fc.integer({ min: 0, max: 8_294_399_999 })),
      reel: fc.option(fc.constantFrom('S 1', 'Größe <1> & "2"', '渲染', 'a&amp;b')),
    });
    fc.assert(
      fc.property(given, ({ codec, channels, sampleRate, samples, startsAt, reel }) => {
        const made = waveAround({ codec, channels, sampleRate }, samples, { startsAt, reel });
        expect(factsOf(made, samples * made.bytesPerSample)).toMatchObject({
          codec,
          channels,
          sampleRate,
          length: samples,
          timecodeSource: startsAt === null ? 'none' : 'time-reference',
          start: startsAt ?? 0,
          reel,
          doubts: startsAt === null ? ['timecode-missing'] : [],
        });
      }),
      { numRuns: 300 },
    );
  });

  test('ends on an even byte, and its sizes are those of its parts', () => {
    const { head, tail, bytesPerSample } = waveAround({ codec: 'pcm_s24le', channels: 1, sampleRate: 48_000 }, 3, {
      startsAt: 7,
      reel: null,
    });
    expect([bytesPerSample, tail.length, (head.length + 9 + tail.length) % 2]).toEqual([3, 1, 0]);
    const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
    expect([view.getUint32(4, true), view.getUint32(head.length - 4, true)]).toEqual([head.length + 9 + 1 - 8, 9]);
  });
});
