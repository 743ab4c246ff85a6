import { expect, test } from '@jest/globals';
import type { Steps } from '@legame/core/match';
import { inSlices, mapInSlices } from './inSlices.ts';

/** Keeps the processor for a moment. */
function work(ms: number): void {
  const until = performance.now() + ms;
  while (performance.now() < until);
}
/** How often somebody else had their turn before this was done. */
async function turnsDuring(run: () => Promise<unknown>): Promise<number> {
  let turns = 0;
  let isOver = false;
  const next = () => {
    turns += 1;
    if (!isOver) setImmediate(next);
  };
  setImmediate(next);
  await run();
  isOver = true;
  return turns;
}

test('a long computation gives way to others, and comes to what it would have come to at once', async () => {
  function* steps(): Steps<number> {
    let sum = 0;
    for (let i = 0; i < 8; i += 1) {
      work(30);
      sum += i;
      yield;
    }
    return sum;
  }
  expect(await turnsDuring(async () => expect(await inSlices(steps())).toBe(28))).toBeGreaterThanOrEqual(5);
  const items = Array.from({ length: 1000 }, (_, i) => i);
  const make = (item: number, index: number) => {
    if (item % 100 === 0) work(30);
    return item * 2 - index;
  };
  const turns = await turnsDuring(async () => expect(await mapInSlices(items, make)).toEqual(items));
  expect(turns).toBeGreaterThanOrEqual(4);
  expect(await mapInSlices([], make)).toEqual([]);
});

test('what fails in a slice fails the whole', async () => {
  // eslint-disable-next-line require-yield
  function* failing(): Steps<never> {
    throw new Error('no rate');
  }
  await expect(inSlices(failing())).rejects.toThrow('no rate');
  await expect(
    mapInSlices([1], () => {
      throw new Error('no clip');
    }),
  ).rejects.toThrow('no clip');
});
