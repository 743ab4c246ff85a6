import { describe, expect, test } from '@jest/globals';
import type { MediaFile } from '../model/media.ts';
import { compareReels, reelForms } from '../paths/names.ts';
import { kinshipOf } from '../paths/versions.ts';
import { rate } from '../time/rate.ts';
import { buildClip, buildFile, buildPlace, clipId } from '../testing/build.ts';
import { enrichFromLogs } from './enrich.ts';
import { match, type MatchInput, type MatchResult } from './match.ts';
import { prepareClip, prepareFile, type MatchClip } from './prepare.ts';
import { defaultRules } from './rules.ts';
import { firstFrameInFile, uncoveredUse } from '../state/coverage.ts';
import { evidenceOf } from './weigh.ts';

const places = [buildPlace('KILN_A'), buildPlace('KILN_B')];
const matched = (clips: readonly MatchClip[], files: readonly MediaFile[], there = places): MatchResult[] => {
  const input: MatchInput['clips'] = clips.map((c) => ({ ...c, linkedTo: null, declined: [] }));
  return match({ clips: input, files, places: there, rules: defaultRules });
};
const findings = (clip: MatchClip, file: MediaFile) =>
  Object.fromEntries(
    evidenceOf(prepareClip(clip), prepareFile(file, 'KILN_A')).map((e) => [
      e.attribute,
      `${e.verdict} ${e.finding.code}`,
    ]),
  );

describe('reels on their way through lists', () => {
  test.each([
    ['GL-A_001', 'GLA001', 'same'],
    // Cut before its punctuation went, and after.
    ['GLASS-A_001', 'GLASSA', 'cut'],
    ['GLASS-A_001', 'GLASSA00', 'cut'],
    ['SND-001-ROLL', 'SND001RO', 'cut'],
    ['SND-001-ROLL', 'SND001', 'cut'],
    // Two that are cut alike are two.
    ['GLASSHOUSE_01', 'GLASSHOUSE_02', 'other'],
    ['A001', 'A0012', 'other'],
  ])('%s and %s: %s', (a, b, expected) => {
    expect(compareReels(reelForms(a), reelForms(b))).toBe(expected);
    expect(compareReels(reelForms(b), reelForms(a))).toBe(expected);
  });

  test('a reel in a path stands there by itself', () => {
    const clip = buildClip('/Volumes/OLD/x/bowl.mov', { reel: 'A001' });
    const of = (path: string) => findings(clip, buildFile(path, { reel: null }))['reel'];
    expect(of('KILN_A/A001C003/bowl.mov')).toBe('nearly reel-in-path');
    expect(of('KILN_A/A0012/bowl.mov')).toBe('unknown file-says-nothing');
    expect(of('KILN_A/A-001/bowl.mov')).toBe('nearly reel-in-path');
  });

  test('files that state no reel are found by the folder that names it', () => {
    const event = buildClip(null, { name: 'A077', reel: 'A077', available: null, raster: null });
    const others = Array.from({ length: 40 }, (_, i) => buildFile(`KILN_B/B0${i}/X_${i}.mov`, { reel: null }));
    const [found] = matched([event], [...others, buildFile('KILN_A/A077/k81.mov', { reel: null })]);
    expect(found!.candidates.map((c) => c.file.file.name)).toContain('k81.mov');
  });
});

test.each([
  ['shot_v2', 'shot_v3', 'version'],
  ['shot', 'shot_graded', 'version'],
  ['vfx_010_v2', 'vfx_020_v2', 'number'],
  ['vfx_010_v2', 'vfx_020_v3', 'number'],
  ['bowl', 'door', 'other'],
  ['bowl_01', 'BOWL-01', 'same'],
])('%s and %s are kin by %s', (a, b, expected) => expect(kinshipOf(a, b)).toBe(expected));

test('names repeat by the thousand: the one file that identifies is found, whatever place it has among them', () => {
  const cards = Array.from({ length: 3000 }, (_, i) =>
    buildFile(`KILN_A/day${i}/card/C0001.mov`, { start: 100_000 + i * 37, length: 200 + (i % 90), reel: `R${i}` }),
  );
  for (const at of [0, 1499, 2999]) {
    const { start, length, reel } = cards[at]!.facts!;
    const clip = buildClip('/Volumes/OLD/x/C0001.mov', {
      reel,
      available: { start, end: start + length! },
      used: [{ start: start + 10, end: start + 60 }],
    });
    expect(matched([clip], cards)[0]!.decision).toMatchObject({ kind: 'certain', mediaFileId: cards[at]!.id });
    const [lost] = matched(
      [clip],
      cards.filter((_, i) => i !== at),
    );
    expect(lost!.decision.kind).not.toBe('certain');
    expect(lost!.clip.namesakes).toBe(2999);
  }
});

test('what was left out keeps a decision from being more than a question', () => {
  const untimed = { timecodeSource: 'none' as const, start: 0, reel: null };
  const crowd = Array.from({ length: 200 }, (_, i) => buildFile(`KILN_A/c${i}/FLY_0001.mov`, untimed));
  const clip = buildClip('/Volumes/OLD/x/FLY_0001.mov', { reel: null, available: { start: 0, end: 200 }, used: [] });
  const [found] = matched([clip], crowd);
  expect(found!.clip.leftOut).toBeGreaterThan(0);
  expect(found!.decision).toMatchObject({ kind: 'ask', certainty: 'possible' });
});

test('exact case and Unicode form win among otherwise equal namesakes', () => {
  const files = ['Bowl.mov', 'bowl.mov'].map((n, i) => buildFile(`KILN_A/x/${n}`, {}, { fingerprint: `f${i}` }));
  const [found] = matched([buildClip('/Volumes/OLD/y/bowl.mov')], files);
  expect(found!.decision).toMatchObject({ kind: 'certain', mediaFileId: files[1]!.id });
});

describe('a log of the project says what a list does not', () => {
  const list = (more: Partial<MatchClip> = {}) =>
    buildClip(null, { name: 'A001', available: null, raster: null, kind: null, id: clipId('event'), ...more });
  const row = buildClip(null, { name: 'C0003.mov', id: clipId('row'), used: [] });

  test('by reel and timecode, and then it is matched as the log’s own clip is', () => {
    const [event] = enrichFromLogs([list(), row]);
    expect(event).toMatchObject({ available: row.available, name: 'C0003.mov' });
    const [found] = matched([list(), row], [buildFile('KILN_B/new/C0003.mov')]);
    expect(found!.decision).toMatchObject({ kind: 'certain', grounds: 'name-timecode-length' });
  });

  test.each<[string, Partial<MatchClip>, Partial<MatchClip>]>([
    ['another reel', { reel: 'B009' }, {}],
    ['more than the row holds', { used: [{ start: 89_990, end: 90_050 }] }, {}],
    ['another name of its own', { name: 'door.mov' }, {}],
    ['a row at another rate', {}, { rate: rate(24) }],
  ])('not where there is %s', (_, event, logged) => {
    expect(enrichFromLogs([list(event), { ...row, ...logged }])[0]!.available).toBeNull();
  });

  test('another file of that reel that holds what is used may be the one: it is asked', () => {
    const files = ['KILN_B/new/C0003.mov', 'KILN_B/unit 2/C0009.mov'].map((path, i) =>
      buildFile(path, { start: 90_000 + i * 10 }, { fingerprint: `f${i}` }),
    );
    const [found] = matched([list(), row], files);
    expect(found!.decision).toMatchObject({ kind: 'ask', reason: 'several', mediaFileIds: files.map((f) => f.id) });
    // A list that names its clip itself asks for no other name.
    const [named] = matched([list({ name: 'C0003' }), row], files);
    expect(named!.decision).toMatchObject({ kind: 'certain', mediaFileId: files[0]!.id });
    const namesakes = [files[0]!, buildFile('KILN_B/unit 2/C0003.mov', { start: 90_010 }, { fingerprint: 'f1' })];
    const [among] = matched([list({ name: 'C0003' }), row], namesakes);
    expect(among!.decision).toMatchObject({ kind: 'ask', reason: 'several' });
  });

  test('a small copy of it is no other', () => {
    const small = { raster: { width: 640, height: 360 } };
    const files = [
      buildFile('KILN_B/new/C0003.mov', {}, { fingerprint: 'f0' }),
      buildFile('KILN_B/small/C0003.mov', small, { fingerprint: 'f1', sizeInBytes: 90 }),
    ];
    const [found] = matched([list(), row], files);
    expect(found!.decision).toMatchObject({ kind: 'certain', mediaFileId: files[0]!.id });
  });

  test('a row that is called otherwise, be it by its extension, says nothing of a clip with a name', () => {
    expect(enrichFromLogs([list({ name: 'C0003.mxf' }), row])[0]!.available).toBeNull();
    expect(enrichFromLogs([list({ name: 'c0003.MOV' }), row])[0]!.available).toEqual(row.available);
  });

  test('two rows that differ say nothing', () => {
    const other = { ...row, id: clipId('other'), available: { start: 89_000, end: 90_400 } };
    expect(enrichFromLogs([list(), row, other])[0]!.available).toBeNull();
  });

  test('two units whose rolls, starts and lengths are the same: which name it is nobody knows', () => {
    const other = { ...row, id: clipId('other'), name: 'C0009.mov' };
    expect(enrichFromLogs([list(), row, other])[0]).toMatchObject({ available: null, name: 'A001' });
    const [found] = matched([list(), row, other], [buildFile('KILN_B/new/C0003.mov')]);
    expect(found!.decision.kind).not.toBe('certain');
  });
});

describe('cameras that rolled at once, and called their files alike', () => {
  const [start, length] = [91_234, 437];
  const clip = (reel: string | null) =>
    buildClip('/Volumes/OLD/day1/CAM A/C0001.mov', {
      ...{ reel, raster: null, available: { start, end: start + length } },
      used: [{ start: start + 20, end: start + 90 }],
    });
  const file = (folder: string, reel: string | null) =>
    buildFile(`KILN_A/${folder}/C0001.mov`, { start, length, reel, raster: null }, { fingerprint: folder });
  const one = (reel: string | null, ...folders: string[]) =>
    matched(
      [clip(reel)],
      folders.map((folder) => file(folder, reel)),
    )[0]!.decision;

  test('that of the other is no more than a question, be the own one lost or there', () => {
    expect(one(null, 'day1/CAM B')).toMatchObject({ kind: 'ask', certainty: 'possible', reason: 'not-enough-known' });
    // Somebody may have put it with the other's: where one lies tells too little to pass over one that is as good.
    expect(one(null, 'day1/CAM B', 'kept/a_cam')).toMatchObject({ kind: 'ask', mediaFileIds: { length: 2 } });
    expect(one(null, 'day1/CAM B', 'day1/CAM A')).toMatchObject({
      kind: 'certain',
      mediaFileId: file('day1/CAM A', null).id,
    });
    expect(one(null, 'day1')).toMatchObject({ kind: 'certain' });
  });

  test('where the reel agrees, it was only put elsewhere', () => {
    expect(one('A001', 'day1/CAM B')).toMatchObject({ kind: 'certain' });
  });
});

describe('coverage', () => {
  test('over midnight: what is used after it lies in a file that began before', () => {
    const day = 25 * 86_400;
    const clip = buildClip(null, {
      available: null,
      used: [
        { start: day - 100, end: day - 50 },
        { start: 25, end: 50 },
      ],
    });
    const file = buildFile('KILN_A/bowl.mov', { start: day - 200, length: 400 });
    expect(uncoveredUse(clip, file)).toBe(0);
    expect(firstFrameInFile({ start: 25, end: 50 }, clip, file)).toBe(225);
    expect(uncoveredUse(clip, buildFile('KILN_A/bowl.mov', { start: day - 200, length: 230 }))).toBe(20);
    expect(findings(clip, file)['timecode']).toBe('agrees used-inside');
  });

  test('a sequence that lacks pictures does not cover them; it is known by its first picture or its pattern', () => {
    const sequence = {
      prefix: 'title_',
      suffix: '.png',
      padding: 4,
      first: 1001,
      last: 1100,
      missing: [1010, 1011, 1090],
    };
    const facts = { kind: 'sequence' as const, start: 1001, length: 100, timecodeSource: 'none' as const, reel: null };
    const file = buildFile('KILN_A/titles/title_####.png', facts, { sequence });
    for (const name of ['title_1001.png', 'title_%04d.png', 'title_[1001-1100].png', 'title_####.png']) {
      const clip = buildClip(`/Volumes/OLD/titles/${name}`, {
        reel: null,
        kind: name === 'title_1001.png' ? 'still' : 'sequence',
        available: { start: 1001, end: 1101 },
        used: [{ start: 1005, end: 1050 }],
      });
      expect(findings(clip, file)['name']).toMatch(/^agrees/);
      expect(findings(clip, file)['kind']).not.toMatch(/^differs/);
      expect(matched([clip], [file])[0]!.candidates).toHaveLength(1);
      expect(uncoveredUse(clip, file)).toBe(2);
    }
  });

  test('of one reel and timecode a file cut down is said to be shorter, and not refused where it covers', () => {
    const clip = buildClip('/Volumes/OLD/x/bowl.mov');
    expect(findings(clip, buildFile('KILN_A/bowl.mov', { start: 90_010, length: 120 }))['length']).toBe(
      'nearly length-differs-covers',
    );
    expect(findings(clip, buildFile('KILN_A/bowl.mov', { start: 90_050, length: 120 }))['length']).toBe(
      'differs length-differs',
    );
    expect(findings(clip, buildFile('KILN_A/bowl.mov', { reel: 'B2', length: 190 }))['length']).toBe(
      'differs length-differs',
    );
  });

  test('a mean of what varied is no other rate', () => {
    const file = buildFile('KILN_A/bowl.mov', { rate: rate(2487, 100), doubts: ['rate-varies'] });
    expect(findings(buildClip('/Volumes/OLD/x/bowl.mov'), file)['rate']).toBe('unknown rate-varies');
  });
});

describe('what lies where the edit says', () => {
  const remembered = buildClip('/Volumes/OTHER/day1/bowl.mov');
  const file = buildFile('KILN_A/day1/bowl.mov');
  const taught = buildPlace('KILN_A', { knownAs: ['OTHER'], taught: ['OTHER'] });
  const given = buildPlace('KILN_A', { knownAs: ['OTHER'] });
  const tied = (clip: MatchClip, place: typeof taught, files = [file]) => matched([clip], files, [place])[0]!;

  test('a name that was taught ties what is identified, and nothing else', () => {
    expect(tied(remembered, taught).whereRemembered).toBe(file.id);
    // Nothing is known of it but its name: a name that a person gave ties it, one that a link taught does not.
    const unknown = { ...remembered, available: null, reel: null, raster: null, used: [] };
    expect(tied(unknown, given).whereRemembered).toBe(file.id);
    expect(tied(unknown, taught).whereRemembered).toBeNull();
    for (const facts of [{ reel: 'Z1' }, { start: 91_000 }, { length: 260 }, { rate: rate(50) }]) {
      const other = buildFile('KILN_A/day1/bowl.mov', facts);
      expect(tied(remembered, taught, [other]).whereRemembered).toBeNull();
    }
  });

  test('a bare name ties nothing by lying in a place; a relative path does', () => {
    const bare = { ...buildClip('bowl.mov'), available: null, reel: null, used: [] };
    expect(tied(bare, given, [buildFile('KILN_A/bowl.mov')]).whereRemembered).toBeNull();
    const relative = { ...buildClip('day1/bowl.mov'), available: null, reel: null, used: [] };
    expect(tied(relative, given).whereRemembered).toBe(file.id);
  });
});
