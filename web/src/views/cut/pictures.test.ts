import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { CutRecording } from '@legame/core/contract';
import type { ShownTimeline } from '../../api/timelines.ts';
import { picturesOf, wavesOf } from './pictures.ts';
import type { Sight } from './sight.ts';
import { tracksOf, type CutEvent } from './tracks.ts';

const at25 = { num: 25, den: 1 };
const samples = { num: 48_000, den: 1 };
const id = 'cut';
const event = (trackKind: CutEvent['trackKind'], start: number, end: number): CutEvent => ({
  ...{
    number: 1,
    name: trackKind,
    track: trackKind === 'sound' ? 'A1' : 'V1',
    trackKind,
    nestedKey: null,
    speed: null,
  },
  ...{ clipId: `${trackKind} ${start}` as CutEvent['clipId'], record: { start, end }, transition: null },
});
/** A recording that an event reads from `first` on, of a file that is so many seconds long. */
const recording = ({ clipId, record, trackKind }: CutEvent, first: number, seconds: number): CutRecording => {
  const rate = trackKind === 'sound' ? samples : at25;
  const source = { start: first, end: first + record.end - record.start };
  return {
    ...{ clipId: clipId!, name: 'x', fileName: 'x.wav', where: 'K', status: { status: 'linked' } },
    ...{ kind: trackKind, rate: at25, counting: 'non-drop', holds: { start: 0, end: seconds * 25 }, expected: null },
    ...{ media: { id: 'x' as never, version: '1', rate }, keptAt: null },
    lengthInFile: (seconds * rate.num) / rate.den,
    uses: [
      {
        ...{ timeline: id, isTop: true, record, source, speed: null },
        ...{ uncoveredInFrames: 0, firstFrameInFile: first },
      },
    ],
  };
};
const groundOf = (one: CutEvent, known: CutRecording | null, sight: Sight, width = 1000) => ({
  ...{ tracks: tracksOf([one], 260), sight, width },
  timeline: { id, rate: at25 } as ShownTimeline,
  known: new Map(known ? [[known.clipId as string, known]] : []),
});

describe('the wave of a sound in the cut', () => {
  test('lies so that whatever is in sight, each frame of the event stands over its own place in the file', () => {
    const whole = { min: 0, max: 400 };
    fc.assert(
      fc.property(
        fc.integer(whole),
        fc.integer({ min: 100, max: 400 }),
        fc.integer(whole),
        fc.integer({ min: 50, max: 900 }),
        fc.integer(whole),
        (start, length, from, seen, first) => {
          const one = event('sound', start, start + length);
          const sight = { from, to: from + seen };
          const [wave] = wavesOf(groundOf(one, recording(one, first, 40), sight));
          if (!wave) return;
          expect(wave.left).toBeGreaterThanOrEqual(0);
          expect(wave.left + wave.width).toBeLessThanOrEqual(1000 + 1e-6);
          for (const dot of [wave.left, wave.left + wave.width / 2, wave.left + wave.width]) {
            const frame = from + (dot / 1000) * seen;
            const inFile = ((wave.before + dot - wave.left) / wave.whole) * 40 * 25;
            expect(inFile).toBeCloseTo(first + frame - start, 4);
          }
        },
      ),
    );
  });

  test('there is none where there is no room, where it is not known, and where the file is too long to tell', () => {
    const one = event('sound', 0, 250);
    const sight = { from: 0, to: 500 };
    const count = (known: CutRecording | null, within: Sight = sight, which = one) =>
      wavesOf(groundOf(which, known, within)).length;
    expect(count(recording(one, 0, 20))).toBe(1);
    expect(count(recording(one, 0, 20), { from: 0, to: 50_000 })).toBe(0);
    expect(count(null)).toBe(0);
    expect(count(recording(one, 0, 3600))).toBe(0);
    expect(count({ ...recording(one, 0, 20), media: null })).toBe(0);
    // Sound that runs at another speed, and the sound of a film, of which there is no wave.
    expect(count(recording(one, 0, 20), sight, { ...one, speed: { num: 2, den: 1 } })).toBe(0);
    expect(count({ ...recording(one, 0, 20), kind: 'picture' })).toBe(0);
  });
});

test('a picture has its place at the left of an event that has room for it, and sounds have none', () => {
  const [film, sound] = [event('picture', 0, 250), event('sound', 0, 250)];
  const sight = { from: 0, to: 500 };
  expect(picturesOf(groundOf(film, recording(film, 10, 20), sight))).toMatchObject([{ left: 0, frame: 10 }]);
  expect(picturesOf(groundOf(film, recording(film, 10, 20), { from: 0, to: 5000 }))).toEqual([]);
  expect(picturesOf(groundOf(sound, recording(sound, 10, 20), sight))).toEqual([]);
});
