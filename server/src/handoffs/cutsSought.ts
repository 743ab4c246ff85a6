import pLimit from 'p-limit';
import type { Database } from '../db/database.ts';
import { pathInPlace } from '../media/read.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { cuttingStore, type Cuttable } from '../stores/cuttings.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { groundOf, type PlaceRecord } from '../stores/places.ts';

/** The index of a long recording on a slow drive takes a while to be read through. */
const patienceMs = 120_000;
const readersAtOnce = 2;
/** Nobody could say. It is not kept: the next time the drive may answer. */
const unanswered: Cuttable = { cutting: { can: 'nowhere', because: 'unreadable-index' }, streams: null };

/** What is asked about a file: where it lies, and what it is. */
export type FileToCut = { readonly file: MediaFileRecord; readonly place: PlaceRecord };
type Reader = Pick<ReaderProcess, 'ask' | 'stop'>;
type Sought = { readonly found: Promise<Cuttable>; readonly isGivenUp: AbortController; waiting: number };

/**
 * Looks for where files can be cut, few at a time. Whoever asks about a file that somebody asked about already waits for
 * the same answer; what nobody waits for any more is not begun, or is broken off.
 */
export class CutsSought {
  readonly #sought = new Map<string, Sought>();
  readonly #limit = pLimit(readersAtOnce);
  readonly #idle: Reader[] = [];
  readonly #makeReader: () => Reader;

  constructor(makeReader: () => Reader = () => new ReaderProcess()) {
    this.#makeReader = makeReader;
  }

  /** Rejects with the signal's reason where that fires first. */
  async find(db: Database, asked: FileToCut, signal?: AbortSignal): Promise<Cuttable> {
    signal?.throwIfAborted();
    const { id, sizeInBytes, modifiedMs } = asked.file;
    const key = `${id} ${sizeInBytes} ${modifiedMs}`;
    const one = this.#sought.get(key) ?? this.#begin(db, key, asked);
    one.waiting += 1;
    let leave = () => {};
    const left = new Promise<never>((_, reject) => {
      leave = () => reject(signal?.reason as Error);
      signal?.addEventListener('abort', leave, { once: true });
    });
    try {
      return await Promise.race([one.found, left]);
    } finally {
      signal?.removeEventListener('abort', leave);
      one.waiting -= 1;
      if (one.waiting === 0 && this.#sought.get(key) === one) {
        this.#sought.delete(key);
        one.isGivenUp.abort();
      }
    }
  }

  #begin(db: Database, key: string, asked: FileToCut): Sought {
    const isGivenUp = new AbortController();
    const found = this.#limit(() =>
      isGivenUp.signal.aborted ? unanswered : this.#look(db, asked, isGivenUp.signal),
    ).finally(() => {
      if (!isGivenUp.signal.aborted) this.#sought.delete(key);
      if (this.#limit.activeCount + this.#limit.pendingCount <= 1)
        for (const reader of this.#idle.splice(0)) reader.stop();
    });
    // Whoever waits is told; where nobody does any more, nobody has to be.
    found.catch(() => undefined);
    const one = { found, isGivenUp, waiting: 0 };
    this.#sought.set(key, one);
    return one;
  }

  async #look(db: Database, { file, place }: FileToCut, signal: AbortSignal): Promise<Cuttable> {
    const { path: root, is } = groundOf(place);
    const question = { do: 'look-for-cuts', root, is, path: pathInPlace(file), facts: file.facts! } as const;
    const reader = this.#idle.pop() ?? this.#makeReader();
    try {
      const answer = await reader.ask(question, { patienceMs, signal });
      if (answer.part !== 'cuts') return unanswered;
      const { cutting, streams } = answer;
      await cuttingStore.save(db, file, { cutting, streams });
      return { cutting, streams };
    } finally {
      this.#idle.push(reader);
    }
  }
}
