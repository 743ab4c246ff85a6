import { describe, expect, test } from '@jest/globals';
import type { MediaFile } from '../model/media.ts';
import type { Place } from '../model/place.ts';
import { rate } from '../time/rate.ts';
import { buildClip, buildFile, buildPlace, clipId, fileId } from '../testing/build.ts';
import { allDark, produce } from '../testing/truth/index.ts';
import { findCauses } from './causes.ts';
import { type Cause, type DarkClip } from './cause.ts';
import { cover } from './cover.ts';
import { FoundBefore } from './hypotheses.ts';
import { match, type MatchInput } from './match.ts';
import type { MatchClip } from './prepare.ts';
import { defaultRules } from './rules.ts';

const places = [buildPlace('KILN_A'), buildPlace('KILN_B')];
const asInput = (clip: MatchClip): MatchInput['clips'][number] => ({ ...clip, linkedTo: null, declined: [] });
const darkOf = (input: MatchInput): DarkClip[] =>
  match(input).map((decided) => ({ decided, why: decided.why, status: 'missing', tiedTo: null, screenSeconds: 1 }));
function causesOf(clips: readonly MatchClip[], files: readonly MediaFile[], there: readonly Place[] = places): Cause[] {
  return findCauses(darkOf({ clips: clips.map(asInput), files, places: there, rules: defaultRules }), defaultRules);
}
/** Takes 1 to n of a folder, as the edit remembers them. */
const takes = (folder: string, n: number, more: (i: number) => Partial<MatchClip> = () => ({})) =>
  Array.from({ length: n }, (_, i) => {
    const start = 90_000 + i * 1000;
    const path = `${folder}/take_${i + 1}.mov`;
    return buildClip(path, {
      available: { start, end: start + 200 },
      used: [{ start: start + 20, end: start + 100 }],
      ...more(i),
    });
  });
const filesOf = (folder: string, n: number, more: (i: number) => Parameters<typeof buildFile>[1] = () => ({})) =>
  Array.from({ length: n }, (_, i) =>
    buildFile(`${folder}/take_${i + 1}.mov`, { start: 90_000 + i * 1000, ...more(i) }),
  );

describe('one explanation for many clips', () => {
  test('a moved tree is one cause, said at the level where the paths part', () => {
    const causes = causesOf(
      [...takes('/Volumes/OLD/day1/cardA', 3), ...takes('/Volumes/OLD/day2/cardB', 2, () => ({ reel: 'B001' }))],
      [...filesOf('KILN_A/moved/day1/cardA', 3), ...filesOf('KILN_A/moved/day2/cardB', 2, () => ({ reel: 'B001' }))],
    );
    expect(causes).toHaveLength(1);
    expect(causes[0]).toMatchObject({
      certainty: 'certain',
      screenSeconds: 5,
      kind: { code: 'displaced', folder: { from: 'OLD', to: 'KILN_A/moved', how: 'tree' }, name: null, timecode: null },
    });
    expect(causes[0]!.links).toHaveLength(5);
  });

  test('a drive under another name is told from a folder that moved', () => {
    const [cause] = causesOf(takes('E:/day1', 2), filesOf('KILN_A/day1', 2));
    expect(cause!.kind).toMatchObject({ folder: { from: 'E:', to: 'KILN_A', how: 'drive' } });
  });

  test('several folders put together in one are one cause', () => {
    const clips = [
      ...takes('/Volumes/OLD/day1/cardA', 2),
      ...takes('/Volumes/OLD/day1/cardB', 2, () => ({ reel: 'B001' })),
    ];
    const files = [...filesOf('KILN_A/all', 2), ...filesOf('KILN_B/x', 2, () => ({ reel: 'B001' }))].map((f, i) =>
      i < 2 ? f : { ...f, placeId: places[0]!.id, folder: 'all', name: f.name },
    );
    const causes = causesOf(clips, files);
    expect(causes.map((c) => c.kind)).toMatchObject([
      { folder: { from: 'OLD/day1', to: 'KILN_A/all', how: 'gathered' } },
    ]);
  });

  test.each([
    ['added', (n: string) => `SG_${n}`, { kind: 'added', before: 'SG_', after: '' }],
    ['replaced', (n: string) => n.replace('take', 'salt'), { kind: 'replaced', from: 'take', to: 'salt' }],
    ['renumbered', (n: string) => n.replace(/\d+/, (d) => String(Number(d) + 100)), { kind: 'renumbered', by: 100 }],
  ])('a moved folder whose files were renamed (%s) is one cause with two parts', (_, renamed, stem) => {
    const files = filesOf('KILN_B/day1/cardA', 3).map((f) => ({ ...f, name: renamed(f.name) }));
    const causes = causesOf(takes('/Volumes/OLD/day1/cardA', 3), files);
    expect(causes).toHaveLength(1);
    expect(causes[0]!.kind).toMatchObject({ folder: { to: 'KILN_B' }, name: { stem } });
  });

  test('another ending, and names with no pattern', () => {
    const mxf = filesOf('KILN_B/day1', 2).map((f) => ({ ...f, name: f.name.replace('.mov', '.mxf') }));
    expect(causesOf(takes('/Volumes/OLD/day1', 2), mxf)[0]!.kind).toMatchObject({ name: { extension: 'mxf' } });
    const afresh = filesOf('KILN_B/day1', 2).map((f, i) => ({ ...f, name: ['k81.mov', 'q77.mov'][i]! }));
    expect(causesOf(takes('/Volumes/OLD/day1', 2), afresh).map((c) => c.kind)).toMatchObject([{ name: 'afresh' }]);
  });

  test('a place that is away, a volume nobody knows, and what is gone', () => {
    const away = buildPlace('CARD', { there: false });
    const causes = causesOf(
      [
        ...takes('/Volumes/CARD/x', 3),
        ...takes('/Volumes/STRANGE/x', 2, () => ({ reel: 'S1', available: { start: 5, end: 9 }, used: [] })),
        ...takes('/Volumes/KILN_A/x', 1, () => ({ reel: 'G1', available: { start: 7, end: 9 }, used: [] })),
      ],
      [],
      [...places, away],
    );
    expect(causes.map((c) => [c.kind.code, c.clipIds.length, c.certainty])).toEqual([
      ['place-away', 3, 'open'],
      ['volume-unknown', 2, 'open'],
      ['gone', 1, 'open'],
    ]);
  });
});

describe('timecode that stands apart', () => {
  const shifted = (by: (i: number) => number, folder = 'KILN_A/day1') =>
    [
      takes(`/Volumes/${folder}`, 3, (i) => {
        const start = 90_000 + i * 1000 + by(i);
        return { available: { start, end: start + 200 }, used: [{ start: start + 20, end: start + 100 }] };
      }),
      filesOf(folder, 3),
    ] as const;

  test('a constant is found for the group, and each clip is read by it', () => {
    const [cause, ...rest] = causesOf(...shifted(() => -1234));
    expect(rest).toEqual([]);
    expect(cause!.kind).toMatchObject({ folder: null, timecode: { kind: 'shifted', byFrames: 1234, inHours: null } });
    expect(cause!.links.map((l) => l.interpretation)).toEqual(
      Array.from({ length: 3 }, () => ({ countedAt: null, shiftInFrames: 1234 })),
    );
    expect(cause!.certainty).toBe('likely');
  });

  test('an hour is an hour; counting from zero is one cause though every clip has its own shift', () => {
    expect(causesOf(...shifted(() => 90_000))[0]!.kind).toMatchObject({ timecode: { kind: 'shifted', inHours: -1 } });
    const [cause] = causesOf(...shifted((i) => -(90_000 + i * 1000)));
    expect(cause!.kind).toMatchObject({ timecode: { kind: 'from-zero' } });
    expect(cause!.links.map((l) => l.interpretation?.shiftInFrames)).toEqual([90_000, 91_000, 92_000]);
  });

  test('a list read at another rate is read at the file’s', () => {
    const clips = takes('/Volumes/KILN_A/day1', 2, (i) => {
      const start = 86_400 + i * 960;
      return { rate: rate(24), available: { start, end: start + 192 }, used: [{ start: start + 20, end: start + 90 }] };
    });
    const files = filesOf('KILN_A/day1', 2, (i) => ({ start: 90_000 + i * 1000, length: 200 }));
    expect(causesOf(clips, files)[0]).toMatchObject({
      kind: { timecode: { kind: 'other-rate', from: rate(24), to: rate(25) } },
      links: [{ interpretation: { countedAt: rate(25) } }, {}],
    });
  });

  test('a constant of each reel’s own is one cause, whatever the folder is called', () => {
    const reelOf = (i: number) => (i < 3 ? 'A001' : 'B002');
    for (const folder of ['day1', 'shift 5@25', 'shift -1234@25']) {
      const clips = takes(`/Volumes/OLD/${folder}`, 6, (i) => {
        const start = 90_000 + i * 1000 + (i < 3 ? -1234 : 777);
        const available = { start, end: start + 200 };
        return { reel: reelOf(i), available, used: [{ start: start + 20, end: start + 100 }] };
      });
      const causes = causesOf(
        clips,
        filesOf('KILN_A/rushes', 6, (i) => ({ reel: reelOf(i) })),
      );
      expect(causes.map((c) => [c.clipIds.length, c.kind.code === 'displaced' && c.kind.timecode])).toEqual([
        [
          6,
          {
            kind: 'shifted-per-reel',
            reels: [expect.objectContaining({ byFrames: 1234 }), expect.objectContaining({ byFrames: -777 })],
          },
        ],
      ]);
    }
  });

  test('one clip alone with an odd shift may be chance: it is told, and not linked', () => {
    const [clips, files] = shifted(() => -777);
    const [cause] = causesOf(clips.slice(0, 1), files.slice(0, 1));
    expect(cause).toMatchObject({ certainty: 'open', links: [], apart: [{ differs: ['timecode'] }] });
  });

  test('a length that differs too is another recording, not a displacement', () => {
    const [clips] = shifted(() => -1234);
    const causes = causesOf(
      clips,
      filesOf('KILN_A/day1', 3, () => ({ length: 160 })),
    );
    expect(causes.map((c) => c.kind.code)).toEqual(['replaced']);
    expect(causes[0]!.links).toEqual([]);
  });
});

test('two takes of one name and length, both counted otherwise: nothing is linked, unless one lies where the edit says', () => {
  const [clip] = takes('/Volumes/OLD/day1', 1, () => ({
    reel: null,
    available: { start: 0, end: 200 },
    used: [{ start: 20, end: 100 }],
  }));
  const files = ['KILN_A/one', 'KILN_B/two'].flatMap((folder, n) =>
    filesOf(folder, 1, () => ({ reel: null, start: 90_000 + n * 5000 })),
  );
  const dark = darkOf({ clips: [asInput(clip!)], files, places, rules: defaultRules });
  expect(findCauses(dark, defaultRules).flatMap((c) => c.links)).toEqual([]);
  const tied = dark.map((d) => ({ ...d, status: 'changed' as const, tiedTo: files[1]!.id }));
  expect(findCauses(tied, defaultRules).flatMap((c) => c.links)).toMatchObject([
    { mediaFileId: files[1]!.id, interpretation: { shiftInFrames: 95_000 } },
  ]);
});

test('two recordings of one name never get one file by a cause', () => {
  const untimed = { kind: 'sound' as const, reel: null, raster: null, available: { start: 0, end: 200 }, used: [] };
  const clips = ['one', 'two'].map((folder) => buildClip(`/Volumes/OLD/${folder}/vo.wav`, untimed));
  const file = buildFile('KILN_A/voice/vo.wav', {
    kind: 'sound',
    rate: null,
    raster: null,
    reel: null,
    timecodeSource: 'none',
    start: 0,
    length: 200 * 1920,
  });
  const mate = (n: string) => buildClip(`/Volumes/OLD/one/${n}.wav`, untimed);
  const mates = ['pan', 'rim'].map((n) => ({ ...file, id: fileId(n), name: `${n}.wav`, fingerprint: n }));
  const company = [mate('pan'), mate('rim')];
  const linked = (all: MatchClip[], files: MediaFile[]) =>
    causesOf(all, files).flatMap((c) => c.links.map((l) => l.mediaFileId));
  // One alone is borne out by nothing; in company it is; but not where another recording claims it.
  expect(linked(clips.slice(0, 1), [file])).toEqual([]);
  expect(linked([clips[0]!, ...company], [file, ...mates])).toContain(file.id);
  expect(linked([...clips, ...company], [file, ...mates])).not.toContain(file.id);
});

describe('company', () => {
  // A list of bare reels whose files were named afresh, all of them in one folder.
  const listed = (name: string, start: number) =>
    buildClip(null, {
      id: clipId(name),
      key: name,
      name,
      available: null,
      raster: null,
      used: [{ start, end: start + 40 }],
    });
  const afresh = [1, 2, 3, 4].map((i) => buildFile(`KILN_A/new/k${i}.mov`, { start: 90_000 + i * 1000 }));
  const strangers = [1, 2, 3].map((i) => listed(`scene ${i}`, 90_020 + i * 1000));
  const linked = (clips: readonly MatchClip[], files: readonly MediaFile[]) =>
    causesOf(clips, files).flatMap((c) => c.links.map((l) => [l.clipId, l.mediaFileId]));

  test('shows where what only covers is', () => {
    const clips = [...strangers, listed('scene 4', 94_020)];
    expect(linked(clips, afresh)).toEqual(clips.map((clip, i) => [clip.id, afresh[i]!.id]));
  });

  test.each([
    ['its very name and reel', {}],
    ['its very name, and no reel', { reel: null }],
  ])('does not outweigh a file that says more by itself: %s', (_, facts) => {
    const own = buildFile('KILN_B/x/ember.mov', { start: 93_900, length: 300, ...facts }, { fingerprint: 'ember' });
    const links = linked([...strangers, listed('ember', 94_020)], [...afresh, own]);
    expect(links.filter(([clip, file]) => clip === 'ember' && file !== own.id)).toEqual([]);
  });

  test('of a few does not tell which unit’s card of that reel is meant', () => {
    const other = buildFile('KILN_B/unit 2/m9.mov', { start: 94_010, length: 190 }, { fingerprint: 'm9' });
    const links = linked([...strangers, listed('scene 4', 94_020)], [...afresh, other]);
    expect(links.map(([clip]) => clip)).toEqual(strangers.map((clip) => clip.id));
  });
});

test('a folder that holds another recording of its card is no better ruled out than one that nothing bears out', () => {
  const untimed = { reel: null, raster: null, available: { start: 0, end: 200 }, used: [] };
  const clip = (card: string, name: string) => buildClip(`/Volumes/OLD/${card}/${name}.mov`, untimed);
  const file = (path: string, length = 200) =>
    buildFile(
      `KILN_A/${path}.mov`,
      { reel: null, raster: null, timecodeSource: 'none', start: 0, length },
      { fingerprint: path },
    );
  // The second card went to "b"; one of its takes was made again there, and a take of the first is called as another.
  const clips = [clip('one', 'a1'), clip('one', 'a2'), clip('one', 'a3'), clip('two', 'b1'), clip('two', 'b2')];
  const files = [file('a/a1'), file('a/a2'), file('a/a3'), file('a/b1'), file('b/b1'), file('b/b2', 170)];
  const links = causesOf(clips, files).flatMap((c) => c.links.map((l) => l.clipId));
  expect(links).toEqual(clips.slice(0, 3).map((c) => c.id));
});

test('what may lie in either of the same two folders is one question for all', () => {
  const clips = takes('/Volumes/OLD/day1', 3, () => ({ reel: null }));
  const files = ['KILN_A/one', 'KILN_B/two'].flatMap((folder) => filesOf(folder, 3, () => ({ reel: null })));
  expect(causesOf(clips, files)).toMatchObject([
    { kind: { code: 'choice', alternatives: ['KILN_A/one', 'KILN_B/two'] }, links: [], clipIds: { length: 3 } },
  ]);
});

describe('what rolled at once begins and ends at once', () => {
  const linksOf = (kind: 'picture' | 'sound', names: (i: number) => readonly [string, string], reel: string | null) => {
    const timed = (i: number) => ({ start: 90_000 + i * 3000, length: 400 + i * 37 });
    const isSound = kind === 'sound';
    const inSamples = (i: number) => ({ start: timed(i).start * 1920, length: timed(i).length * 1920 });
    const four = [1, 2, 3, 4];
    const clips = four.map((i) => {
      const { start, length } = timed(i);
      const range = { available: { start, end: start + length }, used: [{ start: start + 10, end: start + 90 }] };
      return buildClip(`/Volumes/OLD/day1/${names(i)[0]}`, { ...range, kind, reel, raster: null });
    });
    const files = four.map((i) =>
      buildFile(
        `KILN_A/kept/${names(i)[1]}`,
        isSound
          ? {
              ...inSamples(i),
              kind,
              container: 'wav',
              rate: null,
              timecodeSource: 'time-reference',
              raster: null,
              reel,
            }
          : { ...timed(i), raster: null, reel },
        { fingerprint: names(i)[1] },
      ),
    );
    return causesOf(clips, files).flatMap((c) => c.links);
  };

  test.each([
    ['the other eye', 'picture', (i: number) => [`A00${i}_L.mov`, `A00${i}_R.mov`]],
    ['the camera beside it', 'picture', (i: number) => [`A001C00${i}.mov`, `B001C00${i}.mov`]],
    ['the camera beside it, by one letter', 'picture', (i: number) => [`A00${i}.mov`, `B00${i}.mov`]],
    ['the camera beside it, by its number', 'picture', (i: number) => [`cam1_000${i}.mov`, `cam2_000${i}.mov`]],
    ['another channel', 'sound', (i: number) => [`T0${i}_1.wav`, `T0${i}_2.wav`]],
    ['one channel of all', 'sound', (i: number) => [`T0${i}.wav`, `T0${i}_1.wav`]],
    ['another microphone', 'sound', (i: number) => [`T0${i}_boom.wav`, `T0${i}_lav.wav`]],
  ] as const)('%s is not taken for it, however much company it has', (_, kind, names) => {
    expect(linksOf(kind, (i) => names(i) as [string, string], null)).toEqual([]);
  });

  test.each([
    ['a word that says what it is of', (i: number) => [`door_00${i}.mov`, `SG_door_00${i}.mov`]],
    ['a word for another', (i: number) => [`door_00${i}.mov`, `furnace_00${i}.mov`]],
    ['numbers that go on', (i: number) => [`door_00${i}.mov`, `door_10${i}.mov`]],
  ] as const)('under %s it is still the same', (_, names) => {
    expect(linksOf('picture', (i) => names(i) as [string, string], null)).toHaveLength(4);
  });

  test('where reels agree, a name is only a name', () => {
    expect(linksOf('picture', (i) => [`A00${i}_L.mov`, `A00${i}_R.mov`], 'A001')).toHaveLength(4);
  });
});

test('causes that rest on what was found before are those that are found anew, whichever clips came and went', () => {
  const { input } = produce({ days: 6, cards: 3, takes: 12, batches: 24, used: 6 }, 3);
  const dark = allDark(match(input));
  const found = new FoundBefore();
  const without = (part: number) => dark.filter((_, i) => i % part !== 0);
  const decidedOtherwise = dark.map((d, i): DarkClip =>
    i % 5 === 0 ? { ...d, decided: { ...d.decided, decision: { kind: 'nothing' } } } : d,
  );
  for (const clips of [dark, without(3), decidedOtherwise, without(2), dark])
    expect(findCauses(clips, input.rules, found)).toEqual(findCauses(clips, input.rules));
  expect(findCauses(dark, input.rules, found).length).toBeGreaterThan(5);
});

test('the cover takes what explains most first; what has no explanation gets none', () => {
  expect(
    cover([
      { weight: 1, options: ['a', 'b'] },
      { weight: 5, options: ['b', 'c'] },
      { weight: 2, options: ['a'] },
      { weight: 9, options: [] },
    ]),
  ).toEqual(['b', 'b', 'a', null]);
});
