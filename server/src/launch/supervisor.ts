import type { ChildProcess } from 'node:child_process';
import { setTimeout as after } from 'node:timers/promises';
import type { Cluster } from './cluster.ts';

/** How long to wait before a process is started again that ended; longer each time it ends soon. */
const waitsMs = [200, 500, 1000, 2000, 5000, 10_000];
/** One that ran for so long has recovered from what ended it before. */
const healthyMs = 30_000;
const lookEveryMs = 300;
const patienceToEndMs = 8000;

type Say = (text: string) => void;

/** One process that is to run as long as Legame does: it ends, it is started again, for ever. */
export class Supervised {
  readonly #name: string;
  readonly #start: () => ChildProcess;
  readonly #say: Say;
  #child: ChildProcess | null = null;
  readonly #over = new AbortController();
  #comingBack: Promise<void> | null = null;
  #endings = 0;

  constructor(name: string, start: () => ChildProcess, say: Say) {
    this.#name = name;
    this.#start = start;
    this.#say = say;
  }

  /** Starts it. The first time it has to come up, and says why not; from then on it is kept up. */
  async up(): Promise<void> {
    const ended = await this.#run();
    if (ended.wasReady) return;
    throw new ProcessEnded(this.#name, ended.code);
  }

  /** Comes back when it is ready, or when it ended before. */
  #run(): Promise<{ wasReady: boolean; code: number | null }> {
    return new Promise((resolve) => {
      const child = this.#start();
      this.#child = child;
      const begun = performance.now();
      let isReady = false;
      child.once('message', () => {
        isReady = true;
        resolve({ wasReady: true, code: null });
      });
      const over = (code: number | null) => {
        if (this.#child !== child) return;
        this.#child = null;
        if (performance.now() - begun > healthyMs) this.#endings = 0;
        if (!isReady) return resolve({ wasReady: false, code });
        if (!this.#over.signal.aborted) this.#comingBack = this.#comeBack(code);
      };
      child.once('error', () => over(null));
      child.once('exit', over);
    });
  }

  async #comeBack(code: number | null): Promise<void> {
    this.#say(`The ${this.#name} process ended (${code ?? 'killed'}); starting it again.`);
    for (;;) {
      const wait = waitsMs[Math.min(this.#endings, waitsMs.length - 1)]!;
      this.#endings += 1;
      await after(wait, undefined, { signal: this.#over.signal }).catch(() => undefined);
      if (this.#over.signal.aborted) return;
      if ((await this.#run()).wasReady) return;
    }
  }

  get pid(): number | null {
    return this.#child?.pid ?? null;
  }

  /** Ends it; when this comes back it runs no more, nor will it again. */
  async stop(): Promise<void> {
    this.#over.abort();
    await this.#end();
    await this.#comingBack;
  }

  async #end(): Promise<void> {
    const child = this.#child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    await new Promise<void>((resolve) => {
      const hard = setTimeout(() => child.kill('SIGKILL'), patienceToEndMs);
      child.once('exit', () => {
        clearTimeout(hard);
        resolve();
      });
      child.kill('SIGTERM');
    });
  }
}

export class ProcessEnded extends Error {
  readonly code: number | null;
  constructor(name: string, code: number | null) {
    super(`The ${name} process ended with ${code === null ? 'a signal' : `code ${code}`}.`);
    this.code = code;
  }
}

/** Keeps a database server up: its processes are not ours, so it is looked at. Returns how to stop looking. */
export function keepUp(cluster: Cluster, say: Say): () => Promise<void> {
  const over = new AbortController();
  const watch = async () => {
    for (let endings = 0; !over.signal.aborted;) {
      await after(lookEveryMs, undefined, { signal: over.signal });
      if (cluster.isUp()) continue;
      say('The database ended; starting it again.');
      try {
        await cluster.startAgain();
        endings = 0;
      } catch (error) {
        // Its last processes may still be ending, or its disk may be full: it is tried again, for ever.
        say(`The database did not start: ${error instanceof Error ? error.message.split('\n')[0]! : String(error)}`);
        await after(waitsMs[Math.min(endings, waitsMs.length - 1)]!, undefined, { signal: over.signal });
        endings += 1;
      }
    }
  };
  const watching = watch().catch(() => undefined);
  return async () => {
    over.abort();
    await watching;
  };
}
