import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { rangeLength, rangesOutside, uniteRanges, type FrameRange } from '../time/range.ts';
import { rate } from '../time/rate.ts';
import { pullDesk, requestFor, rowsAskedOf, type Stands, type PullMark, type PullRequest } from './desk.ts';

const pal = rate(25);
const handles = { frames: 10, rate: pal };
const clip = (name: string, isDark: boolean, used: readonly [number, number][], more: object = {}) => ({
  id: `${name} ${JSON.stringify(used)}`,
  name,
  reel: 'A001' as string | null,
  remembered: `/Volumes/KILN/${name}.mov` as string | null,
  rate: pal,
  counting: 'non-drop' as const,
  available: null,
  used: used.map(([start, end]) => ({ start, end })),
  stands: (isDark ? 'dark' : 'linked') as Stands,
  ...more,
});
type Clip = ReturnType<typeof clip>;
const none = new Map<string, PullRequest>();
const desk = (clips: readonly Clip[], requests: ReadonlyMap<string, PullRequest> = none) =>
  pullDesk(clips, requests, handles);
/** What is said of every row of a desk. */
const saying = (clips: readonly Clip[], mark: PullMark, holder = 'The archive') => {
  const said = { mark, holder, note: '', at: '2026-11-20T10:00:00.000Z', isUnknownToVault: false };
  return new Map(desk(clips).map((row) => [row.key, requestFor(row, said)] as const));
};

describe('the pull list as a desk', () => {
  test('has a row a source that is dark, whatever it is called and however its path is spelled', () => {
    const rows = desk([
      clip('bowl', true, [[100, 150]]),
      clip('bowl again', true, [[155, 200]], { remembered: 'E:\\day1\\BOWL.MOV' }),
      clip('door', false, [[500, 520]]),
      clip('never used', true, []),
    ]);
    expect(rows).toMatchObject([
      {
        state: 'wanted',
        file: 'bowl.mov',
        names: ['bowl', 'bowl again'],
        ranges: [{ start: 90, end: 210 }],
        request: null,
      },
    ]);
    expect(rows[0]!.clips).toHaveLength(2);
  });

  test('stands as somebody said, and tells what the cut wants since beyond what was asked for', () => {
    const asked = saying([clip('bowl', true, [[100, 150]])], 'asked');
    expect(desk([clip('bowl', true, [[110, 140]])], asked)).toMatchObject([{ state: 'asked', beyond: [] }]);
    expect(
      desk(
        [
          clip('bowl', true, [
            [80, 150],
            [900, 910],
          ]),
        ],
        asked,
      ),
    ).toMatchObject([
      {
        state: 'asked',
        beyond: [
          { start: 70, end: 90 },
          { start: 890, end: 920 },
        ],
      },
    ]);
    const arrived = saying([clip('bowl', true, [[100, 150]])], 'arrived');
    expect(desk([clip('bowl', true, [[0, 900]])], arrived)).toMatchObject([{ state: 'arrived', beyond: [] }]);
  });

  test('what was asked for has arrived once every clip of it has its media; before, only the dark ones want it', () => {
    const cut = [clip('bowl', true, [[100, 150]]), clip('bowl', true, [[400, 450]])];
    const asked = saying(cut, 'asked');
    const half = desk([clip('bowl', false, [[100, 150]]), cut[1]!], asked);
    expect(half).toMatchObject([{ state: 'asked', ranges: [{ start: 390, end: 460 }] }]);
    const all = desk([clip('bowl', false, [[100, 150]]), clip('bowl', false, [[400, 450]])], asked);
    expect(all).toMatchObject([
      {
        state: 'arrived',
        ranges: [
          { start: 90, end: 160 },
          { start: 390, end: 460 },
        ],
      },
    ]);
    // Nobody asked for it, so nobody waits for it.
    expect(desk([clip('bowl', false, [[100, 150]])])).toEqual([]);
  });

  test('what was asked for of clips that were waived since has not arrived: nobody wants it', () => {
    const bowl = clip('bowl', true, [[100, 150]]);
    const requests = saying([bowl], 'not-to-be-had');
    const waived = { ...bowl, stands: 'waived' } as const;
    expect(desk([waived], requests)).toMatchObject([{ state: 'no-longer-wanted' }]);
    // Where another clip of the same source has its media, that has come.
    expect(desk([waived, clip('bowl', false, [[400, 450]])], requests)).toMatchObject([{ state: 'arrived' }]);
    expect(desk([waived])).toEqual([]);
  });

  test('what no event uses any more is told, to call it off', () => {
    const asked = saying([clip('bowl', true, [[100, 150]])], 'asked');
    expect(desk([clip('door', true, [[1, 2]])], asked).map((r) => [r.file, r.state])).toEqual([
      ['bowl.mov', 'no-longer-wanted'],
      ['door.mov', 'wanted'],
    ]);
  });

  test('a holder’s list is what was asked of it and is still to come, as it was asked for', () => {
    const cut = [clip('bowl', true, [[100, 150]]), clip('door', true, [[500, 520]])];
    const requests = new Map([...saying(cut, 'asked')]);
    const [bowl, door] = [...requests.keys()] as [string, string];
    requests.set(door, { ...requests.get(door)!, holder: 'The co-op' });
    const grown = [clip('bowl', true, [[50, 150]]), cut[1]!];
    expect(rowsAskedOf(desk(grown, requests), 'The archive')).toMatchObject([
      { file: 'bowl.mov', range: { start: 90, end: 160 } },
    ]);
    expect(rowsAskedOf(desk(grown, requests), 'The co-op')).toMatchObject([{ file: 'door.mov' }]);
    expect(rowsAskedOf(desk([{ ...grown[0]!, stands: 'linked' }, cut[1]!], requests), 'The archive')).toEqual([]);
    requests.set(bowl, { ...requests.get(bowl)!, mark: 'not-to-be-had' });
    expect(rowsAskedOf(desk(grown, requests), 'The archive')).toEqual([]);
  });

  test('sources stay apart by reel, rate and count; no reel comes last', () => {
    const used: [number, number][] = [[100, 150]];
    const rows = desk([
      clip('bowl', true, used, { reel: null }),
      clip('bowl', true, used, { reel: 'A010' }),
      clip('bowl', true, used, { reel: 'A002' }),
      clip('bowl', true, used, { reel: 'a002', rate: rate(24) }),
    ]);
    expect(rows.map((r) => [r.reel?.toUpperCase() ?? null, r.rate.num])).toEqual([
      ['A002', 24],
      ['A002', 25],
      ['A010', 25],
      [null, 25],
    ]);
  });
});

const ranges = fc.array(
  fc.tuple(fc.nat(60), fc.nat(20)).map(([start, length]): FrameRange => ({ start, end: start + length })),
);
test('what lies outside of ranges is what no frame of them is, in the fewest ranges', () => {
  fc.assert(
    fc.property(ranges, ranges, (wanted, held) => {
      const isIn = (list: readonly FrameRange[], frame: number) => list.some((r) => frame >= r.start && frame < r.end);
      const outside = rangesOutside(wanted, held);
      for (let frame = 0; frame < 90; frame += 1)
        expect(isIn(outside, frame)).toBe(isIn(wanted, frame) && !isIn(held, frame));
      expect(outside).toEqual(uniteRanges(outside));
      expect(outside.every((r) => rangeLength(r) > 0)).toBe(true);
    }),
  );
});

test('whatever is said and however the cut goes on, no dark use is without a row and no request is lost', () => {
  const names = fc.constantFrom('bowl', 'door', 'pipe', 'kiln');
  const cut = fc.array(fc.tuple(names, fc.boolean(), fc.nat(400), fc.integer({ min: 1, max: 60 })));
  fc.assert(
    fc.property(cut, cut, fc.constantFrom<PullMark>('asked', 'arrived', 'not-to-be-had'), (before, after, mark) => {
      const clips = (given: typeof before) => given.map(([name, isDark, at, n]) => clip(name, isDark, [[at, at + n]]));
      const requests = saying(clips(before), mark);
      const rows = desk(clips(after), requests);
      expect(new Set(rows.map((r) => r.key)).size).toBe(rows.length);
      for (const key of requests.keys()) expect(rows.filter((r) => r.key === key)).toHaveLength(1);
      for (const dark of clips(after).filter((c) => c.stands === 'dark')) {
        const row = rows.find((r) => r.clips.some((c) => c.id === dark.id))!;
        const [used] = dark.used;
        expect(row.ranges.some((r) => r.start <= used!.start && r.end >= used!.end)).toBe(true);
        // What was asked for and what is beyond it hold all that is wanted.
        if (row.state === 'asked')
          expect(rangesOutside(row.ranges, [...row.request!.ranges, ...row.beyond])).toEqual([]);
      }
    }),
  );
});
