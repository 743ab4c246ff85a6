import { expect, test } from '@jest/globals';
import { isRemovable } from './removable.ts';

test('what systems mount when it is plugged in counts as removable by where it lies; what is not there does not', async () => {
  expect(await isRemovable('/media/gaffer/CARD_07/DCIM')).toBe(true);
  expect(await isRemovable('/run/media/gaffer/STICK')).toBe(true);
  expect(await isRemovable('/Volumes/SHUTTLE')).toBe(true);
  expect(await isRemovable('/mediathek/film')).toBe(false);
  // No device holds it.
  expect(await isRemovable('/proc/self')).toBe(false);
  expect(await isRemovable('/nowhere/at/all')).toBe(await isRemovable('/'));
});
