import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { act, cleanup, render, screen } from '@testing-library/react';
import fc from 'fast-check';
import { useEffect, useState } from 'react';
import type { CutRecording } from '@legame/core/contract';
import type { ShownTimeline } from '../../../api/timelines.ts';
import { showPage, uuid } from '../../../testing/page.tsx';
import { standInServer } from '../../../testing/server.ts';
import type { CutEvent } from '../tracks.ts';
import { clipsToPlay, near, piecesOf, type Piece } from './pieces.ts';
import { Player } from './Player.tsx';
import { usePlaying, type Playing } from './usePlaying.ts';

const at25 = { num: 25, den: 1 };
const id = `${uuid(70)}/cut`;
const event = (track: string, start: number, end: number, of: Partial<CutEvent> = {}): CutEvent => ({
  ...{ number: 1, name: `${track} ${start}`, track, trackKind: track.startsWith('A') ? 'sound' : 'picture' },
  ...{ clipId: `${track} ${start}` as CutEvent['clipId'], nestedKey: null, record: { start, end } },
  ...{ speed: null, transition: null },
  ...of,
});
const timelineOf = (events: CutEvent[], given: Partial<ShownTimeline> = {}): ShownTimeline => ({
  ...{
    key: 'cut',
    documentId: uuid(70) as ShownTimeline['documentId'],
    id,
    name: 'cut',
    rate: at25,
    counting: 'non-drop',
  },
  ...{
    start: 0,
    length: 1000,
    top: true,
    trackNames: {},
    markers: [],
    darkInFrames: 0,
    darkNests: new Set<number>(),
    events,
  },
  ...given,
});
/** A recording of a thousand frames, of which an event reads those from `from` on. */
const recordingOf = (
  { clipId, name, record, trackKind, speed }: CutEvent,
  { from = 0, ...given }: Partial<CutRecording> & { from?: number } = {},
): CutRecording => ({
  ...{ clipId: clipId!, name, fileName: `${name}.mov`, where: 'KILN_A', status: { status: 'linked' } },
  ...{ kind: trackKind, rate: at25, counting: 'non-drop', holds: { start: 0, end: 1000 }, expected: null },
  ...{ media: { id: `media of ${name}` as never, version: '1', rate: at25 }, lengthInFile: 1000, keptAt: null },
  uses: [
    {
      ...{ timeline: id, isTop: true, record, source: { start: from, end: from + record.end - record.start } },
      ...{ uncoveredInFrames: 0, firstFrameInFile: from, speed },
    },
  ],
  ...given,
});
const known = (...list: CutRecording[]) => new Map(list.map((r) => [r.clipId as string, r]));
const brief = (pieces: Piece[]) =>
  pieces.map(({ kind, record, shows }) => [
    kind,
    record.start,
    record.end,
    shows.as === 'film'
      ? `${shows.from}+${shows.frames}`
      : shows.as === 'picture'
        ? `still ${shows.frame}`
        : shows.because,
  ]);

describe('what is played', () => {
  test('of pictures the uppermost, of sound all; from the frame that each shows when it begins', () => {
    const [low, over, song] = [event('V1', 0, 100), event('V2', 40, 60), event('A1', 20, 80)];
    const timeline = timelineOf([low, over, song]);
    const recordings = known(
      recordingOf(low, { from: 200 }),
      recordingOf(over, { from: 7 }),
      recordingOf(song, {
        from: 96_000,
        media: { id: 'song' as never, version: '1', rate: { num: 48_000, den: 1 } },
        rate: { num: 48_000, den: 1 },
        lengthInFile: null,
      }),
    );
    expect(brief(piecesOf(timeline, [timeline], recordings, { start: 10, end: 120 }))).toEqual([
      ['picture', 10, 40, '210+30'],
      // Sound is counted at 25 a second: two seconds in.
      ['sound', 20, 80, '50+60'],
      ['picture', 40, 60, '7+20'],
      ['picture', 60, 100, '260+40'],
      ['picture', 100, 120, 'gap'],
    ]);
  });

  test('what is dark, unknown, black, still, reversed or slowed is played as what it is', () => {
    const events = [
      event('V1', 0, 10),
      event('V1', 10, 20),
      event('V1', 20, 30, { clipId: null }),
      event('V1', 30, 40),
      event('V1', 40, 50, { speed: { num: -1, den: 1 } }),
      event('V1', 50, 60, { speed: { num: 1, den: 2 } }),
    ];
    const [dark, , , still, back, slow] = events;
    const recordings = known(
      recordingOf(dark!, { media: null, status: { status: 'missing', because: 'nothing-there' } }),
      recordingOf(still!, { kind: 'still' }),
      recordingOf(back!, { from: 300 }),
      recordingOf(slow!, { from: 500 }),
    );
    const timeline = timelineOf(events);
    const pieces = piecesOf(timeline, [timeline], recordings, { start: 0, end: 60 });
    expect(brief(pieces)).toEqual([
      ['picture', 0, 10, 'missing'],
      ['picture', 10, 20, 'not-known'],
      ['picture', 20, 30, 'gap'],
      ['picture', 30, 40, 'still 0'],
      ['picture', 40, 50, 'still 309'],
      // Ten frames at half speed read five.
      ['picture', 50, 60, '500+5'],
    ]);
    expect(pieces.at(-1)!.shows).toMatchObject({ pace: 0.5 });
  });

  test('a nest shows what is in it, where it shows it', () => {
    const [inner, behind] = [event('V2', 0, 50), event('V1', 0, 100)];
    const nest = timelineOf([behind, inner], { key: 'nest', id: `${uuid(70)}/nest`, top: false });
    const outer = event('V1', 200, 260, { clipId: null, nestedKey: 'nest' });
    const timeline = timelineOf([outer]);
    const all = [timeline, nest];
    expect(clipsToPlay(timeline, all, { start: 0, end: 300 })).toEqual(['V2 0', 'V1 0']);
    expect(clipsToPlay(timeline, all, { start: 0, end: 200 })).toEqual([]);
    const at = (of: CutEvent, start: number, end: number, from: number) =>
      recordingOf({ ...of, record: { start, end } }, { from });
    const recordings = known(at(inner, 200, 230, 20), at(behind, 200, 260, 520));
    expect(brief(piecesOf(timeline, all, recordings, { start: 190, end: 260 }))).toEqual([
      ['picture', 190, 200, 'gap'],
      ['picture', 200, 230, '20+30'],
      ['picture', 230, 260, '550+30'],
    ]);
  });

  test('whatever lies there, pictures follow one another without gap or overlap, and no preview is longer than it may be', () => {
    const some = fc.record({
      track: fc.constantFrom('V1', 'V2', 'V3', 'A1'),
      start: fc.nat(3000),
      length: fc.integer({ min: 1, max: 2500 }),
      speed: fc.constantFrom(null, { num: 2, den: 1 }, { num: -1, den: 1 }, { num: 0, den: 1 }),
      isKnown: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(some, { maxLength: 12 }),
        fc.nat(2000),
        fc.integer({ min: 1, max: 2000 }),
        (list, from, length) => {
          const events = list.map(({ track, start, length: l, speed }, i) =>
            event(track, start, start + l, { speed, clipId: `c${i}` as CutEvent['clipId'] }),
          );
          const timeline = timelineOf(events);
          const recordings = known(
            ...events.filter((_, i) => list[i]!.isKnown).map((e) => recordingOf(e, { lengthInFile: null })),
          );
          const stretch = { start: from, end: from + length };
          const pieces = piecesOf(timeline, [timeline], recordings, stretch);
          const pictures = pieces.filter((p) => p.kind === 'picture');
          expect(pictures[0]!.record.start).toBe(stretch.start);
          expect(pictures.at(-1)!.record.end).toBe(stretch.end);
          pictures.slice(1).forEach((p, i) => expect(p.record.start).toBe(pictures[i]!.record.end));
          expect(new Set(pieces.map((p) => p.key)).size).toBe(pieces.length);
          for (const { shows, record } of pieces) {
            expect(record.start >= stretch.start && record.end <= stretch.end).toBe(true);
            if (shows.as === 'film') expect(shows.frames).toBeLessThanOrEqual(20 * 25);
          }
        },
      ),
    );
  });

  test('what begins soon is fetched before it is due; what is over is let go', () => {
    const timeline = timelineOf([event('V1', 0, 10), event('V1', 10, 200), event('V1', 200, 210)]);
    const pieces = piecesOf(timeline, [timeline], new Map(), { start: 0, end: 210 });
    expect(near(pieces, 10, 100).map((p) => p.record.start)).toEqual([10]);
    expect(near(pieces, 150, 100).map((p) => p.record.start)).toEqual([10, 200]);
  });
});

describe('the player', () => {
  const frames: FrameRequestCallback[] = [];
  let [now, readyState, isPaused] = [0, 0, true];
  const { requestAnimationFrame: request, cancelAnimationFrame: cancel } = globalThis;
  const clock = performance.now.bind(performance);
  const media = HTMLMediaElement.prototype as object;
  const own = Object.getOwnPropertyDescriptors(media) as PropertyDescriptorMap;
  /** So many milliseconds go by, in steps as a screen has them. */
  const pass = (ms: number) =>
    act(() => {
      for (const until = now + ms; now < until;) {
        now += 20;
        for (const run of frames.splice(0)) run(now);
      }
    });
  beforeEach(() => {
    [now, readyState, isPaused] = [0, 0, true];
    frames.length = 0;
    globalThis.requestAnimationFrame = (run) => frames.push(run);
    globalThis.cancelAnimationFrame = () => undefined;
    performance.now = () => now;
    Object.assign(media, {
      play: () => Promise.resolve(void (isPaused = false)),
      pause: () => void (isPaused = true),
    });
    Object.defineProperty(media, 'readyState', { configurable: true, get: () => readyState });
    Object.defineProperty(media, 'paused', { configurable: true, get: () => isPaused });
  });
  afterEach(() => {
    cleanup();
    globalThis.requestAnimationFrame = request;
    globalThis.cancelAnimationFrame = cancel;
    performance.now = clock;
    Object.defineProperties(media, own);
  });
  const show = (pieces: Piece[], to: number) => {
    const seen = { frame: 0, ended: 0 };
    render(
      <Player
        pieces={pieces}
        from={0}
        to={to}
        rate={at25}
        onFrame={(frame) => (seen.frame = frame)}
        onEnd={() => (seen.ended += 1)}
      />,
    );
    return seen;
  };
  const film = event('V1', 0, 50);
  const pieces = () => {
    const timeline = timelineOf([film]);
    return piecesOf(timeline, [timeline], known(recordingOf(film, { from: 3 })), { start: 0, end: 75 });
  };

  test('waits for what is not made yet, then plays it, tells what is not there, and ends', () => {
    const seen = show(pieces(), 75);
    pass(1000);
    expect([seen.frame, isPaused]).toEqual([0, true]);
    expect(screen.getByRole('status').textContent).toBe('waiting for it');
    readyState = 4;
    pass(1000);
    expect(isPaused).toBe(false);
    expect(seen.frame).toBeGreaterThanOrEqual(22);
    expect(seen.frame).toBeLessThanOrEqual(26);
    expect(document.querySelector('video')!.getAttribute('src')).toContain('/preview?from=3&frames=50');
    pass(1400);
    expect(isPaused).toBe(true);
    expect(screen.getByText('Nothing lies here.')).toBeTruthy();
    expect(seen.ended).toBe(0);
    pass(800);
    expect(seen.ended).toBe(1);
  });

  test('what never comes holds nobody up for ever', () => {
    const seen = show(pieces(), 75);
    pass(14_000);
    expect(seen.frame).toBe(0);
    pass(3000);
    expect(seen.frame).toBeGreaterThan(20);
  });
});

test('on a busy machine, where the playhead is seen to move late, it plays on; where somebody moves it, it stops', async () => {
  const server = standInServer(() => []);
  let playing: Playing | null = null;
  let see = (_: number) => {};
  function Desk() {
    const [playhead, setPlayhead] = useState(0);
    const [timeline] = useState(() => timelineOf([]));
    const now = usePlaying(uuid(1), timeline, { playhead, stretch: null, onPlayhead: () => undefined });
    useEffect(() => {
      [playing, see] = [now, setPlayhead];
    }, [now]);
    return <p role="status">{now.isOn ? 'plays' : 'stands'}</p>;
  }
  showPage('/projects/:projectId/cut', <Desk />);
  const said = () => screen.getByRole('status').textContent;
  const moved = (...frames: number[]) => act(() => frames.forEach((frame) => playing!.onFrame(frame)));
  const seen = (frame: number) => act(() => see(frame));
  await screen.findByText('stands');
  act(() => playing!.toggle());
  moved(2, 4, 6);
  seen(2);
  expect(said()).toBe('plays');
  // What was moved meanwhile may be seen at once.
  moved(8);
  seen(8);
  moved(10);
  seen(10);
  expect(said()).toBe('plays');
  seen(4);
  expect(said()).toBe('stands');
  server.giveBack();
});
