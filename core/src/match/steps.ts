/**
 * A long computation that can be left between two steps: whoever carries it out may see to something else meanwhile. What
 * it rests on must not change until it is done.
 */
export type Steps<T> = Generator<void, T>;

/** So many items are a step. */
const itemsPerStep = 256;

/** Carries a computation out without a pause. */
export function allAtOnce<T>(steps: Steps<T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** Goes through all items, with a step now and then. */
export function* stepping<T>(items: Iterable<T>, visit: (item: T) => void): Steps<void> {
  let met = 0;
  for (const item of items) {
    visit(item);
    met += 1;
    if (met % itemsPerStep === 0) yield;
  }
}
