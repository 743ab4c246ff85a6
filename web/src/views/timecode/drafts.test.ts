import { describe, expect, test } from '@jest/globals';
import { rate } from '@legame/core/time';
import { buildFacts } from '@legame/core/testing';
import type { BenchRow } from '@legame/core/contract';
import { draftFor, offsetGroups, uncoveredWhen, type Draft } from './drafts.ts';

/** A clip that states 0 to 200 and uses 20 to 100 of it; its file holds 90 000 to 90 200. */
const row = (more: Partial<BenchRow> = {}): BenchRow => ({
  clipId: '00000000-0000-4000-8000-000000000001' as BenchRow['clipId'],
  clipName: 'bowl',
  reel: 'A001',
  status: { status: 'changed', differs: ['timecode'] },
  stated: { rate: rate(25), counting: 'non-drop', available: { start: 0, end: 200 }, used: [{ start: 20, end: 100 }] },
  interpretation: null,
  file: {
    mediaFileId: '00000000-0000-4000-8000-000000000002' as never,
    version: '1',
    name: 'bowl.mov',
    placeName: 'KILN',
    folder: '',
    facts: buildFacts(),
    isTied: true,
  },
  apart: { kind: 'from-zero', byFrames: 90_000 },
  uncoveredInFrames: 80,
  ...more,
});
const shiftOf = (of: BenchRow, draft: Draft) => {
  const drafted = draftFor(of, draft);
  return drafted.ok ? drafted.interpretation : drafted.why;
};

describe('drafts of a reading', () => {
  test.each<[Draft, unknown]>([
    [{ kind: 'as-found' }, { countedAt: null, shiftInFrames: 90_000 }],
    [{ kind: 'from-first-frame' }, { countedAt: null, shiftInFrames: 90_000 }],
    [
      { kind: 'start-at', text: '01:00:00:00' },
      { countedAt: null, shiftInFrames: 90_000 },
    ],
    [
      { kind: 'shift', text: '00:00:01:00', back: false },
      { countedAt: null, shiftInFrames: 25 },
    ],
    [
      { kind: 'shift', text: '00:00:01:00', back: true },
      { countedAt: null, shiftInFrames: -25 },
    ],
    [
      { kind: 'at-rate', rate: rate(24) },
      { countedAt: rate(24), shiftInFrames: 0 },
    ],
    [{ kind: 'as-stated' }, null],
  ])('%j', (draft, expected) => {
    expect(shiftOf(row(), draft)).toEqual(expected);
  });

  test('what cannot be done says why', () => {
    expect(shiftOf(row({ apart: null }), { kind: 'as-found' })).toContain('nothing stands between');
    expect(shiftOf(row(), { kind: 'start-at', text: 'noon' })).toContain('no timecode');
    expect(shiftOf(row({ file: null }), { kind: 'from-first-frame' })).toContain('no file');
  });

  test('comes on top of how the clip is read already', () => {
    const read = row({ interpretation: { countedAt: null, shiftInFrames: 100 } });
    expect(shiftOf(read, { kind: 'shift', text: '00:00:00:10', back: false })).toEqual({
      countedAt: null,
      shiftInFrames: 110,
    });
  });

  test('says what the file would cover', () => {
    expect(uncoveredWhen(row(), null)).toBe(80);
    expect(uncoveredWhen(row(), { countedAt: null, shiftInFrames: 90_000 })).toBe(0);
    expect(uncoveredWhen(row(), { countedAt: null, shiftInFrames: 90_150 })).toBe(50);
    expect(uncoveredWhen(row({ file: null }), null)).toBeNull();
  });

  test('offsets are found as groups, the largest first', () => {
    const shifted = (byFrames: number) => row({ apart: { kind: 'shifted', byFrames, inHours: null } });
    expect(
      offsetGroups([shifted(10), row(), shifted(25), shifted(25), row({ apart: null })]).map((g) => [
        g.label,
        g.rows.length,
      ]),
    ).toEqual([
      ['+00:00:01:00', 2],
      ['+00:00:00:10', 1],
      ['counts each clip from zero', 1],
    ]);
  });
});
