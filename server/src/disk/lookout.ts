import { constants } from 'node:fs';
import { access } from 'node:fs/promises';
import { setTimeout as after } from 'node:timers/promises';
import { conditionOf, endureAsync } from './conditions.ts';
import { withFolder, type FolderIdentity, type HeldFolder } from './held.ts';
import type { Presence } from './presence.ts';

/** How a look keeps time: by rounds, in each of which a folder of the machine's own was looked at meanwhile. */
export type Patience = {
  readonly roundMs: number;
  /** After so many rounds there is no answer yet; after so many, it is given up for now. */
  readonly roundsToWait: number;
  readonly roundsToGiveUp: number;
};
const usual: Patience = { roundMs: 150, roundsToWait: 10, roundsToGiveUp: 40 };
/** A healthy drive answers in a fraction of this, and not much later than the machine's own disk. */
const slowMs = 200;
const slowTimes = 8;

/** A look ends after so many times what its rounds would take, if the machine's own disk does not answer. */
const longestTimes = 6;

type Looking = { result: Presence | null; rounds: number; readonly over: Promise<void>; nextRound: Promise<void> };

/**
 * Looks whether folders are there. A place that does not answer is told apart from a machine that is busy: time passes
 * only in rounds in which the machine's own disk has answered, so that the busier the house, the longer the patience.
 */
export class Lookout {
  /** Looks that have not come back yet. A stalled share gets no second one, or it would use up all threads. */
  readonly #pending = new Map<string, Looking>();
  readonly #own: string;
  readonly #patience: Patience;

  /** `own`: a folder on the machine's own disk, to measure by. */
  constructor(own: string, patience: Patience = usual) {
    this.#own = own;
    this.#patience = patience;
  }

  async look(path: string): Promise<Presence> {
    const looking = this.#pending.get(path) ?? this.#begin(path);
    const { roundMs, roundsToWait, roundsToGiveUp } = this.#patience;
    const enough = looking.rounds + roundsToWait;
    const atMost = performance.now() + roundMs * roundsToWait * longestTimes;
    for (;;) {
      if (looking.result) return looking.result;
      if (looking.rounds >= roundsToGiveUp) return { there: false, because: 'no-answer' };
      if (looking.rounds >= enough || performance.now() > atMost) return { there: null };
      await Promise.race([looking.over, looking.nextRound, after(roundMs, undefined, { ref: false })]);
    }
  }

  #begin(path: string): Looking {
    const over = this.#ask(path).then((presence) => {
      looking.result = presence;
      this.#pending.delete(path);
    });
    const looking: Looking = { result: null, rounds: 0, over, nextRound: Promise.resolve() };
    looking.nextRound = this.#round(looking);
    this.#pending.set(path, looking);
    return looking;
  }

  async #round(looking: Looking): Promise<void> {
    await after(this.#patience.roundMs);
    await ask(this.#own);
    looking.rounds += 1;
    if (!looking.result) looking.nextRound = this.#round(looking);
  }

  async #ask(path: string): Promise<Presence> {
    const own = await timed(() => ask(this.#own));
    const asked = await timed(() => ask(path));
    if (!asked.result) return { there: false, because: 'not-plugged-in' };
    const { root, isWritable, isEmpty } = asked.result;
    const readOnly = conditionOf(path).readOnly || !isWritable;
    return { there: true, slow: asked.ms > slowMs && asked.ms > own.ms * slowTimes, readOnly, root, isEmpty };
  }
}

async function timed<T>(run: () => Promise<T>): Promise<{ result: T; ms: number }> {
  const begun = performance.now();
  return { result: await run(), ms: performance.now() - begun };
}

/** What a folder is that is there and can be listed, inside the fence; null when it cannot. */
async function ask(path: string): Promise<{ root: FolderIdentity; isWritable: boolean; isEmpty: boolean } | null> {
  return withFolder({ path }, async (folder) => {
    await endureAsync(path, { patienceMs: Infinity });
    const entries = await folder.entries();
    return { root: folder.identity, isWritable: await isWritable(folder), isEmpty: entries.length === 0 };
  }).catch(() => null);
}

const isWritable = (folder: HeldFolder): Promise<boolean> =>
  access(folder.entry('.'), constants.W_OK).then(
    () => true,
    () => false,
  );
