import { match } from '../core/src/match/match.ts';
import { generateProduction } from '../core/src/testing/index.ts';
import { measure, ms, say } from './measure.ts';

/** Matching 20,000 clips against 100,000 file records, and the growth when both double. */
export async function benchMatching(): Promise<void> {
  say('\n## Matching (retrieve, weigh, decide, explain), all in memory');
  say('| clips | files | median ms | least–most | heap | certain |');
  say('|---|---|---|---|---|---|');
  const medians: number[] = [];
  for (const [clips, files] of [
    [5_000, 25_000],
    [10_000, 50_000],
    [20_000, 100_000],
    [40_000, 200_000],
  ] as const) {
    const input = generateProduction(clips, files);
    let certain = 0;
    const { median, least, most, heapInBytes } = await measure(() => {
      certain = match(input).filter((r) => r.decision.kind === 'certain').length;
    });
    medians.push(median);
    say(
      `| ${clips} | ${files} | ${ms(median)} | ${ms(least)}–${ms(most)} | ${Math.round(heapInBytes / 1e6)} MB | ${certain} |`,
    );
  }
  say(
    `\nGrowth at each doubling: ${medians
      .slice(1)
      .map((m, i) => (m / medians[i]!).toFixed(2))
      .join(', ')} (2 is linear).`,
  );
}
