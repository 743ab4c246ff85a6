import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

/** Shorter pauses are between two jobs of one piece of work. */
const restsAfterMs = 4000;
/** Less is not worth a stop. */
const worthInBytes = 100_000_000;
/** What was emptied when it was collected is the machine's again when it is looked through once more. */
const againAfterMs = 1000;

/**
 * A process that works in bursts: the engine lets what nobody needs any more lie until memory has grown by much, which
 * after the last burst is never. While it rests that is collected, and the memory is the machine's again.
 */
export class Rest {
  #begins: NodeJS.Timeout | null = null;
  #leftInBytes = 0;
  readonly #collect: () => void;
  readonly #usedInBytes: () => number;

  constructor(collect = collector(), usedInBytes = () => process.memoryUsage.rss()) {
    this.#collect = collect;
    this.#usedInBytes = usedInBytes;
  }

  /** Nothing is to be done just now. */
  begin(): void {
    this.end();
    this.#begins = setTimeout(() => this.#handBack(), restsAfterMs).unref();
  }

  /** Something is to be done again. */
  end(): void {
    if (this.#begins) clearTimeout(this.#begins);
  }

  #handBack(): void {
    if (this.#usedInBytes() - this.#leftInBytes < worthInBytes) return;
    this.#collect();
    this.#begins = setTimeout(() => {
      this.#collect();
      this.#leftInBytes = this.#usedInBytes();
    }, againAfterMs).unref();
  }
}

function collector(): () => void {
  setFlagsFromString('--expose-gc');
  return runInNewContext('gc') as () => void;
}
