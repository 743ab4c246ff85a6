import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import type { Job } from '@legame/core/contract';
import type { DocumentId, PlaceId } from '@legame/core/model';
import { noticeText } from '@legame/words/notices';
import { api } from '../api/legame.ts';
import { Notices } from '../app/Notices.tsx';
import { makeStore } from '../app/store.ts';
import { useNotices } from '../app/useNotices.ts';
import { jobOf } from '../testing/job.ts';
import { uuid } from '../testing/page.tsx';
import { placeOf } from '../testing/place.ts';
import { standInServer } from '../testing/server.ts';
import { newsBetween, type Looked } from './notices.ts';

const at = '2026-11-27T10:00:00.000Z';
const job = (n: number, kind: Job['kind'], state: Job['state'], finishedAt: string | null = null): Job =>
  ({ ...jobOf(kind), id: uuid(n), state, finishedAt }) as Job;
const place = (n: number, there: boolean) => ({ id: uuid(n) as PlaceId, name: `KILN_${n}`, there });
const newer = { name: 'cut 8.edl', modifiedAt: at, replaces: { id: uuid(9) as DocumentId, name: 'cut 7.edl' } };
const looked = (given: Partial<Looked> = {}): Looked => ({ jobs: [], places: [], newer: [], ...given });
const told = (before: Looked | null, now: Looked, since = at) => newsBetween(before, now, since, at).map((n) => n.code);

describe('what is news', () => {
  test('work that ended; of what runs in passing only that it failed', () => {
    const running = looked({ jobs: [job(1, 'run-handoff', 'running'), job(2, 'index-place', 'running')] });
    const ended = looked({ jobs: [job(1, 'run-handoff', 'done', at), job(2, 'index-place', 'done', at)] });
    expect(told(running, ended)).toEqual(['done']);
    expect(told(ended, ended)).toEqual([]);
    expect(told(running, looked({ jobs: [job(2, 'index-place', 'failed', at)] }))).toEqual(['failed']);
    expect(told(running, looked({ jobs: [job(1, 'run-handoff', 'cancelled', at)] }))).toEqual([]);
  });

  test('at the first look only work that ended since somebody looked; nothing of what is as it is', () => {
    const jobs = [job(1, 'run-handoff', 'done', '2026-11-27T09:00:00.000Z'), job(2, 'check-set', 'failed', at)];
    const now = looked({ jobs, places: [place(1, false)], newer: [newer] });
    expect(told(null, now, '2026-11-27T09:30:00.000Z')).toEqual(['failed']);
    expect(told(null, now, at)).toEqual([]);
  });

  test('places that go and come, newer cuts that turn up; what is added or forgotten is neither', () => {
    const before = looked({ places: [place(1, true), place(2, false), place(3, true)] });
    const now = looked({ places: [place(1, false), place(2, true), place(4, false)], newer: [newer] });
    expect(newsBetween(before, now, at, at).map(noticeText)).toEqual([
      'KILN_1 went away.',
      'KILN_2 is back.',
      'cut 8.edl lies in the watched folder: newer than cut 7.edl.',
    ]);
    expect(told(now, looked({ ...now }))).toEqual([]);
    const over = looked({ ...now, newer: [{ ...newer, modifiedAt: '2026-11-27T11:00:00.000Z' }] });
    expect(told(now, over)).toEqual(['newer']);
  });
});

describe('the list of notices', () => {
  let jobs: Job[];
  let server: ReturnType<typeof standInServer>;
  beforeEach(() => {
    localStorage.clear();
    jobs = [job(1, 'fetch-shelved', 'running')];
    server = standInServer(({ url }) => {
      if (url.pathname.endsWith('/jobs')) return jobs;
      if (url.pathname.endsWith('/places')) return [placeOf(20, 'BAY')];
      return { folder: null, isThere: false, documents: 0, newer: [] };
    });
  });
  afterEach(() => {
    cleanup();
    server.giveBack();
  });

  function Page() {
    useNotices(uuid(1));
    return <Notices projectId={uuid(1)} />;
  }
  function show() {
    const store = makeStore();
    const router = createMemoryRouter(
      [
        { path: '/', element: <Page /> },
        { path: '*', element: <p>somewhere else</p> },
      ],
      { initialEntries: ['/'] },
    );
    render(
      <Provider store={store}>
        <RouterProvider router={router} />
      </Provider>,
    );
    return store;
  }

  test('counts what was not looked at, leads to where it is seen, and is emptied', async () => {
    const store = show();
    await waitFor(() => expect(server.asked.some((one) => one.url.pathname.endsWith('/watched'))).toBe(true));
    await screen.findByRole('button', { name: 'notices' });
    jobs = [job(1, 'fetch-shelved', 'done', new Date(Date.now() + 1000).toISOString())];
    act(() => void store.dispatch(api.util.invalidateTags(['Jobs'])));
    const bell = await screen.findByRole('button', { name: 'notices, 1 new one' });
    await userEvent.click(bell);
    const list = screen.getByRole('list', { name: 'what happened' });
    expect(within(list).getByRole('button').textContent).toMatch(/^Fetch x: done\./);
    await userEvent.click(screen.getByRole('button', { name: 'Clear the list' }));
    expect(screen.getByText(/Nothing has happened by itself/)).toBeTruthy();
    // What was cleared is not told again.
    act(() => void store.dispatch(api.util.invalidateTags(['Jobs'])));
    await waitFor(() => expect(server.asked.filter((one) => one.url.pathname.endsWith('/jobs')).length).toBe(3));
    expect(screen.getByText(/Nothing has happened by itself/)).toBeTruthy();
  });

  test('a notice leads to its screen', async () => {
    jobs = [job(1, 'fetch-shelved', 'done', new Date(Date.now() + 1000).toISOString())];
    show();
    await userEvent.click(await screen.findByRole('button', { name: /^notices, 1/ }));
    await userEvent.click(within(screen.getByRole('list', { name: 'what happened' })).getByRole('button'));
    expect(await screen.findByText('somewhere else')).toBeTruthy();
  });
});
