import { describe, expect, test } from '@jest/globals';
import { nameKey } from './names.ts';
import { renamingOf } from './renaming.ts';
import { allBesideIn, differInLetter, isOfSibling, leadBeside, numberChanged } from './siblings.ts';

const isSibling = (before: string, after: string, isSound = false): boolean => {
  const renaming = renamingOf(before, after);
  return renaming !== null && isOfSibling(renaming, { isSound });
};

describe('names of what was recorded at once', () => {
  test.each([
    ['A001_L.mov', 'A001_R.mov'],
    ['T01_boom.wav', 'T01_lav.wav'],
    ['door cam 1 take.mov', 'door cam 2 take.mov'],
    ['mix-left-04.wav', 'mix-right-04.wav'],
  ])('%s and %s differ in which of them it is', (before, after) => {
    const renaming = renamingOf(before, after)!;
    expect(isOfSibling(renaming, { isSound: false }) || numberChanged(before, renaming) !== null).toBe(true);
  });

  test.each([
    ['door_001.mov', 'furnace_001.mov'],
    ['door_001.mov', 'SG_door_001.mov'],
    ['C0001.mov', 'C0001_proxy.mov'],
    ['C0001.mov', 'C0001.mxf'],
  ])('%s and %s may be one recording', (before, after) => expect(isSibling(before, after, true)).toBe(false));

  test('of sound, what was added may be the channel; of a picture it is not', () => {
    expect([isSibling('T01.wav', 'T01_2.wav', true), isSibling('T01.mov', 'T01_2.mov')]).toEqual([true, false]);
  });

  test('the number that a renaming changed, and a letter before the same digits', () => {
    expect(numberChanged('cam1_0007.mov', renamingOf('cam1_0007.mov', 'cam2_0007.mov')!)).toBe('1');
    expect(numberChanged('C0007.mov', renamingOf('C0007.mov', 'C0008.mov')!)).toBe('0007');
    expect(numberChanged('door.mov', renamingOf('door.mov', 'SG_door.mov')!)).toBeNull();
    expect([differInLetter('a001', 'b001'), differInLetter('a001', 'b002'), differInLetter('take', 'bake')]).toEqual([
      true,
      false,
      false,
    ]);
  });
});

describe('folders of what stood side by side', () => {
  const lead = (edit: string, file: string) =>
    leadBeside(...([edit, file].map((path) => allBesideIn(path.split('/').map(nameKey))) as [string[], string[]]));

  test.each([
    ['OLD/day 1/CAM A', 'KILN/day 1/CAM B'],
    ['OLD/A-Cam/day 1', 'KILN/b_cam/all'],
    ['OLD/ISO 1', 'KILN/iso 02/clips'],
    ['OLD/left', 'KILN/right eye'],
    ['OLD/sound/ch 1', 'KILN/sound/ch 2'],
    ['OLD/A', 'KILN/B'],
    // A second folder of one name.
    ['OLD/CAM A', 'KILN/CAM B 2'],
    ['OLD/CAM A (2)', 'KILN/CAM B copy'],
  ])('%s and %s are of two', (edit, file) => expect([lead(edit, file), lead(file, edit)]).toEqual([true, true]));

  test.each([
    ['OLD/CAM A', 'KILN/a cam'],
    ['OLD/camera 1', 'KILN/CAM 01'],
    ['OLD/CAM A', 'KILN/CAM A 2'],
    ['OLD/cam 1', 'KILN/cam 1 (2)'],
    ['OLD/CAM A', 'KILN/day 1'],
    // Two ways to count, or two kinds, tell nothing of one another.
    ['OLD/CAM A', 'KILN/camera 2'],
    ['OLD/CAM A', 'KILN/left'],
    // Cards, days and drives are recorded one after another.
    ['OLD/card 1', 'KILN/card 2'],
    ['OLD/1', 'KILN/2'],
    ['OLD/day 1', 'KILN/day 2'],
    // Both stand on the way to it.
    ['OLD/CAM A', 'KILN/CAM B/CAM A'],
  ])('%s and %s may be of one', (edit, file) => expect([lead(edit, file), lead(file, edit)]).toEqual([false, false]));
});
