import { expect, test } from '@jest/globals';
import { framesToCompare, likenessOf, togetherAlike } from './pictures.ts';

const ramp = (change: (v: number, i: number) => number) =>
  Uint8Array.from({ length: 64 }, (_, i) => Math.max(0, Math.min(255, change((i * 37) % 200, i))));
const plain = ramp((v) => v);

test.each([
  ['itself', plain, 'same'],
  ['itself, encoded', ramp((v, i) => v + (i % 3) - 1), 'same'],
  ['lighter and softer', ramp((v) => 60 + v * 0.6), 'regraded'],
  ['upside down', Uint8Array.from(plain).reverse(), 'other'],
  ['black', new Uint8Array(64), 'other'],
] as const)('%s', (_, other, expected) => {
  expect(likenessOf(plain, other)).toBe(expected);
});

test('frames are taken where both have some, and one that is another picture tells', () => {
  expect(framesToCompare({ start: 100, end: 200 }, { start: 150, end: 400 })).toEqual([154, 174, 194]);
  expect(framesToCompare({ start: 0, end: 10 }, { start: 10, end: 20 })).toEqual([]);
  expect(framesToCompare({ start: 5, end: 6 }, { start: 0, end: 9 })).toEqual([5]);
  expect(togetherAlike(['same', 'regraded'])).toBe('regraded');
  expect(togetherAlike(['same', 'other'])).toBe('other');
  expect(togetherAlike([])).toBeNull();
});
