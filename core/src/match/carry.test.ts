import { describe, expect, test } from '@jest/globals';
import type { MediaFile } from '../model/media.ts';
import { buildClip, buildFile, buildPlace, fileId } from '../testing/build.ts';
import { carry, carryPattern, filesByPath, isKnownElsewhere } from './carry.ts';
import type { Form } from './forms.ts';
import { prepareFiles } from './match.ts';
import { prepareClip, prepareFile } from './prepare.ts';
import { defaultRules } from './rules.ts';
import { deriveStatus, type StatusInput } from '../state/status.ts';
import { verdictIn } from './marks.ts';
import { weigh } from './weigh.ts';

const kilnA = buildPlace('KILN_A');
const kilnB = buildPlace('KILN_B');

const remembered = buildClip('/Volumes/KILN_A/day2/cardA/bowl.mov');

describe('carry', () => {
  const clips = ['bowl', 'door', 'pipe']
    .map((n) => buildClip(`/Volumes/KILN_A/day2/cardA/${n}.mov`))
    .concat(buildClip('/Volumes/KILN_A/day9/x.mov'));
  const carryFrom = (found: string, files: MediaFile[]) => {
    const all = prepareFiles(files, [kilnA, kilnB]);
    const pattern = carryPattern(
      prepareClip(clips[0]!),
      all.find((f) => f.file.id === fileId(found))!,
    );
    return (
      pattern &&
      carry(pattern, clips.slice(1).map(prepareClip), filesByPath(all), defaultRules).map((c) => [
        c.file.file.id,
        c.fits,
        c.fits ? [] : c.differs,
      ])
    );
  };

  test('one decision about a moved and renamed folder reaches its siblings; what differs does not fit and says why', () => {
    const files = [
      buildFile('KILN_B/c/SG_bowl_v2.mov'),
      buildFile('KILN_B/c/SG_door_v2.mov'),
      buildFile('KILN_B/c/SG_pipe_v2.mov', { start: 0, length: 10 }),
    ];
    expect(carryFrom('KILN_B/c/SG_bowl_v2.mov', files)).toEqual([
      ['KILN_B/c/SG_door_v2.mov', true, []],
      ['KILN_B/c/SG_pipe_v2.mov', false, ['timecode', 'length']],
    ]);
  });

  test('it reaches other folders under the same displaced tree', () => {
    const files = [buildFile('KILN_B/r/day2/cardA/bowl.mov'), buildFile('KILN_B/r/day9/x.mov')];
    expect(carryFrom('KILN_B/r/day2/cardA/bowl.mov', files)).toEqual([['KILN_B/r/day9/x.mov', true, []]]);
  });

  test('a wholly new name reveals no pattern', () => {
    expect(carryFrom('KILN_B/c/k81.mov', [buildFile('KILN_B/c/k81.mov')])).toBeNull();
  });
});

describe('a clip that is known to be elsewhere', () => {
  const certain = (copies: string[] = []) =>
    ({
      kind: 'certain',
      mediaFileId: fileId('own'),
      grounds: 'content',
      second: null,
      copies: copies.map(fileId),
    }) as const;
  const forms = (own: Form | null, other: Form | null) => [
    { mediaFileId: fileId('own'), form: own },
    { mediaFileId: fileId('led to'), form: other },
  ];

  test.each([
    ['is another file', certain(), forms(null, null), true],
    ['is that very file', { ...certain(), mediaFileId: fileId('led to') }, forms(null, null), false],
    ['has a copy there', certain(['led to']), forms(null, null), false],
    ['is there in another form', certain(), forms('original', 'small'), false],
    ['has forms, of which that is none', certain(), forms('original', null), true],
    ['is not decided', { kind: 'nothing' } as const, forms(null, null), false],
  ])('%s', (_, decision, candidates, isElsewhere) => {
    expect(isKnownElsewhere(decision, candidates, fileId('led to'))).toBe(isElsewhere);
  });
});

describe('status', () => {
  const file = buildFile('KILN_A/day2/cardA/bowl.mov');
  const tie = (f: MediaFile, more: Partial<NonNullable<StatusInput['tied']>> = {}): StatusInput => ({
    clip: remembered,
    setAside: null,
    tied: {
      file: f,
      placeThere: true,
      gone: false,
      marks: weigh(prepareClip(remembered), prepareFile(f, 'KILN_A')).marks,
      chosen: false,
      refusal: null,
      replaced: false,
      ...more,
    },
  });
  const other = buildFile('KILN_A/day2/cardA/bowl.mov', { start: 7, length: 9 });

  test.each([
    ['the expected file', tie(file), { status: 'linked' }],
    ['nothing', { ...tie(file), tied: null }, { status: 'missing', because: 'nothing-there' }],
    ['its drive is away', tie(file, { placeThere: false }), { status: 'missing', because: 'place-away' }],
    ['the file went away', tie(file, { gone: true }), { status: 'missing', because: 'file-gone' }],
    ['not measured yet', tie(buildFile('KILN_A/x.mov', null)), { status: 'missing', because: 'not-read-yet' }],
    [
      'it cannot be read',
      tie(buildFile('KILN_A/x.mov', null, { unreadable: { code: 'file-empty' } })),
      { status: 'unreadable', reason: { code: 'file-empty' } },
    ],
    ['another recording lies there', tie(other), { status: 'changed', differs: ['timecode', 'length'] }],
    ['another recording, chosen by hand', tie(other, { chosen: true }), { status: 'short', uncoveredInFrames: 80 }],
    ['replaced since it was linked', tie(file, { chosen: true, replaced: true }), { status: 'changed', differs: [] }],
    ['parked while dark', { ...tie(file), tied: null, setAside: { as: 'parked', reason: '' } }, { status: 'parked' }],
    ['parked, but it came back', { ...tie(file), setAside: { as: 'parked', reason: '' } }, { status: 'linked' }],
    [
      'waived',
      { ...tie(file), tied: null, setAside: { as: 'waived', reason: 'a slate' } },
      { status: 'waived', reason: 'a slate' },
    ],
  ] as const)('%s', (_, input, expected) => {
    expect(deriveStatus(input)).toEqual(expected);
  });

  test('right, but too short for what is used', () => {
    const short = buildFile('KILN_A/day2/cardA/bowl.mov', { length: 60 });
    expect(deriveStatus(tie(short, { chosen: true }))).toEqual({ status: 'short', uncoveredInFrames: 40 });
    expect(verdictIn(weigh(prepareClip(remembered), prepareFile(short, 'KILN_A')).marks, 'timecode')).toBe('agrees');
  });

  test('a file that carries no timecode is laid at the start the edit knows', () => {
    const unnumbered = buildFile('KILN_A/day2/cardA/bowl.mov', { timecodeSource: 'none', start: 0 });
    expect(deriveStatus(tie(unnumbered, { chosen: true }))).toEqual({ status: 'linked' });
  });
});
