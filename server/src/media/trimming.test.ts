import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { spansOf, type Cutting } from '@legame/core/consolidate';
import { readHeader } from '@legame/core/headers';
import type { Facts } from '@legame/core/model';
import { useFence } from '../disk/held.ts';
import { FencedFolder } from '../disk/writing.ts';
import { askDecoder } from './decoder.ts';
import { cuttingOf } from './cutting.ts';
import { readerOf } from './openFile.ts';
import { readStreams } from './packets.ts';
import type { Streams } from './trim.ts';
import { trimAside } from './trimming.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'legame-trim-'));
  mkdirSync(join(folder, 'out'));
  useFence([folder]);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const signal = new AbortController().signal;
const ffmpeg = (...args: string[]) =>
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', '-threads', '1', ...args], { maxBuffer: 1e9 });

type Made = { rate: string; start: string; picture: string; sound: string; seconds?: number };
function make(name: string, { rate, start, picture, sound, seconds = 5 }: Made): string {
  ffmpeg(
    ...['-f', 'lavfi', '-i', `testsrc2=s=256x144:r=${rate}:d=${seconds}`],
    ...['-f', 'lavfi', '-i', `aevalsrc=random(0)*0.3:s=48000:d=${seconds}`],
    ...['-map', '0:v', '-map', '1:a', ...picture.split(' '), ...sound.split(' ')],
    ...['-timecode', start, '-metadata', 'reel_name=A007', '-metadata:s:v:0', 'reel_name=A007'],
    ...(name.endsWith('.mp4') ? ['-movflags', 'use_metadata_tags'] : []),
    join(folder, name),
  );
  return name;
}

async function factsOf(name: string): Promise<Facts> {
  const file = await open(join(folder, name));
  try {
    const header = readHeader(readerOf(file.fd, (await file.stat()).size));
    if (header.kind === 'facts') return header.facts;
  } finally {
    await file.close();
  }
  const asked = await askDecoder({ path: folder }, name);
  if (asked === 'aborted' || !asked.facts) throw new Error(`${name} was not read`);
  return asked.facts;
}

async function cutsOf(name: string, facts: Facts): Promise<Cutting> {
  const file = await open(join(folder, name));
  try {
    return (await cuttingOf(file, { facts, extension: name.split('.').at(-1)! })).cutting;
  } finally {
    await file.close();
  }
}

const day = 24 * 3600;
/** Timecode begins again at midnight. */
const startOf = ({ kind, start, rate, sampleRate }: Facts, at: number) =>
  (start + at) % (day * (kind === 'sound' ? sampleRate! : Math.ceil(rate!.num / rate!.den)));

let made = 0;
/** Trims these frames or samples, with all that the product itself proves, and says what came out. */
async function trim(
  name: string,
  range: { start: number; end: number },
  facts: Facts,
  streams: Streams | null = null,
): Promise<string> {
  const out = await FencedFolder.of({ path: join(folder, 'out') });
  const aside = `${(made += 1)}-${name}`;
  await trimAside(
    {
      source: { path: folder, file: name },
      expected: { sizeInBytes: null, modifiedMs: null, isFrame: false, fingerprint: null },
      folder: out.ground,
      aside,
      trim: { range, startsAt: startOf(facts, range.start), facts, streams },
    },
    { signal, onBytes: () => undefined },
  );
  return `out/${aside}`;
}

/** Checksums of decoded frames, by another way than the product's: everything decoded from the first frame on. */
const decoded = (name: string): string[] =>
  ffmpeg('-i', join(folder, name), '-map', '0:v:0', '-fps_mode', 'passthrough', '-f', 'framemd5', '-')
    .toString()
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split(',').at(-1)!.trim());
const samples = (name: string): Buffer =>
  ffmpeg('-i', join(folder, name), '-map', '0:a:0', '-f', 's16le', '-ac', '1', '-');

const pcm = '-c:a pcm_s16le';
const everyFrame: readonly (readonly [string, Made])[] = [
  ['prores.mov', { rate: '24000/1001', start: '01:00:00:00', picture: '-c:v prores_ks -profile:v 0', sound: pcm }],
  [
    'vc3.mov',
    {
      rate: '25',
      start: '10:00:00:00',
      picture: '-c:v dnxhd -profile:v dnxhr_lb -pix_fmt yuv422p',
      sound: '-c:a pcm_s24le',
    },
  ],
  [
    'vc3.mxf',
    {
      rate: '30000/1001',
      start: '01:00:59;00',
      picture: '-c:v dnxhd -profile:v dnxhr_lb -pix_fmt yuv422p',
      sound: pcm,
    },
  ],
  [
    'jpeg.mov',
    { rate: '30000/1001', start: '00:59:58;20', picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p', sound: pcm },
  ],
  ['jpeg.mkv', { rate: '25', start: '01:00:00:00', picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p', sound: pcm }],
  ['ffv1.mkv', { rate: '60000/1001', start: '01:00:00;00', picture: '-c:v ffv1 -level 3 -g 1', sound: pcm }],
  ['all-i.mov', { rate: '50', start: '01:00:00:00', picture: '-c:v libx264 -preset ultrafast -g 1', sound: pcm }],
  ['all-i.mxf', { rate: '25', start: '23:59:58:00', picture: '-c:v mpeg2video -g 1 -b:v 3M', sound: pcm }],
];
const groups: readonly (readonly [string, Made])[] = [
  [
    'long.mov',
    { rate: '25', start: '01:00:00:00', picture: '-c:v libx264 -preset veryfast -g 24 -bf 2', sound: '-c:a aac' },
  ],
  [
    'long.mp4',
    {
      rate: '30000/1001',
      start: '01:00:00;00',
      picture: '-c:v libx264 -preset veryfast -g 24 -bf 3',
      sound: '-c:a aac',
    },
  ],
  [
    'fast.mp4',
    {
      rate: '60000/1001',
      start: '01:00:00;00',
      picture: '-c:v libx264 -preset veryfast -g 50 -bf 3',
      sound: '-c:a aac',
    },
  ],
  [
    'long.mkv',
    { rate: '24000/1001', start: '01:00:00:00', picture: '-c:v libx264 -preset veryfast -g 24 -bf 2', sound: pcm },
  ],
  [
    'closed.mxf',
    {
      rate: '25',
      start: '10:00:00:00',
      picture: '-c:v mpeg2video -g 12 -bf 2 -flags +cgop -sc_threshold 1000000000 -b:v 3M',
      sound: pcm,
    },
  ],
  ['plain.mxf', { rate: '25', start: '10:00:00:00', picture: '-c:v mpeg2video -g 12 -bf 0 -b:v 3M', sound: pcm }],
  ['simple.mov', { rate: '24', start: '10:00:00:00', picture: '-c:v mpeg4 -g 12 -b:v 2M', sound: pcm }],
];

describe('a part of a film', () => {
  test.each([...everyFrame, ...groups])(
    '%s: frame for frame the source’s, with its timecode, sound and reel',
    async (name, how) => {
      make(name, how);
      const facts = await factsOf(name);
      const length = facts.length!;
      const cutting = await cutsOf(name, facts);
      expect(cutting.can).toBe(groups.some(([n]) => n === name) ? 'at' : 'anywhere');
      if (cutting.can === 'nowhere') throw new Error(cutting.because);
      const source = decoded(name);
      expect(source).toHaveLength(length);
      const uses = [
        { start: 0, end: 1 },
        { start: 37, end: 61 },
        { start: length - 31, end: length },
      ];
      const spans = spansOf(uses, length, cutting, { division: 'use', handles: 3, gap: 0 });
      for (const [i, { range }] of spans.entries()) {
        expect(range.start).toBeLessThanOrEqual(Math.max(0, uses[i]!.start - 3));
        expect(range.end).toBeGreaterThanOrEqual(Math.min(length, uses[i]!.end + 3));
        const part = await trim(name, range, facts);
        expect(decoded(part)).toEqual(source.slice(range.start, range.end));
        expect(await factsOf(part)).toMatchObject({
          length: range.end - range.start,
          start: startOf(facts, range.start),
          rate: facts.rate,
          counting: facts.counting,
          reel: facts.reel,
        });
        if (!how.sound.includes('pcm')) continue;
        const at = (frame: number) => Math.round((frame * 48_000 * facts.rate!.den) / facts.rate!.num);
        const wanted = samples(name).subarray(at(range.start) * 2, at(range.end) * 2);
        const found = samples(part);
        // A container may fill its last sound frame up.
        expect(Math.abs(found.length - wanted.length)).toBeLessThanOrEqual(name.endsWith('.mxf') ? 4 : 0);
        const both = Math.min(found.length, wanted.length);
        expect(found.subarray(0, both).equals(wanted.subarray(0, both))).toBe(true);
      }
    },
  );

  test('that is not what was meant is thrown away: a source whose times are told wrong by a frame', async () => {
    make('off.mov', { rate: '25', start: '01:00:00:00', picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p', sound: pcm });
    const facts = await factsOf('off.mov');
    const file = await open(join(folder, 'off.mov'));
    const streams = (await readStreams(file))!;
    await file.close();
    const { picture } = streams;
    const aFrame = picture.timeBase.den / 25 / picture.timeBase.num;
    const wrong = { ...streams, picture: { ...picture, start: picture.start + aFrame } };
    await expect(trim('off.mov', { start: 30, end: 60 }, facts, wrong)).rejects.toMatchObject({
      problem: { code: 'trim-not-proven' },
    });
    await trim('off.mov', { start: 30, end: 60 }, facts, streams);
  });

  test('is without a second picture and titles, which are counted', async () => {
    make('plain.mov', { rate: '25', start: '01:00:00:00', picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p', sound: pcm });
    writeFileSync(join(folder, 'titles.srt'), '1\n00:00:00,000 --> 00:00:01,000\nFurnace\n');
    const [plain, titles] = [join(folder, 'plain.mov'), join(folder, 'titles.srt')];
    const maps = ['-map', '0:v', '-map', '0:v', '-map', '0:a', '-map', '1:s'];
    ffmpeg('-i', plain, '-i', titles, ...maps, '-c', 'copy', '-c:s', 'mov_text', join(folder, 'more.mov'));
    const othersIn = async (name: string) => {
      const file = await open(join(folder, name));
      try {
        return (await readStreams(file))!.others;
      } finally {
        await file.close();
      }
    };
    expect([await othersIn('plain.mov'), await othersIn('more.mov')]).toEqual([0, 2]);
  });

  test('is not cut where the header shows it from somewhere in its middle: which frame is the first is not guessed', async () => {
    const how = { rate: '25', start: '01:00:00:00', picture: '-c:v libx264 -preset ultrafast -g 25 -bf 0', sound: pcm };
    make('whole.mov', how);
    // Copied from between two key frames: the pictures before are there, and are not shown.
    ffmpeg(
      '-ss',
      '1.4',
      '-i',
      join(folder, 'whole.mov'),
      '-c',
      'copy',
      '-timecode',
      '02:00:00:00',
      join(folder, 'late.mov'),
    );
    const facts = await factsOf('late.mov');
    const cutting = await cutsOf('late.mov', facts);
    expect(cutting).toEqual({ can: 'nowhere', because: 'rate-varies' });
  });

  test('of sound whose blocks hold many samples is refused', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'sine=d=2:r=48000', '-c:a', 'adpcm_ms', join(folder, 'blocks.wav'));
    expect(await cutsOf('blocks.wav', await factsOf('blocks.wav'))).toMatchObject({ can: 'nowhere' });
  });

  test('is refused where frames that are shown before a picture need it', async () => {
    make('open.mxf', { rate: '25', start: '10:00:00:00', picture: '-c:v mpeg2video -g 12 -bf 2 -b:v 3M', sound: pcm });
    expect(await cutsOf('open.mxf', await factsOf('open.mxf'))).toEqual({ can: 'nowhere', because: 'open-groups' });
  });
});
