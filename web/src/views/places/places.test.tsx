import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import type { Cleared, DriveBay, RoomMap, TrialView, Trouble } from '@legame/core/contract';
import { makeStore } from '../../app/store.ts';
import { jobOf as job } from '../../testing/job.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { ReadLogView } from '../readLog/ReadLogView.tsx';
import { RoomView } from '../room/RoomView.tsx';
import { uuid } from '../../testing/page.tsx';
import { placeOf as place } from '../../testing/place.ts';
import { PlacesView } from './PlacesView.tsx';
const trouble = (n: number, name: string, reason: Trouble['reason'], quarantined = false): Trouble => ({
  mediaFileId: uuid(n) as Trouble['mediaFileId'],
  folder: 'night',
  name,
  sizeInBytes: 10,
  reason,
  quarantined,
});
const drive = (name: string, more: Partial<DriveBay['drives'][number]> = {}) => ({
  name,
  plugged: true,
  readOnly: false,
  slow: false,
  stalling: false,
  full: false,
  ...more,
});

let answers: (asked: Asked) => unknown;
let server: ReturnType<typeof standInServer>;
beforeEach(() => {
  answers = () => [];
  server = standInServer((asked) =>
    asked.url.pathname.endsWith('/settings') ? { headroomPercent: 20, cacheLimitInMB: null } : answers(asked),
  );
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

function show(path: string) {
  const router = createMemoryRouter(
    [
      { path: '/projects/:projectId/places', element: <PlacesView /> },
      { path: '/projects/:projectId/places/:placeId/room', element: <RoomView /> },
      { path: '/projects/:projectId/read-log', element: <ReadLogView /> },
      { path: '*', element: <p>elsewhere</p> },
    ],
    { initialEntries: [`/projects/${uuid(1)}/${path}`] },
  );
  render(
    <Provider store={makeStore()}>
      <RouterProvider router={router} />
    </Provider>,
  );
}
const sent = () =>
  server.asked.filter((a) => a.method !== 'GET').map(({ method, url, body }) => [method, url.pathname, body]);
const json = (text: unknown) => JSON.parse(text as string) as unknown;

describe('places', () => {
  const places = [
    place(2, 'KILN_A', {
      knownAs: ['/Volumes/KILN_A', 'E:'],
      learnedNames: ['E:'],
      movedFrom: '/bay/OLD',
      unreadable: 2,
    }),
    place(3, 'CARD_07', { there: false, awayBecause: 'not-plugged-in', room: null }),
    place(4, 'BAY_SHARE', { there: false, awayBecause: 'no-answer', room: null }),
    place(5, 'KILN_B', { there: false, awayBecause: 'another-drive', room: null }),
    place(6, 'TAPES', { readOnly: true, slow: true }),
  ];
  beforeEach(() => {
    answers = ({ method, url }) => {
      if (method === 'POST' && url.pathname.endsWith('/ask')) return job('fetch-shelved');
      if (method === 'PATCH' && url.pathname.includes('drive-bay'))
        return { drives: [drive('KILN_A', { plugged: false })], shelved: [] };
      if (url.pathname.endsWith('/places')) return places;
      if (url.pathname.endsWith('/drive-bay'))
        return {
          drives: [drive('KILN_A'), drive('CARD_07', { plugged: false })],
          shelved: [{ shelf: 'vault', path: 'KILN_A/day1/crucible.mov', sizeInBytes: 900, coming: false }],
        };
      if (url.pathname.endsWith('/trouble'))
        return [
          trouble(20, 'cut.mov', { code: 'truncated', presentInFrames: 212, expectedInFrames: 240, unit: 'frames' }),
          trouble(21, 'hung.mov', { code: 'decoder-too-slow', seconds: 15 }, true),
        ];
      if (/\/projects\/[^/]+\/room$/.test(url.pathname)) return [];
      if (url.pathname.endsWith('/recordings') || url.pathname.endsWith('/archives') || url.pathname.endsWith('/jobs'))
        return [];
      return place(2, 'KILN_A');
    };
  });
  const card = (name: string) => screen.findByRole('article', { name });

  test('each says whether it is there, and why not, in words', async () => {
    show('places');
    expect((await card('KILN_A')).textContent).toContain('Recognised: it lay at /bay/OLD before.');
    expect((await card('KILN_A')).textContent).toContain('into the 20 % headroom');
    expect((await card('CARD_07')).textContent).toContain('not plugged in');
    expect((await card('BAY_SHARE')).textContent).toContain('does not answer');
    expect((await card('KILN_B')).textContent).toContain('another drive lies there');
    expect((await card('TAPES')).textContent).toContain('slow, read-only');
  });

  test('a learned name is marked as such, and can be taken away', async () => {
    show('places');
    const kiln = await card('KILN_A');
    expect(within(kiln).getByTitle(/Learned from clips/).textContent).toContain('E:');
    await userEvent.click(within(kiln).getByRole('button', { name: 'remove the name E:' }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(json(sent()[0]![2])).toEqual({ knownAs: ['/Volumes/KILN_A'] });
  });

  test('what cannot be used stands there with reason and remedy, and is read again on request', async () => {
    show('places');
    await userEvent.click(within(await card('KILN_A')).getByRole('button', { name: '2 cannot be used' }));
    const list = await screen.findByRole('list', { name: 'files that cannot be used' });
    expect(list.textContent).toContain('it is cut off: 212 of 240 frames are there, the end is missing.');
    expect(list.textContent).toContain('It is not opened again until you have it read again.');
    expect(list.textContent).toContain('Set apart.');
    expect(screen.getByText('4 hidden or system · 1 link, not followed · 1 folder without permission.')).toBeTruthy();
    await userEvent.click(within(list).getAllByRole('button', { name: 'Read again' })[1]!);
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(json(sent()[0]![2])).toEqual({ mediaFileIds: [uuid(21)] });
  });

  test('for a drive that was not recognised, a person says that it is the same', async () => {
    show('places');
    await userEvent.click(within(await card('KILN_B')).getByRole('button', { name: /^KILN_B/ }));
    await userEvent.click(await screen.findByRole('button', { name: 'It is this place all the same' }));
    await waitFor(() => expect(json(sent()[0]![2])).toEqual({ isSame: true }));
  });

  test('the drive bay plugs, unplugs and asks its shelves', async () => {
    show('places');
    await userEvent.click(await screen.findByRole('button', { name: 'Drive bay' }));
    const drives = await screen.findByRole('list', { name: 'drives' });
    await userEvent.click(within(drives).getByRole('button', { name: 'Unplug' }));
    await waitFor(() => expect(sent()[0]!.slice(0, 2)).toEqual(['PATCH', '/api/drive-bay/drives/KILN_A']));
    expect(json(sent()[0]![2])).toEqual({ plugged: false });
    await userEvent.click(screen.getByRole('button', { name: 'Ask for it' }));
    await waitFor(() => expect(sent().at(-1)!.slice(0, 2)).toEqual(['POST', '/api/drive-bay/shelves/ask']));
    expect(json(sent().at(-1)![2])).toEqual({ shelf: 'vault', path: 'KILN_A/day1/crucible.mov' });
  });
});

describe('the room map', () => {
  const none = {
    'this-project': 0,
    'other-projects': 0,
    wanted: 0,
    duplicate: 0,
    unused: 0,
    holding: 0,
    cache: 0,
    other: 0,
  };
  const file = (n: number, name: string, more: Partial<RoomMap['largest'][number]> = {}) => ({
    mediaFileId: uuid(n),
    folder: 'night',
    name,
    sizeInBytes: 1_000_000,
    use: 'unused',
    usedBy: [],
    wantedBy: [],
    ...more,
  });
  const share = (name: string, sizeInBytes: number, use: keyof typeof none, folder: string | null = name) => ({
    name,
    folder,
    mediaFileId: folder === null ? uuid(30) : null,
    files: 2,
    sizeInBytes,
    byUse: { ...none, [use]: sizeInBytes },
  });
  beforeEach(() => {
    answers = ({ method, url }) => {
      if (url.pathname.endsWith('/cleared')) return [] as Cleared[];
      if (method === 'POST') return { cleared: [], skipped: [{ name: 'x.mov', why: { code: 'not-there' } }] };
      return {
        placeId: uuid(2),
        placeName: 'KILN_A',
        folder: url.searchParams.get('folder') ?? '',
        entries: [
          { ...share('day1', 3_000_000, 'this-project'), inside: [share('cardA', 3_000_000, 'this-project')] },
          { ...share('night', 1_000_000, 'unused'), inside: [] },
        ],
        byUse: { ...none, 'this-project': 3_000_000, unused: 1_000_000 },
        room: { freeInBytes: 5e9, totalInBytes: 1e10 },
        headroomShare: 0.2,
        largest: [
          file(31, 'wide.mov', { use: 'this-project', usedBy: ['bowl'] }),
          file(32, 'maybe.mov', { use: 'wanted', wantedBy: ['door'] }),
        ],
        unused: [file(33, 'spare.mov')],
      };
    };
  });

  test('areas by size lead into folders, uses are told in words', async () => {
    show(`places/${uuid(2)}/room`);
    const map = await screen.findByRole('group', { name: 'room map' });
    expect(screen.getByRole('list', { name: 'uses' }).textContent).toMatch(
      /used here 3.0 MB.*not used 1.0 MB.*free 5.0 GB of 10 GB.*2.0 GB headroom/,
    );
    expect(
      within(map)
        .getAllByRole('button')
        .map((i) => i.getAttribute('aria-label')),
    ).toEqual(['day1/, 3.0 MB', 'night/, 1.0 MB']);
    await userEvent.click(within(map).getByRole('button', { name: /^night/ }));
    await waitFor(() =>
      expect(screen.getByRole('navigation', { name: 'folder shown' }).textContent).toContain('KILN_A / night'),
    );
  });

  test('only what nothing uses, and nothing may need, is cleared', async () => {
    show(`places/${uuid(2)}/room`);
    await userEvent.click(await screen.findByLabelText('choose spare.mov'));
    await userEvent.click(screen.getByRole('button', { name: 'Largest' }));
    await userEvent.click(screen.getByLabelText('choose wide.mov'));
    await userEvent.click(screen.getByLabelText('choose maybe.mov'));
    expect(screen.getByText(/2 of them are used, or may be, and stay/).textContent).toContain('wide.mov, maybe.mov');
    await userEvent.click(screen.getByRole('button', { name: 'Clear 1 file, 1.0 MB' }));
    await waitFor(() => expect(json(sent()[0]![2])).toEqual({ mediaFileIds: [uuid(33)] }));
    await screen.findByText(/x.mov stays: it is not there/);
  });
});

describe('the read log and trial reads', () => {
  const trial: TrialView = {
    id: uuid(60),
    scope: 'culprit',
    createdAt: '2026-11-20T10:00:00.000Z',
    jobId: null,
    files: [
      {
        mediaFileId: uuid(61) as TrialView['files'][number]['mediaFileId'],
        name: 'bowl.mov',
        where: 'KILN_A/day1',
        suspicion: 'changed-lately',
        state: 'fails',
        frames: null,
        reason: { code: 'damaged', atFrame: 75, ofFrames: 224, detail: 'corrupt decoded frame' },
        reachedBy: [
          {
            clipId: uuid(62) as TrialView['files'][number]['reachedBy'][number]['clipId'],
            clipName: 'bowl',
            steps: [
              { timeline: 'memory', track: 'V1', event: 2 },
              { timeline: 'dream', track: 'V1', event: 1 },
            ],
            record: { start: 90_000, end: 90_050 },
            rate: { num: 25, den: 1 },
            counting: 'non-drop',
          },
        ],
      },
    ],
  };
  beforeEach(() => {
    const begunAt = new Date(Date.now() - 9000).toISOString();
    const entry = (n: number, more: object) => ({
      id: n,
      worker: 'worker 12',
      what: 'facts',
      placeId: null,
      mediaFileId: null,
      path: `KILN_A/day1/${n}.mov`,
      files: 1,
      begunAt,
      endedAt: new Date(Date.now() - 8000).toISOString(),
      outcome: 'ok',
      detail: null,
      reason: null,
      ...more,
    });
    answers = ({ method, url }) => {
      if (method === 'POST')
        return {
          trial,
          job: job('trial-read'),
        };
      if (url.pathname.endsWith('/read-log'))
        return [
          entry(1, { endedAt: null, outcome: null, what: 'decoder' }),
          entry(2, { files: 40 }),
          entry(3, { outcome: 'too-slow', reason: { code: 'decoder-too-slow', seconds: 30 } }),
        ];
      if (url.pathname.endsWith('/trials')) return [trial];
      return [];
    };
  });

  test('what is stuck stands out, quick ones are counted together', async () => {
    show('read-log');
    const log = await screen.findByRole('list', { name: 'read log' });
    const rows = within(log)
      .getAllByRole('listitem')
      .map((r) => r.textContent);
    expect(rows[0]).toMatch(/decoder.*9\.\d s.*stuck: no end yet/);
    expect(rows[1]).toContain('and 39 others, quickly');
    expect(rows[2]).toContain('took too long, stopped');
    // In words, with what can be done; never a code.
    expect(rows[2]).toContain('Decoding took over 30 s and was stopped. It is not opened again');
    expect(rows[2]).not.toContain('decoder-too-slow');
    await userEvent.click(screen.getByRole('button', { name: 'With trouble' }));
    await waitFor(() => expect(server.asked.some((a) => a.url.searchParams.get('only') === 'trouble')).toBe(true));
  });

  test('the culprit is named with the frame and the way by which the edit reaches it', async () => {
    show('read-log');
    const found = await screen.findByRole('list', { name: 'files that fail' });
    expect(found.textContent).toContain('it opens, but stops at frame 75 of 224: corrupt decoded frame.');
    expect(found.textContent).toContain('memory V1·2 › dream V1·1');
    expect(found.textContent).toContain('01:00:00:00');
    await userEvent.click(screen.getByRole('button', { name: 'Find the culprit' }));
    await waitFor(() => expect(json(sent()[0]![2])).toEqual({ scope: 'culprit' }));
  });
});
