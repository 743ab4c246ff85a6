import { closeSync, openSync, readSync, rmSync, mkdtempSync, fstatSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readHeader } from '@legame/core/headers';
import { makeFilm, makeSound } from '../media.ts';
import type { Chance } from './chance.ts';
import { fuzz, type Fuzzed } from './chance.ts';

/** Real heads of files, of every kind that is read here, and then wrong in sizes, counts and places. */
export function fuzzHeaders(seconds: number, seed: number): Fuzzed {
  const folder = mkdtempSync(join(tmpdir(), 'legame-fuzz-'));
  try {
    const at = (name: string) => join(folder, name);
    makeFilm(at('a.mov'), { frames: 30, timecode: '01:00:00:00', reel: 'A001' });
    makeFilm(at('a.mp4'), { frames: 30, codec: 'libx264' });
    makeFilm(at('a.mxf'), { frames: 30, codec: 'mpeg2video' });
    makeFilm(at('a.png'), { frames: 1, codec: 'png' });
    makeFilm(at('a.jpg'), { frames: 1 });
    makeSound(at('a.wav'), { seconds: 1, startSeconds: 3600 });
    const files = ['a.mov', 'a.mp4', 'a.mxf', 'a.png', 'a.jpg', 'a.wav'].map((name) => bytesOf(at(name)));
    return fuzz('headers', seconds, seed, (chance) => {
      const bytes = wrong(chance.one(files), chance);
      let reads = 0;
      const reading = readHeader({
        size: chance.isTrue(0.9) ? bytes.length : chance.one([0, 7, bytes.length * 3, 2 ** 40]),
        read: (offset, length) => {
          reads += 1;
          if (reads > 200_000) throw new Error('it reads without end');
          if (!(offset >= 0) || !Number.isFinite(length)) throw new Error(`it reads ${length} bytes at ${offset}`);
          return bytes.subarray(offset, offset + length);
        },
      });
      if (reading.kind !== 'facts') return null;
      const { length, start, rate, raster } = reading.facts;
      const numbers = [length, start, rate?.num, rate?.den, raster?.width, raster?.height];
      const odd = numbers.find((n) => n !== null && n !== undefined && !Number.isSafeInteger(n));
      return odd === undefined ? null : `facts hold ${odd}`;
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function bytesOf(path: string): Uint8Array {
  const descriptor = openSync(path, 'r');
  try {
    const bytes = new Uint8Array(Math.min(fstatSync(descriptor).size, 400_000));
    readSync(descriptor, bytes, 0, bytes.length, 0);
    return bytes;
  } finally {
    closeSync(descriptor);
  }
}

const oddSizes = [0, 1, 7, 8, 0x7fffffff, 0x80000000, 0xffffffff, 0xfffffff0];

/** A size, a count or a place in the file said wrong; parts cut out, doubled or exchanged. */
function wrong(bytes: Uint8Array, chance: Chance): Uint8Array {
  let out = Uint8Array.from(bytes);
  for (let times = 1 + chance.below(12); times > 0; times -= 1) {
    const at = chance.below(Math.max(1, chance.isTrue() ? Math.min(out.length, 4000) : out.length));
    switch (chance.below(5)) {
      case 0:
        out[at] = chance.below(256);
        break;
      case 1:
      case 2:
        if (at + 4 <= out.length) new DataView(out.buffer).setUint32(at, chance.one(oddSizes), chance.isTrue());
        break;
      case 3: {
        const piece = out.slice(at, at + chance.below(600));
        const to = chance.below(Math.max(1, out.length));
        out = Uint8Array.from([...out.subarray(0, to), ...piece, ...out.subarray(to)]);
        break;
      }
      default:
        out = out.slice(0, Math.max(1, chance.below(out.length + 1)));
    }
  }
  return out;
}
