import { readFileSync, writeFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { codedSoundAs } from '@legame/core/consolidate';
import { Cuttings, ffmpeg } from '../testing/parts.ts';

let cuttings: Cuttings;
beforeAll(() => {
  cuttings = new Cuttings();
});
afterAll(() => cuttings.remove());

/** Noise, so that no sample is like the one beside it. */
function make(name: string, how: string, { channels = 2, rate = 48_000, seconds = 7.3 } = {}): string {
  const noise = Array.from({ length: channels }, (_, i) => `random(${i})*0.4`).join('|');
  ffmpeg(...['-f', 'lavfi', '-i', `aevalsrc=${noise}:s=${rate}:d=${seconds}`, ...how.split(' ')], cuttings.path(name));
  return name;
}

/** All samples of all tracks as 32-bit numbers, decoded from the first on. */
const samples = (name: string): Int32Array => {
  const bytes = ffmpeg('-i', cuttings.path(name), '-map', '0:a:0', '-c:a', 'pcm_s32le', '-f', 's32le', '-');
  return new Int32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};

async function partOf(name: string, range: { start: number; end: number }) {
  const facts = await cuttings.factsOf(name);
  return { facts, ...(await cuttings.part(name, range, facts, { coded: codedSoundAs(facts) })) };
}

describe('a part of sound that is coded anew', () => {
  test.each<[name: string, how: string, options: object, codec: string]>([
    ['deep.flac', '-c:a flac -sample_fmt s32 -bits_per_raw_sample 24', {}, 'pcm_s24le'],
    ['plain.flac', '-c:a flac -sample_fmt s16', { rate: 44_100 }, 'pcm_s16le'],
    ['many.flac', '-c:a flac -sample_fmt s16', { channels: 6, rate: 96_000, seconds: 4.1 }, 'pcm_s16le'],
    ['voice.aiff', '-c:a pcm_s24be', { channels: 1 }, 'pcm_s24le'],
    ['float.caf', '-c:a pcm_f32be', {}, 'pcm_f32le'],
    ['apple.m4a', '-c:a alac -sample_fmt s16p', {}, 'pcm_s16le'],
    ['phone.wav', '-c:a pcm_alaw', { channels: 1, rate: 8000 }, 'pcm_s16le'],
    ['song.mp3', '-c:a libmp3lame -b:a 192k', {}, 'pcm_s24le'],
    ['song.m4a', '-c:a aac -b:a 192k', {}, 'pcm_s24le'],
    ['song.ogg', '-c:a libvorbis', { rate: 44_100 }, 'pcm_s24le'],
  ])('%s: sample for sample what its decoder gives, from its first on', async (name, how, options, codec) => {
    make(name, how, options);
    const all = samples(name);
    const range = { start: 12_345, end: 30_001 };
    const { facts, name: part, lost } = await partOf(name, range);
    expect(await cuttings.factsOf(part)).toMatchObject({
      container: 'wav',
      codec,
      length: range.end - range.start,
      channels: facts.channels,
      sampleRate: facts.sampleRate,
      start: range.start,
      timecodeSource: 'time-reference',
    });
    const channels = facts.channels!;
    const [found, wanted] = [samples(part), all.subarray(range.start * channels, range.end * channels)];
    expect(found.length).toBe(wanted.length);
    // What was coded with loss is told in 24 bits; all else to the bit.
    const step = /mp3|aac|vorbis/.test(how) ? 256 : 0;
    expect(found.every((value, i) => Math.abs(value - wanted[i]!) <= step)).toBe(true);
    // How more than two channels lie is what a WAVE file is not told.
    expect(lost).toEqual(channels > 2 ? ['channels'] : []);
  });

  test.each(['song.mp3', 'song.m4a', 'song.ogg', 'deep.flac', 'voice.aiff'])(
    '%s: from end to end, and its last samples by themselves',
    async (name) => {
      const { length } = await cuttings.factsOf(name);
      const whole = await partOf(name, { start: 0, end: length! });
      expect((await cuttings.factsOf(whole.name)).length).toBe(length);
      const end = await partOf(name, { start: length! - 9000, end: length! });
      const [all, last] = [samples(whole.name), samples(end.name)];
      expect(last).toEqual(all.subarray(all.length - last.length));
    },
  );

  test('all tracks of one file become channels of it, in their order', async () => {
    ffmpeg(
      ...[
        '-f',
        'lavfi',
        '-i',
        'aevalsrc=random(0)*0.4:s=48000:d=3',
        '-f',
        'lavfi',
        '-i',
        'aevalsrc=random(7)*0.2|0.1:s=48000:d=3',
      ],
      ...['-map', '0:a', '-map', '1:a', '-c:a', 'pcm_s16be', '-metadata:s:a:0', 'handler_name=Boom'],
      ...['-metadata:s:a:1', 'language=ger', cuttings.path('tracks.mov')],
    );
    const { facts, name, lost } = await partOf('tracks.mov', { start: 1000, end: 5000 });
    expect(lost).toEqual(['track-names', 'languages']);
    expect(facts.channels).toBe(1);
    expect(await cuttings.factsOf(name)).toMatchObject({ channels: 3, length: 4000 });
    const [first, found] = [samples('tracks.mov'), samples(name)];
    expect(found.filter((_, i) => i % 3 === 0)).toEqual(first.subarray(1000, 5000));
    expect(new Set(found.filter((_, i) => i % 3 === 2)).size).toBe(1);
  });

  test('keeps when it was recorded, over midnight too, and on which roll', async () => {
    make('night.aiff', '-c:a pcm_s16be', { channels: 1, seconds: 3 });
    const found = await cuttings.factsOf('night.aiff');
    const facts = {
      ...found,
      timecodeSource: 'time-reference' as const,
      start: 86_400 * 48_000 - 500,
      reel: 'Größe <7>',
    };
    const { name } = await cuttings.part('night.aiff', { start: 700, end: 900 }, facts, { coded: codedSoundAs(facts) });
    expect(await cuttings.factsOf(name)).toMatchObject({ start: 200, length: 200, reel: 'Größe <7>' });
  });

  test('is thrown away where the source ends before what was asked for, by more than a block', async () => {
    const range = { start: 300_000, end: 360_000 };
    const refused = (name: string, facts: Awaited<ReturnType<typeof cuttings.factsOf>>) =>
      expect(cuttings.part(name, range, facts, { coded: codedSoundAs(facts) })).rejects.toMatchObject({
        problem: { code: 'trim-not-proven', detail: { code: 'not-in-source' } },
      });
    await refused('song.mp3', { ...(await cuttings.factsOf('song.mp3')), length: 360_000 });
    await refused('deep.flac', { ...(await cuttings.factsOf('deep.flac')), length: 360_000 });
  });

  test('is thrown away, and says so, where the source is broken in its middle', async () => {
    make('broken.flac', '-c:a flac -sample_fmt s16');
    const bytes = readFileSync(cuttings.path('broken.flac'));
    writeFileSync(cuttings.path('broken.flac'), bytes.fill(0, bytes.length / 2, bytes.length / 2 + 60_000));
    const { length } = await cuttings.factsOf('broken.flac');
    await expect(partOf('broken.flac', { start: 0, end: length! })).rejects.toMatchObject({
      problem: { code: 'trim-not-proven' },
    });
  });
});
