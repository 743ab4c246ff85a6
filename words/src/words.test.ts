import { describe, expect, test } from '@jest/globals';
import type { ComparedLook } from '@legame/core/contract';
import { acceptsAll } from '@legame/core/model';
import { rate } from '@legame/core/time';
import { changeWords } from './changes.ts';
import { findingWords } from './findings.ts';
import { receiverText } from './handoffs.ts';
import { lookSentence } from './looks.ts';
import { bytes, clock, count, group } from './numbers.ts';
import { proposalWords, readFaultSentence, remarkSentence, whereWords } from './remarks.ts';
import { actSentence, listWords, statusSentence, whySentence } from './statuses.ts';

describe('numbers for people', () => {
  test('bytes, counts and screen time', () => {
    expect([0, 999, 1000, 12_340_000, 2_300_000_000].map(bytes)).toEqual([
      '0 bytes',
      '999 bytes',
      '1.0 kB',
      '12 MB',
      '2.3 GB',
    ]);
    expect([count(1, 'file'), count(3, 'file'), group(41_233)]).toEqual(['1 file', '3 files', '41\u202f233']);
    expect([0, 61, 1084, 3731].map(clock)).toEqual(['0:00', '1:01', '18:04', '1:02:11']);
    expect([listWords([]), listWords(['a']), listWords(['a', 'b', 'c'])]).toEqual(['', 'a', 'a, b and c']);
  });
});

describe('sentences say what is, and what can be done', () => {
  test('why a clip is dark', () => {
    expect(whySentence({ code: 'moved', from: 'KILN_A/day2', to: 'KILN_B/day2' })).toBe(
      'moved: KILN_A/day2 → KILN_B/day2',
    );
    expect(
      whySentence({ code: 'other-content', name: 'bowl.mov', folder: 'KILN_A/picks', differs: ['timecode', 'length'] }),
    ).toBe('bowl.mov in KILN_A/picks is another recording: timecode and length differ');
    expect(whySentence({ code: 'volume-unknown', volume: 'S:' })).toContain('“S:” is no known place');
  });

  test('statuses', () => {
    expect(statusSentence({ status: 'short', uncoveredInFrames: 9 })).toBe(
      'The right file, but 9 used frames lie outside it.',
    );
    expect(statusSentence({ status: 'unreadable', reason: { code: 'file-empty' } })).toContain('it is empty: 0 bytes');
    expect(statusSentence({ status: 'changed', differs: ['rate'] })).toContain('rate differs');
  });

  test('remarks, with their place', () => {
    const remark = {
      at: { line: 41 },
      code: 'timecode-impossible',
      fault: { code: 'no-such-address', text: '01:00:00:27', field: 'frames' },
    } as const;
    expect(`${whereWords(remark)}: ${remarkSentence(remark)}`).toBe(
      'line 41: 01:00:00:27 has frames that do not exist at this rate. The event was left out; check the rate.',
    );
    expect(proposalWords({ rate: rate(30000, 1001), reason: { code: 'drop-frame-stated' } })).toBe(
      '29.97 – it says drop-frame',
    );
  });

  test('rows of a log that are left out, and files that are not read', () => {
    const row = (reason: Extract<Parameters<typeof remarkSentence>[0], { code: 'row-skipped' }>['reason']) =>
      remarkSentence({ at: { line: 3 }, code: 'row-skipped', reason });
    expect(row({ code: 'ends-before-start', start: '01:00:02:00', end: '01:00:00:00' })).toBe(
      'Row left out: it ends at 01:00:00:00, before its start at 01:00:02:00.',
    );
    expect(row({ code: 'too-many-cells', cells: 7, columns: 5 })).toContain('7 cells for 5 columns');
    expect(readFaultSentence({ code: 'bundle-broken', detail: { code: 'zip-without', part: 'content.otio' } })).toBe(
      'It is no whole bundle: it is a zip without a content.otio. Copy or export it again.',
    );
  });

  test('what changed between two versions', () => {
    const event = (name: string, track = 'V') => ({
      ...{ number: 1, name, track, trackKind: 'picture' as const },
      record: { start: 0, end: 10 },
    });
    const change = { event: event('door'), before: event('bowl'), byFrames: null, headFrames: null, tailFrames: null };
    const words = (more: Partial<Parameters<typeof changeWords>[0]>) =>
      changeWords({ kind: 'added', clipId: null, isDark: false, ...change, ...more }, rate(25));
    expect(words({})).toBe('door added');
    expect(words({ kind: 're-sourced' })).toBe('bowl replaced by door');
    expect(words({ kind: 'moved', byFrames: -30 })).toBe('door moved by −00:00:01:05');
    expect(words({ kind: 'moved', byFrames: 0, before: event('door', 'V2') })).toBe('door moved from V2');
    expect(words({ kind: 'trimmed', headFrames: 2, tailFrames: -1 })).toBe(
      'door trimmed: +2 frames at its start, −1 frame at its end',
    );
  });

  test('findings name both sides', () => {
    const clip = { rate: rate(25), counting: 'non-drop' } as const;
    const words = findingWords(
      {
        attribute: 'timecode',
        verdict: 'nearly',
        finding: {
          code: 'used-partly',
          edit: { start: 90_000, end: 90_100 },
          file: { start: 90_010, end: 90_500 },
          uncoveredInFrames: 10,
        },
      },
      clip,
    );
    expect(words).toEqual({
      edit: '01:00:00:00–01:00:04:00',
      file: '01:00:00:10–01:00:20:00',
      sentence: '10 frames of the used range lie outside the file',
    });
    expect(
      findingWords(
        {
          attribute: 'name',
          verdict: 'nearly',
          finding: { code: 'name-added', edit: 'a', file: 'sg_a_v2', before: 'sg_', between: '', after: '_v2' },
        },
        clip,
      ).sentence,
    ).toBe('“sg_” added in front, “_v2” added behind');
  });

  test('acts', () => {
    expect(actSentence('link-by-rule', 31)).toBe('Linked 31 clips by rule');
  });
});

test('a look is told with how much is alike, and never as a proof', () => {
  const told = (verdict: ComparedLook['verdict'], shared: number | null) => lookSentence({ frame: 0, verdict, shared });
  expect(told('same', 0.979)).toBe('looks as it did: 97 % alike');
  expect(told('alike', 0.85)).toMatch(/^looks much as it did: 85 % alike, as another take/);
  expect(told('other', 0.5)).toBe('looks different: 50 % alike; chance makes half');
  expect(told(null, null)).not.toMatch(/\d/);
});

test('a receiver is told by what they can use', () => {
  expect(receiverText(null)).toBe('any receiver');
  expect(receiverText(acceptsAll)).toBe('a receiver who can use everything');
  expect(
    receiverText({
      ...acceptsAll,
      ...{ containers: ['mov', 'mxf'], codecs: ['dnxhd'], largestBitDepth: 10, rates: [rate(25), rate(24000, 1001)] },
      largestRaster: { width: 1920, height: 1080 },
    }),
  ).toBe('a receiver of mov or mxf, dnxhd, up to 10-bit, up to 1920 × 1080, at 25 or 23.976');
});
