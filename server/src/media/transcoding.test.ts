import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { codedAs, codings, type Coded, type Coding } from '@legame/core/consolidate';
import type { Facts } from '@legame/core/model';
import { Cuttings, ffmpeg, startOf, type HowMade } from '../testing/parts.ts';

let cuttings: Cuttings;
beforeAll(() => {
  cuttings = new Cuttings();
});
afterAll(() => cuttings.remove());

const pcm = '-c:a pcm_s24le';
const tagged = '-color_primaries bt709 -color_trc bt709 -colorspace bt709 -color_range tv';
const films: readonly (readonly [string, HowMade])[] = [
  [
    'long.mov',
    {
      rate: '30000/1001',
      start: '00:59:59;20',
      picture: '-c:v libx264 -g 48 -bf 2 -preset veryfast',
      sound: pcm,
      more: tagged,
    },
  ],
  [
    'open.mxf',
    { rate: '25', start: '10:00:00:00', picture: '-c:v mpeg2video -g 12 -bf 2 -b:v 3M', sound: '-c:a pcm_s16le' },
  ],
  [
    'late.ts',
    {
      rate: '25',
      start: '10:00:00:00',
      picture: '-c:v libx264 -g 50 -bf 2',
      sound: '-c:a mp2',
      more: '-output_ts_offset 7.3',
    },
  ],
  ['deep.mov', { rate: '24000/1001', start: '23:59:59:00', picture: '-c:v prores_ks -profile:v 3', sound: pcm }],
  [
    'plain.avi',
    { rate: '50', start: '01:00:00:00', picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj420p', sound: '-c:a pcm_s16le' },
  ],
  [
    'film.mkv',
    {
      rate: '60000/1001',
      start: '01:00:00;00',
      picture: '-c:v libx264 -g 60 -bf 3 -preset veryfast',
      sound: '-c:a pcm_s16le',
    },
  ],
];

const codedFor = (facts: Facts, coding: Coding): Coded => {
  const coded = codedAs(facts, coding);
  if ('because' in coded) throw new Error(coded.because);
  return coded;
};

/** How far a picture is from another at most, in decibels: less than 30 can be seen, frames that are others lie below 20. */
function likeness(part: string, source: string, { start, end }: { start: number; end: number }): number {
  const compared = `[0:v]settb=1/25,setpts=N[a];[1:v]trim=start_frame=${start}:end_frame=${end},settb=1/25,setpts=N,format=yuv420p[b];[a]format=yuv420p[c];[c][b]psnr=stats_file=-`;
  const text = ffmpeg(
    ...['-i', cuttings.path(part), '-i', cuttings.path(source), '-lavfi', compared, '-f', 'null', '-'],
  ).toString();
  const each = [...text.matchAll(/psnr_y:(\S+)/g)].map((m) => (m[1] === 'inf' ? 100 : Number(m[1])));
  expect(each).toHaveLength(end - start);
  return Math.min(...each);
}

describe('a part of a film that is coded anew', () => {
  test.each(films)('%s: frame for frame, sample for sample, its timecode, its reel', async (name, how) => {
    cuttings.make(name, how);
    const facts = await cuttings.factsOf(name);
    const source = cuttings.decoded(name);
    expect(source).toHaveLength(facts.length!);
    const range = { start: 37, end: 61 };
    const isFullRange = how.picture.includes('yuvj');
    // Each coding with some, and that without loss with all.
    for (const coding of /mov|avi/.test(name) ? codings : (['ffv1'] as const)) {
      const coded = codedFor(facts, coding);
      const { name: part, lost } = await cuttings.part(name, range, facts, { coded });
      if (coding === 'ffv1') expect(cuttings.decoded(part)).toEqual(source.slice(range.start, range.end));
      else expect(likeness(part, name, range)).toBeGreaterThan(30);
      expect(await cuttings.factsOf(part)).toMatchObject({
        codec: coding,
        length: range.end - range.start,
        start: startOf(facts, range.start),
        counting: facts.counting,
        rate: facts.rate,
        reel: facts.reel,
        raster: facts.raster,
        bitDepth: coded.bitDepth,
      });
      // Motion JPEG holds the full range alone, and VC-3 that of television.
      const isSqueezed = coding === 'mjpeg' ? !isFullRange : coding === 'dnxhd' && isFullRange;
      expect(lost).toEqual(isSqueezed ? ['colour'] : []);
      if (!how.sound.includes('pcm')) continue;
      const at = (frame: number) => Math.round((frame * 48_000 * facts.rate!.den) / facts.rate!.num);
      const wanted = cuttings.samples(name).subarray(at(range.start) * 2, at(range.end) * 2);
      expect(cuttings.samples(part).equals(wanted)).toBe(true);
    }
  });

  test.each([
    ['graphics.mov', '-c:v png -pix_fmt rgb24', 'gbrp'],
    ['keyed.mov', '-c:v qtrle -pix_fmt argb', 'gbrap'],
    ['deep graphics.mov', '-c:v png -pix_fmt rgb48be', 'gbrp16le'],
    ['plain.mov', '-c:v rawvideo -pix_fmt uyvy422', 'yuv422p'],
    ['grey.mov', '-c:v png -pix_fmt gray', 'gray'],
    // The header does not tell how these are sampled.
    ['untold.mov', '-c:v mjpeg -q:v 4 -pix_fmt yuvj420p', 'yuvj420p'],
  ])('%s: every sample, in whatever order the coding has them', async (name, picture, order) => {
    cuttings.make(name, { rate: '25', start: '01:00:00:00', picture, sound: pcm, seconds: 2 });
    const facts = await cuttings.factsOf(name);
    const range = { start: 7, end: 19 };
    for (const coding of codings) {
      const { name: part } = await cuttings.part(name, range, facts, { coded: codedFor(facts, coding) });
      if (coding === 'ffv1')
        expect(cuttings.decoded(part, order)).toEqual(cuttings.decoded(name, order).slice(range.start, range.end));
      else expect(likeness(part, name, range)).toBeGreaterThan(30);
    }
  });

  test.each(['long.mov', 'film.mkv', 'open.mxf'])(
    '%s: also far from its beginning, where it is entered in its middle',
    async (name) => {
      const facts = await cuttings.factsOf(name);
      const range = { start: facts.length! - 40, end: facts.length! - 10 };
      const { name: part } = await cuttings.part(name, range, facts, { coded: codedFor(facts, 'ffv1') });
      expect(cuttings.decoded(part)).toEqual(cuttings.decoded(name).slice(range.start, range.end));
    },
  );

  test('has the sound of its pictures where that is coded, and entered in its middle', async () => {
    const picture = '-c:v libx264 -g 60 -bf 3 -preset veryfast';
    cuttings.make('coded.mkv', { rate: '24000/1001', start: '01:00:00:00', picture, sound: '-c:a aac', seconds: 8 });
    const facts = await cuttings.factsOf('coded.mkv');
    const coded = codedFor(facts, 'ffv1');
    const { name } = await cuttings.part('coded.mkv', { start: 120, end: 144 }, facts, { coded });
    expect(cuttings.samples(name).length).toBe(Math.round((24 * 48_000 * 1001) / 24_000) * 2);
  });

  test('keeps frames from end to end, and is made smaller in the same shape where it has to be', async () => {
    cuttings.make('all.mov', {
      rate: '25',
      start: '01:00:00:00',
      picture: '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p',
      sound: pcm,
      seconds: 2,
    });
    const facts = await cuttings.factsOf('all.mov');
    const coded = { ...codedFor(facts, 'h264'), raster: { width: 128, height: 72 } };
    const { name } = await cuttings.part('all.mov', { start: 0, end: 50 }, facts, { coded });
    expect(await cuttings.factsOf(name)).toMatchObject({ length: 50, raster: { width: 128, height: 72 } });
  });

  test('says what it cannot keep: where a track has a name and another container has none for it', async () => {
    cuttings.make('named.mov', {
      rate: '25',
      start: '01:00:00:00',
      picture: '-c:v libx264 -preset ultrafast -g 10',
      sound: pcm,
      seconds: 2,
      more: `${tagged} -metadata:s:a:0 handler_name=Boom -metadata:s:a:0 language=deu`,
    });
    const facts = await cuttings.factsOf('named.mov');
    const lostAs = async (coding: Coding) =>
      (await cuttings.part('named.mov', { start: 10, end: 30 }, facts, { coded: codedFor(facts, coding) })).lost;
    expect(await lostAs('dnxhd')).toEqual([]);
    expect(await lostAs('mjpeg')).toEqual(['colour']);
  });

  test('is thrown away where it ends before what was asked for', async () => {
    cuttings.make('short.mov', {
      rate: '25',
      start: '01:00:00:00',
      picture: '-c:v mjpeg -q:v 3',
      sound: pcm,
      seconds: 2,
    });
    const facts = { ...(await cuttings.factsOf('short.mov')), length: 80 };
    await expect(
      cuttings.part('short.mov', { start: 30, end: 70 }, facts, { coded: codedFor(facts, 'ffv1') }),
    ).rejects.toMatchObject({ problem: { code: 'trim-not-proven' } });
  });
});
