import pLimit from 'p-limit';
import { documentSchema, wouldChangeSchema, type Problem, type WouldChange } from '@legame/core/contract';
import type { FormatId, Reading } from '@legame/core/formats';
import type { DocumentId, ProjectId } from '@legame/core/model';
import type { Context } from '../context.ts';
import { ownProcess } from '../ownProcess.ts';
import { forkFenced, killGroup, type ChildProcess } from '../media/fenced.ts';
import { UserProblem } from '../problems.ts';
import type { Incoming } from './bringIn.ts';

/** What a process that reads documents is asked to do. */
export type DocumentTask =
  | { readonly do: 'bring-in'; readonly projectId: ProjectId; readonly incoming: Incoming }
  | { readonly do: 'read-again'; readonly documentId: DocumentId; readonly reading: Reading }
  | { readonly do: 'compare'; readonly replaces: DocumentId; readonly incoming: Incoming }
  | { readonly do: 'title'; readonly incoming: Incoming }
  | { readonly do: 'open-project'; readonly name: string; readonly bytes: Uint8Array };
export type DocumentAnswer =
  /** The id of what was made, or what was asked for as JSON. */
  | { readonly ok: true; readonly said: string }
  | { readonly ok: false; readonly problem: Problem | null; readonly detail: string };

/** A process that has read something is kept so long for the next; then a fresh one stands ready in its place. */
const keptMs = 20_000;
const memoryInBytes = 3_000_000_000;
const heapInMegabytes = 1500;
/** Two at a time leave the rest of the machine usable. */
const turn = pLimit(2);
const idle = new Set<ChildProcess>();

/** Reads a document and keeps it (`bringIn.ts`), in a process of its own that can be ended. */
export const bringInApart = async (context: Context, projectId: ProjectId, incoming: Incoming): Promise<DocumentId> =>
  (await ask(context, incoming.name, incoming.bytes.length, { do: 'bring-in', projectId, incoming })) as DocumentId;

/** What bringing a document in would change (`wouldChange.ts`), read in the same fence. */
export const compareApart = async (context: Context, replaces: DocumentId, incoming: Incoming): Promise<WouldChange> =>
  wouldChangeSchema.parse(
    JSON.parse(await ask(context, incoming.name, incoming.bytes.length, { do: 'compare', replaces, incoming })),
  );

/** What a document says it is. */
export const titleApart = async (context: Context, incoming: Incoming): Promise<{ format: FormatId; title: string }> =>
  titleSchema.parse(JSON.parse(await ask(context, incoming.name, incoming.bytes.length, { do: 'title', incoming })));
const titleSchema = documentSchema.pick({ format: true, title: true });

export async function readAgainApart(
  context: Context,
  { id, name }: { readonly id: DocumentId; readonly name: string },
  reading: Reading,
): Promise<void> {
  await ask(context, name, 0, { do: 'read-again', documentId: id, reading });
}

export const openProjectApart = async (context: Context, bytes: Uint8Array, name: string): Promise<ProjectId> =>
  (await ask(context, name, bytes.length, { do: 'open-project', name, bytes })) as ProjectId;

/**
 * Documents come from strangers, and can be made so that reading one takes all memory or no end of time. So each is read
 * by a process that does nothing else, within limits: what goes over them is refused, and nobody else waits.
 */
async function ask({ config }: Context, name: string, size: number, task: DocumentTask): Promise<string> {
  const { documentLimitInBytes: limitInBytes, documentSeconds: seconds } = config;
  if (size > limitInBytes)
    throw new UserProblem({ code: 'document-not-read', name, fault: { code: 'document-too-large', limitInBytes } });
  const answer = await turn(async () => {
    const child = take(config.databaseUrl ?? '');
    const said = await oneAnswer(child, task, seconds * 1000);
    if (typeof said === 'string') end(child);
    else keep(child);
    return said;
  });
  if (typeof answer === 'string')
    throw new UserProblem({
      code: 'document-overwhelms',
      name,
      by: answer === 'too-slow' ? 'time' : 'memory',
      seconds,
    });
  if (answer.ok) return answer.said;
  throw answer.problem ? new UserProblem(answer.problem) : new Error(answer.detail);
}

/** The database that a process which stands ready reads into; null where none is to stand ready. */
let readyFor: string | null = null;

/** From now on a process stands ready, for starting one takes longer than reading most documents. */
export function standReady({ config }: Pick<Context, 'config'>): void {
  readyFor = config.databaseUrl ?? null;
  startReady();
}

function startReady(): void {
  if (readyFor === null || idle.size > 0) return;
  const child = start(readyFor);
  idle.add(child);
  release(child);
}

function take(databaseUrl: string): ChildProcess {
  const [kept] = idle;
  if (!kept) return start(databaseUrl);
  idle.delete(kept);
  clearTimeout(drops.get(kept));
  return kept;
}

function start(databaseUrl: string): ChildProcess {
  const flags = [`--max-old-space-size=${heapInMegabytes}`];
  const child = forkFenced([...flags, ...ownProcess('documentProcess', import.meta.url)], {
    dataInBytes: memoryInBytes,
    env: { LEGAME_DATABASE: databaseUrl },
    cwd: import.meta.dirname,
  });
  return child.once('exit', () => idle.delete(child));
}

function end(child: ChildProcess): void {
  killGroup(child);
  startReady();
}

/** It holds nobody up, and ends by itself when this process does. */
function release(child: ChildProcess): void {
  child.unref();
  child.channel?.unref();
}

/** Ready for the next. */
function keep(child: ChildProcess): void {
  idle.add(child);
  release(child);
  drops.set(child, setTimeout(() => idle.delete(child) && end(child), keptMs).unref());
}
const drops = new WeakMap<ChildProcess, NodeJS.Timeout>();

/** Ends the processes that are kept for the next document. */
export function endDocumentProcesses(): void {
  readyFor = null;
  for (const child of idle) killGroup(child);
  idle.clear();
}

function oneAnswer(
  child: ChildProcess,
  task: DocumentTask,
  patienceMs: number,
): Promise<DocumentAnswer | 'too-slow' | 'died'> {
  return new Promise((resolve) => {
    const over = (answer: DocumentAnswer | 'too-slow' | 'died') => {
      clearTimeout(timer);
      child.off('message', onAnswer).off('exit', onEnd).off('error', onEnd);
      resolve(answer);
    };
    child.ref();
    child.channel?.ref();
    const timer = setTimeout(() => over('too-slow'), patienceMs);
    const onAnswer = (answer: unknown) => over(answer as DocumentAnswer);
    const onEnd = () => over('died');
    child.once('message', onAnswer).once('exit', onEnd).once('error', onEnd);
    child.send(task, (error) => error && onEnd());
  });
}
