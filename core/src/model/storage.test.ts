import { describe, expect, test } from '@jest/globals';
import { learnedName } from '../paths/learned.ts';
import { bytesByUse, roomShares } from '../report/room.ts';
import { inOrderOfSuspicion } from '../report/suspicion.ts';
import { buildFacts, buildFile } from '../testing/build.ts';
import { rate } from '../time/rate.ts';
import { acceptsAll, refusalOf } from './acceptance.ts';
import { splitRecordings } from './recordings.ts';

describe('recordings of several files', () => {
  const part = (name: string, start: number, length: number, more = {}, size = 1000) =>
    buildFile(`CARD/clips/${name}`, { start, length, ...more }, { sizeInBytes: size });
  const names = (files: Parameters<typeof splitRecordings>[0]) =>
    splitRecordings(files).map((r) => [r.parts.map((p) => p.name), r.range]);

  test('equal parts whose timecode goes on are one recording, whatever the order they are listed in', () => {
    const files = [part('A_03.mov', 300, 40), part('A_01.mov', 100, 100), part('A_02.mov', 200, 100)];
    expect(names(files)).toEqual([[['A_01.mov', 'A_02.mov', 'A_03.mov'], { start: 100, end: 340 }]]);
  });

  test('takes of a recorder that pauses its timecode are not: they are not equally long', () => {
    expect(names([part('A_01.mov', 100, 70), part('A_02.mov', 170, 90), part('A_03.mov', 260, 40)])).toEqual([]);
  });

  test('two parts are one where the first fills its file system, or where they are called parts', () => {
    expect(names([part('A01.mov', 0, 500, {}, 2 ** 32 - 70_000), part('A02.mov', 500, 80)])).toHaveLength(1);
    expect(names([part('kiln_part1.mov', 0, 500), part('kiln_part2.mov', 500, 80)])).toHaveLength(1);
    expect(names([part('A01.mov', 0, 500), part('A02.mov', 500, 80)])).toEqual([]);
  });

  test.each([
    ['a gap', { start: 201 }],
    ['another reel', { reel: 'B001' }],
    ['another rate', { rate: rate(30) }],
    ['another codec', { codec: 'hevc' }],
  ])('%s parts them', (_, more) => {
    expect(names([part('A_p1.mov', 100, 100), part('A_p2.mov', 200, 100, more)])).toEqual([]);
  });

  test('without timecode nothing says so', () => {
    const none = { timecodeSource: 'none' as const };
    expect(names([part('A_p1.mov', 0, 100, none), part('A_p2.mov', 100, 100, none)])).toEqual([]);
  });
});

describe('names that are learned from links', () => {
  test.each([
    ['file:///E:/Saltglass/day3/camB/x.mxf', 'Saltglass/day3/camB', 'E:'],
    ['/Volumes/KILN/day1/x.mov', 'day1', 'KILN'],
    ['\\\\KILNHOUSE\\BAY\\sound\\SND01\\x.wav', 'sound/SND01', 'BAY'],
    ['/srv/media/KILN/Day1/x.mov', 'day1', 'srv/media/KILN'],
    // The folders part before the root: the file moved inside its place, or lies in another.
    ['/Volumes/KILN/day2/cardA/x.mov', 'rushes/day2/card_A', null],
    // Only the name agrees: that says nothing of the place.
    ['/Volumes/KILN/x.mov', '', null],
    ['day1/x.mov', 'day1', null],
  ])('%s in %s: %s', (remembered, folder, name) => {
    expect(learnedName(remembered, folder)).toBe(name);
  });
});

describe('what a project accepts', () => {
  const only = (more: Partial<typeof acceptsAll>) => ({ ...acceptsAll, ...more });
  test('everything, unless something is chosen', () => {
    expect(refusalOf(buildFacts(), acceptsAll)).toBeNull();
  });
  test.each([
    ['container', only({ containers: ['mxf'] }), 'mov'],
    ['codec', only({ codecs: ['prores', 'dnxhd'] }), 'h264'],
    ['bit-depth', only({ largestBitDepth: 8 }), '10-bit'],
    ['chroma', only({ chroma: ['4:2:0'] }), '4:2:2'],
    ['raster', only({ largestRaster: { width: 1280, height: 540 } }), '1280 × 720'],
    ['rate', only({ rates: [rate(24000, 1001)] }), '25'],
  ])('another %s is refused, with what it is', (what, profile, found) => {
    expect(refusalOf(buildFacts({ bitDepth: 10, chroma: '4:2:2' }), profile)).toMatchObject({ what, found });
  });
  test('what is not known is not held against a file; sound is always taken', () => {
    expect(
      refusalOf(buildFacts({ chroma: null, bitDepth: null }), only({ chroma: ['4:2:2'], largestBitDepth: 8 })),
    ).toBeNull();
    expect(
      refusalOf(buildFacts({ kind: 'sound', bitDepth: 24 }), only({ codecs: ['h264'], largestBitDepth: 16 })),
    ).toBeNull();
  });
});

describe('the order of suspicion', () => {
  test('failed before, then changed last, then largest, then the rest', () => {
    const file = (id: string, modifiedMs: number, sizeInBytes: number, failedBefore = false) => ({
      id,
      modifiedMs,
      sizeInBytes,
      failedBefore,
    });
    const ordered = inOrderOfSuspicion([
      file('old', 1, 10),
      file('old and large', 2, 900),
      file('older', 0, 20),
      file('newest', 9, 5),
      file('broken', 3, 1, true),
    ]);
    expect(ordered.map(({ file: { id }, suspicion }) => [id, suspicion])).toEqual([
      ['broken', 'unreadable-before'],
      ['newest', 'changed-lately'],
      ['old and large', 'large'],
      ['old', 'used'],
      ['older', 'used'],
    ]);
  });
});

describe('what takes up room', () => {
  const files = [
    { folder: '', name: 'a.mov', sizeInBytes: 5, use: 'used' as const },
    { folder: 'day1', name: 'b.mov', sizeInBytes: 10, use: 'used' as const },
    { folder: 'day1/cardA', name: 'c.mov', sizeInBytes: 20, use: 'unused' as const },
    { folder: 'day10', name: 'd.mov', sizeInBytes: 1, use: 'unused' as const },
  ];
  test('each folder with all it holds, files by themselves, largest first', () => {
    expect(
      roomShares(files, '').map(({ name, folder, files: n, sizeInBytes, byUse }) => [
        name,
        folder,
        n,
        sizeInBytes,
        byUse,
      ]),
    ).toEqual([
      ['day1', 'day1', 2, 30, { used: 10, unused: 20 }],
      ['a.mov', null, 1, 5, { used: 5 }],
      ['day10', 'day10', 1, 1, { unused: 1 }],
    ]);
    expect(roomShares(files, 'day1').map((s) => s.name)).toEqual(['cardA', 'b.mov']);
    expect(bytesByUse(files)).toEqual({ used: 15, unused: 21 });
  });
});
