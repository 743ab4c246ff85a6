import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { CutRecording } from '@legame/core/contract';
import type { Tone } from '../../app/drawTracks.ts';
import { clipRow } from '../../testing/rows.ts';
import { frameShown, rulerOf } from './beneath.ts';
import { darkFramesOf, darkTonesOf, everything, inFront, type CutFilter } from './filter.ts';
import { allOf, around, marked, moved, nearest, rulerStep, showing, stretchOf, zoomed, type Sight } from './sight.ts';
import { flagsIn, markersAt, markerText, marksOf, type Marker } from './markers.ts';
import { clipsInSight, edgesOf, eventAt, heightOf, inSight, nextOf, tracksOf, type CutEvent } from './tracks.ts';

const event = (track: string, start: number, end: number, clipId = `${track} ${start}`): CutEvent => ({
  number: 1,
  name: clipId,
  track,
  trackKind: track.startsWith('A') ? 'sound' : 'picture',
  clipId: clipId as CutEvent['clipId'],
  nestedKey: null,
  record: { start, end },
  speed: null,
  transition: null,
});
const rate25 = { num: 25, den: 1 };

describe('what is in sight', () => {
  const whole: Sight = { from: 90_000, to: 100_000 };

  test('whatever is done, it stays inside of the timeline and never narrower than it can be looked at', () => {
    const acts = fc.array(
      fc.oneof(
        fc.record({
          by: fc.double({ min: 0.05, max: 20, noNaN: true }),
          at: fc.integer({ min: 90_000, max: 100_000 }),
        }),
        fc.integer({ min: -20_000, max: 20_000 }),
      ),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(acts, (list) => {
        let sight = whole;
        for (const act of list) {
          const before = sight;
          sight = typeof act === 'number' ? moved(sight, act, whole) : zoomed(sight, act.by, act.at, whole);
          expect(sight.from).toBeGreaterThanOrEqual(whole.from - 1e-6);
          expect(sight.to).toBeLessThanOrEqual(whole.to + 1e-6);
          expect(sight.to - sight.from).toBeGreaterThanOrEqual(nearest - 1e-6);
          if (typeof act === 'number') expect(sight.to - sight.from).toBeCloseTo(before.to - before.from, 5);
        }
      }),
    );
  });

  test('nearer keeps the frame under the pointer where it is', () => {
    const sight = { from: 94_000, to: 96_000 };
    const next = zoomed(sight, 4, 94_500, whole);
    expect(next).toEqual({ from: 94_375, to: 94_875 });
    expect((94_500 - next.from) / (next.to - next.from)).toBeCloseTo(0.25, 9);
  });

  test('it moves only for a frame that is not well in sight', () => {
    const sight = { from: 94_000, to: 95_000 };
    expect(showing(sight, 94_500, whole)).toBe(sight);
    expect(showing(sight, 97_000, whole)).toEqual({ from: 96_500, to: 97_500 });
    expect(showing(sight, 99_990, whole)).toEqual({ from: 99_000, to: 100_000 });
    const { from, to } = around({ start: 95_000, end: 95_100 }, whole);
    expect(from < 95_000 && to > 95_100 && to - from < 400).toBe(true);
  });

  test('two marks make a stretch with both its frames; a mark on the wrong side of the other takes that away', () => {
    const none = { first: null, last: null };
    const both = marked(marked(none, 'first', 100), 'last', 119);
    expect([stretchOf(none), stretchOf(both)]).toEqual([null, { start: 100, end: 120 }]);
    expect(marked(both, 'first', 130)).toEqual({ first: 130, last: null });
    expect(marked(both, 'last', 99)).toEqual({ first: null, last: 99 });
    expect(stretchOf(marked(both, 'last', 100))).toEqual({ start: 100, end: 101 });
  });

  test('labels of the ruler have room, and fall on whole frames, seconds, minutes', () => {
    expect(rulerStep({ from: 0, to: 24 }, 1000, 25)).toBe(5);
    expect(rulerStep({ from: 0, to: 750 }, 1000, 25)).toBe(125);
    expect(rulerStep({ from: 0, to: 25 * 3600 }, 1000, 25) % 25).toBe(0);
    expect(allOf({ start: 5, length: 0 })).toEqual({ from: 5, to: 6 });
  });
});

describe('tracks', () => {
  const events = [
    event('V1', 0, 100),
    event('V1', 100, 150),
    event('V2', 120, 140),
    event('A1', 0, 150),
    event('A2', 50, 60),
  ];

  test('pictures lie above, the uppermost first, then sound; none over another, and all in the room they have', () => {
    const tracks = tracksOf(events, 300);
    expect(tracks.map((t) => t.name)).toEqual(['V2', 'V1', 'A1', 'A2']);
    tracks.slice(1).forEach((t, i) => expect(t.top).toBeGreaterThan(tracks[i]!.top + tracks[i]!.height));
    const many = tracksOf(
      Array.from({ length: 40 }, (_, i) => event(`V${i}`, 0, 10)),
      260,
    );
    expect(heightOf(many)).toBeLessThanOrEqual(260);
    // A list that begins above: its tracks lie by their numbers all the same.
    expect(tracksOf(events.toReversed(), 300).map((t) => t.name)).toEqual(['V2', 'V1', 'A1', 'A2']);
  });

  test.each([
    ['what the document calls a track stands beside its number', 'kiln floor', 'kiln floor'],
    ['once where that begins with it', 'V1 – inserts', 'inserts'],
    ['another number is a name', 'V12', 'V12'],
    ['one that is called by its number alone has no other name', 'V1', null],
  ])('%s', (_, called, shown) => {
    expect(tracksOf([event('V1', 0, 9), event('V10', 0, 9)], 100, { V1: called }).map((t) => t.called)).toEqual([
      null,
      shown,
    ]);
  });

  test('of many events those in sight are found, whether they begin, end, lie across or over one another', () => {
    const spans = fc.array(fc.tuple(fc.integer({ min: 1, max: 50 }), fc.integer({ min: -20, max: 30 })), {
      maxLength: 60,
    });
    const range = fc.tuple(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 1, max: 300 }));
    fc.assert(
      fc.property(spans, range, (list, [from, length]) => {
        let at = 0;
        const row = list.map(([long, gap]) => {
          const start = Math.max(0, at + gap);
          at = start + long;
          return event('V1', start, at);
        });
        const sight = { from, to: from + length };
        const [track] = tracksOf(row, 100);
        const wanted = row.filter((e) => e.record.start < sight.to && e.record.end > sight.from);
        const found = track ? [...inSight(track, sight)].map((e) => e.event) : [];
        expect(new Set(found)).toEqual(new Set(wanted));
      }),
    );
  });

  test('a point finds its event, one just beside it too, and nothing where nothing lies', () => {
    const tracks = tracksOf(events, 300);
    const middle = (name: string) => {
      const track = tracks.find((t) => t.name === name)!;
      return track.top + track.height / 2;
    };
    expect(eventAt(tracks, middle('V1'), 100, 2)).toBe(events[1]);
    expect(eventAt(tracks, middle('V2'), 119, 2)).toBe(events[2]);
    expect(eventAt(tracks, middle('V2'), 60, 2)).toBeNull();
    expect(eventAt(tracks, 9999, 60, 2)).toBeNull();
  });

  test('clips come as they begin in sight, each once; edges follow one another both ways', () => {
    const tracks = tracksOf([...events, event('V1', 150, 160, 'V1 0')], 300);
    expect(clipsInSight(tracks, { from: 110, to: 200 }, 9)).toEqual(['V1 100', 'A1 0', 'V2 120', 'V1 0']);
    expect(clipsInSight(tracks, { from: 0, to: 200 }, 2)).toHaveLength(2);
    // However many are asked for, they are the first of all.
    const all = clipsInSight(tracks, { from: 0, to: 200 }, 99);
    for (let most = 0; most <= all.length; most += 1)
      expect(clipsInSight(tracks, { from: 0, to: 200 }, most)).toEqual(all.slice(0, most));
    const edges = edgesOf(events);
    expect(edges).toEqual([0, 50, 60, 100, 120, 140, 150]);
    expect([nextOf(edges, 100, 1), nextOf(edges, 100, -1), nextOf(edges, 150, 1)]).toEqual([120, 60, null]);
  });
});

describe('the recording beneath', () => {
  const shownAs = (more: Partial<CutRecording['uses'][number]> = {}): CutRecording['uses'][number] => ({
    timeline: 'd/t',
    isTop: true,
    record: { start: 1000, end: 1020 },
    source: { start: 90_100, end: 90_120 },
    uncoveredInFrames: 0,
    firstFrameInFile: 100,
    speed: null,
    ...more,
  });
  const recording: Pick<CutRecording, 'rate' | 'media' | 'lengthInFile'> = {
    rate: rate25,
    media: null,
    lengthInFile: 250,
  };
  const media = { id: 'x' as NonNullable<CutRecording['media']>['id'], version: '1' };

  test('at each frame of an event one of its file is shown: at speed, backwards, standing still, at another rate', () => {
    const at = (frame: number, more: Partial<CutRecording['uses'][number]> = {}, rate = rate25) =>
      frameShown(shownAs(more), frame, rate, recording)?.inFile ?? null;
    expect([at(1000), at(1019)]).toEqual([100, 119]);
    const double = { source: { start: 90_100, end: 90_140 }, speed: { num: 2, den: 1 } };
    expect([at(1000, double), at(1019, double)]).toEqual([100, 138]);
    const backwards = { speed: { num: -1, den: 1 } };
    expect([at(1000, backwards), at(1019, backwards)]).toEqual([119, 100]);
    const still = { source: { start: 90_100, end: 90_101 }, speed: { num: 0, den: 1 } };
    expect([at(1000, still), at(1019, still)]).toEqual([100, 100]);
    expect(at(1010, {}, { num: 50, den: 1 })).toBe(105);
    expect(at(1000, { firstFrameInFile: null })).toBeNull();
    expect(at(1019, { firstFrameInFile: 240 })).toBeNull();
    const fast = { ...recording, media: { ...media, rate: { num: 50, den: 1 } } };
    expect(frameShown(shownAs(), 1001, rate25, fast)).toEqual({ inFile: 202, inEdit: 101 });
  });

  test('its ruler reaches over what it holds and what is read; where nothing is linked, over what is expected', () => {
    const holds = { start: 90_000, end: 90_110 };
    expect(rulerOf({ holds, expected: null, uses: [shownAs()] })).toEqual({ start: 90_000, end: 90_120 });
    expect(rulerOf({ holds: null, expected: { start: 90_050, end: 90_200 }, uses: [shownAs()] })).toEqual({
      start: 90_050,
      end: 90_200,
    });
    expect(rulerOf({ holds: null, expected: null, uses: [] })).toBeNull();
  });
});

describe('what stands in front', () => {
  const events = [
    event('V1', 0, 50, 'bowl'),
    event('V1', 50, 90, 'door'),
    event('V2', 40, 60, 'rim'),
    event('A1', 0, 90, 'hum'),
  ];
  const tones: Tone[] = ['lit', 'missing', 'changed', 'missing'];
  const rows = new Map([
    ['door', clipRow(2, 'oven door.mov', 'missing', { reel: 'B007' })],
    ['rim', clipRow(3, 'rim.mov', 'changed')],
  ]);
  const front = (only: CutFilter['only'], text = '') => {
    const found = inFront({ events, trackNames: { A1: 'Talk' } }, tones, rows, { only, text });
    return found && [...found];
  };

  test('is told by status, and by name, file, reel or track', () => {
    expect(inFront({ events, trackNames: {} }, tones, rows, everything)).toBeNull();
    expect(front('dark')).toEqual([1, 2, 3]);
    expect(front('changed')).toEqual([2]);
    expect(front('all', ' B007 ')).toEqual([1]);
    expect(front('all', 'OVEN')).toEqual([1]);
    expect(front('all', 'talk')).toEqual([3]);
    expect(front('all', 'v1')).toEqual([0, 1]);
    expect(front('missing', 'a1')).toEqual([3]);
    expect(front('all', 'nothing like it')).toEqual([]);
    expect(darkTonesOf(tones)).toEqual(['missing', 'changed']);
  });

  test('each frame of a track that is dark counts once', () => {
    const [v2, v1] = tracksOf([...events, event('V1', 80, 100, 'more')], 300);
    expect(darkFramesOf(v1!, [...tones, 'short'])).toBe(50);
    expect(darkFramesOf(v2!, tones)).toBe(20);
    expect(darkFramesOf(v1!, ['lit', 'lit', 'lit', 'lit', 'other'])).toBe(0);
  });
});

describe('what is noted on a timeline', () => {
  const noted = (start: number, given: Partial<Marker> = {}): Marker => ({
    ...{ name: `at ${start}`, comment: '', color: '', track: null, record: { start, end: start + 1 } },
    ...given,
  });

  test('flags stand where they can be told apart; nearer ones share one, nothing out of sight has any', () => {
    const sight: Sight = { from: 1000, to: 2000 };
    // A thousand frames on a thousand dots.
    const flags = (list: Marker[]) => flagsIn(list, sight, 1000).map((flag) => flag.map((m) => m.record.start));
    expect(flags([noted(1500), noted(999), noted(1505), noted(2000), noted(1000), noted(1511)])).toEqual([
      [1000],
      [1500, 1505],
      [1511],
    ]);
    // One that began before and lasts until now is in sight.
    expect(flags([noted(900, { record: { start: 900, end: 1100 } })])).toEqual([[900]]);
  });

  test('however many there are, flags are no nearer than that, and each is under one of them or one flag is full', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(10_000), { maxLength: 300 }), (starts) => {
        const list = flagsIn(
          starts.map((s) => noted(s)),
          { from: 0, to: 10_001 },
          800,
        );
        const first = list.map((flag) => (flag[0].record.start * 800) / 10_001);
        first.forEach((x, i) => i > 0 && expect(x - first[i - 1]!).toBeGreaterThanOrEqual(10));
        const told = list.reduce((sum, flag) => sum + flag.length, 0);
        if (list.every((flag) => flag.length < 12)) expect(told).toBe(starts.length);
      }),
    );
  });

  test('the keys go from one to the next; what stands at a frame is told with its track', () => {
    const list = [
      noted(50, { track: 'V1', comment: 'wider' }),
      noted(20, { record: { start: 20, end: 60 } }),
      noted(50),
    ];
    expect(marksOf(list)).toEqual([20, 50]);
    expect(markersAt(list, 50).map(markerText)).toEqual(['V1 · at 50: wider', 'at 20', 'at 50']);
    expect(markersAt(list, 60)).toEqual([]);
    expect(markerText(noted(0, { name: '', color: 'GREEN' }))).toBe('green marker');
    expect(markerText(noted(0, { name: '' }))).toBe('marker');
  });
});
