import { describe, expect, test } from '@jest/globals';
import { rate } from '../../time/rate.ts';
import type { MediaFile } from '../../model/media.ts';
import { buildClip, buildFile } from '../../testing/build.ts';
import { prepareClip, prepareFile, type MatchClip } from '../prepare.ts';
import { attributes } from '../rules.ts';
import { evidenceOf as evidenceInFull } from '../weigh.ts';

const remembered = buildClip('/Volumes/KILN_A/day2/cardA/bowl.mov');
const evidenceOf = (clip: MatchClip, file: MediaFile) => {
  const evidence = evidenceInFull(prepareClip(clip), prepareFile(file, file.placeId));
  return Object.fromEntries(evidence.map((e) => [e.attribute, `${e.verdict} ${e.finding.code}`]));
};

describe('evidence', () => {
  test('stands in the order of attributes, one each', () => {
    const evidence = evidenceInFull(prepareClip(remembered), prepareFile(buildFile('KILN_B/x.mov'), 'KILN_B'));
    expect(evidence.map((e) => e.attribute)).toEqual([...attributes]);
  });

  test.each([
    ['bowl.mov', 'agrees name-equal'],
    ['BOWL.MOV', 'agrees name-case'],
    ['bowl.mxf', 'nearly name-extension'],
    ['SG_bowl.mov', 'nearly name-added'],
    ['SG_bowl_v2.mov', 'nearly name-version'],
    ['bowl_graded.mov', 'nearly name-version'],
    ['bowls.mov', 'nearly name-similar'],
    ['door.mov', 'differs name-differs'],
  ])('name: bowl.mov against %s', (name, expected) => {
    expect(evidenceOf(remembered, buildFile(`KILN_B/${name}`))['name']).toBe(expected);
  });

  test('name: Unicode forms agree, a longer number does not', () => {
    expect(evidenceOf(buildClip('cafe\u0301.mov'), buildFile('KILN_A/caf\u00e9.mov'))['name']).toBe(
      'agrees name-unicode',
    );
    expect(evidenceOf(buildClip('pipe_1.mov'), buildFile('KILN_A/pipe_12.mov'))['name']).toBe('differs name-number');
  });

  test.each([
    ['A001', 'A001', 'agrees reel-equal'],
    ['a-001', 'A001', 'agrees reel-spelling'],
    ['LONGREEL', 'LONGREELNAME', 'nearly reel-truncated'],
    ['A001', 'B001', 'differs reel-differs'],
  ])('reel: %s against %s', (edit, file, expected) => {
    expect(evidenceOf({ ...remembered, reel: edit }, buildFile('KILN_B/x/y.mov', { reel: file }))['reel']).toBe(
      expected,
    );
  });

  test('reel: a folder that bears its name nearly agrees', () => {
    expect(evidenceOf(remembered, buildFile('KILN_B/A001/y.mov', { reel: null }))['reel']).toBe('nearly reel-in-path');
    expect(evidenceOf(remembered, buildFile('KILN_B/A002/y.mov', { reel: null }))['reel']).toBe(
      'unknown file-says-nothing',
    );
  });

  test.each([
    ['A001C003', 'A001', 'nearly reel-in-name'],
    ['A-001_C003', 'A001', 'nearly reel-in-name'],
    // Another, by chance, all there is of the name, and further on in it.
    ['A0012C003', 'A001', 'unknown edit-says-nothing'],
    ['A1C003', 'A1', 'unknown edit-says-nothing'],
    ['A001', 'A001', 'unknown edit-says-nothing'],
    ['bowl_A001', 'A001', 'unknown edit-says-nothing'],
  ])('reel: none stated by the clip %s, the file of reel %s', (name, reel, expected) => {
    const clip = { ...remembered, remembered: null, name, reel: null };
    expect(evidenceOf(clip, buildFile('KILN_B/x.mov', { reel }))['reel']).toBe(expected);
  });

  test.each([
    // Counted from zero it would hold them just as well.
    [{ start: 20, length: 3000 }, [373, 457], 'nearly used-inside'],
    [{ start: 0, length: 3000 }, [373, 457], 'nearly used-inside'],
    [{ start: 90_000, length: 3000 }, [90_373, 90_457], 'agrees used-inside'],
  ] as const)('timecode: a list and a file with %j that holds %j', (facts, [start, end], expected) => {
    const clip = buildClip(null, { name: 'x', available: null, used: [{ start, end }] });
    expect(evidenceOf(clip, buildFile('KILN_B/x.mov', facts))['timecode']).toBe(expected);
  });

  test.each([
    [{ start: 90_000 }, 'agrees start-equal'],
    // As long, and begun at another moment: another recording.
    [{ start: 90_010 }, 'differs start-differs'],
    [{ start: 90_050 }, 'differs start-differs'],
    // Cut down, it may hold all that is used, or some.
    [{ start: 90_010, length: 120 }, 'nearly used-inside'],
    [{ start: 90_050, length: 120 }, 'nearly used-partly'],
    // Half of all files begin at zero.
    [{ start: 0 }, 'differs used-outside'],
    [{ start: 20_000 }, 'differs used-outside'],
    [{ start: 0, timecodeSource: 'none' as const }, 'unknown file-says-nothing'],
  ])('timecode: a file with %j', (facts, expected) => {
    expect(evidenceOf(remembered, buildFile('KILN_B/x.mov', facts))['timecode']).toBe(expected);
  });

  test('timecode: sound is compared in the clip’s frames; one frame of rounding is forgiven', () => {
    const clip = buildClip('t.wav', { kind: 'sound', available: { start: 25 * 3600, end: 25 * 3608 }, used: [] });
    const sound = {
      kind: 'sound' as const,
      rate: null,
      timecodeSource: 'time-reference' as const,
      start: 3600 * 48_000,
      length: 8 * 48_000,
    };
    expect(evidenceOf(clip, buildFile('KILN_B/t.wav', sound))).toMatchObject({
      timecode: 'agrees start-equal',
      length: 'agrees length-equal',
      rate: 'unknown does-not-apply',
    });
    expect(evidenceOf(clip, buildFile('KILN_B/t.wav', { ...sound, start: sound.start + 1900 }))['timecode']).toBe(
      'agrees start-within-a-frame',
    );
  });

  test('length, rate and raster', () => {
    expect(
      evidenceOf(
        remembered,
        buildFile('KILN_B/x.mov', { length: 190, rate: rate(50), raster: { width: 640, height: 360 } }),
      ),
    ).toMatchObject({
      length: 'differs length-differs',
      rate: 'differs rate-differs',
      raster: 'nearly raster-scaled',
    });
    const film = buildClip('f.mov', { rate: rate(24) });
    expect(evidenceOf(film, buildFile('KILN_B/f.mov', { rate: rate(24000, 1001) }))['rate']).toBe(
      'nearly rate-nominal',
    );
  });
});
