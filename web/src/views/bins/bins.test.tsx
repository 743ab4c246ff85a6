import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Bins, ClipRow, Layout } from '@legame/core/contract';
import { showPage, uuid } from '../../testing/page.tsx';
import { binClip, clipRow } from '../../testing/rows.ts';
import { standInServer } from '../../testing/server.ts';
import { BinsView } from './BinsView.tsx';

const file = {
  mediaFileId: uuid(70) as NonNullable<ClipRow['tied']>['mediaFileId'],
  version: '1',
  name: 'bowl.mov',
  placeName: 'KILN',
  folder: 'a',
  by: 'rule' as const,
};
const rows = [
  clipRow(1, 'bowl.mov', 'linked', { bin: ['Day 1'], tied: file, label: 'l1' }),
  clipRow(2, 'door.mov', 'missing', { bin: ['Day 1', 'Card A'] }),
  clipRow(3, 'ember.mov', 'missing', { bin: ['Day 2'], reel: '' }),
  // A row of the log that is the same recording as the first.
  clipRow(4, 'bowl.mov', 'linked', { bin: ['Day 1'], tied: file, uses: 0 }),
];
const said = [
  binClip(1),
  binClip(2, { scene: '12', take: '1' }, { written: ['take'] }),
  binClip(3, { scene: '14' }),
  binClip(4, { scene: '9', Lens: '35' }, { isLogged: true }),
];
let desk: Bins;
let layouts: Layout[];
let server: ReturnType<typeof standInServer>;
const asked = (path: string) =>
  server.asked
    .filter((one) => one.method !== 'GET' && one.url.pathname.endsWith(path))
    .map((one) => JSON.parse(one.body) as Record<string, unknown>);

beforeEach(() => {
  localStorage.clear();
  desk = {
    bins: [['Day 1'], ['Empty']],
    labels: [{ id: 'l1', name: 'look again', colour: 'ember', mark: 'star' }],
    columns: ['scene', 'take', 'circled', 'notes', 'Lens'],
  };
  layouts = [];
  server = standInServer(({ method, url }) => {
    const path = url.pathname;
    if (path.endsWith('/bins/clips')) return { epoch: 1, version: 1, turned: 0, clips: said };
    if (path.endsWith('/layouts')) return layouts;
    if (method === 'GET' && path.endsWith('/bins')) return desk;
    if (path.endsWith('/clips')) return rows;
    return { id: 1, verb: 'note', count: 1, madeAt: '2026-11-27T00:00:00.000Z', skipped: [] };
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

/** Types into a field as it is: without a layout, a pointer would hit the line that parts the panels instead. */
async function typeInto(field: HTMLElement, text: string): Promise<void> {
  act(() => field.focus());
  await userEvent.keyboard(text);
}
const show = (at = '') => showPage('/projects/:projectId/bins', <BinsView />, `/projects/${uuid(1)}/bins${at}`);
const shownNames = () => screen.queryAllByRole('row').flatMap((r) => r.dataset.clip ?? []);
const bin = (name: RegExp) => screen.findByRole('treeitem', { name });
const cell = (name: string, column: string) =>
  screen
    .getAllByRole('row')
    .find((r) => r.dataset.clip === name)!
    .querySelector<HTMLElement>(`[data-column="${column}"]`)!;

describe('the tree', () => {
  test('shows what lies in a bin and in those inside; one recording of two documents is one row with what both say', async () => {
    show();
    expect((await screen.findAllByRole('treeitem')).map((t) => t.textContent?.replace(/[▸▾]/, ''))).toEqual([
      'All of the project 3',
      'Day 1 2',
      'Card A 1',
      'Day 2 1',
      'Empty 0',
    ]);
    expect(shownNames()).toEqual(['bowl.mov', 'door.mov', 'ember.mov']);
    expect(cell('bowl.mov', 'noted scene').textContent).toBe('9');
    expect(within(cell('bowl.mov', 'label')).getByRole('img', { name: 'look again' })).toBeTruthy();
    await userEvent.click(await bin(/^Day 1/));
    expect(shownNames()).toEqual(['bowl.mov', 'door.mov']);
    await userEvent.click(screen.getByLabelText('by recording'));
    expect(shownNames()).toEqual(['bowl.mov', 'door.mov', 'bowl.mov']);
  });

  test('is walked by the keys, folded and unfolded', async () => {
    show('?bin=Day+1');
    (await bin(/^Day 1/)).focus();
    await userEvent.keyboard('{ArrowLeft}');
    expect(screen.queryByRole('treeitem', { name: /^Card A/ })).toBeNull();
    await userEvent.keyboard('{ArrowRight}{ArrowRight}');
    expect((await bin(/^Card A/)).getAttribute('aria-selected')).toBe('true');
    expect(shownNames()).toEqual(['door.mov']);
    await userEvent.keyboard('{ArrowLeft}{ArrowLeft}{Home}');
    expect((await bin(/^All/)).getAttribute('aria-selected')).toBe('true');
  });

  test('a bin is made where one stands, renamed in place, and taken away', async () => {
    show('?bin=Day+1');
    await bin(/^Day 1/);
    await userEvent.keyboard('{Shift>}b{/Shift}');
    await waitFor(() => expect(asked('/bins')).toEqual([{ bin: ['Day 1', 'New bin'] }]));
    await userEvent.dblClick(await bin(/^Day 2/));
    const field = screen.getByLabelText('new name of Day 2');
    await userEvent.clear(field);
    await typeInto(field, 'Night{Enter}');
    await waitFor(() => expect(asked('/bins/move')).toEqual([{ bin: ['Day 2'], to: ['Night'] }]));
    await userEvent.click(await bin(/^Empty/));
    const empty = await bin(/^Empty/);
    act(() => empty.focus());
    await userEvent.keyboard('{Delete}');
    await waitFor(() => expect(asked('/bins/remove')).toEqual([{ bin: ['Empty'] }]));
  });
});

describe('what is done to clips', () => {
  test('a selection is put into a bin by its name, or into a new one; all clips of a row go', async () => {
    show();
    await userEvent.click(await screen.findByText('bowl.mov'));
    await userEvent.keyboard('b');
    const field = screen.getByLabelText('name of the bin');
    await typeInto(field, 'card{Enter}');
    await waitFor(() =>
      expect(asked('/bins/file')).toEqual([{ clipIds: [uuid(1), uuid(4)], bin: ['Day 1', 'Card A'] }]),
    );
    await userEvent.keyboard('b');
    await typeInto(screen.getByLabelText('name of the bin'), 'Furnace');
    expect(within(screen.getByRole('dialog')).getByText('new')).toBeTruthy();
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(asked('/bins/file')[1]).toMatchObject({ bin: ['Furnace'] }));
  });

  test('a cell is written, escaped, filled down; what no one may write says so', async () => {
    show();
    await screen.findByText('door.mov');
    await userEvent.click(cell('door.mov', 'noted scene'));
    await userEvent.keyboard('{Enter}');
    await typeInto(screen.getByLabelText('Scene of door.mov'), '12B{Escape}');
    expect(asked('/notes')).toEqual([]);
    await userEvent.keyboard('{Enter}');
    await userEvent.clear(screen.getByLabelText('Scene of door.mov'));
    await typeInto(screen.getByLabelText('Scene of door.mov'), '12C{Enter}');
    await waitFor(() =>
      expect(asked('/notes')).toEqual([{ written: [{ clipIds: [uuid(2)], values: { scene: '12C' } }] }]),
    );
    await userEvent.keyboard('{Shift>}{ArrowDown}{/Shift}{Control>}d{/Control}');
    await waitFor(() =>
      expect(asked('/notes')[1]).toEqual({ written: [{ clipIds: [uuid(3)], values: { scene: '12' } }] }),
    );
    await userEvent.click(cell('door.mov', 'reel'));
    await userEvent.keyboard('{Enter}');
    expect(await screen.findByText(/Only what logs and people say is written/)).toBeTruthy();
    expect(asked('/notes')).toHaveLength(2);
  });

  test('cells come from a spreadsheet, from the cell in hand on; what reaches beyond is said', async () => {
    show();
    await screen.findByText('door.mov');
    await userEvent.click(cell('door.mov', 'noted scene'));
    fireEvent.paste(cell('door.mov', 'noted scene'), { clipboardData: { getData: () => '20\t3\n21\t4\n22\t5\n' } });
    await waitFor(() =>
      expect(asked('/notes')).toEqual([
        {
          written: [
            { clipIds: [uuid(2)], values: { scene: '20', take: '3' } },
            { clipIds: [uuid(3)], values: { scene: '21', take: '4' } },
          ],
        },
      ]),
    );
    expect(await screen.findByText(/2 cells left out/)).toBeTruthy();
  });

  test('labels are given, made and changed', async () => {
    show();
    await userEvent.click(await screen.findByText('door.mov'));
    await userEvent.selectOptions(screen.getByLabelText('label the selected clips'), 'look again');
    await waitFor(() => expect(asked('/label')).toEqual([{ clipIds: [uuid(2)], label: 'l1' }]));
    await userEvent.click(screen.getByTitle('Make and change labels'));
    await userEvent.click(screen.getByRole('button', { name: /New label/ }));
    expect((screen.getByRole('button', { name: 'Keep' }) as HTMLButtonElement).disabled).toBe(true);
    await typeInto(screen.getAllByLabelText('name of the label')[1]!, 'hero');
    await userEvent.click(screen.getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(asked('/labels')).toHaveLength(1));
    expect(asked('/labels')[0]!.labels).toMatchObject([{ name: 'look again' }, { name: 'hero' }]);
  });
});

describe('how it is shown', () => {
  test('sorted by several, filtered by value, grouped, and kept under a name', async () => {
    show();
    await screen.findByText('door.mov');
    const sortBy = (name: RegExp) => within(screen.getByRole('columnheader', { name })).getAllByRole('button')[0]!;
    await userEvent.click(sortBy(/^Scene/));
    expect(shownNames()).toEqual(['bowl.mov', 'door.mov', 'ember.mov']);
    await userEvent.click(sortBy(/^Scene/));
    expect(shownNames()).toEqual(['ember.mov', 'door.mov', 'bowl.mov']);
    await userEvent.click(screen.getByRole('button', { name: 'filter by Reel' }));
    await userEvent.click(within(screen.getByRole('dialog', { name: 'filter by Reel' })).getByLabelText(/\(empty\)/));
    expect(shownNames()).toEqual(['door.mov', 'bowl.mov']);
    await userEvent.keyboard('{Escape}');
    await userEvent.click(screen.getByRole('button', { name: 'columns' }));
    await userEvent.selectOptions(screen.getByLabelText('grouped by'), 'Bin');
    expect(screen.getByText('Day 1 › Card A', { selector: '[role=row] > [role=gridcell]' })).toBeTruthy();
    await typeInto(screen.getByLabelText('name of this layout'), 'mine{Enter}');
    await waitFor(() => expect(asked('/layouts')).toHaveLength(1));
    expect(asked('/layouts')[0]).toMatchObject({
      table: 'bins',
      name: 'mine',
      forAll: false,
      arrangement: { group: 'bin', sorts: [{ column: 'noted scene', descending: true }] },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Camera check' }));
    expect(screen.getByRole('columnheader', { name: /^Codec/ })).toBeTruthy();
    expect(screen.queryByRole('columnheader', { name: /^Scene/ })).toBeNull();
  });

  test('what is odd is said, and selected from there; the search finds what is noted', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: /things? (is|are) odd here/ }));
    expect(screen.getByText(/1 clip without a reel/)).toBeTruthy();
    await userEvent.click(
      within(screen.getByText(/1 clip without a reel/).closest('li')!).getByRole('button', { name: 'Select' }),
    );
    expect(
      screen
        .getAllByRole('row')
        .filter((r) => r.getAttribute('aria-selected') === 'true')
        .map((r) => r.dataset.clip),
    ).toEqual(['ember.mov']);
    await typeInto(screen.getByLabelText('find in this bin'), '35');
    expect(shownNames()).toEqual(['bowl.mov']);
  });
});
