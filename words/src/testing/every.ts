import { expect } from '@jest/globals';

/** One of each code; the compiler asks for those that come to be. */
export type Each<T extends { readonly code: string }> = Readonly<Record<T['code'], Omit<T, 'code'>>>;
export const coded = <T extends { readonly code: string }>(each: Each<T>): T[] =>
  Object.entries(each).map(([code, fields]) => ({ ...(fields as object), code }) as unknown as T);

export function isSaid(words: string): void {
  expect(words.trim()).not.toBe('');
  expect(words).not.toMatch(/undefined|NaN|\[object|null| {2}/);
  // One of a thing is not many, and many are not one.
  expect(words).not.toMatch(
    /(?<![\d.,\u202f])1 \w+s (?:lie|are|have|differ|agree)\b|\b1 (?:frames|files|clips|rows|cells|channels|candidates)\b/,
  );
}
export function areApart(sentences: readonly string[]): void {
  const twice = sentences.filter((s, i) => sentences.indexOf(s) !== i);
  expect(twice).toEqual([]);
}
