import { expect, test } from '@jest/globals';
import { turns } from './turns.ts';

test('what is given is carried out one after the other, and goes on after what failed', async () => {
  const done: string[] = [];
  const inTurn = turns();
  const take = (what: string, ms: number) => async () => {
    await new Promise((resolve) => setTimeout(resolve, ms));
    done.push(what);
    if (what === 'second') throw new Error('refused');
    return what;
  };
  const all = [inTurn(take('first', 30)), inTurn(take('second', 10)), inTurn(take('third', 0))];
  const ends = await Promise.allSettled(all);
  expect(done).toEqual(['first', 'second', 'third']);
  expect(ends.map((end) => (end.status === 'fulfilled' ? end.value : 'refused'))).toEqual([
    'first',
    'refused',
    'third',
  ]);
});
