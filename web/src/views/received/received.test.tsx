import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { checkStates } from '@legame/core/mhl';
import type { Job, SetCheck, SetFile, SetList } from '@legame/core/contract';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer, type Asked } from '../../testing/server.ts';
import { ReceivedView } from './ReceivedView.tsx';

const at = '2026-11-26T10:00:00.000Z';
const list: SetList = {
  path: 'ascmhl/0001_to colour_2026-11-26_100000Z.mhl',
  files: 3,
  madeAt: at,
  tool: 'Legame',
  host: 'kiln',
  chain: 'same',
  fault: null,
};
const job = (state: Job['state'], problem: Job['problem'] = null): Job => ({
  ...({ id: uuid(3), kind: 'check-set', payload: { checkId: uuid(2) }, about: 'to colour' } as Pick<Job, 'id'> & {
    kind: 'check-set';
    payload: { checkId: string };
    about: string;
  }),
  ...{ state, progress: null, problem, createdAt: at, startedAt: at, finishedAt: null },
});
const counts = (some: Partial<Record<SetFile['state'], number>>) =>
  Object.fromEntries(
    checkStates.map((s) => [s, { files: some[s] ?? 0, bytes: (some[s] ?? 0) * 1000 }]),
  ) as SetCheck['counts'];
const check = (more: Partial<SetCheck> = {}): SetCheck => ({
  ...{ id: uuid(2), folder: '/out/to colour', createdAt: at, addsGeneration: false, generation: null },
  ...{ job: job('done'), lists: [list], listsGone: [], unlisted: [], counts: counts({ verified: 3 }), handoff: null },
  ...more,
});
const file = (path: string, state: SetFile['state'], more: Partial<SetFile> = {}): SetFile => ({
  ...{ path, listedPath: null, state, listedInBytes: 1000, foundInBytes: 1000, detail: null },
  ...{ listed: { xxh64: 'a'.repeat(16) }, found: { xxh64: 'a'.repeat(16) } },
  ...more,
});

let server: ReturnType<typeof standInServer>;
let checks: SetCheck[];
let pages: Record<string, { files: SetFile[]; next: string | null }>;
beforeEach(() => {
  checks = [check()];
  pages = { '': { files: [file('media/bowl.mov', 'verified')], next: null } };
  server = standInServer(({ method, url }: Asked) => {
    const path = url.pathname.replace(/^\/api\//, '');
    if (path.endsWith('/files')) {
      const [state, after] = [url.searchParams.get('state'), url.searchParams.get('after')];
      return pages[[state, after].filter(Boolean).join(' ')] ?? { files: [], next: null };
    }
    if (path.endsWith('/open')) return { id: uuid(9), name: 'to colour', createdAt: at };
    if (path === 'set-checks') return method === 'POST' ? check({ job: job('queued'), lists: null }) : checks;
    if (path.startsWith('folders')) return { path: '/out', parent: null, folders: [] };
    return check();
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = (of = `/received/${uuid(2)}`) => showPage('/received/:checkId?', <ReceivedView />, of);
const said = async () =>
  (await within(await screen.findByRole('article', { name: 'check' })).findAllByRole('status'))[0]!;
const posts = () => server.asked.filter((a) => a.method === 'POST').map((a) => a.url.pathname.replace('/api/', ''));

describe('what a check says', () => {
  test.each<[string, Partial<SetCheck>, RegExp, RegExp]>([
    ['all is well', {}, /^All 3 files are what was handed over\.$/, /^verified$/],
    [
      'some is not',
      { counts: counts({ verified: 1, changed: 2, new: 1 }) },
      /1 of 4 files are verified, 2 changed, 1 new/,
      /^2 not as handed over$/,
    ],
    ['its list was changed', { lists: [{ ...list, chain: 'other' }] }, /cannot be trusted/, /in doubt/],
    ['a list that the chain names is gone', { listsGone: ['ascmhl/0002_x.mhl'] }, /cannot be trusted/, /in doubt/],
    [
      'it holds no list',
      { lists: null, job: job('failed', { code: 'no-hash-list', folder: '/out/to colour' }) },
      /holds no hash list/,
      /could not be checked/,
    ],
    [
      'it was stopped',
      { job: job('cancelled'), counts: counts({ verified: 1, waiting: 2 }) },
      /2 to be read/,
      /^stopped$/,
    ],
    ['it is under way', { job: job('running'), counts: counts({ waiting: 3 }) }, /are being read/, /being read/],
  ])('when %s', async (_, more, sentence, inShort) => {
    checks = [check(more)];
    show();
    expect((await said()).textContent).toMatch(sentence);
    expect(within(screen.getByRole('list', { name: 'checked sets' })).getByText(inShort)).toBeTruthy();
    // A set that cannot be read, or is being read, is not opened.
    const opens = more.lists !== null && more.job?.state !== 'running';
    expect(screen.queryAllByRole('button', { name: 'Open the set' })).toHaveLength(opens ? 1 : 0);
  });

  test('names the handoff it came from, and where its lists say now what that did not', async () => {
    const handoff = { id: uuid(5), projectId: uuid(6), project: 'Saltglass', createdAt: at, listedOtherwise: 2 };
    checks = [check({ handoff: handoff as SetCheck['handoff'] })];
    show();
    expect((await screen.findByRole('link', { name: 'Saltglass' })).getAttribute('href')).toBe(
      `/projects/${uuid(6)}/handoff`,
    );
    expect(screen.getByText(/its lists say of 2 files what that did not/)).toBeTruthy();
  });
});

describe('its files', () => {
  test('come page after page, with what was listed beside what was found', async () => {
    const changed = file('media/bowl.mov', 'changed', { found: { xxh64: 'b'.repeat(16) }, foundInBytes: 900 });
    pages = {
      '': { files: [changed], next: '1:media/bowl.mov' },
      '1:media/bowl.mov': { files: [file('b/door.mov', 'moved', { listedPath: 'a/door.mov' })], next: null },
    };
    checks = [check({ counts: counts({ changed: 1, moved: 1 }) })];
    show();
    await waitFor(() => expect(server.asked.filter((a) => a.url.pathname.endsWith('/files'))).toHaveLength(2));
    expect(server.asked.map((a) => a.url.searchParams.get('after')).filter(Boolean)).toEqual(['1:media/bowl.mov']);
  });

  test('of one state are asked for alone', async () => {
    checks = [check({ counts: counts({ verified: 2, missing: 1 }) })];
    show();
    await userEvent.click(await screen.findByRole('button', { name: '1 missing' }));
    await waitFor(() =>
      expect(server.asked.filter((a) => a.url.searchParams.get('state') === 'missing').length).toBeGreaterThan(0),
    );
  });
});

describe('what is done from here', () => {
  test('a set that is opened is gone to', async () => {
    const { router } = show();
    await userEvent.click(await screen.findByRole('button', { name: 'Open the set' }));
    await waitFor(() => expect(router.state.location.pathname).toBe(`/projects/${uuid(9)}/ledger`));
    expect(posts()).toEqual([`set-checks/${uuid(2)}/open`]);
  });

  test('another is checked, and adds to its lists only where that was said', async () => {
    show('/received');
    await userEvent.type(await screen.findByLabelText('folder path'), '/in/set');
    await userEvent.click(screen.getByRole('checkbox'));
    await userEvent.click(screen.getByRole('button', { name: 'Check this set' }));
    await waitFor(() => expect(posts()).toEqual(['set-checks']));
    const { body } = server.asked.find((a) => a.method === 'POST')!;
    expect(JSON.parse(body)).toEqual({ folder: '/in/set', addGeneration: true });
  });

  test('one that was stopped goes on; one that is forgotten is only forgotten', async () => {
    checks = [check({ job: job('cancelled'), counts: counts({ verified: 1, waiting: 2 }) })];
    show();
    await userEvent.click(await screen.findByRole('button', { name: 'Go on with the check' }));
    await waitFor(() => expect(posts()).toEqual([`set-checks/${uuid(2)}/run`]));
    await userEvent.click(screen.getByRole('button', { name: 'forget the check of to colour' }));
    await waitFor(() => expect(server.asked.some((a) => a.method === 'DELETE')).toBe(true));
  });
});
