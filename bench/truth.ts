import { decide, findCauses, match, shippedRuleSets, type DarkClip, type MatchResult } from '../core/src/index.ts';
import { fates, generateTruth, usualShares, type Truth } from '../core/src/testing/index.ts';
import { measure, ms, say } from './measure.ts';

const dark = (results: readonly MatchResult[]): DarkClip[] =>
  results.map((decided) => ({ decided, why: decided.why, status: 'missing', tiedTo: null, screenSeconds: 1 }));

/** Matching against productions of which it is known what became of every file: what is right, what is linked, how fast. */
export async function benchTruth(sizes: readonly (readonly [number, number, number])[] = usual): Promise<void> {
  say('\n## Truth: what became of every file is known, and nothing of it is told to matching');
  say(`Shares of a hundred batches: ${fates.map((fate) => `${fate} ${usualShares[fate]}`).join(', ')}.\n`);
  say(
    '| clips | files | wrong, automatic | wrong, by cause | linkable | automatic | by rule or cause | injected causes + ambiguous | decisions |',
  );
  say('|---|---|---|---|---|---|---|---|---|');
  for (const [clips, files, batches] of sizes)
    for (const seed of clips > 50_000 ? [1] : [1, 2, 3]) sayOutcome(generateTruth(clips, files, batches, seed));
  say('\n## All of it: retrieve, weigh, decide, explain, and the causes');
  say('| clips | files | median ms | of it causes | least–most | heap |');
  say('|---|---|---|---|---|---|');
  const medians: { n: number; median: number }[] = [];
  for (const [clips, files, batches] of sizes) {
    const { input } = generateTruth(clips, files, batches);
    let causesMs = 0;
    const runs = clips > 50_000 ? 1 : 5;
    const { median, least, most, heapInBytes } = await measure(
      () => {
        const results = match(input);
        const begun = performance.now();
        findCauses(dark(results), input.rules);
        causesMs = performance.now() - begun;
      },
      undefined,
      runs,
    );
    medians.push({ n: clips + files, median });
    say(
      `| ${input.clips.length} | ${input.files.length} | ${ms(median)} | ${ms(causesMs)} | ${ms(least)}–${ms(most)} | ${Math.round(heapInBytes / 1e6)} MB |`,
    );
  }
  const [first, last] = [medians[0]!, medians.at(-1)!];
  if (medians.length > 1) {
    const exponent = Math.log(last.median / first.median) / Math.log(last.n / first.n);
    say(`\nTime grows with clips + files to the power of ${exponent.toFixed(2)} (1 is linear).`);
    await benchRules();
  }
}

const usual = [
  [5_000, 25_000, 100],
  [10_000, 50_000, 100],
  [20_000, 100_000, 100],
] as const;

/** Deciding again under another set of rules, evidence at hand: what the rules panel does while a hand is on a rule. */
async function benchRules(): Promise<void> {
  say('\n## Rules tried: all clips decided anew, evidence at hand');
  say('| rules | clips | candidates | median ms | least–most |');
  say('|---|---|---|---|---|');
  const { input } = generateTruth(20_000, 100_000, 100);
  const weighed = match(input).map(({ clip, candidates }) => ({ clip, candidates: candidates.slice(0, 12) }));
  const candidates = weighed.reduce((sum, w) => sum + w.candidates.length, 0);
  for (const { name, rules } of shippedRuleSets) {
    const { median, least, most } = await measure(() => decide(weighed, rules));
    say(`| ${name} | ${weighed.length} | ${candidates} | ${ms(median)} | ${ms(least)}–${ms(most)} |`);
  }
}

function sayOutcome({ input, right, causes: injected, ambiguous }: Truth): void {
  const results = match(input);
  const causes = findCauses(dark(results), input.rules);
  const automatic = results.flatMap(({ clip, decision }) =>
    decision.kind === 'certain' ? [{ clipId: clip.id, mediaFileId: decision.mediaFileId }] : [],
  );
  const byCause = causes.flatMap((c) => c.links);
  const wrong = (links: typeof automatic) => links.filter((l) => !right.get(l.clipId)!.has(l.mediaFileId)).length;
  const linkable = [...right.values()].filter((f) => f.size > 0).length;
  const share = (n: number) => `${n} (${((n / linkable) * 100).toFixed(1)} %)`;
  const linked = new Set([...automatic, ...byCause].map((l) => l.clipId)).size;
  say(
    `| ${results.length} | ${input.files.length} | ${wrong(automatic)} | ${wrong(byCause as typeof automatic)} | ${linkable} | ${share(automatic.length)} | ${share(linked)} | ${injected.length} + ${ambiguous} | ${causes.length} |`,
  );
}
