import { stat } from 'node:fs/promises';
import { setTimeout as after } from 'node:timers/promises';

/** A share that does not answer in this time counts as away; waiting longer would hold everybody up. */
const patienceMs = 2000;

/** Whether a place's folder is there and answers. */
export async function isThere(path: string): Promise<boolean> {
  const found = stat(path).then(
    (s) => s.isDirectory(),
    () => false,
  );
  return Promise.race([found, after(patienceMs, false, { ref: false })]);
}
