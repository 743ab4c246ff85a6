import type { Detail } from '@legame/core/model';
import { createInterface } from 'node:readline';
import { bayInUse } from '../disk/conditions.ts';
import { fenceText } from '../disk/held.ts';
import { ownProcess } from '../ownProcess.ts';
import { killGroup, spawnFenced, type ChildProcess } from './fenced.ts';
import { ProgramPatience } from '../disk/programPatience.ts';
import { partSchema, type Asked, type Part } from './readerTalk.ts';

type Distribute<T> = T extends unknown ? Omit<T, 'id'> : never;
export type Question = Distribute<Asked>;

/** How a question ended when it was not answered. */
export type Unanswered =
  | { readonly part: 'no-answer'; readonly seconds: number }
  | { readonly part: 'died'; readonly detail: Detail }
  | { readonly part: 'aborted' };

export type AskOptions = {
  /** Without a word for so long, the process is given up and ended. */
  readonly patienceMs: number;
  readonly signal?: AbortSignal | undefined;
  readonly onPart?: (part: Part) => void;
};

/** Parts of an answer after which more comes. */
const onTheWay: readonly Part['part'][] = ['files', 'hashing', 'hashes', 'copying'];

/** Fences a reader: its memory, and no core file. Its time is bounded by the patience of whoever asks. */
const memoryInBytes = 1_200_000_000;

/** A fenced process that lists, opens and copies files (see `reader.ts`); started when first asked, and anew after it was ended. */
export class ReaderProcess {
  #child: ChildProcess | null = null;
  #next = 1;
  #receive: ((part: Part & { id: number }) => void) | null = null;
  #onEnd: (() => void) | null = null;

  /** Asks one thing and waits for its end. One question at a time. */
  ask(question: Question, { patienceMs, signal, onPart }: AskOptions): Promise<Part | Unanswered> {
    if (signal?.aborted) return Promise.resolve({ part: 'aborted' });
    const child = (this.#child ??= this.#start());
    const id = this.#next;
    this.#next += 1;
    return new Promise((resolve) => {
      const end = (result: Part | Unanswered, isOver: boolean) => {
        patience.end();
        signal?.removeEventListener('abort', onAbort);
        this.#receive = null;
        this.#onEnd = null;
        if (isOver) this.stop();
        resolve(result);
      };
      const patience = new ProgramPatience(child.pid, patienceMs, () =>
        end({ part: 'no-answer', seconds: patienceMs / 1000 }, true),
      );
      const onAbort = () => end({ part: 'aborted' }, true);
      signal?.addEventListener('abort', onAbort, { once: true });
      this.#receive = (part) => {
        if (part.id !== id) return;
        if (onTheWay.includes(part.part)) {
          patience.again();
          onPart?.(part);
        } else end(part, false);
      };
      this.#onEnd = () => end({ part: 'died', detail: { code: 'reader-ended' } }, true);
      child.stdin?.write(`${JSON.stringify({ ...question, id })}\n`);
    });
  }

  stop(): void {
    if (this.#child) killGroup(this.#child);
    this.#child = null;
  }

  #start(): ChildProcess {
    const bay = bayInUse();
    const child = spawnFenced(
      process.execPath,
      ['--max-old-space-size=600', ...ownProcess('reader', import.meta.url)],
      {
        dataInBytes: memoryInBytes,
        env: { LEGAME_FENCE: fenceText(), ...(bay === null ? {} : { LEGAME_BAY: bay }) },
        cwd: import.meta.dirname,
      },
    );
    const ended = () => {
      if (this.#child !== child) return;
      this.#child = null;
      this.#onEnd?.();
    };
    child.on('error', ended);
    child.on('exit', ended);
    child.stdin?.on('error', () => undefined);
    createInterface({ input: child.stdout!, crlfDelay: Infinity }).on('line', (line) => {
      if (this.#child === child) this.#receive?.(partSchema.parse(JSON.parse(line)));
    });
    return child;
  }
}
