import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import type { ClipRow } from '@legame/core/contract';
import { makeStore } from '../../app/store.ts';
import { takeOver } from '../../session/preferences.ts';
import { clipRow as row, memberOf } from '../../testing/rows.ts';
import { OnStorage } from './cells.tsx';
import { LedgerView } from './LedgerView.tsx';
import { asText, nextNeedingHand, shownRows, statusRank } from './rows.ts';

const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const found = (n: number) => ({
  mediaFileId: uuid(n) as NonNullable<ClipRow['candidate']>['mediaFileId'],
  version: '1',
  name: 'x.mov',
  placeName: 'KILN_B',
  folder: 'rushes',
});
const rows = [
  row(1, 'bowl.mov', 'missing', {
    decision: 'certain',
    certainNow: true,
    candidate: found(51),
    candidates: 1,
    verdicts: ['agrees', 'differs', 'agrees', 'agrees', 'agrees', 'agrees', 'unknown'],
  }),
  row(2, 'door.mov', 'linked', { tied: { ...found(52), by: 'rule' }, decision: 'certain', candidate: found(52) }),
  row(3, 'pair.mov', 'missing', { decision: 'ask', candidate: found(53), why: { code: 'several', count: 2 } }),
  row(4, 'slate.mov', 'waived'),
  row(5, 'gone.mov', 'missing', { why: { code: 'gone' }, reel: 'Z9' }),
];
const view = { status: 'all', text: '' } as const;

describe('rows', () => {
  test('filters by what is to do, by status and by text; what there is to do comes first', () => {
    expect(shownRows(rows, { ...view, status: 'to-do' }).map((r) => r.fileName)).toEqual([
      'bowl.mov',
      'pair.mov',
      'gone.mov',
    ]);
    expect(shownRows(rows, { ...view, status: 'waived' }).map((r) => r.fileName)).toEqual(['slate.mov']);
    expect(shownRows(rows, { ...view, text: 'z9' }).map((r) => r.fileName)).toEqual(['gone.mov']);
    expect(rows.toSorted((a, b) => statusRank(a) - statusRank(b)).at(-1)!.fileName).toBe('slate.mov');
    expect(rows[0]!.fileName).toBe('bowl.mov');
  });

  test('are copied as a spreadsheet takes them; tabs in names do not move cells', () => {
    const [first] = asText([row(1, 'bo\twl.mov', 'missing', { candidate: found(51) }), rows[1]!]).split('\n');
    expect(first!.split('\t')).toEqual([
      'bo wl.mov',
      'A001',
      '/Volumes/KILN_A/day1/bo wl.mov',
      'missing',
      'KILN_B/rushes',
    ]);
  });

  test('the next that needs a hand comes round', () => {
    expect(nextNeedingHand(rows, null)?.fileName).toBe('pair.mov');
    expect(nextNeedingHand(rows, uuid(3))?.fileName).toBe('gone.mov');
    expect(nextNeedingHand(rows, uuid(5))?.fileName).toBe('pair.mov');
    expect(nextNeedingHand(rows.slice(0, 2), null)).toBeNull();
  });
});

test('a row that becomes another clip’s never shows the picture that it had', () => {
  const store = makeStore();
  store.dispatch(
    takeOver({
      of: store.getState().preferences.person,
      mine: { ...store.getState().preferences.mine, arePicturesShown: true },
    }),
  );
  const cell = (of: ClipRow) => (
    <Provider store={store}>
      <OnStorage row={of} />
    </Provider>
  );
  const { container, rerender } = render(cell(rows[1]!));
  const before = container.querySelector('img')!;
  rerender(cell(rows[1]!));
  expect(container.querySelector('img')).toBe(before);
  rerender(cell(row(6, 'flue.mov', 'linked', { tied: { ...found(56), by: 'rule' } })));
  expect(container.querySelector('img')).not.toBe(before);
  cleanup();
});

describe('the ledger', () => {
  const asked: { url: string; body: unknown }[] = [];
  let failing = false;
  const realFetch = globalThis.fetch;
  beforeEach(() => {
    asked.length = 0;
    failing = false;
    globalThis.fetch = jest.fn(async (input: Parameters<typeof fetch>[0]) => {
      const request = input as Request;
      const url = new URL(request.url, 'http://localhost').pathname;
      asked.push({ url, body: request.method === 'POST' ? await request.json() : null });
      const json = (body: unknown, status = 200) =>
        new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
      if (url.endsWith('/clips/block'))
        return failing
          ? json(
              {
                type: 'x',
                title: 'x',
                status: 500,
                code: 'internal',
                detail: 'The clips could not be read. Try again.',
              },
              500,
            )
          : json({ epoch: 1, version: 1, turned: 0, total: rows.length, rows });
      if (url.endsWith('/links/preview'))
        return json({
          backSeconds: 3,
          members: [memberOf(1, 'bowl.mov', { screenSeconds: 3, file: found(51) })],
        });
      if (url.endsWith('/links'))
        return json({ id: 1, verb: 'link-by-rule', count: 1, madeAt: new Date(0).toISOString(), skipped: [] });
      return json({ type: 'x', title: 'x', status: 404, code: 'not-found', detail: 'not in this test' }, 404);
    }) as typeof fetch;
    const RealRequest = globalThis.Request;
    // Relative addresses mean this page, as in a browser.
    globalThis.Request = class extends RealRequest {
      constructor(input: ConstructorParameters<typeof Request>[0], init?: RequestInit) {
        super(typeof input === 'string' ? new URL(input, 'http://localhost') : input, init);
      }
    } as typeof Request;
  });
  afterEach(() => {
    cleanup();
    globalThis.fetch = realFetch;
  });
  const open = () => {
    const router = createMemoryRouter([{ path: '/projects/:projectId/ledger', element: <LedgerView /> }], {
      initialEntries: [`/projects/${uuid(7)}/ledger`],
    });
    render(
      <Provider store={makeStore()}>
        <RouterProvider router={router} />
      </Provider>,
    );
  };

  test('shows what is to do with status, word and reason; all of it on demand', async () => {
    open();
    expect(await screen.findByText('bowl.mov')).toBeTruthy();
    expect(screen.queryByText('door.mov')).toBeNull();
    expect(screen.getByText('2 candidates are equally good: choose one')).toBeTruthy();
    expect(screen.getAllByText('Missing').length).toBeGreaterThan(2);
    await userEvent.click(screen.getByRole('button', { name: 'All 5' }));
    expect(screen.getByText('door.mov')).toBeTruthy();
  });

  test('the rules are previewed before anything is sent, and then only what is certain is', async () => {
    open();
    await userEvent.click(await screen.findByRole('button', { name: 'Link 1 certain…' }));
    expect(asked.some((a) => a.url.endsWith('/links'))).toBe(false);
    await userEvent.click(await screen.findByRole('button', { name: 'Link 1' }));
    await waitFor(() =>
      expect(asked.find((a) => a.url.endsWith('/links'))?.body).toEqual({
        by: 'rule',
        links: [{ clipId: uuid(1), mediaFileId: uuid(51) }],
      }),
    );
  });

  test('is sorted by a head, through a column’s filter, and grouped; what is not shown is not selected with the rest', async () => {
    open();
    const user = userEvent.setup();
    await user.click(await screen.findByRole('button', { name: 'All 5' }));
    const names = () =>
      screen
        .getAllByRole('row')
        .map((r) => r.dataset.clip)
        .filter(Boolean);
    await user.click(screen.getByRole('button', { name: /^The edit remembers/ }));
    expect(names()).toEqual(['bowl.mov', 'door.mov', 'gone.mov', 'pair.mov', 'slate.mov']);
    // By what is to do, not by the alphabet of the words.
    await user.click(screen.getByRole('button', { name: /^Status/ }));
    expect(names().at(-1)).toBe('slate.mov');
    await user.click(screen.getByRole('button', { name: 'filter by Status' }));
    const sheet = within(screen.getByRole('dialog', { name: 'filter by Status' }));
    await user.click(sheet.getByRole('checkbox', { name: /Missing 3/ }));
    expect(names()).toEqual(['door.mov', 'slate.mov']);
    await user.click(screen.getByLabelText('select all shown'));
    expect(screen.getAllByRole('row', { selected: true }).map((r) => r.dataset.clip)).toEqual([
      'door.mov',
      'slate.mov',
    ]);

    await user.click(screen.getByRole('button', { name: 'columns' }));
    await user.selectOptions(screen.getByLabelText('grouped by'), 'Status');
    // A heading over each, beside what the rows and the chips say.
    expect(screen.getAllByText('Waived').length).toBeGreaterThan(2);
    localStorage.clear();
  });

  test('Shift extends the selection by the order shown', async () => {
    open();
    const user = userEvent.setup();
    await user.click(await screen.findByText('bowl.mov'));
    await user.keyboard('{Shift>}');
    await user.click(screen.getByText('gone.mov'));
    await user.keyboard('{/Shift}');
    expect(screen.getAllByRole('row', { selected: true }).map((r) => r.dataset.clip)).toEqual([
      'bowl.mov',
      'pair.mov',
      'gone.mov',
    ]);
  });

  test('a failure is told in the server’s words', async () => {
    failing = true;
    open();
    expect((await screen.findByRole('alert')).textContent).toContain('The clips could not be read. Try again.');
  });
});
