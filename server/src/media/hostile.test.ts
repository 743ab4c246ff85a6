import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { closeSync, constants, mkdtempSync, openSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { useFence } from '../disk/held.ts';
import { walkPlace, type Walked } from '../disk/walk.ts';
import { damage, makeCanary, makeHostile, type Expected } from '../testing/hostile.ts';
import { makeFilm } from '../testing/media.ts';
import { readMediaFile } from './read.ts';
import { ReaderProcess } from './readerProcess.ts';
import { tryReading } from './trial.ts';

let folder: string;
let canary: string;
let expected: Map<string, Expected>;
const reader = new ReaderProcess();
const read = (name: string) => readMediaFile(reader, { path: folder }, { folder: '', name, sequence: null });

beforeAll(() => {
  const root = mkdtempSync(join(tmpdir(), 'legame-hostile-'));
  folder = join(root, 'drive');
  useFence([folder]);
  canary = join(root, 'outside', 'canary');
  makeCanary(canary);
  expected = makeHostile(folder, canary);
}, 120_000);
afterAll(() => {
  reader.stop();
  rmSync(join(folder, '..'), { recursive: true, force: true });
});

/** Whether anybody has the pipe open for reading: only then can it be opened for writing without waiting. */
function isCanaryOpen(): boolean {
  try {
    closeSync(openSync(canary, constants.O_WRONLY | constants.O_NONBLOCK));
    return true;
  } catch {
    return false;
  }
}

describe('a drive full of files that lie', () => {
  test('every file gets the right reason or facts; nothing outside is opened; memory stays flat', async () => {
    const files: Walked[] = [];
    const skipped = await walkPlace({ path: folder }, { onFiles: (found) => files.push(...found) });
    expect(files.map((f) => f.name).sort()).toEqual([...expected.keys()].sort());
    expect(skipped).toMatchObject({ links: 2, special: 1 });
    expect(files.length).toBeGreaterThan(40);
    const before = process.memoryUsage().rss;
    const found = new Map<string, Expected>();
    for (const { name } of files) {
      const reading = await read(name);
      if (reading === 'aborted') throw new Error('aborted');
      const { facts, unreadable } = reading;
      found.set(name, unreadable ? { unreadable: unreadable.code } : { doubts: [...facts!.doubts].sort() });
      expect({ name, canary: isCanaryOpen() }).toEqual({ name, canary: false });
    }
    const sorted = (e: Expected): Expected => ('doubts' in e ? { doubts: [...e.doubts].sort() } : e);
    expect(Object.fromEntries(found)).toEqual(Object.fromEntries([...expected].map(([name, e]) => [name, sorted(e)])));
    expect(process.memoryUsage().rss - before).toBeLessThan(300_000_000);
  }, 120_000);

  test('the canary works: whoever opens it shows', () => {
    execFileSync('bash', ['-c', `cat '${canary}' & sleep 0.3; echo > '${canary}'; wait`]);
    expect(isCanaryOpen()).toBe(false);
  });

  test('a truncated film tells how many frames are left of how many', async () => {
    const reading = await read('cut index first.mov');
    const reason = reading !== 'aborted' && reading.unreadable;
    expect(reason).toMatchObject({ code: 'truncated', expectedInFrames: 50, unit: 'frames' });
    const present = (reason as { presentInFrames: number }).presentInFrames;
    expect(present).toBeGreaterThan(20);
    expect(present).toBeLessThan(40);
    expect(await read('cut.wav')).toMatchObject({ unreadable: { expectedInFrames: 96_000, unit: 'samples' } });
    const mxf = await read('cut.mxf');
    expect(mxf).toMatchObject({ unreadable: { code: 'truncated', expectedInFrames: 50 } });
  });

  test('what it is instead is said in words', async () => {
    const detail = async (name: string) => {
      const reading = await read(name);
      return reading !== 'aborted' && reading.unreadable && 'detail' in reading.unreadable && reading.unreadable.detail;
    };
    expect(await detail('archive.mov')).toEqual({ code: 'is-other', what: 'zip' });
    expect(await detail('zeros.mov')).toEqual({ code: 'is-other', what: 'zeros' });
    expect(await detail('list.mov')).toEqual({ code: 'is-other', what: 'playlist' });
    expect(await read('still.mov')).toMatchObject({
      unreadable: { code: 'name-misleads', named: '.mov', content: 'a still picture (png)' },
    });
  });
});

describe('a trial read', () => {
  const film = (name: string, codec = ['-c:v', 'mjpeg']) => {
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=320x180:r=25:d=4',
      ...codec,
      join(folder, name),
    ]);
  };
  const tryIt = async (name: string) => {
    const reading = await read(name);
    if (reading === 'aborted' || !reading.facts) throw new Error(`${name} was not read`);
    const file = { folder: '', name, sequence: null, sizeInBytes: 1_000_000 };
    return tryReading({ path: folder }, file, reading.facts);
  };

  test('a whole film is whole, with its frames', async () => {
    film('whole.mov');
    expect(await tryIt('whole.mov')).toEqual({ state: 'whole', frames: 100 });
    film('whole.mxf', ['-c:v', 'mpeg2video']);
    expect(await tryIt('whole.mxf')).toEqual({ state: 'whole', frames: 100 });
  });

  test.each([
    ['mjpeg.mov', ['-c:v', 'mjpeg']],
    ['ffv1.mkv', ['-c:v', 'ffv1', '-slicecrc', '1', '-level', '3']],
    ['h264.mov', ['-c:v', 'libx264', '-g', '10', '-bf', '0']],
    ['mpeg2.mxf', ['-c:v', 'mpeg2video', '-g', '1']],
  ])('damage in the middle of %s is found, near the frame where it is', async (name, codec) => {
    film(name, codec);
    damage(join(folder, name), 0.5, 3000);
    const result = await tryIt(name);
    expect(result).toMatchObject({
      state: 'fails',
      reason: { code: 'damaged', ofFrames: expect.anything() as unknown },
    });
    const { atFrame } = (result as { reason: { atFrame: number } }).reason;
    expect(atFrame).toBeGreaterThan(25);
    expect(atFrame).toBeLessThan(75);
  });

  test('it stops when told to', async () => {
    makeFilm(join(folder, 'long.mov'), { frames: 3000 });
    const reading = await read('long.mov');
    if (reading === 'aborted' || !reading.facts) throw new Error('not read');
    const file = { folder: '', name: 'long.mov', sequence: null, sizeInBytes: 1 };
    expect(await tryReading({ path: folder }, file, reading.facts, AbortSignal.abort())).toEqual({ state: 'aborted' });
  });
});
