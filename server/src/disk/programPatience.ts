import { readdirSync, readFileSync } from 'node:fs';

/** So often it is looked until patience is over. */
const looks = 10;
/** On a machine that never has time for it, it is given up after so many times its patience. */
const longestTimes = 6;

/**
 * Patience with a program that is waited for. Only the time counts in which it had no use for a processor: in which it
 * waited for a drive, or for nothing. While it works, or waits for its turn on a busy machine, and while this process
 * itself had no turn, a file does not answer later for that.
 */
export class ProgramPatience {
  readonly #pid: number | undefined;
  readonly #stepMs: number;
  readonly #over: () => void;
  #timer: NodeJS.Timeout | undefined;
  #looks = 0;
  #passedMs = 0;
  #lookedAt = 0;
  #workedBefore: number | null = null;

  constructor(pid: number | undefined, patienceMs: number, over: () => void) {
    this.#pid = pid;
    this.#stepMs = patienceMs / looks;
    this.#over = over;
    this.again();
  }

  /** Begins anew, as after a word from it. */
  again(): void {
    clearInterval(this.#timer);
    [this.#looks, this.#passedMs, this.#lookedAt, this.#workedBefore] = [0, 0, performance.now(), null];
    this.#timer = setInterval(() => this.#look(), this.#stepMs);
  }

  end(): void {
    clearInterval(this.#timer);
  }

  #look(): void {
    const now = performance.now();
    // What is more than a step, this process slept through itself.
    this.#passedMs += Math.min(now - this.#lookedAt, this.#stepMs);
    this.#lookedAt = now;
    this.#looks += 1;
    const { workedMs, wants } = useOfProcessor(this.#pid);
    this.#workedBefore ??= workedMs;
    const waitedMs = this.#passedMs - (workedMs - this.#workedBefore);
    const isOver = !wants && waitedMs > (looks - 0.5) * this.#stepMs;
    if (!isOver && this.#looks < looks * longestTimes) return;
    this.end();
    this.#over();
  }
}

/**
 * For how long a program has worked so far, or waited for its turn, in ms, and whether it is at that now: on a busy machine
 * the time is told only once its turn has come.
 */
function useOfProcessor(pid: number | undefined): { workedMs: number; wants: boolean } {
  const none = { workedMs: 0, wants: false };
  if (pid === undefined) return none;
  try {
    return readdirSync(`/proc/${pid}/task`)
      .map((task) => useOfThread(`/proc/${pid}/task/${task}`))
      .reduce((all, one) => ({ workedMs: all.workedMs + one.workedMs, wants: all.wants || one.wants }), none);
  } catch {
    // It ended, or the system does not say.
    return none;
  }
}

/** By what the system tells of a thread: its state, and the nanoseconds that it spent on a processor and in the queue for one. */
function useOfThread(path: string): { workedMs: number; wants: boolean } {
  const stat = readFileSync(`${path}/stat`, 'utf8');
  const [ran, queued] = readFileSync(`${path}/schedstat`, 'utf8').split(' ').map(Number);
  return { workedMs: (ran! + queued!) / 1e6, wants: stat.slice(stat.lastIndexOf(')')).startsWith(') R') };
}
