import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { ClipRow } from '@legame/core/contract';
import type { ShownTimeline } from '../api/timelines.ts';
import { drawInHand, drawTracks, isDarkTone, toneOf, type Ground } from './drawTracks.ts';

type Event = ShownTimeline['events'][number];
const event = (clipId: string | null, start: number, end: number, more: Partial<Event> = {}): Event => ({
  number: 1,
  name: clipId ?? 'gap',
  track: 'V1',
  trackKind: 'picture',
  clipId: clipId as Event['clipId'],
  nestedKey: null,
  speed: null,
  transition: null,
  record: { start, end },
  ...more,
});
const row = (status: ClipRow['status']) => ({ status }) as ClipRow;
const rows = new Map([
  ['lit', row({ status: 'linked' })],
  ['gone', row({ status: 'missing', because: 'nothing-there' })],
  ['set aside', row({ status: 'waived', reason: 'slate' })],
  ['later', row({ status: 'parked' })],
]);

describe('the tone of an event', () => {
  const tone = (e: Event, i = 0, dark: number[] = []) => toneOf(e, i, { darkNests: new Set(dark) }, rows);

  test('is its status where that is dark, and lit where it is not', () => {
    expect(tone(event('gone', 0, 1))).toBe('missing');
    expect(tone(event('later', 0, 1))).toBe('parked');
    expect(tone(event('lit', 0, 1))).toBe('lit');
    expect(tone(event('set aside', 0, 1))).toBe('lit');
  });

  test('of a nest tells whether something in it is dark', () => {
    const nest = event(null, 0, 1, { nestedKey: 'dream' });
    expect(tone(nest, 4, [4])).toBe('missing');
    expect(tone(nest, 4, [3])).toBe('lit');
  });

  test('of what is no clip is neither dark nor lit', () => {
    expect(tone(event(null, 0, 1))).toBe('other');
    expect(tone(event('unknown', 0, 1))).toBe('other');
    expect(['lit', 'other', 'missing', 'short'].map((t) => isDarkTone(t as 'lit'))).toEqual([false, false, true, true]);
  });
});

describe('drawing', () => {
  const RealPath = globalThis.Path2D;
  let boxes: number[][];
  beforeEach(() => {
    boxes = [];
    globalThis.Path2D = class {
      readonly boxes: number[][] = [];
      rect(...box: number[]) {
        this.boxes.push(box);
      }
    } as unknown as typeof Path2D;
  });
  afterEach(() => {
    globalThis.Path2D = RealPath;
  });

  const ground: Ground = {
    timeline: {
      start: 1000,
      length: 100,
      events: [event('lit', 1000, 1050), event('gone', 1050, 1051), event('lit', 1090, 1100, { track: 'V2' })],
    },
    tracks: ['V1', 'V2'],
    band: 7,
    width: 200,
    height: 16,
  };
  function context() {
    const canvas = document.createElement('canvas');
    const filled: number[][][] = [];
    const stroked = jest.fn();
    const pen = {
      canvas,
      setTransform: jest.fn(),
      clearRect: jest.fn(),
      fill: (path: unknown) => void filled.push((path as { boxes: number[][] }).boxes),
      stroke: stroked,
      strokeRect: (...box: number[]) => void boxes.push(box),
      createPattern: () => 'hatched',
    };
    return { pen: pen as unknown as CanvasRenderingContext2D, canvas, filled, stroked };
  }

  test('puts each event where it lies, none thinner than two dots, tracks below one another', () => {
    const { pen, canvas, filled, stroked } = context();
    // What draws the hatch is no canvas here: the plain colour does.
    jest.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(null);
    drawTracks(pen, ground, ['lit', 'missing', 'lit']);
    expect([canvas.width, canvas.height]).toEqual([200, 16]);
    expect(filled).toEqual([
      [
        [0, 0, 99, 7],
        [180, 8, 19, 7],
      ],
      [[100, 0, 2, 7]],
    ]);
    // Only what is dark has an outline.
    expect(stroked).toHaveBeenCalledTimes(1);
    jest.restoreAllMocks();
  });

  test('outlines what is selected, and nothing else', () => {
    const { pen } = context();
    drawInHand(pen, ground, new Set(['gone']));
    expect(boxes).toEqual([[100, 0, 2, 7]]);
  });
});
