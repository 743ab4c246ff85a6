import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdtempSync, rmSync, symlinkSync, truncateSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { useFence } from '../disk/held.ts';
import { makeFilm, makeSound } from '../testing/media.ts';
import { factsOfProbe } from './facts.ts';
import { runFenced } from './fenced.ts';
import { takePicture } from './picture.ts';
import { readMediaFile } from './read.ts';
import { ReaderProcess } from './readerProcess.ts';

let place: string;
const reader = new ReaderProcess();
const read = (name: string) => readMediaFile(reader, { path: place }, { folder: '', name, sequence: null });

beforeAll(() => {
  place = mkdtempSync(join(tmpdir(), 'legame-read-'));
  useFence([place]);
  makeFilm(join(place, 'bowl.mov'), { frames: 50, timecode: '09:12:00:05', reel: 'A001' });
  makeFilm(join(place, '-v x:%04d.mov'), { frames: 10 });
  makeSound(join(place, 't1.wav'), { seconds: 2, startSeconds: 3600 });
});
afterAll(() => {
  reader.stop();
  rmSync(place, { recursive: true, force: true });
});

describe('facts of real files', () => {
  test('a film: start, length, rate, reel, raster', async () => {
    expect(await read('bowl.mov')).toMatchObject({
      unreadable: null,
      facts: {
        kind: 'picture',
        rate: { num: 25, den: 1 },
        start: (9 * 3600 + 12 * 60) * 25 + 5,
        length: 50,
        timecodeSource: 'timecode',
        reel: 'A001',
        raster: { width: 64, height: 36 },
      },
    });
  });

  test('a wave file counts samples from its time reference', async () => {
    expect(await read('t1.wav')).toMatchObject({
      facts: {
        kind: 'sound',
        start: 3600 * 48_000,
        length: 96_000,
        sampleRate: 48_000,
        timecodeSource: 'time-reference',
      },
    });
  });

  test('a name that looks like an option or a pattern is only a name', async () => {
    expect(await read('-v x:%04d.mov')).toMatchObject({ facts: { length: 10 } });
  });

  test('a sequence is measured by its numbers', async () => {
    for (let n = 1; n <= 3; n += 1) makeFilm(join(place, `s_000${n}.jpg`), { frames: 1 });
    const sequence = { prefix: 's_', suffix: '.jpg', padding: 4, first: 1, last: 3, missing: [] };
    expect(await readMediaFile(reader, { path: place }, { folder: '', name: 's_####.jpg', sequence })).toMatchObject({
      facts: { kind: 'sequence', start: 1, length: 3, rate: null, raster: { width: 64, height: 36 } },
    });
  });

  test('drop-frame is read as such', () => {
    const probe = {
      format: { format_name: 'mov,mp4' },
      streams: [
        {
          codec_type: 'video',
          codec_name: 'h264',
          avg_frame_rate: '30000/1001',
          nb_frames: '10',
          tags: { timecode: '00:01:00;02' },
        },
      ],
    };
    expect(factsOfProbe(JSON.stringify(probe))).toMatchObject({ counting: 'drop', start: 1800, length: 10 });
  });
});

describe('files that cannot be used say why', () => {
  test('empty, text, and a film cut off', async () => {
    writeFileSync(join(place, 'empty.mov'), '');
    writeFileSync(join(place, 'text.mov'), 'this is no film at all, only words, '.repeat(50));
    makeFilm(join(place, 'cut.mov'));
    truncateSync(join(place, 'cut.mov'), 2000);
    const longAgo = new Date('2026-03-02T10:00:00Z');
    for (const name of ['empty.mov', 'cut.mov']) utimesSync(join(place, name), longAgo, longAgo);
    expect(await read('empty.mov')).toMatchObject({ facts: null, unreadable: { code: 'file-empty' } });
    expect(await read('text.mov')).toMatchObject({ facts: null, unreadable: { code: 'not-media' } });
    expect(await read('cut.mov')).toMatchObject({ facts: null, unreadable: { code: 'header-broken' } });
  });

  test('a playlist cannot make the decoder open another file', async () => {
    writeFileSync(join(place, 'list.mov'), `ffconcat version 1.0\nfile '${join(place, 'bowl.mov')}'\n`);
    writeFileSync(
      join(place, 'list.m3u8.mov'),
      `#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile://${join(place, 'bowl.mov')}\n#EXT-X-ENDLIST\n`,
    );
    for (const name of ['list.mov', 'list.m3u8.mov'])
      expect(await read(name)).toMatchObject({ facts: null, unreadable: { code: 'not-media' } });
  });

  test('a link out of the place is not followed', async () => {
    const outside = mkdtempSync(join(tmpdir(), 'legame-out-'));
    makeFilm(join(outside, 'canary.mov'));
    symlinkSync(join(outside, 'canary.mov'), join(place, 'link.mov'));
    expect(await read('link.mov')).toMatchObject({ unreadable: { code: 'outside-place' } });
    expect(await read('../x.mov')).toMatchObject({ unreadable: { code: 'outside-place' } });
    rmSync(outside, { recursive: true });
  });
});

describe('the fence', () => {
  const limits = { seconds: 5, cpuSeconds: 5, memoryInBytes: 1e9, outputInBytes: 1000 };
  test('a program that does not end even so is waited for no longer', async () => {
    // As it looks from here: what it started holds its output open, in a group of its own.
    const outlives = `setsid sleep 47.25 & exec sleep 47.25`;
    expect(await runFenced('sh', ['-c', outlives], { ...limits, seconds: 0.2 })).toMatchObject({ end: 'too-slow' });
    expect(await runFenced('pkill', ['-f', '^sleep 47.25'], limits)).toMatchObject({ end: 'exited', code: 0 });
  });

  test('too slow, too much output, aborted, and the code of an ordinary end', async () => {
    expect(await runFenced('sleep', ['20'], { ...limits, seconds: 0.2 })).toMatchObject({ end: 'too-slow' });
    expect(await runFenced('yes', [], limits)).toMatchObject({ end: 'too-much-output' });
    expect(await runFenced('sleep', ['20'], limits, { signal: AbortSignal.abort() })).toEqual({ end: 'aborted' });
    expect(await runFenced('sh', ['-c', 'echo out; echo err >&2; exit 3'], limits)).toMatchObject({
      end: 'exited',
      code: 3,
      stderr: 'err\n',
    });
  });
  test('arguments are no shell', async () => {
    const result = await runFenced('echo', ['$(id); `id`'], limits);
    expect(result.end === 'exited' && result.stdout.toString()).toBe('$(id); `id`\n');
  });
});

test('a picture is a JPEG of the wanted frame; past the end it fails with a reason', async () => {
  const reading = await read('bowl.mov');
  if (reading === 'aborted' || !reading.facts) throw new Error('not read');
  const first = await takePicture({ path: place }, { folder: '', name: 'bowl.mov', sequence: null }, reading.facts, 10);
  expect(first.ok && [...first.bytes.subarray(0, 2)]).toEqual([0xff, 0xd8]);
  expect(
    await takePicture({ path: place }, { folder: '', name: 'gone.mov', sequence: null }, reading.facts, 0),
  ).toEqual({
    ok: false,
    detail: { code: 'file-gone' },
  });
});
