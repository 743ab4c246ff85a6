import { describe, expect, test } from '@jest/globals';
import { be, joined, readerOf } from '../testing/bytes.ts';
import { readHeader, readPictures } from './index.ts';

/** A movie, box by box (ISO 14496-12): what the writers of cameras do, and what no writer should. */
const box = (type: string, ...parts: (Uint8Array | string | number[])[]): Uint8Array => {
  const body = joined(...parts);
  return joined(be(body.length + 8, 4), type, body);
};
const full = (type: string, ...parts: (Uint8Array | string | number[])[]) => box(type, be(0, 4), ...parts);
const list = (type: string, entries: readonly (readonly number[])[], bytes = 4) =>
  full(type, be(entries.length, 4), ...entries.map((entry) => entry.flatMap((value) => be(value, bytes))));

type Made = {
  timescale?: number;
  delta?: number;
  frames?: number;
  entry?: Uint8Array;
  sizes?: number[];
  fixed?: number;
  /** The count the table claims, if other than it has. */
  claims?: number;
  times?: number[][];
  keys?: number[];
  shifts?: number[][];
  edits?: number[][];
  isElsewhere?: boolean;
  chunks?: number[];
  perChunk?: number[][];
  wide?: boolean;
};

const picture = (type: string, inside: Uint8Array = new Uint8Array()) =>
  box(type, new Uint8Array(24), be(1920, 2), be(1080, 2), new Uint8Array(50), inside);
const pcm = (channels: number, rate: number) =>
  box(
    'sowt',
    new Uint8Array(8),
    be(0, 2),
    new Uint8Array(6),
    be(channels, 2),
    be(24, 2),
    be(0, 4),
    be(rate, 2),
    be(0, 2),
  );

function trak(handler: string, made: Made & { entry: Uint8Array }): Uint8Array {
  const { timescale = 25_000, delta = 1000, frames = 4, fixed = 0, chunks = [40] } = made;
  const sizes = made.sizes ?? Array.from({ length: frames }, () => 10);
  return box(
    'trak',
    ...(made.edits ? [box('edts', list('elst', made.edits))] : []),
    box(
      'mdia',
      full('mdhd', be(0, 8), be(timescale, 4), be(delta * frames, 4), be(0, 4)),
      full('hdlr', be(0, 4), handler, be(0, 12)),
      box(
        'minf',
        box('dinf', full('dref', be(1, 4), box('alis', be(0, 3), [made.isElsewhere ? 0 : 1]))),
        box(
          'stbl',
          full('stsd', be(1, 4), made.entry),
          list('stts', made.times ?? [[frames, delta]]),
          list('stsc', made.perChunk ?? [[1, frames, 1]]),
          full('stsz', be(fixed, 4), be(made.claims ?? frames, 4), ...(fixed ? [] : sizes.map((s) => be(s, 4)))),
          list(
            made.wide ? 'co64' : 'stco',
            chunks.map((at) => [at]),
            made.wide ? 8 : 4,
          ),
          ...(made.keys
            ? [
                list(
                  'stss',
                  made.keys.map((k) => [k]),
                ),
              ]
            : []),
          ...(made.shifts ? [list('ctts', made.shifts)] : []),
        ),
      ),
    ),
  );
}

/** `mdat` begins at byte 16: a sample at 40 lies in it. */
const movie = (...inside: Uint8Array[]) =>
  joined(box('ftyp', 'qt  ', be(0, 4)), box('mdat', new Uint8Array(400)), box('moov', ...inside));
const film = (made: Made = {}, ...more: Uint8Array[]) =>
  movie(trak('vide', { entry: picture('apcn'), ...made }), ...more);
const read = (bytes: Uint8Array) => readHeader(readerOf(bytes));
const factsOf = (bytes: Uint8Array) => {
  const reading = read(bytes);
  return reading.kind === 'facts' ? reading.facts : reading;
};

/** A timecode track whose one sample is written over the beginning of `mdat`. */
function clocked(number: number, counted: number, made: Made = {}, flags = 0, name = ''): Uint8Array {
  const named = name ? box('name', be(name.length, 2), be(0, 2), name) : new Uint8Array();
  const entry = box('tmcd', be(0, 8), be(0, 4), be(flags, 4), be(25, 4), be(1, 4), [counted, 0], named);
  const bytes = film(made, trak('tmcd', { frames: 1, entry, chunks: [24] }));
  bytes.set(be(number, 4), 24);
  return bytes;
}

describe('a movie’s facts', () => {
  test('codec, raster, rate and frames; a file without timecode says so', () => {
    expect(factsOf(film())).toMatchObject({
      codec: 'prores',
      raster: { width: 1920, height: 1080 },
      rate: { num: 25, den: 1 },
      length: 4,
      bitDepth: 10,
      chroma: '4:2:2',
      timecodeSource: 'none',
      start: 0,
      doubts: ['timecode-missing'],
    });
  });

  test('what a list of edits cuts off is none of its frames; a length of zero there means to the end', () => {
    const [clock, all, still] = [
      (scale: number) => full('mvhd', be(0, 8), be(scale, 4), be(0, 4)),
      { frames: 50, delta: 1000, timescale: 25_000 },
      0xffff_ffff,
    ];
    const lengthOf = (edits: number[][], scale = 600) => factsOf(film({ ...all, edits }, clock(scale)));
    for (const [edits, length] of [
      [[[1200, 0, 65_536]], 50],
      [[[1056, 6000, 65_536]], 44],
      [[[600, 0, 65_536]], 25],
      [
        [
          [240, still, 65_536],
          [480, 5000, 65_536],
        ],
        20,
      ],
      [
        [
          [120, 0, 65_536],
          [240, 30_000, 65_536],
        ],
        15,
      ],
      [[[0, 6000, 65_536]], 50],
      [[[90_000, 0, 65_536]], 50],
    ] as const)
      // prettier-ignore
      expect(lengthOf(edits.map((e) => [...e]))).toMatchObject({ length });
    // By a clock in thousandths nothing is lost to rounding.
    const slow = { ...all, timescale: 24_000, delta: 1001, edits: [[2085, 0, 65_536]] };
    expect(factsOf(film(slow, clock(1000)))).toMatchObject({ length: 50 });
  });

  test('a rate written in another scale is the standard’s one; 29.97 and 23.976 are not 30 and 24', () => {
    expect(factsOf(film({ timescale: 30_000, delta: 1001 }))).toMatchObject({ rate: { num: 30_000, den: 1001 } });
    expect(factsOf(film({ timescale: 24_000, delta: 1001 }))).toMatchObject({ rate: { num: 24_000, den: 1001 } });
    expect(factsOf(film({ timescale: 600, delta: 25 }))).toMatchObject({ rate: { num: 24, den: 1 } });
    expect(factsOf(film({ timescale: 2997, delta: 100 }))).toMatchObject({ rate: { num: 30_000, den: 1001 } });
  });

  test('start and reel from the timecode track; drop-frame by its flag', () => {
    const frames = 10 * 3600 * 25 + 7;
    expect(factsOf(clocked(frames, 25, {}, 0, 'KILN_A'))).toMatchObject({
      start: frames,
      counting: 'non-drop',
      timecodeSource: 'timecode',
      reel: 'KILN_A',
      doubts: [],
    });
    expect(factsOf(clocked(1800, 30, { timescale: 30_000, delta: 1001 }, 1))).toMatchObject({
      start: 1800,
      counting: 'drop',
      reel: null,
    });
  });

  test('a film of 50 frames may count its timecode at 25: two frames to a number', () => {
    expect(factsOf(clocked(90_000, 25, { timescale: 50, delta: 1 }))).toMatchObject({ start: 180_000 });
    // 24 does not go into 25: what such a number means, nobody can say.
    expect(factsOf(clocked(90_000, 24))).toMatchObject({ timecodeSource: 'none', start: 0 });
    expect(factsOf(clocked(90_000, 0))).toMatchObject({ timecodeSource: 'none', start: 0 });
  });

  test('a timecode track whose sample lies outside the file gives no start', () => {
    const entry = box('tmcd', be(0, 8), be(0, 4), be(0, 4), be(25, 4), be(1, 4), [25, 0]);
    expect(factsOf(film({}, trak('tmcd', { frames: 1, entry, chunks: [9_999_999] })))).toMatchObject({
      timecodeSource: 'none',
    });
  });

  test('a reel name longer than its box is read as far as the box goes', () => {
    const named = box('name', be(60_000, 2), be(0, 2), 'KILN_B');
    const entry = box('tmcd', be(0, 8), be(0, 4), be(0, 4), be(25, 4), be(1, 4), [25, 0], named);
    expect(factsOf(film({}, trak('tmcd', { frames: 1, entry, chunks: [24] })))).toMatchObject({ reel: 'KILN_B' });
  });

  test('a reel among the metadata by key goes before the timecode track’s', () => {
    const keys = full('keys', be(2, 4), box('mdta', 'comment'), box('mdta', 'Reel_Name'));
    const item = (number: number, text: string) =>
      joined(be(text.length + 24, 4), be(number, 4), box('data', be(1, 4), be(0, 4), text));
    const meta = box('meta', box('hdlr', be(0, 24)), keys, box('ilst', item(1, 'a take'), item(2, 'YARD_3')));
    expect(factsOf(film({}, meta))).toMatchObject({ reel: 'YARD_3' });
    // Metadata that is garbled does not make the film unreadable.
    const garbled = box('meta', box('hdlr', be(0, 24)), keys, box('ilst', be(400, 4), be(1, 4)));
    expect(factsOf(film({}, garbled))).toMatchObject({ codec: 'prores', reel: null });
  });

  test('sound in the film: channels and rate', () => {
    const withSound = film({}, trak('soun', { entry: pcm(6, 48_000), frames: 100, fixed: 3 }));
    expect(factsOf(withSound)).toMatchObject({ sampleRate: 48_000, channels: 6 });
    expect(read(film({}, trak('soun', { entry: pcm(0, 48_000), frames: 100, fixed: 3 })))).toMatchObject({
      kind: 'pass',
    });
  });

  test.each([
    ['Baseline', 66, [], 8, '4:2:0'],
    ['High 4:2:2, 10 bits', 122, [2, 2], 10, '4:2:2'],
    ['High 4:4:4, 12 bits', 244, [3, 4], 12, '4:4:4'],
  ])('AVC, %s: depth and sampling from its configuration', (_name, profile, tail, bitDepth, chroma) => {
    const config = box('avcC', [1, profile, 0, 40, 0xff, 0xe1, 0, 2, 9, 9, 1, 0, 1, 9], tail, [0, 0]);
    expect(factsOf(film({ entry: picture('avc1', config) }))).toMatchObject({ codec: 'h264', bitDepth, chroma });
  });

  test('HEVC likewise; without a configuration a decoder is asked', () => {
    const config = box('hvcC', new Uint8Array(16), [0xfd, 0xfa, 0, 0]);
    expect(factsOf(film({ entry: picture('hvc1', config) }))).toMatchObject({
      codec: 'hevc',
      bitDepth: 10,
      chroma: '4:2:0',
    });
    expect(read(film({ entry: picture('hvc1') })).kind).toBe('pass');
    expect(read(film({ entry: picture('avc1') })).kind).toBe('pass');
  });
});

describe('left to a decoder, or found broken', () => {
  test('frames of several lengths, fragments, a codec unknown here, sound alone', () => {
    expect(read(film({ times: [[2, 1000], [2, 500]] })).kind).toBe('pass'); // prettier-ignore
    expect(read(film({ delta: 0 })).kind).toBe('pass');
    expect(read(film({}, box('mvex', be(0, 8)))).kind).toBe('pass');
    expect(read(film({ entry: picture('ap4h') })).kind).toBe('pass');
    expect(read(movie(trak('soun', { entry: pcm(2, 48_000), fixed: 6 }))).kind).toBe('pass');
  });

  test('media in another file is said to be there', () => {
    expect(read(film({ isElsewhere: true }))).toEqual({ kind: 'unreadable', reason: { code: 'refers-elsewhere' } });
  });

  test('a film whose tail is missing tells how many frames are there', () => {
    // Four frames of 150 bytes from 40 on; the movie ends some way behind the second.
    const bytes = film({ sizes: [150, 150, 150, 9000] });
    expect(read(bytes)).toEqual({
      kind: 'unreadable',
      reason: { code: 'truncated', presentInFrames: 3, expectedInFrames: 4, unit: 'frames' },
    });
    expect(read(film({ fixed: 300, frames: 4 }))).toMatchObject({ reason: { code: 'truncated', presentInFrames: 2 } });
  });

  test('chunks are counted each by its own number of samples, in wide tables too', () => {
    const whole = film({ frames: 5, chunks: [40, 100], perChunk: [[1, 3, 1], [2, 2, 1]], wide: true }); // prettier-ignore
    expect(factsOf(whole)).toMatchObject({ length: 5 });
    const cut = film({ frames: 5, chunks: [40, 90_000], perChunk: [[1, 3, 1], [2, 2, 1]], wide: true }); // prettier-ignore
    expect(read(cut)).toMatchObject({ reason: { code: 'truncated', presentInFrames: 3, expectedInFrames: 5 } });
  });

  test('a table that is shorter than it claims is broken, not waited for', () => {
    expect(read(film({ claims: 0xffff_ffff }))).toMatchObject({
      kind: 'pass',
      suspicion: { code: 'header-broken', detail: { fault: { code: 'table-short' } } },
    });
  });

  test('frames that no chunk holds are not there: a forged count is no length', () => {
    expect(read(film({ fixed: 1, frames: 4, claims: 0xffff_fff0, times: [[0xffff_fff0, 1000]] }))).toMatchObject({
      kind: 'pass',
      suspicion: { code: 'header-broken', detail: { fault: { code: 'table-short' } } },
    });
  });

  test('no index, an index cut off, parts larger than the whole, parts nested without end', () => {
    const unwritten = joined(box('ftyp', 'qt  ', be(0, 4)), box('mdat', new Uint8Array(40)));
    expect(read(unwritten)).toMatchObject({ reason: { detail: { code: 'index-unwritten' } } });
    expect(read(box('ftyp', 'qt  ', be(0, 4)))).toMatchObject({ reason: { detail: { code: 'index-missing' } } });
    const whole = film();
    expect(read(whole.subarray(0, whole.length - 5))).toMatchObject({ reason: { detail: { code: 'ends-in-index' } } });
    expect(read(movie(joined(be(5000, 4), 'trak')))).toMatchObject({
      suspicion: { detail: { fault: { code: 'part-above-whole' } } },
    });
    const tiny = joined(box('ftyp', 'qt  ', be(0, 4)), be(3, 4), 'moov', be(0, 8));
    expect(read(tiny)).toMatchObject({ suspicion: { detail: { fault: { code: 'part-below-head' } } } });
    expect(read(movie(box('trak', box('edts', be(0, 4)))))).toMatchObject({
      suspicion: { detail: { fault: { code: 'index-lacks', part: 'mdia' } } },
    });
  });
});

describe('where the coded pictures lie', () => {
  const pictures = (made: Made) => readPictures(readerOf(film(made)));

  test('each by place, size and frame; where there is no table of keys, all are', () => {
    expect(pictures({ sizes: [10, 20, 30, 40] })).toEqual([
      { offset: 40, size: 10, frame: 0, isKey: true },
      { offset: 50, size: 20, frame: 1, isKey: true },
      { offset: 70, size: 30, frame: 2, isKey: true },
      { offset: 100, size: 40, frame: 3, isKey: true },
    ]);
  });

  test('decoded in another order than shown: the frame is the one shown', () => {
    // I P B B, shown as I B B P: each by one frame later than it is decoded at the least.
    const made = { keys: [1], shifts: [[1, 1000], [1, 3000], [2, 0]], edits: [[4, 1000, 65_536]] }; // prettier-ignore
    expect(pictures(made)?.map((p) => [p.frame, p.isKey])).toEqual([
      [0, true],
      [3, false],
      [1, false],
      [2, false],
    ]);
  });

  test.each<[string, Made]>([
    ['shown from a later frame', { edits: [[3, 1000, 65_536]] }],
    ['a pause before it', { edits: [[10, 0xffff_ffff, 65_536], [4, 0, 65_536]] }], // prettier-ignore
    ['two shown at one time', { shifts: [[1, 1000], [3, 0]] }], // prettier-ignore
    ['shown between two frames', { shifts: [[1, 0], [3, 500]] }], // prettier-ignore
    ['a table of times for fewer', { times: [[3, 1000]] }],
    ['a frame past the end', { sizes: [10, 20, 30, 4000] }],
    ['a count that no chunk holds', { fixed: 1, claims: 0xffff_fff0, times: [[0xffff_fff0, 1000]] }],
    ['media in another file', { isElsewhere: true }],
  ])('%s: only a decoder knows', (_name, made) => {
    expect(pictures(made)).toBeNull();
  });

  test('two picture tracks: which is meant, it does not guess', () => {
    const second = trak('vide', { entry: picture('apcn') });
    expect(readPictures(readerOf(film({}, second)))).toBeNull();
  });
});
