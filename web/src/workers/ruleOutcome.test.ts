import { expect, test } from '@jest/globals';
import { defaultRules, match, shippedRuleSets, type MatchRules } from '@legame/core/match';
import { produce } from '@legame/core/testing';
import type { WeighedClips } from '@legame/core/contract';
import { RuleTester } from './ruleOutcome.ts';

/** What the server sends of a generated production, and what matching from the ground up decides under other rules. */
const { input } = produce({ days: 4, cards: 2, takes: 14, batches: 30, used: 10 }, 1);
const results = match(input);
const files = [...new Map(results.flatMap((r) => r.candidates.map((c) => [c.file.id, c.file] as const))).values()];
const at = new Map(files.map((f, i) => [f.id, i]));
const weighed: WeighedClips = {
  rules: defaultRules,
  preferredForm: 'original',
  clips: results.map(({ clip, candidates }) => ({
    id: clip.id,
    name: clip.name,
    reelKey: clip.reelKey,
    parentKey: clip.parentKey,
    stemKey: clip.stemKey,
    start: clip.start,
    origin: clip.origin,
    enriched: clip.enriched,
    nameIsCommon: clip.nameIsCommon,
    startIsCommon: clip.startIsCommon,
    outOfTime: clip.outOfTime,
    leftOut: clip.leftOut,
    isDark: true,
    tiedTo: null,
    candidates: candidates.map((c) => [at.get(c.file.id)!, c.marks, c.levels, c.form ?? null]),
  })),
  files: files.map(({ id, placeId, folder, file, kind, state, bytes, there, reelKey }) => ({
    id,
    placeId,
    folder,
    name: file.name,
    kind,
    state,
    bytes,
    there,
    reelKey,
  })),
};
const certainUnder = (rules: MatchRules) =>
  match({ ...input, rules }).filter((r) => r.decision.kind === 'certain').length;

test.each(shippedRuleSets.map((s) => [s.name, s.rules] as const))(
  'the outcome of “%s” says what matching by it would come to',
  (_, rules) => {
    const tester = new RuleTester();
    tester.load(weighed);
    const outcome = tester.try(rules, null);
    expect(outcome.before.certain).toBe(certainUnder(defaultRules));
    expect(outcome.after.certain).toBe(certainUnder(rules));
    expect(Object.values(outcome.after).reduce((a, b) => a + b)).toBe(results.length);
  },
);

test('under the rules in force nothing changes; a selection is tried alone', () => {
  const tester = new RuleTester();
  tester.load(weighed);
  expect(tester.try(defaultRules, null).changed).toBe(0);
  const some = results.slice(0, 7).map((r) => r.clip.id as string);
  const outcome = tester.try({ ...defaultRules, kinds: ['still'] }, some);
  expect(Object.values(outcome.before).reduce((a, b) => a + b)).toBe(7);
  expect(outcome.changes.every((c) => some.includes(c.clipId))).toBe(true);
});
