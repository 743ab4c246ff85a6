import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { act, cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { DeskRowView, PullDesk } from '@legame/core/contract';
import type { ClipId, MediaFileId } from '@legame/core/model';
import type { PullRequest } from '@legame/core/report';
import { rate } from '@legame/core/time';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer } from '../../testing/server.ts';
import { PullsView } from './PullsView.tsx';
import { stretchInAddress } from './useStretch.ts';

const source = (n: number, given: Partial<DeskRowView> = {}): DeskRowView => ({
  key: `k${n}`,
  state: 'wanted',
  reel: 'A002',
  folder: '',
  file: `take${n}.mov`,
  names: [`take${n}.mov`],
  rate: rate(25),
  counting: 'non-drop',
  ranges: [{ start: 90_000, end: 90_250 }],
  beyond: [],
  request: null,
  clipIds: [uuid(n) as ClipId],
  here: [],
  ...given,
});
const request = (given: Partial<PullRequest> = {}): PullRequest => ({
  ...{ reel: 'A002', folder: '', file: 'x.mov', names: [], rate: rate(25), counting: 'non-drop', ranges: [] },
  ...{ mark: 'asked', holder: 'The archive', note: 'order 12', isUnknownToVault: false },
  at: '2026-11-20T10:00:00.000Z',
  ...given,
});
const file = {
  mediaFileId: uuid(50) as MediaFileId,
  version: '1',
  name: 'take2.mov',
  placeName: 'KILN',
  folder: 'day1',
};

const timeline = {
  ...{ key: 'timeline-1', documentId: uuid(70), name: 'Saltglass', rate: rate(25), counting: 'non-drop' },
  ...{ start: 90_000, length: 250, top: true, events: [], trackNames: {}, markers: [] },
};
let desk: PullDesk;
let server: ReturnType<typeof standInServer>;
const marked = () => server.asked.filter((one) => one.method === 'POST').map((one) => JSON.parse(one.body) as object);
const open = async () => {
  showPage('/projects/:projectId/pulls', <PullsView />);
  return screen.findByRole('table', { name: 'pull list' });
};
const chip = (name: RegExp) => screen.getByRole('button', { name });
const type = async (label: string, text: string) => {
  act(() => screen.getByLabelText(label).focus());
  await userEvent.keyboard(text);
};

beforeEach(() => {
  localStorage.clear();
  desk = {
    rows: [
      source(1),
      source(2, { here: [{ ...file, isTied: false }] }),
      source(3, { reel: 'B001', state: 'asked', request: request(), beyond: [{ start: 1, end: 2 }] }),
      source(4, { reel: 'B001', state: 'arrived', request: request(), here: [{ ...file, isTied: true }] }),
      source(5, {
        reel: null,
        folder: 'CARD1',
        state: 'not-to-be-had',
        request: request({ mark: 'not-to-be-had', holder: 'Tape vault', isUnknownToVault: true }),
      }),
    ],
    holders: ['Tape vault', 'The archive'],
  };
  server = standInServer(({ url }) => {
    if (url.pathname.endsWith('/cut')) return [timeline];
    return url.pathname.endsWith('/pulls')
      ? desk
      : { id: 1, verb: 'mark-pulls', count: 0, madeAt: '2026-11-27T00:00:00.000Z', skipped: [] };
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

test('tells in a sentence what is to ask for, and that what may be here wants a decision first', async () => {
  const table = await open();
  expect(screen.getByRole('heading', { level: 2 }).textContent).toBe(
    '1 source to ask for, 1 asked for, 1 arrived, 1 not to be had. 1 source may be here: decide first, at Causes.',
  );
  const reels = within(table)
    .getAllByRole('rowheader')
    .map((cell) => cell.textContent);
  expect(reels).toEqual(['A002 0:20', 'B001 0:20', 'no reel 0:10']);
  // What has no reel is told from its namesakes on other cards.
  expect(within(table).getByRole('row', { name: /take5/ }).textContent).toMatch(/take5\.mov in CARD1/);
  expect(within(table).getByRole('row', { name: /take3/ }).textContent).toMatch(/asked of The archive, more is wanted/);
});

test('a whole reel is asked of somebody in one act; what is filtered away is left alone', async () => {
  const table = await open();
  await userEvent.click(within(table).getByLabelText('select all'));
  await userEvent.click(chip(/^nothing here 1/));
  await type('of whom', 'The co-op');
  await type('note', 'by Friday');
  await userEvent.click(screen.getByRole('button', { name: 'Asked for' }));
  await waitFor(() =>
    expect(marked()).toEqual([{ keys: ['k1'], mark: 'asked', holder: 'The co-op', note: 'by Friday', handles: 24 }]),
  );
  await userEvent.click(chip(/^all 5/));
  await userEvent.click(screen.getByLabelText('select reel B001'));
  await userEvent.click(screen.getByRole('button', { name: 'Take back' }));
  await waitFor(() => expect(marked()[1]).toMatchObject({ keys: ['k3', 'k4'], mark: null }));
});

test('of one source all is told: what was said, what is wanted beyond it, and what is here', async () => {
  const table = await open();
  await userEvent.click(within(table).getByRole('button', { name: 'take3.mov' }));
  const panel = screen.getByRole('region', { name: 'say what came of it' });
  expect(panel.textContent).toMatch(/Asked of The archive: order 12/);
  expect(within(panel).getByText('Wanted since, and not asked for')).toBeTruthy();
  expect(within(panel).getByText('01:00:00:00 – 01:00:10:00')).toBeTruthy();
  await userEvent.click(within(table).getByRole('button', { name: 'take5.mov in CARD1' }));
  expect(panel.textContent).toMatch(/Not to be had from Tape vault: it holds no file of that name/);
  await userEvent.click(within(table).getByRole('button', { name: 'take2.mov' }));
  expect(within(panel).getByText('KILN/day1/take2.mov')).toBeTruthy();
  expect(panel.textContent).toMatch(/nobody has decided/);
  // Nothing was said of it, so nothing can be taken back.
  expect(within(panel).getByRole<HTMLButtonElement>('button', { name: 'Take back' }).disabled).toBe(true);
  await userEvent.click(within(panel).getByRole('button', { name: 'Show 1 clip in the ledger' }));
  expect(await screen.findByText('somewhere else')).toBeTruthy();
});

test('of a stretch of the cut it tells which, asks and marks for that alone, and goes back to the whole project', async () => {
  const stretch = { timeline: `${uuid(70)}/timeline-1`, start: 90_000, end: 90_050 };
  showPage(
    '/projects/:projectId/pulls',
    <PullsView />,
    `/projects/${uuid(1)}/pulls?${stretchInAddress(stretch.timeline, stretch)}`,
  );
  const told = await screen.findByRole('status');
  await waitFor(() => expect(told.textContent).toContain('Of a stretch alone: Saltglass, 01:00:00:00 to 01:00:02:00.'));
  const desks = () => server.asked.filter((one) => one.url.pathname.endsWith('/pulls')).map((one) => one.url.search);
  expect(desks().at(-1)).toBe(`?handles=24&${stretchInAddress(stretch.timeline, stretch)}`);
  expect(screen.getAllByRole('link', { name: 'CSV' })[0]!.getAttribute('href')).toContain('start=90000&end=90050');
  await userEvent.click(screen.getByLabelText('select take1.mov'));
  await userEvent.click(screen.getByRole('button', { name: 'Arrived' }));
  await waitFor(() => expect(marked()).toMatchObject([{ keys: ['k1'], mark: 'arrived', ...stretch }]));
  await userEvent.click(screen.getByRole('button', { name: 'The whole project' }));
  await waitFor(() => expect(desks().at(-1)).toBe('?handles=24'));
  expect(screen.queryByRole('status')).toBeNull();
});

test('there is a list for everybody who was asked and still owes something, with the same handles', async () => {
  await open();
  const lists = screen.getByRole('list', { name: 'lists' });
  const addresses = () =>
    within(lists)
      .getAllByRole('link')
      .map((link) => link.getAttribute('href'));
  expect(
    within(lists)
      .getAllByRole('listitem')
      .map((item) => item.firstChild?.textContent),
  ).toEqual(['All that is dark:', 'Asked of The archive:']);
  expect(addresses()[3]).toContain('pull-list.csv?handles=24&holder=The+archive');
  await userEvent.clear(screen.getByLabelText('handles in frames'));
  await type('handles in frames', '36');
  await waitFor(() => expect(addresses().every((address) => address?.includes('handles=36'))).toBe(true));
  expect(server.asked.at(-1)!.url.searchParams.get('handles')).toBe('36');
});
