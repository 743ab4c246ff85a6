import { describe, expect, test } from '@jest/globals';
import type { CauseView, Doing, HistoryChange, Job } from '@legame/core/contract';
import { healthChecks, type HealthSubject } from '@legame/core/health';
import type { CauseKind } from '@legame/core/match';
import { rate } from '@legame/core/time';
import { supportWords } from './causes.ts';
import { healthWords, subjectDetail, subjectText } from './health.ts';
import { changeTold } from './history.ts';
import { doingText, jobTitle, progressText } from './jobs.ts';
import { areApart, coded, isSaid } from './testing/every.ts';

const pal = rate(25);

describe('work', () => {
  const kinds: readonly Job['kind'][] = [
    'index-place',
    'match-project',
    'run-handoff',
    'unpack-bundle',
    'trial-read',
    'accepted-copy',
    'fetch-shelved',
    'hash-files',
    'put-back',
    'bring-home',
    'check-set',
    'open-set',
  ];
  test('every kind has a title with what it is about', () => {
    const titles = kinds.map((kind) => jobTitle({ kind, about: 'KILN_A', payload: {} } as never));
    areApart(titles);
    for (const title of titles.filter((t) => t !== 'Find the culprit')) expect(title).toContain('KILN_A');
    expect(jobTitle({ kind: 'trial-read', about: 'x', payload: { scope: 'culprit' } } as never)).toBe(
      'Find the culprit',
    );
  });

  test('what is being done is said, each otherwise', () => {
    const doings = coded<Doing>({
      listing: { folder: 'day1' },
      reading: { file: 'a.mov' },
      read: {},
      weighing: { files: 1, clips: 2000 },
      matched: {},
      hashing: { file: 'a.mov' },
      decoding: { file: 'a.mov' },
      tried: {},
      copying: { file: 'a.mov' },
      writing: { file: 'a.mov' },
      finishing: {},
      fetching: { shelf: 'vault', file: 'a.mov' },
      'making-copy': { file: 'a.mov', codec: 'ffv1' },
      unpacking: { file: 'a.mov' },
      'waiting-for': { what: 'index' },
    } as never);
    const texts = [
      ...doings,
      { code: 'fetching', shelf: 'recycle', file: 'a.mov' },
      { code: 'waiting-for', what: 'match' },
    ].map((d) => doingText(d as Doing));
    texts.forEach(isSaid);
    areApart(texts);
    expect(doingText({ code: 'weighing', files: 1, clips: 2000 })).toBe('weighing 1 file for 2\u202f000 clips');
  });

  test('how far it is: a share of bytes, a count of things, and nothing where the end is not known', () => {
    const at = (done: number, of: number | null, unit: string) =>
      progressText({ progress: { done, of, unit } } as never);
    expect([at(999, 1000, 'bytes'), at(7, 20_000, 'files'), at(7, null, 'files'), at(0, 0, 'bytes')]).toEqual([
      '99 %',
      '7 of 20\u202f000',
      '',
      '',
    ]);
    expect(progressText({ progress: null })).toBe('');
  });
});

describe('causes', () => {
  const kinds = coded<Exclude<CauseKind, { code: 'displaced' }>>({
    'place-away': { placeName: 'CARD_07' },
    'volume-unknown': { volume: 'S:' },
    choice: {},
    alone: {},
    replaced: {},
    'taken-offline': {},
    unreadable: {},
    short: {},
    'being-read': {},
    gone: {},
  } as never);
  const view = (kind: CauseKind, links = 0): CauseView =>
    ({
      kind,
      links,
      clipIds: ['a', 'b'],
      agreeing: ['name', 'folder'],
      certainty: 'certain',
      apart: null,
      wanting: [],
      witnesses: 2,
    }) as never;
  test.each(kinds)('$code says what can be done', (kind) => {
    const words = supportWords(view(kind));
    isSaid(words);
    expect(words).toMatch(/\.$|\.”$/);
  });
});

describe('the health of a project', () => {
  test.each(healthChecks)('%s: found, risk and remedy, for one and for many', (check) => {
    const { title, found, risk, remedy } = healthWords[check];
    for (const words of [title, found(1), found(12), risk, remedy]) isSaid(words);
    expect(found(1)).not.toBe(found(12).replace('12', '1'));
    expect(risk).toMatch(/\.$/);
    expect(remedy).toMatch(/\.$/);
  });
  test('no two checks are called or explained alike', () => {
    areApart(healthChecks.map((c) => healthWords[c].title));
    areApart(healthChecks.map((c) => healthWords[c].risk));
  });
  test('whatever it is about has a name, and what is to be said besides', () => {
    const subjects = [
      { what: 'file', path: 'KILN_A/a.mov' },
      { what: 'name', path: 'KILN_A/a:b.mov', part: 'a:b.mov', fault: 'characters', safe: 'a-b.mov' },
      { what: 'files', name: 'a.mov', paths: ['KILN_A/a.mov', 'KILN_B/a.mov'] },
      { what: 'reel', reel: 'A001', names: ['a', 'b'] },
      { what: 'rate', path: 'KILN_A/a.mov', rate: pal, usual: '24' },
      { what: 'clip', name: 'bowl' },
    ] as unknown as HealthSubject[];
    areApart(subjects.map((s) => `${subjectText(s)} ${subjectDetail(s)}`));
    expect(subjectDetail(subjects[1]!)).toBe('“a:b.mov” holds characters that some systems forbid; “a-b.mov” is safe');
    expect(subjectDetail(subjects[2]!)).toContain('KILN_B/a.mov');
  });
});

describe('what an act changed, both sides of it', () => {
  const file = (path: string | null) => ({ path });
  const of = (change: object) => changeTold({ clipName: 'bowl', ...change } as HistoryChange);
  const sides = (change: object) => {
    const { before, after } = of(change);
    return [before, after].map(({ text, isNothing }) => (isNothing ? `(${text})` : text));
  };
  test.each<[object, [string, string]]>([
    [{ what: 'link', before: null, after: file('KILN/a.mov') }, ['(no link)', 'KILN/a.mov']],
    [{ what: 'link', before: file(null), after: null }, ['a file of a forgotten place', '(no link)']],
    [{ what: 'decline', before: null, after: file('KILN/a.mov') }, ['(a candidate)', 'KILN/a.mov']],
    [{ what: 'follows', before: file('KILN/a.mov'), after: null }, ['KILN/a.mov', '(dark)']],
    [{ what: 'offline', before: false, after: true }, ['(where the edit says)', 'offline on purpose']],
    [{ what: 'pin', before: true, after: false }, ['pinned', '(free)']],
    [{ what: 'set-aside', before: null, after: { as: 'waived', reason: 'a slate' } }, ['(to do)', 'waived: a slate']],
    [{ what: 'set-aside', before: { as: 'parked', reason: '' }, after: null }, ['parked', '(to do)']],
    [
      { what: 'interpret', before: null, after: { countedAt: rate(24), shiftInFrames: -24, statedRate: pal } },
      ['(as the edit states it)', 'at 24, −00:00:01:00'],
    ],
    [
      { what: 'interpret', before: { countedAt: null, shiftInFrames: 3, statedRate: null }, after: null },
      ['+3 frames', '(as the edit states it)'],
    ],
    [
      { what: 'note', before: null, after: { bin: ['Day 1'], label: null, values: { scene: '12', take: '' } } },
      ['(nothing)', 'in Day 1, scene 12, no take'],
    ],
    [{ what: 'home', before: null, after: 'KILN/home' }, ['(none)', 'KILN/home']],
    [{ what: 'bins', before: [['A'], ['B']], after: [['A'], ['C', 'D']] }, ['B', 'C › D']],
    [{ what: 'bins', before: [['A']], after: [['A'], ['B']] }, ['(–)', 'B']],
    [{ what: 'labels', before: [{ name: 'hero' }], after: [{ name: 'star' }] }, ['hero', 'star']],
    [
      { what: 'accept', check: 'unused', subject: { what: 'folder', path: 'KILN/x' }, before: null, after: '' },
      ['(open)', 'accepted'],
    ],
    [{ what: 'learn', placeName: 'KILN_A', name: 'S:' }, ['(not known by a name)', 'S:']],
    [{ what: 'pull', reel: 'A001', file: 'a.mov', before: null, after: null }, ['(wanted)', '(wanted)']],
  ])('%o', (change, expected) => {
    expect(sides(change)).toEqual(expected);
    isSaid(of(change).kind);
  });

  test('whose it is: the clip, or the project, or what is not known any more', () => {
    expect(of({ what: 'pin', before: true, after: false }).of).toBe('bowl');
    expect(of({ what: 'pin', clipName: null, before: true, after: false }).of).toBe('a clip taken out since');
    expect(of({ what: 'home', before: null, after: 'x' }).of).toBe('the project');
    expect(of({ what: 'learn', placeName: null, name: 'S:' }).of).toBe('a forgotten place');
    expect(of({ what: 'pull', reel: null, file: 'a.mov', before: null, after: null }).of).toBe('a.mov');
  });
});
