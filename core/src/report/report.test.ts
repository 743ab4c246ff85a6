import { describe, expect, test } from '@jest/globals';
import { edl } from '../formats/edl/index.ts';
import type { EditEvent, Timeline } from '../model/edit.ts';
import { buildEvent } from '../testing/build.ts';
import { readText } from '../testing/reading.ts';
import { rate } from '../time/rate.ts';
import { pullAsEdit, pullList, pullTable } from './pull.ts';
import { darkFrames } from './dark.ts';
import { usedMediaTable } from './usedMedia.ts';

const clip = (name: string, reel: string | null, used: [number, number][], more: object = {}) => ({
  name,
  reel,
  remembered: `/Volumes/K/${name}.mov`,
  rate: rate(25),
  counting: 'non-drop' as const,
  used: used.map(([start, end]) => ({ start, end })),
  available: null,
  ...more,
});

const handles = (frames: number) => ({ frames, rate: rate(25) });

describe('pull list', () => {
  test('ranges of one source are united when their handles meet; reels in the order people count in', () => {
    const rows = pullList(
      [
        clip('door', 'A010', [[500, 520]]),
        clip('bowl', 'A002', [
          [1000, 1050],
          [1070, 1090],
          [2000, 2010],
        ]),
        clip('room', null, [[10, 20]]),
      ],
      handles(12),
    );
    expect(rows.map((r) => [r.reel, r.file, r.range])).toEqual([
      ['A002', 'bowl.mov', { start: 988, end: 1102 }],
      ['A002', 'bowl.mov', { start: 1988, end: 2022 }],
      ['A010', 'door.mov', { start: 488, end: 532 }],
      [null, 'room.mov', { start: 0, end: 32 }],
    ]);
    expect(pullTable(rows)[0]).toEqual([
      'A002',
      'bowl.mov',
      'bowl',
      '00:00:39:13',
      '00:00:44:02',
      '00:00:04:14',
      '114',
      '25',
    ]);
  });

  test('one file under two spellings of its path is one source', () => {
    const rows = pullList(
      [
        clip('bowl', 'A001', [[100, 200]], { remembered: 'E:\\day1\\Bowl.MOV' }),
        clip('bowl again', 'A001', [[150, 250]], { remembered: 'file:///E:/day1/bowl.mov' }),
      ],
      handles(0),
    );
    expect(rows.map((r) => [r.names, r.range])).toEqual([[['bowl', 'bowl again'], { start: 100, end: 250 }]]);
  });

  test('files of one name and no reel, on two cards, are two to fetch; spelled in two ways, one of them is one', () => {
    const at = (remembered: string) => clip('C0001', null, [[100, 200]], { remembered });
    const rows = pullList(
      [at('/Volumes/K/CARD1/C0001.MP4'), at('/Volumes/K/CARD2/C0001.MP4'), at('E:\\card2\\C0001.MP4')],
      handles(0),
    );
    expect(rows.map((r) => r.remembered)).toEqual(['/Volumes/K/CARD1/C0001.MP4', '/Volumes/K/CARD2/C0001.MP4']);
  });

  test('two units that both have a reel A001: each stretch is looked for where its own clips lay', () => {
    const of = (unit: string, from: number) =>
      clip('C0001', 'A001', [[from, from + 50]], { remembered: `/Volumes/${unit}/A001/C0001.MP4` });
    const rows = pullList([of('MAIN', 1000), of('SECOND', 9000)], handles(0));
    expect(rows.map((r) => [r.remembered, r.range.start])).toEqual([
      ['/Volumes/MAIN/A001/C0001.MP4', 1000],
      ['/Volumes/SECOND/A001/C0001.MP4', 9000],
    ]);
  });

  test('handles end where the media ends', () => {
    const [row] = pullList([clip('bowl', 'A001', [[105, 190]], { available: { start: 100, end: 195 } })], handles(50));
    expect(row!.range).toEqual({ start: 100, end: 195 });
  });

  test('handles of sound last as long as the frames they are said in', () => {
    const talk = clip('talk', 'S001', [[480_000, 960_000]], { rate: rate(48_000) });
    expect(pullList([talk], handles(12))[0]!.range).toEqual({ start: 480_000 - 23_040, end: 960_000 + 23_040 });
    expect(pullList([talk], { frames: 1, rate: rate(30_000, 1001) })[0]!.range.start).toBe(480_000 - 1602);
  });

  test('as a list it is laid end to end; what counts at another rate is left out and counted', () => {
    const rows = pullList(
      [
        clip('bowl', 'A001', [[1000, 1050]]),
        clip('door', 'A002', [[2000, 2025]]),
        clip('film', 'F001', [[0, 24]], { rate: rate(24) }),
        clip('talk', 'S001', [[48_000, 96_000]], { rate: rate(48_000) }),
      ],
      handles(0),
    );
    const { edit, leftOut } = pullAsEdit(rows, 'PULL');
    expect(leftOut).toBe(1);
    expect(
      edl
        .write(edit)
        .split('\r\n')
        .filter((l) => /^\d/.test(l)),
    ).toEqual([
      '001  A001     V     C        00:00:40:00 00:00:42:00 01:00:00:00 01:00:02:00',
      '002  A002     V     C        00:01:20:00 00:01:21:00 01:00:02:00 01:00:03:00',
      '003  S001     V     C        00:00:01:00 00:00:02:00 01:00:03:00 01:00:04:00',
    ]);
  });
});

test('used media: what each clip wants, has, and how much of it is used', () => {
  const row = {
    ...clip('bowl', 'A001', [
      [90_000, 90_050],
      [90_100, 90_110],
    ]),
    status: 'missing',
    uses: 3,
    file: null,
    sizeInBytes: null,
  };
  expect(usedMediaTable([row])).toEqual([
    [
      'bowl',
      'missing',
      'A001',
      'bowl.mov',
      '/Volumes/K/bowl.mov',
      '',
      '',
      '3',
      '01:00:00:00',
      '01:00:04:10',
      '60',
      '25',
    ],
  ]);
});

test('dark screen time counts a dark clip under a dissolve, and overlapping tracks once', () => {
  const { edit } = readText(
    [
      '001  A001     V     C        01:00:00:00 01:00:04:00 10:00:00:00 10:00:04:00',
      '002  A001     V     C        01:00:04:00 01:00:04:00 10:00:04:00 10:00:04:00',
      '002  B002     V     D    025 02:00:00:00 02:00:03:00 10:00:04:00 10:00:07:00',
      '003  A001     A     C        01:00:00:00 01:00:04:00 10:00:00:00 10:00:04:00',
    ].join('\n'),
  );
  const [timeline] = edit.timelines;
  const key = edit.clips.find((c) => c.reel === 'A001')!.key;
  expect(darkFrames(timeline!, new Map(), (k) => k === key)).toBe(125);
});

test('dark frames are counted once where they overlap, and inside nests only through their window', () => {
  const timeline = (key: string, events: Partial<EditEvent>[], r = rate(25)): Timeline => ({
    key,
    name: key,
    rate: r,
    counting: 'non-drop',
    start: 0,
    length: 1000,
    top: true,
    events: events.map(buildEvent),
  });
  const nest = timeline(
    'nest',
    [
      { clipKey: 'lost', record: { start: 0, end: 50 } },
      { clipKey: 'there', record: { start: 50, end: 100 } },
    ],
    rate(50),
  );
  const cut = timeline('cut', [
    { clipKey: 'lost', record: { start: 0, end: 100 } },
    { clipKey: 'lost', record: { start: 50, end: 120 } },
    { clipKey: 'there', record: { start: 120, end: 200 } },
    { nestedKey: 'nest', source: { start: 20, end: 80 }, record: { start: 200, end: 230 } },
  ]);
  // 120 frames of lost clips, and 30 frames at 50 fps of the nest, which are 15 here.
  expect(darkFrames(cut, new Map([['nest', nest]]), (key) => key === 'lost')).toBe(135);
});
