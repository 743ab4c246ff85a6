import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import type { Comparison } from '@legame/core/contract';
import { rate } from '@legame/core/time';
import type { ShownTimeline } from '../../../api/timelines.ts';
import { showPage, uuid } from '../../../testing/page.tsx';
import { standInServer } from '../../../testing/server.ts';
import { VersionsView } from './VersionsView.tsx';
import { layOutVersions, placedAt, stretchOfChange, type Change, type ComparedTimeline } from './versions.ts';

const event = (name: string, start: number, { track = 'V1', length = 50 } = {}) => ({
  ...{ number: 1, name, track, trackKind: track.startsWith('A') ? ('sound' as const) : ('picture' as const) },
  record: { start, end: start + length },
});
const change = (kind: Change['kind'], given: Partial<Change>): Change => ({
  ...{
    kind,
    event: null,
    before: null,
    byFrames: null,
    headFrames: null,
    tailFrames: null,
    clipId: null,
    isDark: false,
  },
  ...given,
});
const kept = (name: string, start: number, isDark = false, track = 'V1') => ({
  ...event(name, start, { track }),
  clipId: null,
  isDark,
});
const cut = (given: Partial<ComparedTimeline>): ComparedTimeline => ({
  ...{ key: 't1', name: 'Saltglass', rate: rate(25), counting: 'non-drop', only: null, kept: [], changes: [] },
  ...given,
});

test('the older lies above, with its pictures next to the newer’s; what both have is joined', () => {
  const versions = layOutVersions(
    cut({
      kept: [
        kept('gather', 0),
        kept('song', 0, false, 'A1'),
        kept('title', 0, false, 'V2'),
        kept('hum', 0, true, 'A10'),
      ],
      changes: [
        change('moved', { before: event('door', 50), event: event('door', 100) }),
        change('removed', { before: event('kiln', 500, { track: 'A2' }) }),
        change('added', { event: event('yard', 900) }),
      ],
    }),
  );
  const names = (side: string) => versions.tracks.filter((t) => t.side === side).map((t) => t.name);
  // A track that the newer version has no more is in the older alone; two comes before ten.
  expect(names('before')).toEqual(['A10', 'A2', 'A1', 'V2', 'V1']);
  expect(names('now')).toEqual(['V1', 'V2', 'A1', 'A10']);
  expect(versions.joined).toEqual([{ before: { start: 50, end: 100 }, now: { start: 100, end: 150 }, change: 0 }]);
  // From the first frame of either to the last of either.
  expect(versions.whole).toEqual({ from: 0, to: 950 });
  const ofV1 = (side: string) => versions.tracks.find((t) => t.side === side && t.name === 'V1')!;
  expect(ofV1('before').events.map((p) => [p.event.name, p.mark])).toEqual([
    ['gather', 'kept'],
    ['door', 'moved'],
  ]);
  expect(ofV1('now').events.map((p) => p.mark)).toEqual(['kept', 'moved', 'added']);
  // Nothing that is gone is dark; what is there now may be.
  expect(versions.tracks.flatMap((t) => t.events.filter((p) => p.isDark).map(() => [t.side, t.name]))).toEqual([
    ['now', 'A10'],
  ]);
  const { top, height } = ofV1('now');
  expect(placedAt(versions, { frame: 120, y: top + height / 2, slack: 1 })).toMatchObject({ change: 0, mark: 'moved' });
  expect(placedAt(versions, { frame: 152, y: top, slack: 1 })).toBeNull();
  expect(placedAt(versions, { frame: 120, y: versions.gap.top + 1, slack: 1 })).toBeNull();
});

test('whatever changed, every event lies in its version once, on one track of it, and no two tracks overlap', () => {
  const some = fc.record({ start: fc.nat(1000), track: fc.constantFrom('V1', 'V2', 'A1', 'A2') });
  const kinds = fc.constantFrom('added', 'removed', 'moved', 'trimmed', 're-sourced') as fc.Arbitrary<Change['kind']>;
  const changed = fc.record({ kind: kinds, a: some, b: some });
  fc.assert(
    fc.property(fc.array(some, { maxLength: 20 }), fc.array(changed, { maxLength: 20 }), (same, list) => {
      const changes = list.map(({ kind, a, b }) =>
        change(kind, {
          before: kind === 'added' ? null : event('x', a.start, a),
          event: kind === 'removed' ? null : event('y', b.start, b),
        }),
      );
      const versions = layOutVersions(cut({ kept: same.map((s) => kept('k', s.start, false, s.track)), changes }));
      const count = (side: string) =>
        versions.tracks.filter((t) => t.side === side).reduce((sum, t) => sum + t.events.length, 0);
      expect(count('before')).toBe(same.length + changes.filter((c) => c.before).length);
      expect(count('now')).toBe(same.length + changes.filter((c) => c.event).length);
      expect(versions.joined).toHaveLength(changes.filter((c) => c.before && c.event).length);
      versions.tracks.forEach((t, i) => {
        const next = versions.tracks[i + 1];
        if (next) expect(next.top).toBeGreaterThanOrEqual(t.top + t.height);
        expect(t.events.every((p) => p.event.track === t.name)).toBe(true);
      });
      for (const one of changes) {
        const { start, end } = stretchOfChange(one);
        expect([start >= versions.whole.from, end <= versions.whole.to]).toEqual([true, true]);
      }
    }),
  );
});

let comparison: Comparison;
let server: ReturnType<typeof standInServer>;
let closed: number;
beforeEach(() => {
  closed = 0;
  comparison = {
    former: { name: 'reel 2.edl', broughtInAt: '2026-11-19T10:00:00.000Z', replacedAt: '2026-11-20T10:00:00.000Z' },
    timelines: [
      cut({
        kept: [kept('gather', 0), kept('ember', 50, true)],
        changes: [
          change('added', { event: event('yard', 100), isDark: true }),
          change('removed', { before: event('kiln', 100) }),
          change('trimmed', { before: event('door', 200), event: event('door', 200, { length: 40 }), tailFrames: -10 }),
        ],
      }),
    ],
  };
  server = standInServer(() => comparison);
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = async () => {
  const timeline = { documentId: uuid(70), key: 't1', id: `${uuid(70)}/t1`, name: 'Saltglass' } as ShownTimeline;
  showPage('/projects/:projectId/cut', <VersionsView timeline={timeline} onClose={() => (closed += 1)} />);
  return screen.findByRole('region', { name: 'two versions' });
};

test('tells what was kept, added, removed and trimmed, what of it is dark, and against what', async () => {
  const region = await show();
  await waitFor(() => expect(region.textContent).toContain('above as in “reel 2.edl”'));
  expect(region.textContent).toMatch(/2 kept.*1 added.*1 removed.*1 trimmed/);
  // Of the kept one and of the added one: two seconds each.
  expect(region.textContent).toContain('2 events dark now, 0:04 in all');
  const lines = within(within(region).getByRole('group', { name: 'changes' })).getAllByRole('listitem');
  expect(lines.map((line) => line.getAttribute('aria-current'))).toEqual([null, null, null]);
  await userEvent.click(within(lines[2]!).getByRole('button', { name: /door trimmed/ }));
  expect(lines[2]!.getAttribute('aria-current')).toBe('true');
  await userEvent.click(within(region).getByRole('button', { name: /The cut/ }));
  expect(closed).toBe(1);
});

test('a timeline that the version before did not have is told as new', async () => {
  comparison = { ...comparison, timelines: [cut({ only: 'newer' })] };
  const region = await show();
  await waitFor(() => expect(region.textContent).toContain('had no such timeline'));
});
