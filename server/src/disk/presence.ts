import { constants } from 'node:fs';
import { access, readdir, stat } from 'node:fs/promises';
import { setTimeout as after } from 'node:timers/promises';
import { conditionOf, endureAsync } from './conditions.ts';

/** A share that does not answer in this time counts as away; waiting longer would hold everybody up. */
const patienceMs = 2000;
/** A healthy drive answers in a fraction of this. */
const slowMs = 200;

export type Presence =
  | { readonly there: true; readonly slow: boolean; readonly readOnly: boolean }
  | { readonly there: false; readonly because: 'not-plugged-in' | 'no-answer' };

/** Looks that have not come back yet. A stalled share gets no second one, or it would use up all threads. */
const pending = new Map<string, Promise<Presence>>();

/** Whether a place's folder is there and answers, and how. */
export async function lookAt(path: string): Promise<Presence> {
  const noAnswer: Presence = { there: false, because: 'no-answer' };
  const known = pending.get(path);
  if (known) return Promise.race([known, after(patienceMs / 4, noAnswer, { ref: false })]);
  const looking = look(path).finally(() => pending.delete(path));
  pending.set(path, looking);
  return Promise.race([looking, after(patienceMs, noAnswer, { ref: false })]);
}

async function look(path: string): Promise<Presence> {
  const begun = performance.now();
  const found = await stat(path).catch(() => null);
  if (!found?.isDirectory()) return { there: false, because: 'not-plugged-in' };
  await endureAsync(path, { patienceMs: Infinity });
  const listed = await readdir(path).then(
    () => true,
    () => false,
  );
  if (!listed) return { there: false, because: 'not-plugged-in' };
  const slow = performance.now() - begun > slowMs;
  const readOnly = conditionOf(path).readOnly || !(await isWritable(path));
  return { there: true, slow, readOnly };
}

const isWritable = (path: string): Promise<boolean> =>
  access(path, constants.W_OK).then(
    () => true,
    () => false,
  );

export const isThere = async (path: string): Promise<boolean> => (await lookAt(path)).there;
