import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { setTimeout as aWhile } from 'node:timers/promises';
import { Rest } from './rest.ts';

let usedInBytes = 0;
const collect = jest.fn(() => (usedInBytes = 220e6));
beforeEach(() => {
  jest.useFakeTimers();
  collect.mockClear();
  usedInBytes = 0;
});
afterEach(() => void jest.useRealTimers());
const rest = () => new Rest(collect, () => usedInBytes);

test('what nobody needs is collected once nothing was to be done for a while, and not between two jobs', () => {
  const resting = rest();
  resting.begin();
  usedInBytes = 900e6;
  jest.advanceTimersByTime(2000);
  resting.end();
  jest.advanceTimersByTime(60_000);
  expect(collect).not.toHaveBeenCalled();
  resting.begin();
  jest.advanceTimersByTime(60_000);
  expect(collect).toHaveBeenCalledTimes(2);
});

test('where little has come since the last time, nobody is held up for it', () => {
  const resting = rest();
  usedInBytes = 900e6;
  resting.begin();
  jest.advanceTimersByTime(60_000);
  usedInBytes += 50e6;
  resting.begin();
  jest.advanceTimersByTime(60_000);
  expect(collect).toHaveBeenCalledTimes(2);
  usedInBytes += 60e6;
  resting.begin();
  jest.advanceTimersByTime(60_000);
  expect(collect).toHaveBeenCalledTimes(4);
});

test('the engine can be asked for it', async () => {
  const held = weakly();
  await aWhile(1); // what a turn has looked at is kept to its end
  new Rest(undefined, () => 900e6).begin();
  jest.advanceTimersByTime(60_000);
  expect(held.deref()).toBeUndefined();
});

/** Held by nothing else: in a function of its own, whose frame is gone. */
const weakly = () => new WeakRef(Array.from({ length: 1000 }, (_, i) => ({ i })));
