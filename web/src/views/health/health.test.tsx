import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BringingHome, Checked, Health } from '@legame/core/contract';
import { defaultTemplate } from '@legame/core/folders';
import { healthChecks, type HealthCheck } from '@legame/core/health';
import { defaultRules } from '@legame/core/match';
import type { PlaceId } from '@legame/core/model';
import { jobOf } from '../../testing/job.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { placeOf } from '../../testing/place.ts';
import { standInServer } from '../../testing/server.ts';
import { HealthReport } from './HealthReport.tsx';
import { HealthView } from './HealthView.tsx';

const bay = uuid(20) as PlaceId;
const files = (n: number): Checked['findings'] =>
  Array.from({ length: n }, (_, i) => ({
    key: `f${i}`,
    subject: { what: 'file', path: `KILN/day1/take${i}.mov` },
    placeId: bay,
    sizeInBytes: 1000,
    accepted: null,
    isNew: i === 0,
  }));
const found = (check: HealthCheck, given: Partial<Checked>): Checked => ({
  check,
  isAsked: true,
  open: given.findings?.length ?? 0,
  accepted: 0,
  added: 0,
  gone: 0,
  sizeInBytes: 0,
  clips: given.findings?.length ?? 0,
  findings: [],
  ...given,
});
const withChecks = (checks: readonly Checked[], given: Partial<Health> = {}): Health => ({
  home: null,
  proposedHome: null,
  files: 12,
  clips: 30,
  keptAt: null,
  checks: healthChecks.map((check) => checks.find((c) => c.check === check) ?? found(check, {})),
  ...given,
});
const bringing: BringingHome = {
  home: 'BAY/film',
  files: [{ path: 'KILN/day1/take0.mov', target: 'BAY/film/picture/day1/take0.mov', sizeInBytes: 1_000_000 }],
  left: [{ path: 'KILN/day1/dpx', why: 'sequence' }],
  sizeInBytes: 1_000_000,
  usableInBytes: 5_000_000,
};

let health: Health;
let preview: BringingHome;
let jobs: object[];
let server: ReturnType<typeof standInServer>;
const asked = (path: string) =>
  server.asked
    .filter((one) => one.method !== 'GET' && one.url.pathname.endsWith(path))
    .map((one) => (one.body ? (JSON.parse(one.body) as Record<string, unknown>) : null));
const panel = () => screen.findByRole('region', { name: 'Only copy' });
const place = placeOf(20, 'BAY');

beforeEach(() => {
  localStorage.clear();
  health = withChecks([found('only-copy', { findings: files(2), added: 1, gone: 3 })]);
  preview = bringing;
  jobs = [];
  server = standInServer(({ method, url }) => {
    const path = url.pathname;
    if (path.endsWith('/places')) return [place];
    if (path.endsWith('/jobs')) return jobs;
    if (path.endsWith('/folder-template')) return { template: defaultTemplate, isOwn: false, namePattern: null };
    if (path.endsWith('/trials'))
      return {
        trial: { id: uuid(60), scope: 'chosen', createdAt: '2026-11-27T00:00:00.000Z', jobId: null, files: [] },
        job: jobOf('trial-read'),
      };
    if (path.endsWith('/health/clips')) return [uuid(1), uuid(2)];
    if (path.endsWith('/health/home')) return method === 'GET' ? preview : bringHomeJob('queued');
    if (path.endsWith('/health') || path.endsWith('/keep')) return health;
    return { id: 1, verb: 'accept', count: 0, madeAt: '2026-11-27T00:00:00.000Z', skipped: [] };
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const bringHomeJob = (state: string) => ({
  ...jobOf('bring-home'),
  payload: { id: uuid(71), projectId: uuid(1), placeId: bay, files: [] },
  state,
});
const show = () => showPage('/projects/:projectId/health', <HealthView />);

test('each check says what it found, what may come of it, and what is new; the others are named as looked for', async () => {
  health = withChecks([
    found('only-copy', { findings: files(2), added: 1, gone: 3 }),
    found('not-accepted', { isAsked: false }),
  ]);
  show();
  const card = await screen.findByRole('button', { name: /2 files in use lie in one place alone/ });
  expect(card.textContent).toContain('When that drive fails, they are gone.');
  expect(card.textContent).toContain('1 new · 3 gone');
  expect(screen.getByRole('heading', { level: 2 }).textContent).toBe('1 check of 15 found something.');
  expect(screen.getByText(/^Nothing found of:/).textContent).toContain('drives nearly full');
  expect(screen.getByText(/^Nothing found of:/).textContent).not.toContain('not accepted');
  expect(screen.getByText(/^Not looked for/).textContent).toContain('not accepted');
});

test('one is accepted, or all that are open, with the note that was written', async () => {
  show();
  const list = within(await panel());
  list.getByLabelText('why it stays so').focus();
  await userEvent.keyboard('the vault has them');
  await userEvent.click(list.getAllByRole('button', { name: 'Accept' })[1]!);
  await waitFor(() =>
    expect(asked('/accept')).toEqual([{ check: 'only-copy', keys: ['f1'], note: 'the vault has them' }]),
  );
  await waitFor(() => expect(list.getByLabelText<HTMLInputElement>('why it stays so').value).toBe(''));
  await userEvent.click(list.getByRole('button', { name: 'Accept all 2' }));
  await waitFor(() => expect(asked('/accept')[1]).toEqual({ check: 'only-copy', keys: null, note: '' }));
});

test('what is accepted shows with its note, and is taken back', async () => {
  const [one] = files(1);
  const accepted = { note: 'on tape', at: '2026-11-20T10:00:00.000Z' };
  health = withChecks([found('only-copy', { open: 0, accepted: 1, findings: [{ ...one!, accepted }], clips: 0 })]);
  show();
  const list = within(await panel());
  expect(list.getByText(/Accepted .*: on tape/)).toBeTruthy();
  expect(list.queryByLabelText('why it stays so')).toBeNull();
  expect(screen.getByRole('heading', { level: 2 }).textContent).toBe('All is well, or accepted.');
  await userEvent.click(list.getByRole('button', { name: 'Take back' }));
  await waitFor(() => expect(asked('/accept')).toEqual([{ check: 'only-copy', keys: ['f0'], note: null }]));
});

test('a remedy takes all clips that are open: to the ledger, into a handoff, or to be read to the end', async () => {
  health = withChecks([found('never-tried', { findings: files(2) })]);
  const { store, router } = show();
  const list = within(await screen.findByRole('region', { name: 'Never read to the end' }));
  await userEvent.click(list.getByRole('button', { name: 'Read them to the end' }));
  await waitFor(() => expect(asked('/trials')).toEqual([{ scope: 'chosen', clipIds: [uuid(1), uuid(2)] }]));
  await userEvent.click(list.getByRole('button', { name: 'Show in the ledger' }));
  await waitFor(() => expect(router.state.location.pathname).toBe(`/projects/${uuid(1)}/ledger`));
  expect(store.getState().selection.ids).toEqual([uuid(1), uuid(2)]);
});

test('a home that suggests itself is made home, or another is said', async () => {
  health = withChecks([], { proposedHome: { placeId: bay, folder: 'film' } });
  show();
  const line = within(await screen.findByRole('region', { name: 'home folder' }));
  expect(await line.findByText('BAY/film')).toBeTruthy();
  await userEvent.click(line.getByRole('button', { name: 'Make it home' }));
  await waitFor(() => expect(asked('/home')).toEqual([{ home: { placeId: bay, folder: 'film' } }]));
  await userEvent.click(line.getByRole('button', { name: 'Another…' }));
  await userEvent.clear(line.getByLabelText('folder in it'));
  line.getByLabelText('folder in it').focus();
  await userEvent.keyboard('rushes');
  await userEvent.click(line.getAllByRole('button', { name: 'Make it home' })[1]!);
  await waitFor(() => expect(asked('/home')[1]).toEqual({ home: { placeId: bay, folder: 'rushes' } }));
});

test('bringing home shows each file and where it goes before anything is written, and what stays', async () => {
  health = withChecks([found('outside-home', { findings: files(1) })], { home: { placeId: bay, folder: 'film' } });
  show();
  const list = within(await screen.findByRole('region', { name: 'Outside home' }));
  await userEvent.click(list.getByRole('button', { name: 'Bring them home…' }));
  const plan = within(await list.findByRole('region', { name: 'bring home' }));
  expect(plan.getByTitle('BAY/film/picture/day1/take0.mov')).toBeTruthy();
  expect(plan.getByText(/stays: it is a sequence/)).toBeTruthy();
  expect(asked('/health/home')).toEqual([]);
  jobs = [bringHomeJob('done')];
  await userEvent.click(plan.getByRole('button', { name: 'Copy 1 file home' }));
  expect(await plan.findByText(/1 file brought home, proven, and linked there/)).toBeTruthy();
  expect(asked('/health/home')).toEqual([{ check: 'outside-home' }]);
});

test('a folder that nobody uses leads to its own part of the map of its place', async () => {
  const folder = { what: 'folder', path: 'BAY/old/day 1', files: 3 } as const;
  health = withChecks([found('unused', { findings: [{ ...files(1)[0]!, subject: folder }], clips: 0 })]);
  const { router } = show();
  const list = within(await screen.findByRole('region', { name: 'Used by nobody' }));
  expect(list.getByText('3 files')).toBeTruthy();
  await userEvent.click(list.getByRole('button', { name: 'Map' }));
  const { pathname, search } = router.state.location;
  expect([pathname, search]).toEqual([`/projects/${uuid(1)}/places/${bay}/room`, '?folder=old%2Fday+1']);
});

test('where room is wanting nothing can be copied, and it says so', async () => {
  preview = { ...bringing, usableInBytes: 10 };
  health = withChecks([found('outside-home', { findings: files(1) })], { home: { placeId: bay, folder: 'film' } });
  show();
  await userEvent.click(await screen.findByRole('button', { name: 'Bring them home…' }));
  expect(await screen.findByText(/not enough/)).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Copy 1 file home' }).disabled).toBe(true);
});

test('without a home nothing can be brought there', async () => {
  health = withChecks([found('on-card', { findings: files(1) })]);
  show();
  await screen.findByRole('region', { name: 'On a card or a removable drive' });
  expect(screen.queryByRole('button', { name: 'Bring them home…' })).toBeNull();
});

test('on paper every check stands, with what it found and what is accepted', async () => {
  const [one, two] = files(2);
  const accepted = { note: 'on tape', at: '2026-11-20T10:00:00.000Z' };
  health = withChecks([
    found('only-copy', { open: 1, accepted: 1, findings: [one!, { ...two!, accepted }] }),
    found('outside-home', { isAsked: false }),
  ]);
  server.giveBack();
  server = standInServer(({ url }) =>
    url.pathname.endsWith('/health')
      ? health
      : {
          id: uuid(1),
          name: 'Saltglass',
          createdAt: '2026-11-20T10:00:00.000Z',
          rules: defaultRules,
          ruleSet: null,
          clips: 30,
          toDo: 0,
          darkSeconds: 0,
          cutSeconds: 10,
          statuses: { linked: 30, missing: 0, changed: 0, unreadable: 0, short: 0, parked: 0, waived: 0, unshown: 0 },
          certain: 0,
          lastAct: null,
          redoable: null,
        },
  );
  showPage('/projects/:projectId/health-report', <HealthReport />);
  expect(await screen.findByRole('heading', { name: /Saltglass: health of its media/ })).toBeTruthy();
  expect(screen.getByText('KILN/day1/take0.mov')).toBeTruthy();
  expect(screen.getByText(/accepted .*: on tape/)).toBeTruthy();
  expect(screen.getByText(/not looked for, since nothing says/)).toBeTruthy();
});
