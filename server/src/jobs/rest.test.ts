import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
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
  expect(collect).toHaveBeenCalledTimes(1);
});

test('where little has come since the last time, nobody is held up for it', () => {
  const resting = rest();
  usedInBytes = 900e6;
  resting.begin();
  jest.advanceTimersByTime(60_000);
  usedInBytes += 50e6;
  resting.begin();
  jest.advanceTimersByTime(60_000);
  expect(collect).toHaveBeenCalledTimes(1);
  usedInBytes += 60e6;
  resting.begin();
  jest.advanceTimersByTime(60_000);
  expect(collect).toHaveBeenCalledTimes(2);
});

test('the engine can be asked for it', () => {
  const before = process.memoryUsage().heapUsed;
  const much = new Set(Array.from({ length: 3e6 }, (_, i) => ({ i })));
  expect(process.memoryUsage().heapUsed - before).toBeGreaterThan(100e6);
  much.clear();
  new Rest().begin();
  jest.advanceTimersByTime(60_000);
  expect(process.memoryUsage().heapUsed - before).toBeLessThan(100e6);
});
