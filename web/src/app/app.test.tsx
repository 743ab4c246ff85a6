import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode, useEffect } from 'react';
import { Provider, useStore } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import type { Job, PlaceView, ProjectSummary } from '@legame/core/contract';
import { api } from '../api/legame.ts';
import { pickMany } from '../session/selection.ts';
import { documentOf } from '../testing/document.ts';
import { jobOf } from '../testing/job.ts';
import { uuid } from '../testing/page.tsx';
import { placeOf } from '../testing/place.ts';
import { clipRow } from '../testing/rows.ts';
import { projectOf } from '../testing/project.ts';
import { standInServer } from '../testing/server.ts';
import { LastAct } from './LastAct.tsx';
import { Rail } from './Rail.tsx';
import { RunningJobs } from './RunningJobs.tsx';
import { hearChanges } from './changes.ts';
import { makeStore, type RootState, type Store } from './store.ts';

const projectId = uuid(1);
const did = { id: 7, verb: 'mend', count: 12, madeAt: '2026-11-27T10:00:00.000Z' } as const;
const job = (n: number, kind: Job['kind'], state: Job['state'], given: object = {}) =>
  ({ ...jobOf(kind), id: uuid(100 + n), state, ...given }) as Job;

let project: ProjectSummary;
let jobs: Job[];
let places: PlaceView[];
let documents: unknown[];
let newer: unknown[];
let server: ReturnType<typeof standInServer>;
const askedFor = (end: string) => server.asked.filter((one) => one.url.pathname.endsWith(end)).length;

beforeEach(() => {
  localStorage.clear();
  [project, jobs, places, documents, newer] = [projectOf(), [], [placeOf(20, 'BAY')], [], []];
  server = standInServer(({ url }) => {
    const path = url.pathname;
    if (path.endsWith('/clips'))
      return [clipRow(1, 'a.mov', 'missing'), clipRow(2, 'b.mov', 'missing'), clipRow(3, 'c.mov', 'linked')];
    if (path.endsWith('/causes')) return { causes: [], dark: 0, parked: 0, files: 0 };
    if (path.endsWith('/jobs')) return jobs;
    if (path.endsWith('/places')) return places;
    if (path.endsWith('/documents')) return documents;
    if (path.endsWith('/watched')) return { folder: null, isThere: false, documents: 0, newer };
    return project;
  });
});
afterEach(() => {
  jest.useRealTimers();
  cleanup();
  server.giveBack();
});

function show(element: ReactNode) {
  const store = makeStore();
  const router = createMemoryRouter([{ path: '*', element }], { initialEntries: [`/projects/${projectId}/ledger`] });
  render(
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>,
  );
  return store;
}

describe('the rail', () => {
  const left = (name: RegExp) => screen.getByRole('link', { name }).textContent;

  test('has all screens in the order of work, and tells of each what is left', async () => {
    places = [placeOf(20, 'BAY'), placeOf(21, 'KILN', { there: false })];
    newer = [
      {
        path: 'cut 8.edl',
        name: 'cut 8.edl',
        sizeInBytes: 1,
        modifiedAt: '2026-11-27T10:00:00.000Z',
        replaces: { id: uuid(5), name: 'cut 7.edl' },
      },
    ];
    documents = [documentOf(5, 'cut 7.edl')];
    show(<Rail projectId={projectId} />);
    await waitFor(() => expect(left(/Ledger/)).toBe('4Ledger2'));
    await waitFor(() => expect(left(/Places/)).toBe('2Places1 away'));
    await waitFor(() => expect(left(/Intake/)).toBe('1Intake1 newer'));
    const title = (link: HTMLElement) => /[A-Z][a-z]+( [a-z]+)?/.exec(link.textContent!)![0];
    expect(screen.getAllByRole('link').map(title)).toEqual([
      ...['Intake', 'Places', 'Causes', 'Ledger', 'Cut', 'Handoff'],
      ...['Bins', 'Timecode', 'Pull list', 'Names', 'Health', 'History', 'Read log'],
    ]);
  });

  test('an empty project says where to begin', async () => {
    places = [];
    show(<Rail projectId={projectId} />);
    await waitFor(() => expect(left(/Intake/)).toBe('1Intakeempty'));
    expect(left(/Places/)).toBe('2Placesnone');
  });
});

describe('what runs', () => {
  test('nothing is shown while nothing runs; what failed is, until the same was done since', async () => {
    const same = { shelf: 'vault', path: 'x' };
    jobs = [job(1, 'fetch-shelved', 'done', { payload: same }), job(2, 'fetch-shelved', 'failed', { payload: same })];
    const store = show(<RunningJobs />);
    await waitFor(() => expect(askedFor('/jobs')).toBe(1));
    expect(screen.queryByRole('button')).toBeNull();
    jobs = jobs.toReversed();
    act(() => void store.dispatch(api.util.invalidateTags(['Jobs'])));
    expect((await screen.findByRole('button')).textContent).toBe('1 job failed');
  });

  test('the first that runs is named, and how many more there are; opened, all are listed', async () => {
    jobs = [
      job(1, 'fetch-shelved', 'running', { about: 'bowl.mov' }),
      job(2, 'fetch-shelved', 'queued', { about: 'door.mov' }),
      job(3, 'fetch-shelved', 'failed', { about: 'pipe.mov', payload: { shelf: 'vault', path: 'pipe.mov' } }),
    ];
    show(<RunningJobs />);
    const button = await screen.findByRole('button');
    expect(button.textContent).toMatch(/^Fetch bowl\.mov.*\+1$/);
    await userEvent.click(button);
    expect(screen.getByText('Fetch pipe.mov failed')).toBeTruthy();
    expect(screen.getAllByText(/door\.mov/).length).toBeGreaterThan(0);
  });
});

describe('the last act', () => {
  test('is told with its way back; where nothing was done, so is that', async () => {
    const store = show(<LastAct projectId={projectId} isBusy={false} />);
    expect(screen.getByText('No link has been changed yet')).toBeTruthy();
    project = projectOf({ lastAct: did });
    act(() => void store.dispatch(api.util.invalidateTags(['Project'])));
    expect((await screen.findByText(/Mended a cause: linked 12 clips/)).textContent).toMatch(/Undo/);
    expect(screen.queryByRole('button', { name: 'Do again' })).toBeNull();
    project = projectOf({ redoable: did });
    act(() => void store.dispatch(api.util.invalidateTags(['Project'])));
    expect(await screen.findByRole('button', { name: 'Do again' })).toBeTruthy();
  });

  test('what is selected is summed up beside it', async () => {
    const store = show(<LastAct projectId={projectId} isBusy={false} />);
    await screen.findByText('3 clips');
    act(() => void store.dispatch(pickMany([uuid(1), uuid(3)] as never)));
    expect(screen.getByText('2 selected · 4 uses · 0:04 of screen time')).toBeTruthy();
  });
});

describe('what the server announces', () => {
  class Stream {
    static opened: Stream[] = [];
    readonly listeners = new Map<string, (event: unknown) => void>();
    isClosed = false;
    constructor() {
      Stream.opened.push(this);
    }
    addEventListener(name: string, run: (event: unknown) => void) {
      this.listeners.set(name, run);
    }
    close() {
      this.isClosed = true;
    }
    say = (topic: string) => this.listeners.get('change')!({ data: JSON.stringify({ topic, id: projectId }) });
  }
  const real = globalThis.EventSource;
  beforeEach(() => {
    Stream.opened = [];
    globalThis.EventSource = Stream as never;
  });
  afterEach(() => {
    globalThis.EventSource = real;
  });
  function Listening() {
    const store = useStore<RootState>();
    useEffect(() => hearChanges(store as Store), [store]);
    const shown = api.useProjectQuery(projectId).data;
    const running = api.useJobsQuery().data;
    return (
      <p>
        {shown?.toDo} to do, {running?.length} running
      </p>
    );
  }
  const later = (ms: number) => act(() => void jest.advanceTimersByTime(ms));
  const open = (stream = Stream.opened.at(-1)) => stream!.listeners.get('open')!({});
  async function showAndHear() {
    show(<Listening />);
    open();
    await screen.findByText('2 to do, 0 running');
  }

  test('is heard of before anything is asked, and what cannot be heard of holds nothing up', async () => {
    show(<Listening />);
    await act(() => new Promise((resolve) => setTimeout(resolve, 50)));
    expect(server.asked).toEqual([]);
    Stream.opened[0]!.listeners.get('error')!({});
    await screen.findByText('2 to do, 0 running');
  });

  test('where a stream opens so late that it was not waited for, everything is asked for once more', async () => {
    show(<Listening />);
    await screen.findByText('2 to do, 0 running', {}, { timeout: 4000 });
    project = projectOf({ toDo: 1 });
    open();
    await screen.findByText('1 to do, 0 running');
  });

  test('is asked for again, once for many, and only what changed', async () => {
    await showAndHear();
    jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'nextTick', 'setImmediate'] });
    const [stream] = Stream.opened;
    project = projectOf({ toDo: 1 });
    for (let i = 0; i < 50; i += 1) stream!.say('project');
    stream!.say('nobody knows this');
    expect(askedFor(projectId)).toBe(1);
    later(300);
    jest.useRealTimers();
    await screen.findByText('1 to do, 0 running');
    expect([askedFor(projectId), askedFor('/jobs')]).toEqual([2, 1]);
  });

  test('after a broken stream another is opened, and everything is asked for again', async () => {
    await showAndHear();
    jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'nextTick', 'setImmediate'] });
    Stream.opened[0]!.listeners.get('error')!({});
    expect(Stream.opened[0]!.isClosed).toBe(true);
    later(1600);
    expect(Stream.opened).toHaveLength(2);
    // What is answered before it is heard of might be older than what was said meanwhile.
    later(300);
    expect(askedFor(projectId)).toBe(1);
    [project, jobs] = [projectOf({ toDo: 0 }), [job(1, 'fetch-shelved', 'running')]];
    open();
    later(300);
    jest.useRealTimers();
    await screen.findByText('0 to do, 1 running');
  });

  describe('to a page that nobody looks at', () => {
    const hide = (isHidden: boolean) => {
      Object.defineProperty(document, 'hidden', { configurable: true, get: () => isHidden });
      document.dispatchEvent(new Event('visibilitychange'));
    };
    afterEach(() => {
      delete (document as { hidden?: boolean }).hidden;
    });

    test('is not told after a while; looked at, it asks for everything', async () => {
      await showAndHear();
      jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'nextTick', 'setImmediate'] });
      hide(true);
      later(30_000);
      hide(false);
      later(200_000);
      hide(true);
      later(59_000);
      expect(Stream.opened.map((s) => s.isClosed)).toEqual([false]);
      later(2000);
      expect(Stream.opened.map((s) => s.isClosed)).toEqual([true]);
      project = projectOf({ toDo: 0 });
      hide(false);
      expect(Stream.opened).toHaveLength(2);
      open();
      later(300);
      jest.useRealTimers();
      await screen.findByText('0 to do, 0 running');
    });

    test('is told as long as something runs', async () => {
      jobs = [job(1, 'fetch-shelved', 'running')];
      show(<Listening />);
      open();
      await screen.findByText('2 to do, 1 running');
      jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'nextTick', 'setImmediate'] });
      hide(true);
      later(180_000);
      expect(Stream.opened.map((s) => s.isClosed)).toEqual([false]);
      jest.useRealTimers();
    });
  });

  test('a page that is left listens no more', async () => {
    await showAndHear();
    cleanup();
    expect(Stream.opened.map((s) => s.isClosed)).toEqual([true]);
    expect(within(document.body).queryByText(/to do/)).toBeNull();
  });
});
