import { describe, expect, test } from '@jest/globals';
import { relinkDocument } from './documents.ts';
import { readText } from '../testing/reading.ts';
import { rate } from '../time/rate.ts';

const pal = { rate: rate(25) };
const time = (value: number | string, of: number | string = 25) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: of, value });
const span = (start: number, length: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start),
  duration: time(length),
});
type Made = {
  url?: string | null;
  available?: [number, number];
  used?: [number, number];
  reel?: string;
  reference?: unknown;
  name?: string;
};
const clipOf = ({ url = 'bowl.mov', available, used, reel, reference, name = 'bowl' }: Made) => ({
  OTIO_SCHEMA: 'Clip.2',
  name,
  source_range: span(...(used ?? ([available?.[0] ?? 0, 10] as const))),
  media_references:
    reference !== undefined
      ? reference
      : {
          DEFAULT_MEDIA: {
            OTIO_SCHEMA: 'ExternalReference.1',
            target_url: url,
            available_range: available ? span(...available) : null,
            metadata: reel ? { reel } : {},
          },
        },
  active_media_reference_key: 'DEFAULT_MEDIA',
});
const cut = (...clips: readonly Made[]) =>
  JSON.stringify({
    OTIO_SCHEMA: 'Timeline.1',
    name: 'cut',
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: clips.map(clipOf) }],
    },
  });
const clipsOf = (...clips: readonly Made[]) => readText(cut(...clips)).edit.clips;

describe('one clip is one recording', () => {
  test.each<[string, Made, Made, number]>([
    ['one bare name, other starts', { available: [100, 50] }, { available: [900, 50] }, 2],
    ['one bare name, other lengths', { available: [100, 50] }, { available: [100, 70] }, 2],
    ['one bare name, other reels', { reel: 'A001' }, { reel: 'B001' }, 2],
    ['one bare name, a reel known of one alone', { reel: 'A001' }, {}, 2],
    ['one bare name, nothing against it', { available: [100, 50] }, { available: [100, 50] }, 1],
    ['one bare name, a use beyond what the other has', { available: [100, 50] }, { used: [900, 10] }, 2],
    ['one bare name, a use before it is said what there is', { used: [900, 10] }, { available: [100, 50] }, 2],
    ['one bare name, a use within what the other has', { available: [100, 50] }, { used: [120, 10] }, 1],
    ['one bare name, from zero, a use within', { available: [0, 50] }, { used: [20, 10] }, 2],
    ['one bare name and reel, from zero', { available: [0, 50], reel: 'A1' }, { used: [20, 10], reel: 'A1' }, 1],
    [
      'a path, a use partly within what is said of it',
      { url: '/Volumes/K/a.mov', available: [100, 50] },
      { url: '/Volumes/K/a.mov', used: [145, 10] },
      1,
    ],
    [
      'a path, a use all beside what is said of it',
      { url: '/Volumes/K/a.mov', available: [100, 50] },
      { url: '/Volumes/K/a.mov', used: [900, 10] },
      2,
    ],
    ['a path, written as a URL and plainly', { url: 'file:///Volumes/K/a%20b.mov' }, { url: '/Volumes/K/a b.mov' }, 1],
    ['a drive letter in either case, either slash', { url: 'file:///e:/day/a.mov' }, { url: 'E:\\day\\a.mov' }, 1],
    ['two files whose names differ in case', { url: '/Volumes/K/a.mov' }, { url: '/Volumes/K/A.mov' }, 2],
    [
      'a path under which two cards were mounted',
      { url: '/Volumes/NONAME/a.mov', available: [1, 5] },
      { url: '/Volumes/NONAME/a.mov', available: [900, 5] },
      2,
    ],
  ])('%s', (_, a, b, count) => {
    expect(clipsOf(a, b)).toHaveLength(count);
    expect(clipsOf(b, a)).toHaveLength(count);
  });

  test('a use beside what is said is told also where others were read before that', () => {
    const url = '/Volumes/NONAME/a.mov';
    const before: Made[] = [
      { url, used: [900, 10] },
      { url, used: [110, 10] },
    ];
    expect(clipsOf(...before, { url, available: [100, 50] })).toHaveLength(2);
  });

  test('events of a reel without names are parted by their stretches; those that meet are one', () => {
    const { edit } = readText(
      [
        '001 A001 V C 01:00:00:00 01:00:02:00 00:00:00:00 00:00:02:00',
        '002 A001 V C 01:00:01:00 01:00:03:00 00:00:02:00 00:00:04:00',
        '003 A001 V C 02:10:00:00 02:10:02:00 00:00:04:00 00:00:06:00',
      ].join('\n'),
      pal,
    );
    expect(edit.clips.map((c) => c.addresses)).toEqual([['1', '2'], ['3']]);
  });
});

describe('a clip without a reference is a dark clip', () => {
  test.each<[string, unknown]>([
    ['null', { DEFAULT_MEDIA: null }],
    ['no such key', {}],
    ['no references at all', null],
    ['a kind that nobody knows', { DEFAULT_MEDIA: { OTIO_SCHEMA: 'VaultReference.7', id: 'x' } }],
  ])('%s; and it can be linked, with nothing else changed', (_, reference) => {
    const text = cut({ reference, name: 'lost' });
    const { edit } = readText(text);
    expect(edit.clips).toMatchObject([{ name: 'lost', remembered: null }]);
    const [clip] = edit.clips;
    const change = { path: '/bay/lost.mov', sequence: null };
    const out = relinkDocument(new TextEncoder().encode(text), 'otio', new Map([[clip!.addresses[0]!, change]]));
    const again = readText(new TextDecoder().decode(out.bytes)).edit;
    expect(again.clips).toMatchObject([{ name: 'lost', remembered: 'file:///bay/lost.mov' }]);
    expect(again.timelines).toEqual(edit.timelines);
  });
});

test('whatever number stands in a document, it is read or remarked, and the rest comes in', () => {
  const odd = [
    '1e-300',
    '-1e300',
    '0',
    '1e-9',
    '0.0004',
    '123456789012345678901234567890',
    '999999999999.5',
    '240000.001',
  ];
  for (const number of odd)
    for (const place of ['"rate":25', '"value":7']) {
      const text = cut({ available: [7, 50] }, { url: 'door.mov' }).replace(place, place.replace(/[\d.]+$/, number));
      const { edit } = readText(text);
      expect(edit.clips.map((c) => c.remembered)).toContain('door.mov');
      for (const { available, rate: counted } of edit.clips)
        expect([available?.start ?? 0, available?.end ?? 0, counted.num].every(Number.isSafeInteger)).toBe(true);
    }
});

describe('a log says how it counts', () => {
  test('a rate that stands before the columns is taken', () => {
    const log = 'Production,Saltglass\nFrame rate,24\n\nName,Reel,Start,End\na,A001,01:00:00:00,01:00:10:00\n';
    expect(readText(log, {}).edit.clips[0]).toMatchObject({
      rate: rate(24),
      available: { start: 86_400, end: 86_640 },
    });
    expect(readText(log.replace('Frame rate,24', 'FPS: 23.976'), {}).edit.clips[0]!.rate).toEqual(rate(24000, 1001));
  });

  test('whether its out points name the last frame can be said, and durations say it by themselves', () => {
    const log = (duration: string) =>
      `Name,Start,End,Duration\na,01:00:00:00,01:00:01:24,${duration}\nb,02:00:00:00,02:00:01:24,${duration}\n`;
    const ends = (text: string, more: object = {}) => {
      const { available } = readText(text, { ...pal, ...more }).edit.clips[0]!;
      return available!.end - available!.start;
    };
    expect(ends(log(''))).toBe(49);
    expect(ends(log(''), { outIsLastFrame: true })).toBe(50);
    expect(ends(log('00:00:02:00'))).toBe(50);
    expect(ends(log('00:00:02:00'), { outIsLastFrame: false })).toBe(49);
  });
});
