import { decide } from '../core/src/match/decide.ts';
import { findCauses } from '../core/src/match/causes.ts';
import { match, Matching } from '../core/src/match/match.ts';
import { shippedRuleSets } from '../core/src/match/rules.ts';
import {
  allDark,
  fates,
  outcomeOf,
  produce,
  type Fate,
  type ProductionSize,
  type Tally,
} from '../core/src/testing/index.ts';
import { measure, ms, say } from './measure.ts';

/** Ten cameras and recorders that restart their numbering: `days` × 10 × `cards` × `takes` files, about. */
const sizes: readonly ProductionSize[] = [
  { days: 24, cards: 3, takes: 35, batches: 290, used: 35 },
  { days: 48, cards: 3, takes: 35, batches: 580, used: 35 },
  { days: 95, cards: 3, takes: 35, batches: 1150, used: 37 },
];
export const million: readonly ProductionSize[] = [{ days: 950, cards: 3, takes: 35, batches: 6000, used: 36 }];
/** Productions over which the fates are told. */
const seedsTried = 60;

/** Matching against productions of which it is known what became of every file: what is right, what is linked, how fast. */
export async function benchTruth(asked: readonly ProductionSize[] = sizes): Promise<void> {
  if (asked === sizes) sayFates();
  say('\n## Namesakes by the thousand: retrieve, weigh, decide, explain, and the causes');
  say(
    '| clips | files | files of one name | wrong, rule / cause | linked of the linkable | match, median ms | causes | least–most | heap |',
  );
  say('|---|---|---|---|---|---|---|---|---|');
  const medians: { n: number; median: number }[] = [];
  for (const size of asked) {
    const truth = produce(size, 1);
    const { input } = truth;
    let causesMs = 0;
    const { median, least, most, heapInBytes } = await measure(
      () => {
        const results = match(input);
        const begun = performance.now();
        findCauses(allDark(results), input.rules);
        causesMs = performance.now() - begun;
      },
      undefined,
      input.clips.length > 50_000 ? 1 : 5,
    );
    const { all, missed, results } = outcomeOf(truth);
    const namesakes = results.reduce((sum, r) => Math.max(sum, r.clip.namesakes), 0);
    medians.push({ n: input.clips.length + input.files.length, median });
    say(
      `| ${input.clips.length} | ${input.files.length} | up to ${namesakes} | ${all.wrongByRule} / ${all.wrongByCause} | ${share(all.linkable - missed.length, all.linkable)} | ${ms(median - causesMs)} | ${ms(causesMs)} | ${ms(least)}–${ms(most)} | ${Math.round(heapInBytes / 1e6)} MB |`,
    );
  }
  const [first, last] = [medians[0]!, medians.at(-1)!];
  if (medians.length > 1) {
    const exponent = Math.log(last.median / first.median) / Math.log(last.n / first.n);
    say(`\nTime grows with clips + files to the power of ${exponent.toFixed(2)} (1 is linear).`);
    await benchRules();
    benchRenewal();
  }
}

const share = (n: number, of: number): string => (of === 0 ? '–' : `${((n / of) * 100).toFixed(1)} %`);

/** What comes of each fate, over many productions. */
function sayFates(): void {
  const byFate = new Map<Fate, Tally>();
  let [decisions, asked, clips] = [0, 0, 0];
  for (let seed = 1; seed <= seedsTried; seed += 1) {
    const outcome = outcomeOf(produce({ days: 12, cards: 2, takes: 16, batches: 30, used: 9 }, seed));
    decisions += outcome.decisions;
    asked += outcome.injected + outcome.ambiguities;
    clips += outcome.all.clips;
    for (const [fate, tally] of outcome.byFate) {
      const sum = byFate.get(fate);
      if (!sum) byFate.set(fate, { ...tally });
      else for (const key of Object.keys(tally) as (keyof Tally)[]) sum[key] += tally[key];
    }
  }
  say(
    `\n## Truth: what became of every file is known, and nothing of it is told to matching (${seedsTried} productions)`,
  );
  say('| fate | clips | of them linkable | by rule | by cause | asked | wrong by rule | wrong by cause |');
  say('|---|---|---|---|---|---|---|---|');
  for (const fate of fates) {
    const t = byFate.get(fate);
    if (t)
      say(
        `| ${fate} | ${t.clips} | ${t.linkable} | ${t.byRule} | ${t.byCause} | ${t.asked} | ${t.wrongByRule} | ${t.wrongByCause} |`,
      );
  }
  say(`\n${clips} clips; ${decisions} decisions for ${asked} injected causes and questions.`);
}

/** Deciding again under another set of rules, evidence at hand: what the rules panel does while a hand is on a rule. */
async function benchRules(): Promise<void> {
  say('\n## Rules tried: all clips decided anew, evidence at hand');
  say('| rules | clips | candidates | median ms | least–most |');
  say('|---|---|---|---|---|');
  const { input } = produce(sizes.at(-1)!, 1);
  const weighed = match(input).map(({ clip, candidates }) => ({ clip, candidates: candidates.slice(0, 16) }));
  const candidates = weighed.reduce((sum, w) => sum + w.candidates.length, 0);
  for (const { name, rules } of shippedRuleSets) {
    const { median, least, most } = await measure(() => decide(weighed, rules));
    say(`| ${name} | ${weighed.length} | ${candidates} | ${ms(median)} | ${ms(least)}–${ms(most)} |`);
  }
}

/** One file at a time comes, is read, or goes: what matching that is kept costs, beside matching anew. */
function benchRenewal(): void {
  say('\n## One file changes: matching renewed by parts, beside matching anew');
  say('| clips | files | anew, ms | renewed, median ms | nine of ten within | results that are others, median |');
  say('|---|---|---|---|---|---|');
  const { input } = produce(sizes.at(-1)!, 1);
  const begun = performance.now();
  const kept = new Matching(input);
  const anew = performance.now() - begun;
  const runs = Array.from({ length: 120 }, (_, i) => {
    const file = input.files[(i * 7919) % input.files.length]!;
    const copy = { ...file, id: `copy-${i}` as typeof file.id, folder: `${file.folder}/copied` };
    const files = i % 3 === 0 ? [] : [i % 3 === 1 ? copy : { ...file, facts: null }];
    const from = performance.now();
    const others = kept.renew({ files, gone: i % 3 === 0 ? [file.id] : [], clips: [] })!.length;
    return { ms: performance.now() - from, others };
  });
  const at = (values: number[], share: number) => values.sort((a, b) => a - b)[Math.floor(values.length * share)]!;
  const times = runs.map((r) => r.ms);
  say(
    `| ${input.clips.length} | ${input.files.length} | ${ms(anew)} | ${ms(at(times, 0.5))} | ${ms(at(times, 0.9))} | ${at(
      runs.map((r) => r.others),
      0.5,
    )} |`,
  );
}
