import { setImmediate as othersTurn } from 'node:timers/promises';
import type { Steps } from '@legame/core/match';

/** For so long one computation may keep everybody else waiting. */
const sliceMs = 25;
/** So many items are looked at between two looks at the clock. */
const itemsAtOnce = 128;

/** When called, gives way to others if it was long since it last did. */
function giveWay(): () => Promise<void> | void {
  let begun = performance.now();
  return () => {
    if (performance.now() - begun < sliceMs) return undefined;
    return othersTurn().then(() => {
      begun = performance.now();
    });
  };
}

/** Carries a long computation out in slices: what others ask for meanwhile is answered in between. */
export async function inSlices<T>(steps: Steps<T>): Promise<T> {
  const giving = giveWay();
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    await giving();
  }
}

/** What is made of each item, in slices. */
export async function mapInSlices<T, R>(items: readonly T[], make: (item: T, index: number) => R): Promise<R[]> {
  const giving = giveWay();
  const made: R[] = [];
  for (let i = 0; i < items.length; i += 1) {
    made.push(make(items[i]!, i));
    if (i % itemsAtOnce === itemsAtOnce - 1) await giving();
  }
  return made;
}
