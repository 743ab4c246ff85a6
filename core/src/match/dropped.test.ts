import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Facts } from '../model/media.ts';
import { buildFacts, buildFile } from '../testing/build.ts';
import { sameAmong, type DroppedFile } from './dropped.ts';

const written = Date.UTC(2026, 2, 4, 10);
const inPlace = (path: string, facts: Partial<Facts> | null = {}, more = {}) =>
  buildFile(path, facts, { sizeInBytes: 5000, modifiedMs: written, ...more });
const dropped = (more: Partial<DroppedFile> = {}): DroppedFile => ({
  name: 'C0001.mov',
  folders: [],
  sizeInBytes: 5000,
  modifiedMs: written,
  facts: null,
  ...more,
});
const pathsOf = (file: DroppedFile, among: ReturnType<typeof inPlace>[]) => sameAmong(file, among).map((f) => f.id);

describe('which file of a place a dropped one is', () => {
  test('of its name and size, written when it was; case and spelling of accents are no difference, seconds are', () => {
    const here = inPlace('KILN/a/c0001.MOV');
    expect(pathsOf(dropped(), [here])).toEqual(['KILN/a/c0001.MOV']);
    expect(pathsOf(dropped({ modifiedMs: written + 1999 }), [here])).toHaveLength(1);
    expect(pathsOf(dropped({ modifiedMs: written + 3000 }), [here])).toEqual([]);
    expect(pathsOf(dropped({ sizeInBytes: 5001 }), [here])).toEqual([]);
    expect(pathsOf(dropped({ name: 'C0002.mov' }), [here])).toEqual([]);
    expect(pathsOf(dropped({ name: 'u\u0308.mov' }), [inPlace('KILN/a/\u00fc.mov')])).toHaveLength(1);
  });

  test('written at another time, it is the same where timecode, length and reel are', () => {
    const facts = buildFacts({ start: 90_000, length: 200, reel: 'A001' });
    const copied = dropped({ modifiedMs: written + 9_000_000, facts });
    expect(pathsOf(copied, [inPlace('KILN/C0001.mov', facts)])).toHaveLength(1);
    for (const other of [{ start: 90_001 }, { length: 201 }, { reel: 'A002' }, { reel: null }])
      expect(pathsOf(copied, [inPlace('KILN/C0001.mov', { ...facts, ...other })])).toEqual([]);
    // Files that carry no timecode all begin alike: that says nothing.
    const none = { ...facts, timecodeSource: 'none' as const, start: 0 };
    expect(pathsOf({ ...copied, facts: none }, [inPlace('KILN/C0001.mov', none)])).toEqual([]);
  });

  test('of many of its name the one whose folders agree longest; where they agree alike, all of those', () => {
    const among = [
      inPlace('KILN/day1/cardA/C0001.mov'),
      inPlace('KILN/day2/cardA/C0001.mov'),
      inPlace('YARD/day2/cardA/C0001.mov'),
    ];
    expect(pathsOf(dropped({ folders: ['day2', 'CARDA'] }), among)).toEqual([
      'KILN/day2/cardA/C0001.mov',
      'YARD/day2/cardA/C0001.mov',
    ]);
    expect(pathsOf(dropped({ folders: ['day1', 'cardA'] }), among)).toEqual(['KILN/day1/cardA/C0001.mov']);
    expect(pathsOf(dropped(), among)).toHaveLength(3);
  });

  test('whatever is dropped, only files of its name and size are said to be it, and of those never none but one', () => {
    const name = fc.constantFrom('a.mov', 'A.mov', 'b.mov');
    const size = fc.constantFrom(1, 2);
    const at = fc.constantFrom(0, 1500, 1_000_000);
    const folders = fc.array(fc.constantFrom('x', 'y'), { maxLength: 3 });
    fc.assert(
      fc.property(
        fc.record({ name, sizeInBytes: size, modifiedMs: at, folders, facts: fc.constant(null) }),
        fc.array(fc.record({ name, size, at, folders }), { maxLength: 8 }),
        (file, others) => {
          const among = others.map((o, i) =>
            inPlace(`P${i}/${[...o.folders, o.name].join('/')}`, null, { sizeInBytes: o.size, modifiedMs: o.at }),
          );
          const same = sameAmong(file, among);
          const possible = among.filter(
            (f) =>
              f.name.toLowerCase() === file.name.toLowerCase() &&
              f.sizeInBytes === file.sizeInBytes &&
              Math.abs(f.modifiedMs - file.modifiedMs) <= 2000,
          );
          expect(same.length > 0).toBe(possible.length > 0);
          for (const one of same) expect(possible).toContain(one);
        },
      ),
    );
  });
});
