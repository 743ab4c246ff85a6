/** Numbers that look random and are the same for the same seed, so that what was found is found again. */
export class Chance {
  #state: number;
  readonly seed: number;
  constructor(seed: number) {
    this.seed = seed;
    this.#state = seed >>> 0;
  }
  /** In [0, 1). */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  below(n: number): number {
    return Math.floor(this.next() * n);
  }
  one<T>(list: readonly T[]): T {
    return list[this.below(list.length)]!;
  }
  isTrue(share = 0.5): boolean {
    return this.next() < share;
  }
}

/** What came of it: how much was tried, and each thing that should not have happened, with the seed that shows it. */
export type Fuzzed = { readonly tried: number; readonly findings: readonly string[]; readonly slowestMs: number };

export const slowMs = 2000;

/** Tries for so long, each try with a seed of its own. */
export function fuzz(
  what: string,
  seconds: number,
  firstSeed: number,
  tryOnce: (chance: Chance) => string | null,
): Fuzzed {
  const findings: string[] = [];
  const until = performance.now() + seconds * 1000;
  let tried = 0;
  let slowestMs = 0;
  while (performance.now() < until && findings.length < 20) {
    const seed = firstSeed + tried;
    tried += 1;
    const begun = performance.now();
    let found: string | null;
    try {
      found = tryOnce(new Chance(seed));
    } catch (error) {
      found = `threw ${error instanceof Error ? (error.stack ?? error.message).split('\n').slice(0, 4).join(' | ') : String(error)}`;
    }
    const took = performance.now() - begun;
    slowestMs = Math.max(slowestMs, took);
    // A busy machine makes single tries slow: one that is slow twice is slow.
    if (found === null && took > slowMs && timeAgain(seed, tryOnce) > slowMs) found = `took ${Math.round(took)} ms`;
    if (found !== null) findings.push(`${what}, seed ${seed}: ${found}`);
  }
  return { tried, findings, slowestMs };
}

function timeAgain(seed: number, tryOnce: (chance: Chance) => string | null): number {
  const begun = performance.now();
  tryOnce(new Chance(seed));
  return performance.now() - begun;
}
