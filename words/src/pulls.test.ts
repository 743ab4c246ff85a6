import { describe, expect, test } from '@jest/globals';
import { jobPayloads, type Job } from '@legame/core/contract';
import { deskStates, pullMarks, type PullRequest } from '@legame/core/report';
import { noticeText } from './notices.ts';
import { deskStateWords, deskVerdict, pullCounts, requestText } from './pulls.ts';

const request = (given: Partial<PullRequest>): PullRequest => ({
  ...{
    reel: 'A001',
    folder: '',
    file: 'bowl.mov',
    names: [],
    rate: { num: 25, den: 1 },
    counting: 'non-drop',
    ranges: [],
  },
  ...{ mark: 'asked', holder: '', note: '', isUnknownToVault: false, at: '2026-11-27T10:00:00.000Z' },
  ...given,
});
const none = Object.fromEntries(pullCounts.map((state) => [state, 0])) as Record<(typeof pullCounts)[number], number>;

describe('the pull list in words', () => {
  test.each([
    [{}, 'asked for'],
    [{ holder: 'The archive', note: 'order 12' }, 'asked of The archive: order 12'],
    [{ mark: 'arrived', holder: 'The archive' }, 'arrived from The archive'],
    [{ mark: 'not-to-be-had', note: 'wiped' }, 'not to be had: wiped'],
    [
      { mark: 'not-to-be-had', holder: 'Tape vault', isUnknownToVault: true, note: 'order 12' },
      'not to be had from Tape vault: it holds no file of that name: order 12',
    ],
  ] as const)('%o', (given, text) => {
    expect(requestText(request(given))).toBe(text);
  });

  test('every state and every mark has words of its own', () => {
    expect(new Set(deskStates.map((state) => deskStateWords[state])).size).toBe(deskStates.length);
    expect(new Set(pullMarks.map((mark) => requestText(request({ mark })))).size).toBe(pullMarks.length);
  });

  test.each([
    [{}, 'Nothing has to be fetched.'],
    [{ wanted: 1 }, '1 source to ask for.'],
    [{ asked: 2, arrived: 1, 'no-longer-wanted': 3 }, '2 asked for, 1 arrived, 3 to call off.'],
    [{ 'to-decide': 2 }, '2 sources may be here: decide first, at Causes.'],
    [{ wanted: 2, 'to-decide': 1 }, '2 sources to ask for. 1 source may be here: decide first, at Causes.'],
  ])('%o', (counts, text) => {
    expect(deskVerdict({ ...none, ...counts })).toBe(text);
  });
});

test('a notice of any kind of work says what it was about, done and failed', () => {
  const payload = { trialId: 'x', scope: 'used', shelf: 'vault', path: 'x' } as never;
  for (const kind of Object.keys(jobPayloads) as Job['kind'][])
    for (const code of ['done', 'failed'] as const) {
      const text = noticeText({ id: '1', at: '', code, job: { kind, about: 'bowl.mov', payload }, problem: null });
      expect(text).toMatch(/bowl\.mov/);
      expect(text).toMatch(code === 'done' ? /: done\.$/ : /failed\.$/);
    }
});
