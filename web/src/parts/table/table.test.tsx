import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Provider } from 'react-redux';
import { makeStore } from '../../app/store.ts';
import { ClipTable } from './ClipTable.tsx';
import { useArranged } from './useArranged.ts';
import type { ClipColumn } from './columns.ts';

type Thing = { readonly id: string; readonly name: string; readonly uses: number };
const things: readonly Thing[] = ['anvil', 'blower', 'cooler', 'door', 'ember'].map((name, i) => ({
  id: name,
  name,
  uses: i,
}));
const shownColumns: readonly ClipColumn<Thing>[] = [
  {
    id: 'name',
    meta: { title: 'Name', width: '1fr' },
    enableHiding: false,
    text: (thing) => thing.name,
    cell: ({ row }) => row.original.name,
  },
  { id: 'uses', meta: { title: 'Uses', width: '40px' }, cell: ({ row }) => `${row.original.uses} uses` },
  {
    id: 'double',
    meta: { title: 'Double', width: '40px', hidden: true },
    cell: ({ row }) => `${row.original.uses * 2} twice`,
  },
];
const opened: string[] = [];

type Shown = {
  readonly rows?: readonly Thing[];
  readonly of?: readonly ClipColumn<Thing>[];
  readonly onWritten?: (id: string, column: string, text: string) => void;
};

function Table({ rows: among = things, of: columns = shownColumns, onWritten }: Shown) {
  const arranged = useArranged('test', columns, among);
  const { rows } = arranged;
  const [ids, setIds] = useState<readonly string[]>([]);
  const [focus, setFocus] = useState<string | null>(null);
  const [isWriting, setWriting] = useState(false);
  const order = rows.map((r) => r.id);
  return (
    <ClipTable
      label="things"
      arranged={arranged}
      idOf={(r) => r.id}
      nameOf={(r) => r.name}
      columns={columns}
      selection={{
        ids,
        focus,
        onPick: (id) => (setIds([id]), setFocus(id)),
        onToggle: (id) => setIds(ids.includes(id) ? ids.filter((i) => i !== id) : [...ids, id]),
        onExtend: (id) => {
          const [from, to] = [order.indexOf(focus ?? id), order.indexOf(id)].sort((a, b) => a - b) as [number, number];
          setIds(order.slice(from, to + 1));
        },
        onMany: setIds,
      }}
      empty="Nothing here."
      cell={
        onWritten && {
          column: 'name',
          isWriting,
          onColumn: () => undefined,
          onWrite: setWriting,
          onWritten,
        }
      }
      onOpen={(r) => (onWritten ? setWriting(true) : opened.push(r.name))}
      menu={['pin', 'park']}
    />
  );
}
const chosen = () =>
  screen
    .getAllByRole('row')
    .filter((r) => r.getAttribute('aria-selected') === 'true')
    .map((r) => r.dataset.clip);
const rowOf = (name: string) => screen.getByText(name).closest('[role=row]')!;

beforeEach(() => {
  localStorage.clear();
  opened.length = 0;
});
afterEach(cleanup);

function show(of: Shown = {}) {
  const store = makeStore();
  const shown = (now: Shown) => (
    <Provider store={store}>
      <Table {...now} />
    </Provider>
  );
  const { rerender } = render(shown(of));
  return { then: (now: Shown) => rerender(shown(now)) };
}

describe('what is selected', () => {
  test('a click picks one, Ctrl adds, Shift extends, the box over the rows takes all and none', async () => {
    const user = userEvent.setup();
    show();
    await user.click(rowOf('blower'));
    expect(chosen()).toEqual(['blower']);
    await user.keyboard('{Control>}');
    await user.click(rowOf('ember'));
    await user.keyboard('{/Control}');
    expect(chosen()).toEqual(['blower', 'ember']);
    await user.keyboard('{Shift>}');
    await user.click(rowOf('door'));
    await user.keyboard('{/Shift}');
    expect(chosen()).toEqual(['blower', 'cooler', 'door']);
    await user.click(screen.getByLabelText('select all shown'));
    expect(chosen()).toHaveLength(5);
    await user.click(screen.getByLabelText('select all shown'));
    expect(chosen()).toEqual([]);
  });

  test('arrows, Home and End move, and stay inside', async () => {
    show();
    await userEvent.keyboard('{ArrowDown}');
    expect(chosen()).toEqual(['anvil']);
    await userEvent.keyboard('{ArrowUp}');
    expect(chosen()).toEqual(['anvil']);
    await userEvent.keyboard('{End}');
    expect(chosen()).toEqual(['ember']);
    await userEvent.keyboard('{ArrowDown}{ArrowUp}');
    expect(chosen()).toEqual(['door']);
    await userEvent.keyboard('{Shift>}{Home}{/Shift}');
    expect(chosen()).toEqual(['anvil', 'blower', 'cooler', 'door']);
  });

  test('a double-click opens; a right-click picks what is under it, unless that is one of many, and offers commands', async () => {
    const user = userEvent.setup();
    show();
    await user.dblClick(rowOf('cooler'));
    expect(opened).toEqual(['cooler']);
    fireEvent.contextMenu(rowOf('door'));
    expect(chosen()).toEqual(['door']);
    expect(within(screen.getByRole('menu')).getAllByRole('menuitem')).toHaveLength(2);
    await user.keyboard('{Escape}');
    expect(screen.queryByRole('menu')).toBeNull();
    await user.click(screen.getByLabelText('select all shown'));
    fireEvent.contextMenu(rowOf('anvil'));
    expect(chosen()).toHaveLength(5);
  });
});

describe('rows that are others than before', () => {
  test('stand where those stood, each with its own name, and what was selected stays selected', async () => {
    const { then } = show();
    await userEvent.click(rowOf('door'));
    then({ rows: things.slice(2) });
    expect(screen.getAllByRole('row').flatMap((r) => r.dataset.clip ?? [])).toEqual(['cooler', 'door', 'ember']);
    expect(chosen()).toEqual(['door']);
    await userEvent.dblClick(rowOf('cooler'));
    expect(opened).toEqual(['cooler']);
  });

  test('leave what is being written with its row, and keep it there', async () => {
    const written: string[][] = [];
    const onWritten = (...what: string[]) => void written.push(what);
    const of = [{ ...shownColumns[0]!, canWrite: true }, ...shownColumns.slice(1)];
    const { then } = show({ of, onWritten });
    await userEvent.dblClick(rowOf('door'));
    await userEvent.clear(screen.getByLabelText('Name of door'));
    await userEvent.type(screen.getByLabelText('Name of door'), 'gate');
    // Others went meanwhile, and one came before them.
    then({ of, onWritten, rows: [{ id: 'kiln', name: 'kiln', uses: 9 }, ...things.slice(3)] });
    const field = screen.getByLabelText('Name of door') as HTMLInputElement;
    expect([field.value, document.activeElement]).toEqual(['gate', field]);
    await userEvent.keyboard('{Enter}');
    expect(written).toEqual([['door', 'name', 'gate']]);
  });
});

describe('columns', () => {
  test('are chosen, and stay so; the one that names the row cannot go', async () => {
    show();
    expect(screen.queryByText('4 twice')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'columns' }));
    expect(((await screen.findByLabelText('Name')) as HTMLInputElement).disabled).toBe(true);
    await userEvent.click(screen.getByLabelText('Double'));
    await userEvent.click(screen.getByLabelText('Uses'));
    expect([screen.queryByText('2 uses'), screen.getByText('4 twice').textContent]).toEqual([null, '4 twice']);
    cleanup();
    show();
    expect(screen.getByText('4 twice')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'columns' }));
    await userEvent.click(await screen.findByRole('button', { name: 'As usual' }));
    expect(screen.getByText('2 uses')).toBeTruthy();
    expect(screen.queryByText('4 twice')).toBeNull();
  });

  test('a head sorts by a click, then the other way round, then not at all; it is kept, and says how it is sorted', async () => {
    show();
    const head = () => screen.getByRole('columnheader', { name: /Name/ });
    const sort = () => userEvent.click(within(head()).getByRole('button', { name: /^Name/ }));
    const names = () =>
      screen
        .getAllByRole('row')
        .map((r) => r.dataset.clip)
        .filter(Boolean);
    const asGiven = names();
    await sort();
    expect(head().getAttribute('aria-sort')).toBe('ascending');
    const ascending = names();
    await sort();
    expect(head().getAttribute('aria-sort')).toBe('descending');
    expect(names()).toEqual(ascending.toReversed());
    cleanup();
    show();
    expect(names()).toEqual(ascending.toReversed());
    await sort();
    expect([head().getAttribute('aria-sort'), names()]).toEqual(['none', asGiven]);
    // A column without text sorts nothing.
    expect(within(screen.getByRole('columnheader', { name: 'Uses' })).queryByRole('button')).toBeNull();
  });

  test('a column lets through what is ticked, with how many rows there are of each', async () => {
    show();
    await userEvent.click(screen.getByRole('button', { name: 'filter by Name' }));
    const sheet = within(screen.getByRole('dialog', { name: 'filter by Name' }));
    const [first] = sheet.getAllByRole('checkbox');
    const before = screen.getAllByRole('row').length;
    await userEvent.click(first!);
    expect(screen.getAllByRole('row')).toHaveLength(before - 1);
    await userEvent.click(sheet.getByRole('button', { name: 'All' }));
    expect(screen.getAllByRole('row')).toHaveLength(before);
  });

  test('what was kept of columns that are gone, or is damaged, does no harm', () => {
    localStorage.setItem(
      'legame.columns.test',
      JSON.stringify({ order: ['gone', 'uses'], hidden: ['gone'], widths: {} }),
    );
    show();
    expect(screen.getAllByRole('columnheader').map((h) => h.textContent)).toEqual(['', 'Uses', 'Name']);
    cleanup();
    localStorage.setItem('legame.columns.test', '{"order": 3');
    show({ rows: [] });
    expect(screen.getByText('Nothing here.')).toBeTruthy();
  });
});
