import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { writeFileSync } from 'node:fs';
import { spansOf } from '@legame/core/consolidate';
import { Cuttings, ffmpeg, startOf, type HowMade } from '../testing/parts.ts';

let cuttings: Cuttings;
beforeAll(() => {
  cuttings = new Cuttings();
});
afterAll(() => cuttings.remove());

const pcm = '-c:a pcm_s16le';
const everyFrame: readonly (readonly [string, HowMade])[] = [
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
const groups: readonly (readonly [string, HowMade])[] = [
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
      cuttings.make(name, how);
      const facts = await cuttings.factsOf(name);
      const length = facts.length!;
      const cutting = await cuttings.cutsOf(name, facts);
      expect(cutting.can).toBe(groups.some(([n]) => n === name) ? 'at' : 'anywhere');
      if (cutting.can === 'nowhere') throw new Error(cutting.because);
      const source = cuttings.decoded(name);
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
        const { name: part, lost } = await cuttings.part(name, range, facts);
        expect(lost).toEqual([]);
        expect(cuttings.decoded(part)).toEqual(source.slice(range.start, range.end));
        expect(await cuttings.factsOf(part)).toMatchObject({
          length: range.end - range.start,
          start: startOf(facts, range.start),
          rate: facts.rate,
          counting: facts.counting,
          reel: facts.reel,
        });
        if (!how.sound.includes('pcm')) continue;
        const at = (frame: number) => Math.round((frame * 48_000 * facts.rate!.den) / facts.rate!.num);
        const wanted = cuttings.samples(name).subarray(at(range.start) * 2, at(range.end) * 2);
        const found = cuttings.samples(part);
        // A container may fill its last sound frame up.
        expect(Math.abs(found.length - wanted.length)).toBeLessThanOrEqual(name.endsWith('.mxf') ? 4 : 0);
        const both = Math.min(found.length, wanted.length);
        expect(found.subarray(0, both).equals(wanted.subarray(0, both))).toBe(true);
      }
    },
  );

  test('that is not what was meant is thrown away: a source whose times are told wrong by a frame', async () => {
    cuttings.make('off.mov', {
      rate: '25',
      start: '01:00:00:00',
      picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p',
      sound: pcm,
    });
    const facts = await cuttings.factsOf('off.mov');
    const streams = await cuttings.streamsOf('off.mov');
    const { picture } = streams;
    const aFrame = picture.timeBase.den / 25 / picture.timeBase.num;
    const wrong = { ...streams, picture: { ...picture, start: picture.start + aFrame } };
    await expect(cuttings.part('off.mov', { start: 30, end: 60 }, facts, { streams: wrong })).rejects.toMatchObject({
      problem: { code: 'trim-not-proven' },
    });
    await cuttings.part('off.mov', { start: 30, end: 60 }, facts, { streams: streams });
  });

  test('is without a second picture and titles, which are counted', async () => {
    cuttings.make('plain.mov', {
      rate: '25',
      start: '01:00:00:00',
      picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p',
      sound: pcm,
    });
    writeFileSync(cuttings.path('titles.srt'), '1\n00:00:00,000 --> 00:00:01,000\nFurnace\n');
    const [plain, titles] = [cuttings.path('plain.mov'), cuttings.path('titles.srt')];
    const maps = ['-map', '0:v', '-map', '0:v', '-map', '0:a', '-map', '1:s'];
    ffmpeg('-i', plain, '-i', titles, ...maps, '-c', 'copy', '-c:s', 'mov_text', cuttings.path('more.mov'));
    const othersIn = async (name: string) => (await cuttings.streamsOf(name)).others;
    expect([await othersIn('plain.mov'), await othersIn('more.mov')]).toEqual([0, 2]);
  });

  test('is not cut where the header shows it from somewhere in its middle: which frame is the first is not guessed', async () => {
    const how = { rate: '25', start: '01:00:00:00', picture: '-c:v libx264 -preset ultrafast -g 25 -bf 0', sound: pcm };
    cuttings.make('whole.mov', how);
    // Copied from between two key frames: the pictures before are there, and are not shown.
    ffmpeg(
      '-ss',
      '1.4',
      '-i',
      cuttings.path('whole.mov'),
      '-c',
      'copy',
      '-timecode',
      '02:00:00:00',
      cuttings.path('late.mov'),
    );
    const facts = await cuttings.factsOf('late.mov');
    const cutting = await cuttings.cutsOf('late.mov', facts);
    expect(cutting).toEqual({ can: 'nowhere', because: 'rate-varies' });
  });

  test('of sound whose blocks hold many samples is refused', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'sine=d=2:r=48000', '-c:a', 'adpcm_ms', cuttings.path('blocks.wav'));
    expect(await cuttings.cutsOf('blocks.wav', await cuttings.factsOf('blocks.wav'))).toMatchObject({ can: 'nowhere' });
  });

  test('is refused where frames that are shown before a picture need it', async () => {
    cuttings.make('open.mxf', {
      rate: '25',
      start: '10:00:00:00',
      picture: '-c:v mpeg2video -g 12 -bf 2 -b:v 3M',
      sound: pcm,
    });
    expect(await cuttings.cutsOf('open.mxf', await cuttings.factsOf('open.mxf'))).toEqual({
      can: 'nowhere',
      because: 'open-groups',
    });
  });
});
