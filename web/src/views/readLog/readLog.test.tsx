import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { OpeningView, TrialView } from '@legame/core/contract';
import { jobOf } from '../../testing/job.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer } from '../../testing/server.ts';
import { logAsCsv } from './logAsCsv.ts';
import { LogRow } from './LogRow.tsx';
import { ReadLogView } from './ReadLogView.tsx';

const at = (seconds: number) => new Date(Date.UTC(2026, 2, 2, 9) + seconds * 1000).toISOString();
const entry = (id: number, more: Partial<OpeningView> = {}): OpeningView => ({
  ...{
    id,
    worker: 'reader 41',
    what: 'facts',
    placeId: null,
    mediaFileId: null,
    path: `KILN/day1/${id}.mov`,
    files: 1,
  },
  ...{ begunAt: at(0), endedAt: at(0.25), outcome: 'ok', detail: null, reason: null },
  ...more,
});
const file = (
  n: number,
  state: TrialView['files'][number]['state'],
  more: object = {},
): TrialView['files'][number] => ({
  ...{ mediaFileId: uuid(n) as TrialView['files'][number]['mediaFileId'], name: `${n}.mov`, where: 'KILN/day1' },
  ...{ suspicion: 'large', reachedBy: [], state, frames: null, reason: null },
  ...more,
});
const trial = (files: TrialView['files'], scope: TrialView['scope'] = 'culprit'): TrialView => ({
  ...{ id: uuid(60), scope, createdAt: at(0), jobId: null, files },
});

let entries: OpeningView[];
let trials: TrialView[];
let server: ReturnType<typeof standInServer>;
beforeEach(() => {
  localStorage.clear();
  entries = [entry(1)];
  trials = [];
  server = standInServer(({ url, method }) => {
    if (url.pathname.endsWith('/read-log')) {
      const only = url.searchParams.get('only');
      return entries.filter((e) => !only || (only === 'open' ? e.endedAt === null : e.outcome !== 'ok'));
    }
    if (url.pathname.endsWith('/trials'))
      return method === 'GET' ? trials : { trial: trials[0], job: jobOf('trial-read') };
    return [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = () => showPage('/projects/:projectId/read-log', <ReadLogView />);

describe('one opening', () => {
  const row = (one: OpeningView) => {
    render(<LogRow entry={one} />);
    const text = document.body.textContent;
    cleanup();
    return text;
  };
  test.each<[string, OpeningView, RegExp]>([
    ['a quick one', entry(1), /250 ms.*reader 41/],
    ['many quick ones together', entry(1, { files: 40 }), /and 39 others, quickly/],
    ['one that took long', entry(1, { endedAt: at(12.34) }), /12\.3 s/],
    [
      'one that cannot be read says why and what to do',
      entry(1, { outcome: 'unreadable', reason: { code: 'header-broken', detail: { code: 'ends-in-index' } } }),
      /its own index\. Look for another copy/i,
    ],
    [
      'what a drive said is said as it is',
      entry(1, { outcome: 'failed', detail: 'EIO: i/o error' }),
      /EIO: i\/o error/,
    ],
    ['what Legame found is said in words', entry(1, { detail: { code: 'files-listed', files: 2 } }), /2 files/],
    ['one that is open for long has got stuck', entry(1, { endedAt: null, outcome: null }), /stuck: no end yet/],
    [
      'one that was opened just now is open',
      entry(1, { endedAt: null, outcome: null, begunAt: new Date().toISOString() }),
      /open now/,
    ],
  ])('%s', (_, one, said) => {
    expect(row(one)).toMatch(said);
  });

  test('goes out as a table with its seconds and its words', () => {
    const csv = logAsCsv([
      entry(1, { outcome: 'unreadable', reason: { code: 'file-empty' } }),
      entry(2, { endedAt: null, outcome: null, path: 'KILN/a, "b".mov' }),
    ]).split(/\r?\n/);
    expect(csv[0]).toMatch(/^What,Path,Files,Begun,Ended,Seconds,Outcome,Detail,By/);
    expect(csv[1]).toMatch(/,0\.25,/);
    expect(csv[2]).toContain('"KILN/a, ""b"".mov"');
    expect(csv[2]).toMatch(/,,,open,/);
  });
});

describe('the read log', () => {
  test('is asked for what is open, or for trouble, and says so when there is none', async () => {
    show();
    expect(await screen.findByText('1 entry')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Open now' }));
    expect(await screen.findByText(/Nothing is open now/)).toBeTruthy();
    entries = [entry(1), entry(2, { outcome: 'too-slow' }), entry(3, { outcome: 'lost' })];
    await userEvent.click(screen.getByRole('button', { name: 'With trouble' }));
    expect(await screen.findByText('2 entries')).toBeTruthy();
    expect(server.asked.at(-1)!.url.searchParams.get('only')).toBe('trouble');
  });
});

describe('trial reads', () => {
  const started = () =>
    server.asked.filter((a) => a.method === 'POST').map((a) => JSON.parse(a.body) as { scope: string });

  test('are started for the culprit or for all', async () => {
    show();
    expect(await screen.findByText(/No trial read yet/)).toBeTruthy();
    trials = [trial([file(1, 'waiting')])];
    await userEvent.click(screen.getByRole('button', { name: 'Find the culprit' }));
    await waitFor(() => expect(started()).toMatchObject([{ scope: 'culprit' }]));
    await userEvent.click(screen.getByRole('button', { name: 'Try all used media' }));
    await waitFor(() => expect(started()[1]).toMatchObject({ scope: 'used' }));
  });

  test('name the file that fails, why, what to do, and the way by which the edit reaches it', async () => {
    const reach = {
      clipId: uuid(9),
      clipName: 'bowl.mov',
      steps: [
        { timeline: 'Cut 7', track: 'V1', event: 12 },
        { timeline: 'memory', track: 'V2', event: 3 },
      ],
      record: { start: 90_000, end: 90_025 },
      rate: { num: 25, den: 1 },
      counting: 'non-drop',
    };
    const damaged = { code: 'damaged', atFrame: 1200, ofFrames: 1250, detail: 'partial file' };
    trials = [
      trial([
        file(1, 'fails', { reason: damaged, reachedBy: [reach] }),
        file(2, 'whole'),
        file(3, 'skipped'),
        file(4, 'waiting'),
        file(5, 'fails'),
      ]),
    ];
    const { store, router } = show();
    expect(await screen.findByText('2 files fail')).toBeTruthy();
    expect(screen.getByText(/1 file is whole · 1 file not there · 1 file to go/)).toBeTruthy();
    const [first, second] = within(screen.getByRole('list', { name: 'files that fail' })).getAllByRole('listitem');
    expect(first!.textContent).toMatch(/stops at frame 1\u202f200 of 1\u202f250: partial file/);
    expect(first!.textContent).toMatch(/Look for another copy/);
    expect(screen.getByText('No timeline reaches it.')).toBeTruthy();
    expect(second).toBeTruthy();
    expect(screen.getByText(/Next: 4\.mov/)).toBeTruthy();
    await userEvent.click(screen.getByRole('link', { name: /Cut 7 V1·12 › memory V2·3 at 01:00:00:00/ }));
    expect(router.state.location.pathname).toBe(`/projects/${uuid(1)}/ledger`);
    expect(store.getState().selection).toMatchObject({ focus: uuid(9), status: 'all' });
  });

  test('of which nothing fails says so, and not before all were tried', async () => {
    trials = [trial([file(1, 'whole'), file(2, 'waiting')], 'used')];
    show();
    expect(await screen.findByText(/Nothing fails so far/)).toBeTruthy();
    cleanup();
    trials = [trial([file(1, 'whole')], 'used')];
    show();
    expect(await screen.findByText('Nothing fails')).toBeTruthy();
  });
});
