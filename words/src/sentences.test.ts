import { describe, expect, test } from '@jest/globals';
import type { PlaceView, PlannedRecording, SetCheck } from '@legame/core/contract';
import type { CauseKind, TimecodeCause } from '@legame/core/match';
import { checkStates } from '@legame/core/mhl';
import type { Unreadable } from '@legame/core/model';
import type { Renaming } from '@legame/core/paths';
import { rate } from '@legame/core/time';
import {
  aboutWords,
  causeName,
  causeSentence,
  interpretationWords,
  mendWords,
  renamedWords,
  shiftsOf,
} from './causes.ts';
import { codedText, handlesCutText, listed, lostText, scopeText, sidecarsText, tracksLeftText } from './handoffs.ts';
import { setSentence } from './sets.ts';
import { placeSentence, placeState, remedyWords, skippedWords, unreadableWords } from './storage.ts';

const pal = rate(25);
const displaced = (given: object): CauseKind =>
  ({
    code: 'displaced',
    folder: null,
    name: null,
    timecode: null,
    rate: null,
    isOtherRaster: false,
    ...given,
  }) as never;
const moved = { from: 'KILN_A/day1', to: 'KILN_B/rushes', how: 'moved' };

describe('a cause over its clips', () => {
  test.each<[CauseKind, number, string]>([
    [displaced({ folder: moved }), 3, 'A folder lies elsewhere'],
    [displaced({ folder: moved }), 1, 'One file lies elsewhere'],
    [displaced({ folder: { ...moved, how: 'drive' } }), 3, 'A drive has another name here'],
    [displaced({ folder: { ...moved, how: 'gathered' } }), 3, 'Several folders were put together in one'],
    [displaced({ folder: { ...moved, from: '' } }), 1, 'The edit knows no path, the files were found'],
    [displaced({ name: 'afresh' }), 2, 'Files were named afresh'],
    [displaced({}), 2, 'Files were found again'],
    [
      displaced({ folder: moved, timecode: { kind: 'from-zero' }, isOtherRaster: true }),
      2,
      'A folder lies elsewhere, the edit counts each clip from zero, the files carry their own time and only another size of the picture is there',
    ],
    [displaced({ rate: { file: rate(24), edit: pal } }), 2, 'The rate is 24 and not 25'],
    [{ code: 'place-away', placeName: 'CARD_07' } as never, 4, 'CARD_07 is not plugged in'],
    [{ code: 'unreadable' } as never, 1, 'A file cannot be read'],
    [{ code: 'unreadable' } as never, 2, '2 files cannot be read'],
    [{ code: 'choice' } as never, 1, 'Several files are equally good'],
    [{ code: 'choice' } as never, 2, 'These may lie in either of several folders'],
  ])('%o of %i', (kind, clips, sentence) => {
    expect(causeSentence(kind, clips)).toBe(sentence);
  });

  test('its short name is what moved whereto, where that is known', () => {
    const clipIds = ['a', 'b'] as never;
    expect(causeName({ kind: displaced({ folder: moved }), clipIds })).toBe('KILN_A/day1 → KILN_B/rushes');
    expect(causeName({ kind: displaced({ name: 'afresh' }), clipIds })).toBe('Files were named afresh');
  });

  const same = { kind: 'same' } as const;
  test.each<[Renaming, string]>([
    [
      { stem: { kind: 'added', before: 'SG_', after: '_day2' }, extension: null },
      'names have “SG_” in front and “_day2” behind',
    ],
    [{ stem: { kind: 'removed', before: '', after: '_proxy' }, extension: null }, 'names have lost “_proxy”'],
    [{ stem: { kind: 'inserted', text: '-b' } as never, extension: null }, 'names have “-b” put in'],
    [{ stem: { kind: 'replaced', from: 'GB', to: 'SG' } as never, extension: null }, 'names have “SG” for “GB”'],
    [{ stem: { kind: 'renumbered', by: -12 } as never, extension: null }, 'names have numbers 12 lower'],
    [{ stem: same, extension: 'mxf' } as never, 'the ending is “mxf” now'],
    [
      { stem: { kind: 'added', before: 'x', after: '' }, extension: 'mov' } as never,
      'names have “x” in front, the ending is “mov” now',
    ],
  ])('%o', (renaming, text) => {
    expect(renamedWords(renaming)).toBe(text);
  });

  test('its remedy says what it counts anew, and its figures stand a reel each where they differ', () => {
    const timecode = (cause: TimecodeCause) => mendWords({ kind: displaced({ timecode: cause }), links: 3 });
    const shifted: TimecodeCause = { kind: 'shifted', byFrames: -90_000, rate: pal, inHours: -1 };
    expect(mendWords({ kind: displaced({ folder: moved }), links: 12 })).toBe('Link 12');
    expect(timecode(shifted)).toBe('Apply offset, link 3');
    expect(timecode({ kind: 'other-rate', from: pal, to: rate(24) })).toBe('Count at 24, link 3');
    expect(shiftsOf(shifted)).toEqual([{ label: '', shift: '−01:00:00:00' }]);
    const reels = [{ reel: 'A001', byFrames: 25, rate: pal }];
    expect(shiftsOf({ kind: 'shifted-per-reel', reels })).toEqual([{ label: 'A001', shift: '+00:00:01:00' }]);
  });

  test('how a clip is read, and what an act followed from', () => {
    expect(interpretationWords({ countedAt: rate(24), shiftInFrames: 24 }, pal)).toBe('counted at 24, +00:00:01:00');
    expect(interpretationWords({ countedAt: null, shiftInFrames: -25 }, pal)).toBe('−00:00:01:00');
    expect(aboutWords(null)).toBe('');
    expect(aboutWords({ code: 'folder', from: '', to: 'KILN' })).toBe('/ → KILN');
    expect(aboutWords({ code: 'checkpoint', name: 'before colour' })).toBe('“before colour”');
  });
});

describe('a handoff', () => {
  test('lists are read as sentences', () => {
    expect([listed([]), listed(['a']), listed(['a', 'b']), listed(['a', 'b', 'c'])]).toEqual([
      '',
      'a',
      'a and b',
      'a, b and c',
    ]);
    expect(lostText(['reel', 'reel', 'colour'])).toBe('not kept: reel and colour tags');
    expect(lostText([])).toBeNull();
  });

  test.each([
    [{ timelines: [], ranges: [], bins: [], clipsChosen: null }, 'all clips'],
    [{ timelines: ['Cut 7', 'Trailer'], ranges: [], bins: [], clipsChosen: 1 }, '1 chosen clip of Cut 7 and Trailer'],
    [
      { timelines: ['Cut 7'], ranges: [], bins: [['selects', 'day 1'], []], clipsChosen: null },
      'Cut 7, and all of the bin selects › day 1 and every bin',
    ],
    [
      {
        timelines: ['Cut 7'],
        ranges: [{ timeline: 'Cut 7', from: '10:00:00:00', to: '10:00:10:00' }],
        bins: [],
        clipsChosen: null,
      },
      'Cut 7 (only Cut 7 from 10:00:00:00 to 10:00:10:00)',
    ],
  ])('%o', (scope, text) => {
    expect(scopeText(scope)).toBe(text);
  });

  test('what is short, coded or left behind is told, and nothing where nothing is', () => {
    const outs = (...cuts: [number, number][]) =>
      cuts.map(([head, tail]) => ({ handlesCut: { head, tail } })) as unknown as PlannedRecording['outs'];
    expect(handlesCutText({ outs: outs([0, 0]), kind: 'picture' })).toBeNull();
    expect(handlesCutText({ outs: outs([1, 0], [4, 12]), kind: 'picture' })).toBe(
      'handles short of 4 frames at its start and 12 frames at its end',
    );
    expect(handlesCutText({ outs: outs([0, 1]), kind: 'sound' })).toBe('handles short of 1 sample at its end');
    const beside = (...names: string[]) =>
      names.map((name) => ({ target: `media/${name}` })) as unknown as PlannedRecording['sidecars'];
    expect(sidecarsText({ sidecars: [] })).toBeNull();
    expect(sidecarsText({ sidecars: beside('a.xml') })).toBe('with a.xml');
    expect(sidecarsText({ sidecars: beside('a', 'b', 'c', 'd', 'e') })).toBe('with a, b, c and 2 more');
    expect(tracksLeftText({ tracksLeft: 0 })).toBeNull();
    expect(tracksLeftText({ tracksLeft: 1 })).toMatch(/^without its other track:/);
    expect(tracksLeftText({ tracksLeft: 3 })).toMatch(/^without its 3 other tracks:/);
    const coded = (given: object) =>
      ({
        coded: { coding: 'ffv1', bitDepth: 10, chroma: '4:2:2', raster: null, isExact: true, ...given },
      }) as unknown as PlannedRecording;
    expect(codedText({ coded: null })).toBeNull();
    expect(codedText(coded({}))).toBe('as FFV1, without loss, 10-bit 4:2:2');
    expect(codedText(coded({ isExact: false, raster: { width: 1280, height: 720 } }))).toBe(
      'as FFV1, 10-bit 4:2:2, 1280 × 720',
    );
    const wave = (isExact: boolean) => coded({ coding: 'wave', codec: 'pcm_s24le', bitDepth: 24, isExact });
    expect(codedText(wave(true))).toBe('as WAVE, without loss, 24-bit PCM');
    expect(codedText(wave(false))).toBe('as WAVE, 24-bit PCM');
  });
});

describe('a received set', () => {
  const check = (files: object, given: Partial<SetCheck> = {}) =>
    ({
      counts: { ...Object.fromEntries(checkStates.map((s) => [s, { files: 0, bytes: 0 }])), ...files },
      lists: [],
      listsGone: [],
      handoff: null,
      ...given,
    }) as unknown as SetCheck;
  const of = (files: number) => ({ files, bytes: 1 });

  test.each([
    [check({ verified: of(12) }), 'All 12 files are what was handed over.'],
    [check({}), 'Its lists tell of no file, and none is there.'],
    [check({ verified: of(10), changed: of(1), new: of(2) }), '10 of 13 files are verified, 1 changed, 2 new.'],
    [
      check({ verified: of(1) }, { listsGone: ['0001.mhl'] }),
      'Its one file is what was handed over. But the hash lists themselves cannot be trusted: see below.',
    ],
  ])('%#', (given, sentence) => {
    expect(setSentence(given)).toBe(sentence);
  });
});

describe('storage', () => {
  const place = (given: Partial<PlaceView>) =>
    ({ there: true, slow: false, readOnly: false, silent: false, awayBecause: null, ...given }) as PlaceView;

  test.each([
    [place({}), 'there', null],
    [place({ readOnly: true }), 'there, read-only', /can be searched and linked/],
    [place({ slow: true }), 'slow', /holds nobody else up/],
    [place({ silent: true, there: false }), 'no answer yet', /its clips stay as they are/],
    [place({ there: false, awayBecause: 'no-answer' }), 'does not answer', /given up for now/],
    [place({ there: false, awayBecause: 'another-drive' }), 'another drive lies there', /wait for the right drive/],
    [place({ there: false }), 'not plugged in', /come back by themselves/],
  ])('%#: a place is %s', (given, state, sentence) => {
    expect(placeState(given)).toBe(state);
    if (sentence === null) expect(placeSentence(given)).toBeNull();
    else expect(placeSentence(given)).toMatch(sentence);
  });

  test('what was passed over is counted, each with its reason, and nothing where nothing was', () => {
    const none = { hidden: 0, links: 0, excluded: 0, special: 0, unlisted: [], unnameable: [] };
    expect(skippedWords(none)).toEqual([]);
    expect(skippedWords({ ...none, hidden: 1200, links: 1, unlisted: ['a', 'b'] })).toEqual([
      '1\u202f200 hidden or system',
      '1 link, not followed',
      '2 folders without permission',
    ]);
  });

  test.each<[Unreadable, string]>([
    [{ code: 'file-empty' }, 'it is empty: 0 bytes.'],
    [{ code: 'header-broken', detail: 'no moov' }, 'its header is broken: no moov.'],
    [
      { code: 'truncated', presentInFrames: 1200, expectedInFrames: 4000, unit: 'frames' },
      'it is cut off: 1\u202f200 of 4\u202f000 frames are there, the end is missing.',
    ],
    [
      { code: 'damaged', atFrame: 12, ofFrames: null, detail: 'bad slice' },
      'it opens, but stops at frame 12: bad slice.',
    ],
    [
      { code: 'damaged', atFrame: null, ofFrames: 90, detail: 'bad slice' },
      'it opens, but decoding stumbles: bad slice.',
    ],
    [{ code: 'no-answer', seconds: 8 }, 'the storage gave no answer for 8 s while it was being read.'],
    [
      { code: 'not-accepted', refusal: { what: 'codec', found: 'h264', accepted: 'prores' } },
      'the project does not take its codec: h264; accepted is prores.',
    ],
  ])('%o', (reason, sentence) => {
    expect(unreadableWords(reason)).toBe(sentence);
    expect(remedyWords(reason)).toMatch(/^[A-Z].*\.$/);
  });
});
