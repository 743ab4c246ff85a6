import { describe, expect, test } from '@jest/globals';
import { rate } from '../time/rate.ts';
import type { MediaFile } from '../model/media.ts';
import type { Place } from '../model/place.ts';
import { buildClip, buildFile, buildPlace, clipId } from '../testing/build.ts';
import { generateProduction } from '../testing/generate.ts';
import { match, type MatchInput } from './match.ts';
import { type MatchClip } from './prepare.ts';
import { defaultRules, type MatchRules } from './rules.ts';

const kilnA = buildPlace('KILN_A');
const kilnB = buildPlace('KILN_B');
const asInput = (clip: MatchClip, more: Partial<MatchInput['clips'][number]> = {}) => ({
  ...clip,
  linkedTo: null,
  declined: [],
  ...more,
});
function decideOn(
  clips: MatchInput['clips'],
  files: readonly MediaFile[],
  rules: MatchRules = defaultRules,
  places: readonly Place[] = [kilnA, kilnB],
) {
  return match({ clips, files, places, rules }).map(({ decision, why, whereRemembered, candidates }) => ({
    decision,
    why,
    whereRemembered,
    candidates,
  }));
}
const withWeights = (weights: Partial<MatchRules['weights']>): MatchRules => ({
  ...defaultRules,
  weights: { ...defaultRules.weights, ...weights },
});
const one = (clip: MatchClip, files: readonly MediaFile[], rules?: MatchRules, places?: readonly Place[]) =>
  decideOn([asInput(clip)], files, rules, places)[0]!;

const remembered = buildClip('/Volumes/KILN_A/day2/cardA/bowl.mov');

describe('decisions', () => {
  test('a folder moved whole is certain, and the reason names both ends', () => {
    const { decision, why } = one(remembered, [buildFile('KILN_B/rushes/day2/card_A/bowl.mov')]);
    expect(decision).toMatchObject({ kind: 'certain', grounds: 'name-timecode-length' });
    expect(why).toEqual({ code: 'moved', from: 'KILN_A/day2/cardA', to: 'KILN_B/rushes/day2/card_A' });
  });

  test('wholly renamed, but of one reel, timecode and length: certain; a question where many recordings begin', () => {
    const clip = { ...remembered, available: { start: 90_017, end: 90_217 } };
    const { decision, why } = one(clip, [buildFile('KILN_B/x/k81.mov', { start: 90_017 })]);
    expect(decision).toMatchObject({ kind: 'certain', grounds: 'reel-timecode-length' });
    expect(why).toMatchObject({ code: 'moved-and-renamed', name: 'k81.mov' });
    // At one o'clock sharp.
    expect(one(remembered, [buildFile('KILN_B/x/k81.mov')]).decision).toMatchObject({ kind: 'ask' });
  });

  test('same name at the very path, other content: refused, with what differs; elsewhere it is a mere namesake', () => {
    const other = { start: 5000, length: 175, reel: 'Z9' };
    const { decision, why } = one(remembered, [buildFile('KILN_B/day2/cardA/bowl.mov', other)]);
    expect(decision).toMatchObject({ kind: 'refused', differs: ['timecode', 'length'] });
    expect(why).toMatchObject({ code: 'other-content', folder: 'KILN_B/day2/cardA' });
    const lost = one(remembered, [buildFile('KILN_A/picks/bowl.mov', other)]);
    expect(lost).toMatchObject({ decision: { kind: 'nothing' }, why: { code: 'gone', namesakes: 1 } });
    expect(lost.candidates).toHaveLength(1);
  });

  test('what lies where the edit says and cannot be read is said to be that, whatever else bears its name', () => {
    const broken = buildFile('KILN_B/day2/cardA/bowl.mov', null, { unreadable: { code: 'file-empty' } });
    const stray = buildFile('KILN_B/picks/bowl.mov', { start: 5000, reel: null });
    expect(one(remembered, [broken, stray])).toMatchObject({
      decision: { kind: 'unusable', mediaFileId: broken.id },
      why: { code: 'unreadable', folder: 'KILN_B/day2/cardA' },
    });
    const copy = buildFile('KILN_B/copy/bowl.mov');
    expect(one(remembered, [broken, copy]).decision).toMatchObject({ kind: 'certain', mediaFileId: copy.id });
  });

  test('another version of a picture has its reel, timecode and length, and is not it', () => {
    for (const name of ['bowl_graded.mov', 'bowl_v3.mov', 'SG_bowl_comp.mov'])
      expect(one(remembered, [buildFile(`KILN_B/x/${name}`)]).decision).toMatchObject({
        kind: 'ask',
        certainty: 'possible',
      });
    const v2 = buildClip('/Volumes/KILN_A/vfx/door_010_v2.mov', { reel: null });
    const files = ['door_010_v3', 'door_020_v2', 'door_030_v2'].map((n) =>
      buildFile(`KILN_B/vfx/${n}.mov`, { reel: null, start: 90_000 }),
    );
    expect(one(v2, files).decision).not.toMatchObject({ kind: 'certain' });
    expect(one(v2, files).decision).not.toMatchObject({ certainty: 'likely' });
  });

  test('a render or a grade that lies in the folder of another version is another, under whatever start', () => {
    for (const start of [90_000, 123_457]) {
      const v2 = buildClip('/Volumes/KILN_A/door/v002/door.mov', {
        ...{ reel: null, available: { start, end: start + 200 }, used: [{ start, end: start + 50 }] },
      });
      const lies = (folder: string) => buildFile(`KILN_B/${folder}/door.mov`, { reel: null, start });
      for (const other of ['door/v001', 'door/V1', 'door/comp_v3', 'door/version 3'])
        expect(one(v2, [lies(other)]).decision).toMatchObject({ kind: 'ask', certainty: 'possible' });
      for (const same of ['door/v2', 'door/comp_v002', 'door/version 2', 'v2/door', 'door_v3/v2/renders'])
        expect(one(v2, [lies(same)]).decision).toMatchObject({ kind: 'certain' });
      // What tells none may be any.
      for (const untold of ['door', 'v3/door', 'door_v3/renders'])
        expect(one(v2, [lies(untold)]).decision).toMatchObject({ kind: 'ask', certainty: 'possible' });
      const bare = { ...v2, remembered: 'door.mov' };
      expect(one(bare, [lies('door/v2')]).decision).toMatchObject({ kind: 'ask', certainty: 'possible' });
      expect(one(bare, [lies('door')]).decision).toMatchObject({ kind: 'certain' });
      const named = { ...v2, remembered: '/Volumes/KILN_A/door/v002/door_v002.mov' };
      const file = buildFile('KILN_B/all/door_v002.mov', { reel: null, start });
      expect(one(named, [file]).decision).toMatchObject({ kind: 'certain' });
      expect(one(v2, [lies('door/v1'), lies('new/v2')]).decision).toMatchObject({
        ...{ kind: 'certain', mediaFileId: 'KILN_B/new/v2/door.mov' },
      });
    }
    // A project that goes on under another name holds what was shot, as before.
    const shot = buildClip('/Volumes/KILN_A/SALT_v3/cardA/bowl.mov');
    expect(one(shot, [buildFile('KILN_B/SALT_v4/cardA/bowl.mov')]).decision.kind).toBe('certain');
  });

  test('of two days’ mixes from one hour, one is not the other; a take that begins like no other is itself', () => {
    const mix = (start: number, folder: string) =>
      one(
        buildClip('/Volumes/DISK1/mixes/day2/out/mix.wav', {
          ...{ reel: null, available: { start, end: start + 200 }, used: [{ start, end: start + 50 }] },
        }),
        [buildFile(`${folder}/mix.wav`, { reel: null, start })],
      ).decision.kind;
    expect(mix(90_000, 'DISK1/mixes/day1/out')).toBe('ask');
    expect(mix(90_001, 'DISK1/mixes/day1/out')).toBe('certain');
    for (const folder of [
      'DISK2/mixes/day2/out',
      'DISK2/mixes/day 02/out',
      'DISK2/mixes/day02/out',
      'DISK2/out',
      'DISK2',
    ])
      expect([folder, mix(90_000, folder)]).toEqual([folder, 'certain']);
  });

  test('a start that every first take has tells namesakes not apart without their reel', () => {
    const atOneHour = { available: { start: 90_000, end: 90_200 }, reel: null };
    const clip = buildClip('/Volumes/OLD/card_9/C0001.mov', atOneHour);
    const cards = Array.from({ length: 6 }, (_, i) =>
      buildFile(`KILN_B/card_${i}/C0001.mov`, { start: 90_000, length: 200 + i * 7, reel: `R${i}` }),
    );
    expect(one(clip, cards).decision).toMatchObject({ kind: 'ask' });
    expect(one({ ...clip, reel: 'R0' }, cards).decision).toMatchObject({ kind: 'certain' });
  });

  test('what a place that is away holds is a rival still', () => {
    const away = buildPlace('KILN_A', { there: false });
    const [inAway, here] = ['KILN_A/one/bowl.mov', 'KILN_B/two/bowl.mov'].map((p, i) =>
      buildFile(p, {}, { fingerprint: `f${i}` }),
    );
    expect(one(remembered, [inAway!, here!], defaultRules, [away, kilnB]).decision.kind).toBe('ask');
    const copy = { ...here!, fingerprint: 'f0' };
    expect(one(remembered, [inAway!, copy], defaultRules, [away, kilnB]).decision).toMatchObject({
      kind: 'certain',
      mediaFileId: copy.id,
    });
  });

  test('two equally good files are asked about; where a namesake lies settles it only if all its folders agree', () => {
    const twins = [buildFile('KILN_B/card_1/bowl.mov'), buildFile('KILN_B/card_2/bowl.mov')];
    expect(one(remembered, twins).decision).toMatchObject({
      kind: 'ask',
      reason: 'versions',
      mediaFileIds: ['KILN_B/card_1/bowl.mov', 'KILN_B/card_2/bowl.mov'],
    });
    expect(one(remembered, [...twins, buildFile('KILN_B/cardA/bowl.mov')]).decision.kind).toBe('ask');
    expect(one(remembered, [...twins, buildFile('KILN_B/day2/cardA/bowl.mov')]).decision).toMatchObject({
      kind: 'certain',
      mediaFileId: 'KILN_B/day2/cardA/bowl.mov',
    });
    // One folder is called alike on every drive, so that it tells nothing unless the drive is the one, too.
    const shallow = (volume: string) => buildClip(`/Volumes/${volume}/rushes/bowl.mov`);
    const lying = [...twins, buildFile('KILN_B/rushes/bowl.mov')];
    expect(one(shallow('KILN_C'), lying).decision.kind).toBe('ask');
    expect(one(shallow('KILN_B'), lying).decision).toMatchObject({ mediaFileId: 'KILN_B/rushes/bowl.mov' });
  });

  test('nothing is certain without enough that identifies', () => {
    const song = buildClip('S:/music/song.wav', {
      reel: null,
      kind: 'sound',
      raster: null,
      available: { start: 0, end: 750 },
      used: [{ start: 0, end: 700 }],
    });
    const file = buildFile('KILN_B/music/song.wav', {
      kind: 'sound',
      rate: null,
      reel: null,
      timecodeSource: 'none',
      start: 0,
      length: 30 * 48_000,
      raster: null,
    });
    expect(one(song, [file]).decision).toMatchObject({ kind: 'ask', reason: 'not-enough-known' });
    const still = buildClip('S:/scans/page.png', { reel: null, kind: 'still', available: null });
    expect(
      one(still, [
        buildFile('KILN_B/scans/page.png', {
          kind: 'still',
          rate: null,
          length: null,
          reel: null,
          timecodeSource: 'none',
          start: 0,
        }),
      ]).decision,
    ).toMatchObject({ kind: 'ask' });
  });

  test('a small copy, another speed, another reel: asked about, never linked silently', () => {
    expect(one(remembered, [buildFile('KILN_B/bowl.mov', { raster: { width: 640, height: 360 } })]).decision.kind).toBe(
      'ask',
    );
    expect(
      one({ ...remembered, rate: rate(24) }, [buildFile('KILN_B/bowl.mov', { rate: rate(24000, 1001) })]).decision.kind,
    ).toBe('ask');
    expect(one(remembered, [buildFile('KILN_B/bowl.mov', { reel: 'B007' })]).decision.kind).toBe('ask');
  });

  test('a list states no length: name, reel and covered timecode want company, and nobody that speaks against it', () => {
    const events = [0, 1, 2].map((i) => {
      const start = 90_000 + i * 1000;
      const used = [{ start: start + 20, end: start + 100 }];
      return buildClip(null, { name: `T_${i}`, available: null, raster: null, used, id: clipId(`e${i}`) });
    });
    const files = [0, 1, 2].map((i) => buildFile(`KILN_B/card/T_${i}.mov`, { start: 90_000 + i * 1000 }));
    const kinds = (lying: readonly MediaFile[]) =>
      decideOn(
        events.map((e) => asInput(e)),
        lying,
      ).map(({ decision }) => (decision.kind === 'certain' ? decision.grounds : decision.kind));
    expect(kinds(files)).toEqual(Array.from({ length: 3 }, () => 'name-reel-timecode'));
    expect(kinds(files.slice(0, 2))).toEqual(['ask', 'ask', 'nothing']);
    // Another unit's card of the same reel: it covers some by chance.
    const otherUnit = [...files.slice(0, 2), buildFile('KILN_B/card/T_2.mov', { start: 500_000 })];
    expect(kinds(otherUnit)).not.toContain('name-reel-timecode');
  });

  test('a namesake that has not been read keeps everything open; one that cannot be read does not', () => {
    const good = buildFile('KILN_B/one/bowl.mov');
    expect(one(remembered, [good, buildFile('KILN_B/two/bowl.mov', null)]).decision).toMatchObject({
      kind: 'ask',
      reason: 'still-reading',
    });
    const broken = buildFile('KILN_B/two/bowl.mov', null, { unreadable: { code: 'file-empty' } });
    expect(one(remembered, [good, broken]).decision).toMatchObject({ kind: 'certain', mediaFileId: good.id });
  });

  test('one file never goes to two recordings of one name', () => {
    const a = buildClip('/Volumes/KILN_A/cardA/GB0007.mov', { reel: null });
    const b = buildClip('/Volumes/KILN_A/cardB/GB0007.mov', { reel: null });
    const file = buildFile('KILN_B/new/cardB/GB0007.mov', { reel: null });
    expect(
      decideOn([asInput(a), asInput(b)], [file]).map((r) =>
        r.decision.kind === 'ask' ? r.decision.reason : r.decision.kind,
      ),
    ).toEqual(['contested', 'certain']);
    const elsewhere = buildFile('KILN_B/new/GB0007.mov', { reel: null });
    expect(decideOn([asInput(a), asInput(b)], [elsewhere]).map((r) => r.decision.kind)).toEqual(['ask', 'ask']);
    // A tie that stands counts as a claim.
    expect(decideOn([asInput(a), asInput(b, { linkedTo: elsewhere.id })], [elsewhere])[0]!.decision).toMatchObject({
      kind: 'ask',
      reason: 'contested',
    });
  });

  test('two recordings that a person linked to one file, which neither fits: nothing fits them, and that is said', () => {
    const a = buildClip('/Volumes/KILN_A/cardA/GB0007.mov', { reel: 'A001' });
    const b = buildClip('/Volumes/KILN_A/cardB/SB0009.mov', { reel: 'B001' });
    const file = buildFile('KILN_B/elsewhere/yarn.mov', { reel: 'Z009', start: 7_000_000, length: 33 });
    const both = [asInput(a, { linkedTo: file.id }), asInput(b, { linkedTo: file.id })];
    expect(decideOn(both, [file]).map((r) => r.decision.kind)).toEqual(['nothing', 'nothing']);
  });

  test('one recording seen from two machines may be used by both clips', () => {
    const otherMachine = buildClip('S:\\conform\\bowl.mov');
    expect(
      decideOn([asInput(remembered), asInput(otherMachine)], [buildFile('KILN_B/x/bowl.mov')]).map(
        (r) => r.decision.kind,
      ),
    ).toEqual(['certain', 'certain']);
  });

  test('a declined file is no candidate any more', () => {
    const file = buildFile('KILN_B/bowl.mov');
    expect(decideOn([asInput(remembered, { declined: [file.id] })], [file])[0]!.decision).toEqual({ kind: 'nothing' });
  });

  test('rules: an ignored attribute neither refuses nor identifies', () => {
    const elsewhere = buildFile('KILN_B/day2/cardA/bowl.mov', { start: 5000 });
    expect(one(remembered, [elsewhere]).decision.kind).toBe('refused');
    expect(one(remembered, [elsewhere], withWeights({ timecode: 'ignored' })).decision.kind).toBe('ask');
    expect(one(remembered, [buildFile('KILN_B/k81.mov')], withWeights({ reel: 'ignored' })).decision.kind).toBe('ask');
    expect(
      one(remembered, [buildFile('KILN_B/day2/cardA/bowl.mov', { reel: 'B1' })], withWeights({ reel: 'must' })).decision
        .kind,
    ).toBe('refused');
  });

  test('a place that is away offers nothing, and is the reason', () => {
    const away = buildPlace('KILN_A', { there: false });
    const lies = buildFile('KILN_A/day2/cardA/bowl.mov');
    const result = one(remembered, [lies], defaultRules, [away, kilnB]);
    expect(result).toMatchObject({
      decision: { kind: 'ask', reason: 'place-away' },
      whereRemembered: lies.id,
      why: { code: 'place-away', placeName: 'KILN_A' },
    });
  });

  test('no place of that name, and gone, are told apart', () => {
    expect(one(buildClip('X:/a/b.mov'), []).why).toEqual({ code: 'volume-unknown', volume: 'X:' });
    expect(one(remembered, []).why).toEqual({ code: 'gone' });
  });

  test('two places that answer to one name settle nothing by themselves', () => {
    const twin = buildPlace('KILN_B', { knownAs: ['KILN_A'] });
    const files = [buildFile('KILN_A/day2/cardA/bowl.mov'), buildFile('KILN_B/day2/cardA/bowl.mov')];
    expect(one(remembered, files, defaultRules, [kilnA, twin]).whereRemembered).toBeNull();
    expect(one(remembered, files.slice(1), defaultRules, [kilnA, twin]).whereRemembered).toBe(files[1]!.id);
  });
});

test('a whole production: every certain link is the true one', () => {
  const input = generateProduction(1500, 6000, 7);
  const results = match(input);
  const files = new Map(input.files.map((f) => [f.id, f]));
  const kinds: Record<string, number> = {};
  for (const { clip, decision } of results) {
    kinds[decision.kind] = (kinds[decision.kind] ?? 0) + 1;
    if (decision.kind !== 'certain') continue;
    const facts = files.get(decision.mediaFileId)!.facts!;
    expect([facts.reel, facts.start, facts.length]).toEqual([
      clip.clip.reel,
      clip.clip.available!.start,
      clip.clip.available!.end - clip.clip.available!.start,
    ]);
  }
  // What lies twice is asked about or settled by its folder; what is gone is never linked.
  expect(kinds['certain']).toBeGreaterThan(1100);
  expect((kinds['nothing'] ?? 0) + (kinds['refused'] ?? 0) + (kinds['ask'] ?? 0)).toBeGreaterThan(100);
});
