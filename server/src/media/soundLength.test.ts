import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { codedSoundAs } from '@legame/core/consolidate';
import { Cuttings, ffmpeg } from '../testing/parts.ts';

let cuttings: Cuttings;
beforeAll(() => {
  cuttings = new Cuttings();
});
afterAll(() => cuttings.remove());

/** Nearly silent for ten of thirty seconds, then loud: whoever reckons from the beginning is wrong by minutes. */
const make = (name: string, ...how: string[]) => {
  const quietThenLoud = 'aevalsrc=if(lt(t\\,10)\\,0.001*sin(t*440)\\,random(0)*0.4):s=44100:d=30';
  ffmpeg('-f', 'lavfi', '-i', quietThenLoud, ...how, cuttings.path(name));
  return name;
};
const decodedSamples = (name: string) => ffmpeg('-i', cuttings.path(name), '-f', 's16le', '-ac', '1', '-').length / 2;

describe('how long sound is', () => {
  test.each([
    ['varying.mp3', ['-q:a', '2', '-write_xing', '0']],
    ['varying and said.mp3', ['-q:a', '2']],
    ['even.mp3', ['-b:a', '128k', '-write_xing', '0']],
    ['slow.mp3', ['-ar', '22050', '-q:a', '4', '-write_xing', '0']],
    ['bare.aac', ['-c:a', 'aac', '-b:a', '128k']],
    ['boxed.m4a', ['-c:a', 'aac', '-b:a', '128k']],
    ['plain.ogg', ['-c:a', 'libvorbis']],
    ['plain.mka', ['-c:a', 'flac']],
    ['small.webm', ['-c:a', 'libopus']],
  ])('%s: as long as what is decoded of it, but for what nobody hears at its ends', async (name, how) => {
    make(name, ...how);
    const facts = await cuttings.factsOf(name);
    expect(facts.doubts.includes('length-estimated')).toBe(/mka|webm/.test(name));
    expect(Math.abs(facts.length! - decodedSamples(name))).toBeLessThanOrEqual(4608);
  });

  test.each(['varying.mp3', 'bare.aac', 'plain.mka', 'small.webm'])(
    'so that all of %s is transcoded, and nothing that is not there is waited for',
    async (source) => {
      const facts = await cuttings.factsOf(source);
      const coded = codedSoundAs(facts);
      const { name } = await cuttings.part(source, { start: 0, end: facts.length! }, facts, { coded });
      expect(Math.abs((await cuttings.factsOf(name)).length! - decodedSamples(source))).toBeLessThanOrEqual(4608);
    },
  );

  test('one that breaks off is as long as what is left of it', async () => {
    const bytes = readFileSync(cuttings.path('varying.mp3'));
    writeFileSync(cuttings.path('half.mp3'), bytes.subarray(0, bytes.length / 2));
    const [{ length: all }, { length: half }] = [
      await cuttings.factsOf('varying.mp3'),
      await cuttings.factsOf('half.mp3'),
    ];
    expect(half).toBeLessThan(all! * 0.8);
    expect(Math.abs(half! - decodedSamples('half.mp3'))).toBeLessThanOrEqual(4608);
  });
});
