import { createInterface } from 'node:readline';
import { z } from 'zod';
import { type ChildProcess, spawnFenced } from '../media/fenced.ts';
import { ownProcess } from '../ownProcess.ts';
import { bayInUse } from './conditions.ts';
import { fenceInUse, folderIdentitySchema } from './held.ts';

/** `there: null`: no answer yet, and nothing is known by that. */
const presenceSchema = z.discriminatedUnion('there', [
  z.object({
    there: z.literal(true),
    slow: z.boolean(),
    readOnly: z.boolean(),
    root: folderIdentitySchema,
    isEmpty: z.boolean(),
  }),
  z.object({ there: z.literal(false), because: z.enum(['not-plugged-in', 'no-answer']) }),
  z.object({ there: z.literal(null) }),
]);
export type Presence = z.infer<typeof presenceSchema>;

export const lookRequestSchema = z.object({
  id: z.int(),
  path: z.string(),
  bay: z.string().nullable(),
  fence: z.array(z.string()),
});
const answerSchema = z.object({ id: z.int(), presence: presenceSchema });

type Waiting = (presence: Presence) => void;

/** The process that looks (`looker.ts`), started when first asked, and anew should it end. It ends with this one. */
class Looker {
  #child: ChildProcess | null = null;
  #next = 1;
  readonly #waiting = new Map<number, Waiting>();

  ask(path: string): Promise<Presence> {
    const child = (this.#child ??= this.#start());
    const id = this.#next;
    this.#next += 1;
    return new Promise((resolve) => {
      this.#waiting.set(id, resolve);
      child.stdin?.write(`${JSON.stringify({ id, path, bay: bayInUse(), fence: fenceInUse() })}\n`);
    });
  }

  #start(): ChildProcess {
    const child = spawnFenced(process.execPath, ['--max-old-space-size=64', ...ownProcess('looker', import.meta.url)], {
      // Mostly the stacks of its threads: each stalled share takes one for as long as it stalls.
      dataInBytes: 1_200_000_000,
      env: { UV_THREADPOOL_SIZE: '64' },
      cwd: import.meta.dirname,
    });
    const ended = () => {
      if (this.#child !== child) return;
      this.#child = null;
      for (const answer of this.#waiting.values()) answer({ there: null });
      this.#waiting.clear();
    };
    child.on('error', ended);
    child.on('exit', ended);
    child.stdin?.on('error', () => undefined);
    createInterface({ input: child.stdout!, crlfDelay: Infinity }).on('line', (line) => {
      const { id, presence } = answerSchema.parse(JSON.parse(line));
      this.#waiting.get(id)?.(presence);
      this.#waiting.delete(id);
    });
    // Looking holds nobody up: this process may end while somebody looks, and the other ends with its input.
    child.unref();
    for (const stream of [child.stdin, child.stdout]) (stream as unknown as { unref?: () => void }).unref?.();
    return child;
  }
}

const looker = new Looker();

/** Whether a place's folder is there and answers, and how. */
export const lookAt = (path: string): Promise<Presence> => looker.ask(path);

/** Whether it is there, once that is known; a place that gives no answer is given up after a while. */
export async function isThere(path: string): Promise<boolean> {
  for (;;) {
    const { there } = await lookAt(path);
    if (there !== null) return there;
  }
}
