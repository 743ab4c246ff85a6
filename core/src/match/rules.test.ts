import { describe, expect, test } from '@jest/globals';
import { nothingKnown, type Known } from '../model/known.ts';
import type { MediaFile } from '../model/media.ts';
import { rate } from '../time/rate.ts';
import { buildClip, buildFile, buildPlace, fileId, placeId } from '../testing/build.ts';
import type { Form } from './forms.ts';
import { match } from './match.ts';
import { packMarks, verdictIn, verdictsIn, verdictUnder } from './marks.ts';
import { prepareClip, prepareFile, type MatchClip } from './prepare.ts';
import { attributes, defaultRules, shippedRuleSets, type Attribute, type MatchRules } from './rules.ts';
import { evidenceOf, weigh } from './weigh.ts';

const remembered = buildClip('/Volumes/KILN_A/day2/cardA/bowl.mov');
const places = [buildPlace('KILN_A'), buildPlace('KILN_B')];
const verdictOf = (attribute: Attribute, clip: MatchClip, file: MediaFile) => {
  const { verdict, finding } = evidenceOf(prepareClip(clip), prepareFile(file, file.placeId))[
    attributes.indexOf(attribute)
  ]!;
  return `${verdict} ${finding.code}`;
};
const decideOn = (files: readonly MediaFile[], rules: Partial<MatchRules> = {}, clip: MatchClip = remembered) =>
  match({
    clips: [{ ...clip, linkedTo: null, declined: [] }],
    files,
    places,
    rules: { ...defaultRules, ...rules },
  })[0]!.decision;
const known = (more: Partial<Known>): MatchClip => ({ ...remembered, known: { ...nothingKnown, ...more } });

describe('names, grade by grade', () => {
  test.each([
    ['bowl (1).mov', 'nearly name-copy'],
    ['bowl_2.mov', 'nearly name-copy'],
    ['bowl copy 3.mov', 'nearly name-copy'],
    ['bowl_retake.mov', 'nearly name-added'],
    ['bovl.mov', 'differs name-differs'],
  ])('bowl.mov against %s', (name, expected) => {
    expect(verdictOf('name', remembered, buildFile(`KILN_B/${name}`))).toBe(expected);
  });

  test.each([
    ['bowl-gather_03.mov', 'bowl_v2-gather_03.mov', 'nearly name-version'],
    ['bowl-gather_03.mov', 'bowl-gahter_03.mov', 'nearly name-similar'],
    // Takes differ in nothing but their number.
    ['bowl-gather_03.mov', 'bowl-gather_04.mov', 'differs name-number'],
  ])('%s against %s', (own, name, expected) => {
    expect(verdictOf('name', buildClip(`/V/x/${own}`), buildFile(`KILN_B/${name}`))).toBe(expected);
  });

  test('what was put in between is told, and how similar a name is', () => {
    const finding = (own: string, name: string) =>
      evidenceOf(prepareClip(buildClip(`/V/x/${own}`)), prepareFile(buildFile(`KILN_B/${name}`), 'KILN_B'))[0]!.finding;
    expect(finding('bowl-gather_03.mov', 'bowl-gather_b_03.mov')).toMatchObject({
      between: expect.stringContaining('b'),
    });
    expect(finding('bowl-gather_03.mov', 'bowl-gahter_03.mov')).toMatchObject({ hundredths: 85 });
  });

  test('the clip’s own name, or its reel, inside the file’s', () => {
    const clip = buildClip('/V/x/A001_C004.mov', { name: 'wide kiln', reel: 'A001' });
    expect(verdictOf('name', clip, buildFile('KILN_B/day1 wide kiln final.mov'))).toBe('nearly name-inside');
    const onTape = buildClip('/V/x/bowl.mov', { reel: 'TAPE77' });
    expect(verdictOf('name', onTape, buildFile('KILN_B/TAPE77-03.mov', { reel: null }))).toBe('nearly name-inside');
    // A file that knows its reel is asked for that.
    expect(verdictOf('name', onTape, buildFile('KILN_B/TAPE77-03.mov'))).toBe('differs name-differs');
  });
});

describe('the rest of the evidence', () => {
  const file = (facts: Parameters<typeof buildFile>[1], more: Partial<MediaFile> = {}) =>
    buildFile('KILN_B/x.mov', facts, more);

  test('content: all bytes before sampled ones; unknown where either is', () => {
    const clip = known({ fingerprint: 'f1', fullHash: 'h1' });
    expect(verdictOf('content', clip, file({}, { fingerprint: 'f1' }))).toBe('agrees content-equal');
    expect(verdictOf('content', clip, file({}, { fingerprint: 'f1', fullHash: 'h2' }))).toBe('differs content-differs');
    expect(verdictOf('content', clip, file({}))).toBe('unknown file-says-nothing');
    expect(verdictOf('content', remembered, file({}, { fingerprint: 'f1' }))).toBe('unknown edit-says-nothing');
  });

  test('kind: a film for a sequence may do, a still for a film does not', () => {
    expect(verdictOf('kind', remembered, file({}))).toBe('agrees kind-equal');
    expect(verdictOf('kind', { ...remembered, kind: 'sequence' }, file({}))).toBe('nearly kind-sequence');
    expect(verdictOf('kind', remembered, file({ kind: 'still' }))).toBe('differs kind-differs');
    expect(verdictOf('kind', { ...remembered, kind: 'sound' }, file({ channels: 2 }))).toBe('nearly kind-sequence');
  });

  test('codec, sound, size and date, as a log states them', () => {
    const logged = buildClip('/V/x/bowl.mov', {
      metadata: {
        Codec: 'H.264',
        'Audio Channels': '2',
        'Sample Rate': '48 kHz',
        'File Size': '1,000',
        Modified: '2026-03-04',
      },
    });
    const day = Date.parse('2026-03-04');
    expect(verdictOf('codec', logged, file({}))).toBe('agrees codec-equal');
    expect(verdictOf('sound', logged, file({}))).toBe('agrees sound-equal');
    expect(verdictOf('sound', logged, file({ channels: 1 }))).toBe('differs sound-differs');
    expect(verdictOf('sound', logged, file({ channels: null }))).toBe('nearly sound-partly');
    expect(verdictOf('size', logged, file({}))).toBe('agrees size-equal');
    expect(verdictOf('size', logged, file({}, { sizeInBytes: 999 }))).toBe('differs size-differs');
    expect(verdictOf('date', logged, file({}, { modifiedMs: day + 3_600_000 }))).toBe('agrees date-equal');
    expect(verdictOf('date', known({ writtenMs: day + 5000 }), file({}, { modifiedMs: day + 6000 }))).toBe(
      'nearly date-within-two-seconds',
    );
    expect(verdictOf('date', logged, file({}, { modifiedMs: day + 90_000_000 }))).toBe('differs date-differs');
  });

  test('reel: but for case; in a file’s name before a folder’s', () => {
    expect(verdictOf('reel', remembered, file({ reel: 'a001' }))).toBe('agrees reel-case');
    const finding = evidenceOf(
      prepareClip(remembered),
      prepareFile(buildFile('KILN_B/A001/A001-bowl.mov', { reel: null }), 'KILN_B'),
    )[2]!.finding;
    expect(finding).toMatchObject({ code: 'reel-in-path', where: 'file' });
  });
});

describe('marks', () => {
  test('hold every verdict, whatever they are', () => {
    const candidate = weigh(
      prepareClip(known({ fingerprint: 'f1' })),
      prepareFile(buildFile('KILN_B/BOWL.mov', {}, { fingerprint: 'f2' }), 'KILN_B'),
    );
    const evidence = evidenceOf(prepareClip(known({ fingerprint: 'f1' })), candidate.file);
    expect(verdictsIn(candidate.marks)).toEqual(evidence.map((e) => e.verdict));
    expect(packMarks(evidence, (e) => e)).toBe(candidate.marks);
  });

  test('rules turn verdicts: ignored says nothing; case, ending and rate agree where they may', () => {
    const film = { ...remembered, rate: rate(24) };
    const { marks } = weigh(
      prepareClip(film),
      prepareFile(buildFile('KILN_B/bowl.mxf', { rate: rate(24000, 1001) }), 'KILN_B'),
    );
    expect(verdictIn(marks, 'rate')).toBe('nearly');
    expect(verdictUnder(defaultRules, marks, 'name')).toBe('nearly');
    expect(verdictUnder({ ...defaultRules, ignoreExtension: true, acrossRates: true }, marks, 'name')).toBe('agrees');
    expect(verdictUnder({ ...defaultRules, acrossRates: true }, marks, 'rate')).toBe('agrees');
    const loud = weigh(prepareClip(remembered), prepareFile(buildFile('KILN_B/BOWL.MOV'), 'KILN_B')).marks;
    expect(verdictUnder(defaultRules, loud, 'name')).toBe('agrees');
    expect(verdictUnder({ ...defaultRules, ignoreCase: false }, loud, 'name')).toBe('nearly');
    const weights = { ...defaultRules.weights, timecode: 'ignored' as const };
    expect(verdictUnder({ ...defaultRules, weights }, marks, 'timecode')).toBe('unknown');
  });
});

describe('decisions under rules', () => {
  const rulesNamed = (name: string) => shippedRuleSets.find((s) => s.name === name)!.rules;

  test('strict refuses what the usual rules take', () => {
    const renamed = [buildFile('KILN_B/SG_bowl.mov')];
    expect(decideOn(renamed)).toMatchObject({ kind: 'certain', grounds: 'reel-timecode-length' });
    expect(decideOn(renamed, rulesNamed('Strict')).kind).toBe('nothing');
    expect(decideOn([buildFile('KILN_B/day1/bowl.mov')], rulesNamed('Strict')).kind).toBe('certain');
  });

  test('by name: random timecode refuses nothing, and is not taken for proof either', () => {
    const free = [buildFile('KILN_B/day2/cardA/bowl.mov', { start: 5_000_000, reel: 'X9' })];
    expect(decideOn(free)).toMatchObject({ kind: 'refused' });
    expect(decideOn(free, rulesNamed('By name'))).toMatchObject({ kind: 'ask', certainty: 'likely' });
  });

  test('by reel and timecode: names say nothing', () => {
    const afresh = [buildFile('KILN_B/k81.mov'), buildFile('KILN_B/bowl.mov', { reel: 'B1', start: 7_000_000 })];
    expect(decideOn(afresh, rulesNamed('By reel and timecode'))).toMatchObject({
      kind: 'certain',
      mediaFileId: afresh[0]!.id,
    });
  });

  test('only some folders, only some kinds', () => {
    const files = [buildFile('KILN_A/one/bowl.mov'), buildFile('KILN_B/two/deep/bowl.mov')];
    expect(decideOn(files).kind).toBe('ask');
    const within = [{ placeId: placeId('KILN_B'), folder: 'two' }];
    expect(decideOn(files, { within })).toMatchObject({ kind: 'certain', mediaFileId: files[1]!.id });
    expect(decideOn(files, { within: [{ placeId: placeId('KILN_B'), folder: 'tw' }] }).kind).toBe('nothing');
    expect(decideOn(files, { kinds: ['sound'] }).kind).toBe('nothing');
  });

  test('of very many namesakes the likeliest is found, be it the last', () => {
    const namesakes = Array.from({ length: 90 }, (_, i) =>
      buildFile(`KILN_B/roll_${i}/T01.wav`, {
        kind: 'sound',
        rate: null,
        raster: null,
        timecodeSource: 'time-reference',
        start: (3600 + i * 60) * 48_000,
        length: 8 * 48_000,
        reel: null,
      }),
    );
    const start = (3600 + 89 * 60) * 25;
    const clip = buildClip('/Volumes/OLD/roll/T01.wav', {
      kind: 'sound',
      raster: null,
      available: { start, end: start + 200 },
      used: [{ start, end: start + 50 }],
    });
    // Found it is; but a name that ninety files bear, without reel or company, is likely and no more.
    expect(decideOn(namesakes, {}, clip)).toMatchObject({
      kind: 'ask',
      certainty: 'likely',
      mediaFileIds: [namesakes[89]!.id],
    });
    const twin = { ...namesakes[89]!, id: fileId('twin'), folder: 'roll_twin' };
    expect(decideOn([...namesakes, twin], {}, clip)).toMatchObject({ kind: 'ask', reason: 'versions' });
  });

  test('the margin says in what the next best is behind', () => {
    const files = [buildFile('KILN_A/day2/cardA/bowl.mov'), buildFile('KILN_B/other/bowl.mov')];
    expect(decideOn(files)).toMatchObject({
      kind: 'certain',
      mediaFileId: files[0]!.id,
      second: { mediaFileId: files[1]!.id, behindIn: ['folder'] },
    });
    expect(decideOn(files.slice(1))).toMatchObject({ kind: 'certain', second: null });
  });

  test('the same bytes found twice are copies, not a question; the nearest is taken', () => {
    const files = ['KILN_A/far/bowl.mov', 'KILN_B/also/bowl.mov'].map((p) => buildFile(p, {}, { fingerprint: 'same' }));
    expect(decideOn(files)).toMatchObject({ kind: 'certain', copies: [expect.anything()] });
    const differing = files.map((f, i) => ({ ...f, fingerprint: `f${i}` }));
    expect(decideOn(differing)).toMatchObject({ kind: 'ask', reason: 'versions' });
  });

  test('what was linked once is known by its bytes under any name, even where its timecode is unreadable', () => {
    const clip = known({ fingerprint: 'f1', sizeInBytes: 1000 });
    const renamed = buildFile(
      'KILN_B/zz/nobody.mov',
      { timecodeSource: 'none', start: 0, reel: null },
      { fingerprint: 'f1' },
    );
    expect(decideOn([renamed], {}, clip)).toMatchObject({ kind: 'certain', grounds: 'content' });
    const other = buildFile('KILN_B/day2/cardA/bowl.mov', {}, { fingerprint: 'f2' });
    expect(decideOn([other], {}, clip).kind).toBe('ask');
  });

  test('a list knows no raster: of one recording in several forms the project’s is taken; two recordings stay a question', () => {
    const listed = { ...remembered, raster: null };
    const files = [
      buildFile('KILN_A/x/bowl.mov', {}, { fingerprint: 'big', sizeInBytes: 9000 }),
      buildFile('KILN_B/small/bowl.mov', { raster: { width: 640, height: 360 } }, { fingerprint: 'little' }),
    ];
    const taken = (preferredForm?: Form) =>
      match({
        clips: [{ ...listed, linkedTo: null, declined: [] }],
        files,
        places,
        rules: defaultRules,
        preferredForm,
      })[0]!.decision;
    expect(taken()).toMatchObject({ kind: 'certain', mediaFileId: files[0]!.id });
    expect(taken('small')).toMatchObject({ kind: 'certain', mediaFileId: files[1]!.id });
    expect(taken('accepted')).toMatchObject({ kind: 'certain' });
    const another = buildFile('KILN_B/other/bowl.mov', {}, { fingerprint: 'another', sizeInBytes: 8000 });
    expect(decideOn([...files, another], {}, listed)).toMatchObject({ kind: 'ask', reason: 'versions' });
    // As large in another codec: two grades, or a transcode. Nothing tells.
    const transcoded = buildFile('KILN_B/t/bowl.mov', { codec: 'vc3' }, { fingerprint: 't', sizeInBytes: 7000 });
    expect(decideOn([files[0]!, transcoded], {}, listed)).toMatchObject({ kind: 'ask', reason: 'versions' });
  });

  test('a file of another reel is asked about only where there is none of the right one', () => {
    const stray = buildFile('KILN_A/x/bowl.mov', { reel: 'B002' });
    expect(decideOn([stray])).toMatchObject({ kind: 'ask' });
    const small = buildFile('KILN_B/small/bowl.mov', { raster: { width: 640, height: 360 } });
    expect(decideOn([stray, small])).toMatchObject({ kind: 'ask', mediaFileIds: [small.id] });
  });
});
