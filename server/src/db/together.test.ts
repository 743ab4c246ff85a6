import { expect, test } from '@jest/globals';
import { allOver, together } from './together.ts';

/** What is run, each run ending when it is told to. */
function runs() {
  const begun: ((said: string | Error) => void)[] = [];
  const run = () =>
    new Promise<string>((resolve, reject) =>
      begun.push((said) => (said instanceof Error ? reject(said) : resolve(said))),
    );
  return { begun, run };
}
const soon = () => new Promise((resolve) => setImmediate(resolve));

test('who asks while it runs shares the one after, which begins when that one ended', async () => {
  const db = {};
  const { begun, run } = runs();
  const first = together(db, 'rows', run);
  const later = [together(db, 'rows', run), together(db, 'rows', run)];
  await soon();
  expect(begun).toHaveLength(1);
  begun[0]!('one');
  expect(await first).toBe('one');
  await soon();
  expect(begun).toHaveLength(2);
  // The second runs now: who asks from here on is not in it.
  const last = together(db, 'rows', run);
  begun[1]!('two');
  expect(await Promise.all(later)).toEqual(['two', 'two']);
  await soon();
  begun[2]!('three');
  expect(await last).toBe('three');
  // Nothing runs any more: it begins at once.
  void together(db, 'rows', run);
  expect(begun).toHaveLength(4);
});

test('one that fails fails for those who shared it, and the next begins all the same', async () => {
  const db = {};
  const { begun, run } = runs();
  const first = together(db, 'rows', run);
  const second = together(db, 'rows', run);
  begun[0]!(new Error('The database is away.'));
  await expect(first).rejects.toThrow('away');
  await soon();
  begun[1]!('there');
  expect(await second).toBe('there');
});

test('other keys and other databases do not wait', () => {
  const [one, other] = [{}, {}];
  const { begun, run } = runs();
  void together(one, 'rows', run);
  void together(one, 'stamp', run);
  void together(other, 'rows', run);
  expect(begun).toHaveLength(3);
});

test('all is over when what runs and what waits behind it has ended, in whatever way', async () => {
  const db = {};
  const { begun, run } = runs();
  const asked = [together(db, 'rows', run), together(db, 'rows', run), together(db, 'places', run)];
  const ended = Promise.allSettled(asked);
  let isOver = false;
  const over = allOver(db).then(() => (isOver = true));
  await soon();
  begun[0]!('one');
  begun[1]!(new Error('no answer'));
  await soon();
  expect([begun.length, isOver]).toEqual([3, false]);
  begun[2]!('two');
  await over;
  await ended;
  await allOver({});
});
