import { setFlagsFromString } from 'node:v8';
import { runInThisContext } from 'node:vm';
import { expect, test } from '@jest/globals';
import { generateProduction } from '../testing/index.ts';
import { match, type MatchResult } from './match.ts';

/** How many shapes the engine gives to objects: of one, all have the same fields in the same order and share their layout. */
function countShapes(objects: readonly object[]): number {
  setFlagsFromString('--allow-natives-syntax');
  const areAlike = runInThisContext('(a, b) => %HaveSameMap(a, b)') as (a: object, b: object) => boolean;
  const shapes: object[] = [];
  for (const object of objects) if (!shapes.some((shape) => areAlike(shape, object))) shapes.push(object);
  return shapes.length;
}

/** Everything that a result holds, as far as it is held by this clip alone. */
const partsOf = ({ clip, candidates, decision, why }: MatchResult): object[] =>
  [clip, clip.path, clip.pathKeys, ...clip.used, decision, why, ...candidates].filter((part) => part !== null);

test('one shape is told from another', () => {
  expect(countShapes([{ a: 1 }, { a: 2 }, { b: 1 }])).toBe(2);
  // What this is about: objects that are spread, and added to.
  const added = Array.from({ length: 200 }, (_, i) => ({ ...{ text: 'a' }, i }));
  expect(countShapes(added)).toBeGreaterThan(100);
});

test('what is matched has few shapes: one of its own would cost each clip as much again', () => {
  const results = match(generateProduction(400, 2000));
  expect(results.filter(({ clip }) => clip.path).length).toBeGreaterThan(100);
  expect(countShapes(results)).toBe(1);
  expect(countShapes(results.flatMap(partsOf))).toBeLessThan(30);
});
