import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { acceptsAll } from '../model/acceptance.ts';
import type { MediaKind } from '../model/edit.ts';
import type { Facts } from '../model/media.ts';
import { buildFile, clipId, fileId } from '../testing/build.ts';
import type { FrameRange } from '../time/range.ts';
import { rate } from '../time/rate.ts';
import { nameBy, placesFor, strangeTokens } from './names.ts';
import { standardChoices, type Choices, type PlanInput, type Treatment } from './choices.ts';
import { codedAs, codedSoundAs, codings } from './coding.ts';
import { filesToCopy, planHandoff } from './plan.ts';
import type { Cutting } from './spans.ts';
import { roomAfter } from './room.ts';

const whole: Choices = standardChoices;
const trim: Choices = { ...whole, picture: 'trim', sound: 'trim' };

const facts = (change: Partial<Facts> = {}): Facts => ({ ...buildFile('A/a.mov').facts!, length: 1000, ...change });

const input = (id: string, path: string, usedBy: string[] = ['cut'], more: Partial<PlanInput> = {}): PlanInput => {
  const parts = path.split('/');
  return {
    clipId: clipId(id),
    clipName: parts.at(-1)!,
    usedBy,
    bin: [],
    scene: null,
    take: null,
    rate: rate(25),
    counting: 'non-drop',
    statedStart: null,
    reason: null,
    uses: [],
    file: {
      id: fileId(path),
      placeName: parts[0]!,
      folder: parts.slice(1, -1).join('/'),
      name: parts.at(-1)!,
      sizeInBytes: 1000,
      sequence: null,
      facts: facts(),
      cutting: { can: 'anywhere' },
      otherTracks: 0,
      sidecars: [],
    },
    ...more,
  };
};
const withFile = (one: PlanInput, change: Partial<NonNullable<PlanInput['file']>>): PlanInput => ({
  ...one,
  file: { ...one.file!, ...change },
});
const targetsOf = (clips: readonly PlanInput[], choices: Choices = whole) =>
  planHandoff(clips, choices).recordings.flatMap((r) => r.outs.map((o) => o.target));
const range = (start: number, end: number): FrameRange => ({ start, end });

describe('the plan', () => {
  test('each file once, however many clips use it; bytes summed; what cannot come along is named', () => {
    const plan = planHandoff(
      [
        input('1', 'KILN_A/a/bowl.mov'),
        input('2', 'KILN_A/a/bowl.mov', ['trailer']),
        input('3', 'KILN_B/b/door.mov'),
        { ...input('4', 'K/gone.mov'), file: null, reason: 'place-away' },
      ],
      whole,
    );
    expect(plan.recordings.map((r) => [r.source, r.outs[0]!.target, r.clipIds, r.usedBy])).toEqual([
      ['a/bowl.mov', 'media/bowl.mov', ['1', '2'], ['cut', 'trailer']],
      ['b/door.mov', 'media/door.mov', ['3'], ['cut']],
    ]);
    expect(plan.sizeInBytes).toBe(2000);
    expect(plan.leftOut).toMatchObject([
      { clipId: '4', clipName: 'gone.mov', mediaFileId: null, reason: 'place-away' },
    ]);
  });

  test('of what is trimmed, the spans over all clips that use it, named by where they start', () => {
    const at = (id: string, uses: FrameRange[]) => input(id, 'K/d/bowl.mov', ['cut'], { uses });
    const start = facts().start;
    const [recording] = planHandoff([at('1', [range(100, 150)]), at('2', [range(400, 410)])], trim).recordings;
    expect(recording!.outs.map((o) => [o.range, o.startsAt, o.sizeInBytes])).toEqual([
      [range(76, 174), start + 76, 98],
      [range(376, 434), start + 376, 58],
    ]);
    expect(recording!.outs[0]!.target).toMatch(/^media\/bowl_\d{8}\.mov$/);
    expect(recording!.wholeInBytes).toBe(1000);
  });

  test.each<[string, Partial<NonNullable<PlanInput['file']>>, (FrameRange | null)[], string]>([
    ['cannot be cut', { cutting: { can: 'nowhere', because: 'open-groups' } }, [range(1, 2)], 'open-groups'],
    ['is used from end to end', {}, [range(0, 990)], 'all-used'],
    ['is used by nothing', {}, [], 'not-used'],
    ['is used outside of what it holds', {}, [range(5000, 5010)], 'not-used'],
    ['is used one does not know where', {}, [range(1, 2), null], 'use-unknown'],
    ['has a length that nobody knows', { facts: facts({ length: null }) }, [range(1, 2)], 'no-length'],
  ])('what %s goes whole, and it is said why', (_, file, uses, because) => {
    const plan = planHandoff([withFile(input('1', 'K/bowl.mov', ['cut'], { uses }), file)], trim);
    expect(plan.recordings.map((r) => [r.wholeBecause, r.outs.map((o) => o.range)])).toEqual([[because, [null]]]);
  });

  describe('what is transcoded', () => {
    const coded: Choices = { ...whole, picture: 'transcode', coding: 'dnxhd' };
    const deep = { codec: 'prores', bitDepth: 10, chroma: '4:2:2', raster: { width: 1920, height: 1080 } };
    const film = (
      file: Partial<NonNullable<PlanInput['file']>> = {},
      uses: (FrameRange | null)[] = [range(100, 150)],
    ) => withFile(input('1', 'K/bowl.mxf', ['cut'], { uses }), { facts: facts(deep), ...file });
    const of = (one: PlanInput, choices: Choices = coded, accepts = acceptsAll) =>
      planHandoff([one], choices, { accepts }).recordings[0]!;

    test('goes in spans to the frame, also where packets could not be parted, under the ending of its new kind', () => {
      const open = film({ cutting: { can: 'nowhere', because: 'open-groups' } });
      const { outs, coded: as, wholeBecause } = of(open);
      expect(outs.map((o) => [o.range, o.target])).toEqual([[range(76, 174), expect.stringMatching(/\.mov$/)]]);
      expect(as).toMatchObject({ coding: 'dnxhd', bitDepth: 10, chroma: '4:2:2' });
      expect(wholeBecause).toBeNull();
      expect(of(film({}, [range(0, 990)])).outs.map((o) => o.range)).toEqual([range(0, 1000)]);
      expect(of(film({}, [null])).outs.map((o) => o.range)).toEqual([range(0, 1000)]);
    });

    test('an image sequence is none: its frames go as they are, and what the receiver cannot use of them stays', () => {
      const frames = { sequence: { prefix: 'bowl_', padding: 4, first: 1, last: 1000, missing: [], suffix: '.dpx' } };
      const sequence = film({ ...frames, facts: facts({ ...deep, kind: 'sequence', codec: 'dpx', length: null }) });
      expect(of(sequence)).toMatchObject({ coded: null, outs: [{ range: range(76, 174) }] });
      expect(of(sequence).sizeInBytes).toBe(planHandoff([sequence], trim).recordings[0]!.sizeInBytes);
      const plan = planHandoff([sequence], coded, { accepts: { ...acceptsAll, largestBitDepth: 8 } });
      expect(plan.leftOut.map((l) => l.reason)).toEqual(['not-accepted']);
    });

    test.each<[codec: string, bitDepth: number | null, to: string, isExact: boolean]>([
      ['pcm_s24be', 24, 'pcm_s24le', true],
      ['pcm_u8', 8, 'pcm_u8', true],
      ['pcm_s8', 8, 'pcm_u8', true],
      ['pcm_f32be', 32, 'pcm_f32le', true],
      ['pcm_alaw', 8, 'pcm_s16le', true],
      ['flac', 16, 'pcm_s16le', true],
      ['alac', 20, 'pcm_s24le', true],
      ['flac', null, 'pcm_s24le', false],
      ['mp3', null, 'pcm_s24le', false],
      ['pcm_s64be', 64, 'pcm_s24le', false],
    ])('sound of %s (%p bits) becomes %s, without loss: %p', (codec, bitDepth, to, isExact) => {
      expect(codedSoundAs({ codec, bitDepth })).toMatchObject({ codec: to, isExact, extension: 'wav' });
    });

    test('sound goes in spans to the sample under the ending of WAVE; what is that already is cut as it is', () => {
      const heard = { kind: 'sound', rate: null, sampleRate: 48_000, length: 480_000, channels: 2 } as const;
      const chosen: Choices = { ...whole, sound: 'transcode' };
      const voice = (name: string, codec: string, cutting: Cutting, uses: (FrameRange | null)[]) =>
        of(
          withFile(input('1', `K/${name}`, ['cut'], { uses }), { facts: facts({ ...heard, codec }), cutting }),
          chosen,
        );
      const nowhere = { can: 'nowhere', because: 'container' } as const;
      const coded = voice('song.mp3', 'mp3', nowhere, [range(96_000, 144_000)]);
      expect(coded.outs.map((o) => [o.range, o.target])).toEqual([
        [range(96_000 - 46_080, 144_000 + 46_080), expect.stringMatching(/\.wav$/)],
      ]);
      expect(coded.coded).toMatchObject({ coding: 'wave', codec: 'pcm_s24le' });
      const samples = 144_000 - 96_000 + 2 * 46_080;
      expect(coded.sizeInBytes).toBeGreaterThanOrEqual(samples * 2 * 3);
      expect(coded.sizeInBytes).toBeLessThan(samples * 2 * 3 + 2000);
      expect(voice('song.mp3', 'mp3', nowhere, [null]).outs.map((o) => o.range)).toEqual([range(0, 480_000)]);
      const wave = voice('voice.wav', 'pcm_s24le', { can: 'anywhere' }, [range(96_000, 144_000)]);
      expect([wave.coded, wave.outs[0]!.range]).toEqual([null, coded.outs[0]!.range]);
    });

    test.each<[string, PlanInput, string]>([
      ['frames are not evenly spaced', film({ cutting: { can: 'nowhere', because: 'rate-varies' } }), 'rate-varies'],
      ['length nobody knows', film({ facts: facts({ ...deep, length: null }) }), 'no-length'],
      ['sides are odd', film({ facts: facts({ ...deep, raster: { width: 641, height: 360 } }) }), 'odd-raster'],
      ['picture is too small', film({ facts: facts({ ...deep, raster: { width: 160, height: 90 } }) }), 'small-raster'],
    ])('what cannot be goes whole, and it is said why: its %s', (_, one, because) => {
      const { wholeBecause, coded: as, outs } = of(one);
      expect([wholeBecause, as, outs[0]!.range]).toEqual([because, null, null]);
    });

    test('only FFV1 that keeps depth, chroma and raster is without loss; none gets deeper or larger than it was', () => {
      const source = facts({ ...deep, bitDepth: 12, chroma: '4:4:4' });
      const small = { ...acceptsAll, largestRaster: { width: 1280, height: 1280 }, largestBitDepth: 10 };
      for (const coding of codings) {
        const [free, bound] = [codedAs(source, coding), codedAs(source, coding, small)];
        if ('because' in free || 'because' in bound) throw new Error(coding);
        expect(free.isExact).toBe(coding === 'ffv1');
        expect([free.raster, free.bitDepth <= 12]).toEqual([deep.raster, true]);
        expect(bound).toMatchObject({ isExact: false, raster: { width: 1280, height: 720 } });
        expect(bound.bitDepth).toBeLessThanOrEqual(10);
      }
    });

    test('by rule only what the project refuses is; what it would refuse then too cannot come', () => {
      const byRule: Choices = { ...trim, coding: 'h264', transcodesRefused: true };
      const accepts = { ...acceptsAll, codecs: ['h264', 'prores'] };
      const refused = film({ facts: facts({ ...deep, codec: 'vp9' }) });
      expect(of(refused, byRule, accepts).coded?.coding).toBe('h264');
      expect(of(film(), byRule, accepts)).toMatchObject({ coded: null, treatment: 'trim' });
      expect(planHandoff([refused], trim, { accepts }).leftOut.map((l) => l.reason)).toEqual(['not-accepted']);
      const neither = planHandoff([refused], { ...byRule, coding: 'mjpeg' }, { accepts });
      expect([neither.recordings, neither.leftOut.map((l) => l.reason)]).toEqual([[], ['not-accepted']]);
    });

    test('a receiver of its own stands in the place of what the project accepts, either way', () => {
      const project = { ...acceptsAll, codecs: ['h264'] };
      const [their, theirs] = [
        { ...acceptsAll, codecs: ['vp9', 'mjpeg'] },
        film({ facts: facts({ ...deep, codec: 'vp9' }) }),
      ];
      const h264 = film({ facts: facts({ ...deep, codec: 'h264' }) });
      const made = (one: PlanInput, more: Partial<Choices>) =>
        planHandoff([one], { ...trim, coding: 'mjpeg', ...more }, { accepts: project });
      // What the project refuses and the receiver uses goes as it is; what the project accepts and they cannot use does not.
      expect(made(theirs, { receiver: their }).recordings).toMatchObject([{ treatment: 'trim', coded: null }]);
      expect(made(h264, { receiver: their }).leftOut.map((l) => l.reason)).toEqual(['not-accepted']);
      expect(made(h264, { receiver: their, transcodesRefused: true }).recordings).toMatchObject([
        { coded: { coding: 'mjpeg' } },
      ]);
      expect(made(h264, {}).recordings).toMatchObject([{ coded: null }]);
      // A receiver who can use everything takes what the project itself does not.
      expect(made(theirs, { receiver: acceptsAll }).leftOut).toEqual([]);
      expect(made(theirs, {}).leftOut.map((l) => l.reason)).toEqual(['not-accepted']);
    });

    test('with one recording something else is done than with its kind, if that can be done with it', () => {
      const sound = withFile(input('2', 'K/voice.wav', ['cut'], { uses: [range(96_000, 144_000)] }), {
        facts: facts({ kind: 'sound', rate: null, sampleRate: 48_000, length: 480_000 }),
      });
      const say = (treatment: Treatment): Choices => ({
        ...whole,
        exceptions: [film(), sound].map(({ file }) => ({ mediaFileId: file!.id, treatment })),
      });
      const treatments = (choices: Choices) => planHandoff([film(), sound], choices).recordings.map((r) => r.treatment);
      expect(treatments(say('trim'))).toEqual(['trim', 'trim']);
      expect(treatments(say('transcode'))).toEqual(['transcode', 'transcode']);
      expect(treatments(say('leave'))).toEqual([]);
    });
  });

  test('what has more tracks than picture, sound and timecode says so where a part of it is without them', () => {
    const of = (choices: Choices) =>
      planHandoff(
        [withFile(input('1', 'K/bowl.mov', ['cut'], { uses: [range(100, 110)] }), { otherTracks: 2 })],
        choices,
      ).recordings[0]!.tracksLeft;
    expect([of(trim), of(whole)]).toEqual([2, 0]);
  });

  test('a file without timecode goes on from what the edit calls its start; if edits disagree it stays without', () => {
    const bare = (id: string, statedStart: number | null) =>
      withFile(input(id, 'K/bowl.mov', ['cut'], { uses: [range(100, 110)], statedStart }), {
        facts: facts({ timecodeSource: 'none', start: 0 }),
      });
    const startOf = (...clips: PlanInput[]) => planHandoff(clips, trim).recordings[0]!.outs[0]!.startsAt;
    expect(startOf(bare('1', null))).toBe(76);
    expect(startOf(bare('1', 90_000))).toBe(90_076);
    expect(startOf(bare('1', 90_000), bare('2', 0))).toBeNull();
    expect(startOf(bare('1', 25 * 86_400 - 50))).toBe(26);
  });

  test('handles are frames of the edit: of sound, so many samples', () => {
    const sound = withFile(input('1', 'K/voice.wav', ['cut'], { uses: [range(96_000, 144_000)] }), {
      facts: facts({ kind: 'sound', rate: null, sampleRate: 48_000, length: 480_000 }),
    });
    expect(planHandoff([sound], trim).recordings[0]!.outs[0]!.range).toEqual(range(96_000 - 46_080, 144_000 + 46_080));
  });

  test('what a person leaves is left out, and it is said that this was a choice', () => {
    const still = withFile(input('1', 'K/map.png'), { facts: facts({ kind: 'still', length: null }) });
    const plan = planHandoff([still, input('2', 'K/a.mov')], { ...whole, still: 'leave' });
    expect(plan.leftOut).toMatchObject([{ clipId: '1', clipName: 'map.png', reason: 'left-by-choice' }]);
    expect(plan.recordings).toHaveLength(1);
  });

  test('a sequence brings every frame that it has, or those of its span and never so few that they are single stills', () => {
    const sequence = { prefix: 'title_', suffix: '.png', padding: 4, first: 1001, last: 1100, missing: [1002] };
    const title = (uses: FrameRange[]) =>
      withFile(input('1', 'S/titles/title_####.png', ['cut'], { uses }), { sequence, facts: null });
    const filesOf = (clip: PlanInput, choices: Choices) => {
      const [recording] = planHandoff([clip], choices).recordings;
      return filesToCopy(recording!.source, recording!.outs[0]!);
    };
    const all = filesOf(title([]), whole);
    expect(all).toHaveLength(99);
    expect(all[0]).toEqual({ source: 'titles/title_1001.png', target: 'media/title/title_1001.png' });
    const few = filesOf(title([range(98, 99)]), { ...trim, handlesInFrames: 0 });
    expect([few.length, few.at(-1)!.source]).toEqual([8, 'titles/title_1100.png']);
  });
});

describe('names', () => {
  const parts = { name: 'bowl', reel: 'A001', scene: '', take: '3', timeline: 'cut', start: '10040000', n: '01' };

  test('a pattern’s tokens give way to what is known; what is not known takes its separator along', () => {
    expect(nameBy('{reel}_{name}_{start}', parts)).toBe('A001_bowl_10040000');
    expect(nameBy('{scene}-{take}_{name}', parts)).toBe('3_bowl');
    expect(nameBy('{scene}', parts)).toBe('bowl');
    expect(nameBy('{name}: {timeline}?', parts)).toBe('bowl_ cut_');
    expect(strangeTokens('{name}_{nmae}')).toEqual(['nmae']);
  });

  test('two files of one name go into folders named after theirs, and numbers where that is not enough', () => {
    expect(
      targetsOf([
        input('1', 'KILN_A/card_A/GB7.mov'),
        input('2', 'KILN_B/card_B/gb7.MOV'),
        input('3', 'KILN_C/card_B/GB7.mov'),
      ]),
    ).toEqual(['media/card_A/GB7.mov', 'media/card_B/gb7.MOV', 'media/card_B/GB7_2.mov']);
  });

  test('a file never has the name of a folder', () => {
    const at = (folder: string, name: string) => ({ folder, name, from: 'card' });
    const paths = placesFor([at('', 'a'), at('A', 'b.mov')]);
    expect(paths[1]).toBe('A/b.mov');
    expect(paths[0]!.toLowerCase()).not.toBe('a');
  });

  test.each<[Partial<Choices>, string]>([
    [{ foldering: 'as-source' }, 'media/KILN/day1/camA/bowl.mov'],
    [{ foldering: 'as-source', levels: 1 }, 'media/camA/bowl.mov'],
    [{ foldering: 'as-source', levels: 0 }, 'media/bowl.mov'],
    [{ foldering: 'by-reel' }, 'media/A001/bowl.mov'],
    [{ foldering: 'by-kind' }, 'media/picture/bowl.mov'],
    [{ foldering: 'by-timeline' }, 'media/cut/bowl.mov'],
    [{ foldering: 'by-bin' }, 'media/Day 1/bowl.mov'],
  ])('foldered %j', (change, target) => {
    const bowl = withFile(input('1', 'KILN/day1/camA/bowl.mov', ['cut'], { bin: ['Day 1'] }), {
      facts: facts({ reel: 'A001' }),
    });
    expect(targetsOf([bowl], { ...whole, ...change })).toEqual([target]);
  });

  test('targets never collide, never leave the folder, and do not depend on the order of clips', () => {
    const names = fc.constantFrom(
      ...[
        'a.mov',
        'A.MOV',
        'a_2.mov',
        'x/a.mov',
        'caf\u00e9.mov',
        'cafe\u0301.mov',
        'con.wav',
        '..',
        'b?.mov',
        'b:.mov',
      ],
    );
    const folders = fc.constantFrom('', 'x', 'X', 'x/y', 'y', '../..', 'a.mov');
    const choices = fc.record({
      foldering: fc.constantFrom('flat', 'as-source', 'by-kind'),
      picture: fc.constantFrom('whole', 'trim'),
      pattern: fc.constantFrom('{name}', '{reel}', '{n}'),
      kind: fc.constantFrom<MediaKind>('picture', 'sound'),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.constantFrom('P', 'Q'), folders, names), {
          maxLength: 25,
          selector: (t) => t.join('|'),
        }),
        choices,
        (list, { kind, ...how }) => {
          const inputs = list.map(([placeName, folder, name], i) =>
            withFile(input(String(i), 'x', ['cut'], { uses: [range(50, 60), range(500, 510)] }), {
              id: fileId(`${placeName}|${folder}|${name}`),
              placeName,
              folder,
              name,
              facts: facts({ kind }),
            }),
          );
          const chosen: Choices = { ...trim, ...how };
          const targets = targetsOf(inputs, chosen);
          const keys = targets.map((t) => t.normalize('NFC').toLowerCase());
          expect(new Set(keys).size).toBe(targets.length);
          for (const key of keys) expect(keys.some((other) => other.startsWith(`${key}/`))).toBe(false);
          for (const target of targets)
            expect(
              target
                .split('/')
                .every((part, i) => (i === 0 ? part === 'media' : part !== '..' && part !== '.' && part !== '')),
            ).toBe(true);
          expect(targetsOf([...inputs].reverse(), chosen)).toEqual(targets);
        },
      ),
      { numRuns: 80 },
    );
  });
});

test('room is what is free less headroom', () => {
  const room = { freeInBytes: 300, totalInBytes: 1000, headroomShare: 0.2 };
  expect(roomAfter(100, room)).toEqual({ fits: true, usableInBytes: 100, leftInBytes: 0 });
  expect(roomAfter(101, room).fits).toBe(false);
  expect(roomAfter(1, { ...room, freeInBytes: 150 })).toMatchObject({ fits: false, usableInBytes: 0 });
});
