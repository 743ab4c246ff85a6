import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Handoff, HandoffPlan } from '@legame/core/contract';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer, type Asked } from '../../testing/server.ts';
import { HandoffView } from './HandoffView.tsx';

const at = '2026-11-20T10:00:00.000Z';
const plan: HandoffPlan = {
  folder: '/out/to colour',
  files: [1, 2].map((n) => ({
    mediaFileId: uuid(n) as HandoffPlan['files'][number]['mediaFileId'],
    placeName: 'KILN_A',
    source: `day1/${n}.mov`,
    target: `media/${n}.mov`,
    sizeInBytes: 1_500_000,
    files: 1,
    clips: 1,
    usedBy: [`clip ${n}`],
    renamed: n === 2,
  })),
  leftOut: [
    { clipId: uuid(8) as HandoffPlan['leftOut'][number]['clipId'], clipName: 'bowl', reason: 'place-away' },
    { clipId: uuid(9) as HandoffPlan['leftOut'][number]['clipId'], clipName: 'slate', reason: 'waived' },
  ],
  timelines: ['Cut 7'],
  sizeInBytes: 3_000_000,
  room: { freeInBytes: 9e9, totalInBytes: 1e10, headroomShare: 0.1, usableInBytes: 8e9, fits: true },
};
const handoff = (state: Handoff['state'], more: Partial<Handoff> = {}): Handoff => ({
  id: uuid(20) as Handoff['id'],
  folder: plan.folder,
  layout: 'folder',
  state,
  createdAt: at,
  finishedAt: null,
  problem: null,
  jobId: null,
  plan,
  copied: plan.files.map((f) => ({
    target: f.target,
    sizeInBytes: f.sizeInBytes,
    state: 'waiting',
    xxh64: null,
    problem: null,
  })),
  ...more,
});

let server: ReturnType<typeof standInServer>;
let handoffs: Handoff[];
let refuse: object | null;
beforeEach(() => {
  handoffs = [];
  refuse = null;
  server = standInServer(({ method, url }: Asked) => {
    const path = url.pathname.replace(/^\/api\//, '');
    if (method === 'POST' && refuse) return refuse;
    if (path.endsWith('/handoffs')) return method === 'POST' ? handoff('planned') : handoffs;
    if (path.endsWith('/darkness'))
      return [0, 1].map((i) => ({ key: `t${i}`, documentId: uuid(30), darkInFrames: i * 25, darkNests: [] }));
    if (path.endsWith('/cut'))
      return ['Cut 7', 'Trailer'].map((name, i) => ({
        key: `t${i}`,
        documentId: uuid(30),
        name,
        rate: { num: 25, den: 1 },
        counting: 'non-drop',
        start: 0,
        length: 250,
        top: true,
        events: [],
      }));
    if (path.startsWith('folders')) return { path: '/out', parent: null, folders: [] };
    if (/^projects\/[^/]+$/.test(path))
      return {
        id: uuid(1),
        name: 'Saltglass',
        createdAt: at,
        rules: {},
        clips: 2,
        toDo: 0,
        certain: 0,
        statuses: {},
        darkSeconds: 0,
        cutSeconds: 1,
        lastAct: null,
        redoable: null,
      };
    return [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = () => showPage('/projects/:projectId/handoff', <HandoffView />);
const posts = () => server.asked.filter((a) => a.method === 'POST');

describe('a plan', () => {
  test('copies nothing, and says what cannot come along and why', async () => {
    handoffs = [handoff('planned')];
    show();
    expect(await screen.findByText('Nothing is copied yet.')).toBeTruthy();
    const left = within(screen.getByRole('region', { name: 'left out' })).getAllByRole('listitem');
    expect(left.map((l) => l.textContent)).toEqual(['bowl its drive is not plugged in', 'slate needs no media']);
    expect(posts()).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Copy 2 files, 3.0 MB' }));
    await waitFor(() => expect(posts().map((p) => p.url.pathname)).toEqual([`/api/handoffs/${uuid(20)}/run`]));
  });

  test('that does not fit beside the headroom cannot be run, and says so', async () => {
    handoffs = [handoff('planned', { plan: { ...plan, room: { ...plan.room, usableInBytes: 1e6, fits: false } } })];
    show();
    expect(((await screen.findByRole('button', { name: /^Copy 2 files/ })) as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByText(/Does not fit: only 1.0 MB can be used beside the headroom of 10 %/)).toBeTruthy();
  });
});

describe('a handoff that stopped', () => {
  test('says what went wrong with which file, what stays, and goes on with the rest', async () => {
    const first = { code: 'source-changed', path: '/media/KILN_A/day1/2.mov', since: 'begun' } as const;
    handoffs = [
      handoff('failed', {
        problem: { code: 'files-not-copied', failed: 1, of: 2, first },
        copied: [
          { target: 'media/1.mov', sizeInBytes: 1, state: 'verified', xxh64: 'ab12', problem: null },
          { target: 'media/2.mov', sizeInBytes: 1, state: 'failed', xxh64: null, problem: first },
        ],
      }),
    ];
    show();
    const status = await screen.findByRole('status');
    expect(status.textContent).toMatch(/1 of 2 files are verified and stay\. 1 of 2 files could not be copied/);
    expect(screen.getByRole('region', { name: 'failed files' }).textContent).toContain(
      'changed while it was being copied. Wait until nothing writes to it, then continue.',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Continue with 1 file' }));
    await waitFor(() => expect(posts()).toHaveLength(1));
  });
});

describe('planning', () => {
  test('asks for timelines, a name and a folder, and sends what was left out of it', async () => {
    show();
    expect(
      await screen.findByText(
        'No handoff yet. A plan copies nothing; it shows what would be copied, and what cannot come along.',
      ),
    ).toBeTruthy();
    expect(screen.getByText('0:01 dark')).toBeTruthy();
    await userEvent.click(await screen.findByLabelText(/Trailer/));
    await userEvent.clear(screen.getByLabelText('name of the new folder'));
    await userEvent.type(screen.getByLabelText('name of the new folder'), 'to sound');
    expect((screen.getByRole('button', { name: 'Show the plan' }) as HTMLButtonElement).disabled).toBe(true);
    await userEvent.click(await screen.findByRole('button', { name: 'Put it here' }));
    await userEvent.click(screen.getByRole('button', { name: 'Show the plan' }));
    await waitFor(() => expect(posts()).toHaveLength(1));
    expect(JSON.parse(posts()[0]!.body)).toEqual({
      targetFolder: '/out',
      name: 'to sound',
      layout: 'folder',
      timelines: [`${uuid(30)}/t0`],
    });
  });
});
