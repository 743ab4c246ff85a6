import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Act, History, HistoryChange } from '@legame/core/contract';
import { showPage } from '../../testing/page.tsx';
import { standInServer, type Asked } from '../../testing/server.ts';
import { HistoryView } from './HistoryView.tsx';

const at = '2026-11-20T10:00:00.000Z';
const history: History = {
  entries: [
    { id: 4, verb: 'park', about: null, count: 2, madeAt: at, state: 'undone' },
    {
      id: 3,
      verb: 'mend',
      about: { code: 'folder', from: 'KILN_A/day2', to: 'KILN_B/day2' },
      count: 3,
      madeAt: at,
      state: 'done',
    },
    { id: 2, verb: 'unlink', about: null, count: 1, madeAt: at, state: 'overtaken' },
  ],
  checkpoints: [
    { id: 8, name: '', madeAt: at, before: { verb: 'mend', count: 60 } },
    { id: 7, name: 'before colour', madeAt: at, before: null },
    { id: 5, name: 'as it came', madeAt: at, before: null },
  ],
};
const changes: readonly HistoryChange[] = [
  { what: 'link', clipName: 'bowl', before: null, after: { path: 'KILN_B/day2/bowl.mov' } },
  { what: 'offline', clipName: 'bowl', before: true, after: false },
  { what: 'learn', placeName: 'KILN_B', name: 'E:' },
  { what: 'follows', clipName: 'twin', before: null, after: { path: 'KILN_B/day2/twin.mov' } },
];
const act: Act = { id: 9, verb: 'return', count: 0, madeAt: at, skipped: [] };

let server: ReturnType<typeof standInServer>;
let shown: History;
beforeEach(() => {
  shown = history;
  server = standInServer(({ method, url }: Asked) => {
    if (url.pathname.endsWith('/checkpoints') && method === 'POST') return shown;
    if (method === 'POST') return act;
    if (url.pathname.endsWith('/history')) return shown;
    if (/history\/\d+$/.test(url.pathname)) return changes;
    if (url.pathname.endsWith('/compare'))
      return url.searchParams.get('with') === '5'
        ? { count: 0, changes: [] }
        : { count: 3, changes: changes.slice(0, 1) };
    return [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = () => showPage('/projects/:projectId/history', <HistoryView />);
const posts = () =>
  server.asked.filter((a) => a.method === 'POST').map((a) => [a.url.pathname.split('/').slice(4).join('/'), a.body]);

describe('History', () => {
  test('tells acts newest first, what they followed from, and which no longer hold', async () => {
    show();
    const list = await screen.findByRole('list', { name: 'acts' });
    const acts = within(list)
      .getAllByRole('listitem')
      .map((i) => i.textContent);
    expect(acts).toHaveLength(3);
    expect(acts[0]).toMatch(/2 clips.*undone/);
    expect(acts[1]).toMatch(/KILN_A\/day2.*KILN_B\/day2/);
    expect(acts[2]).toMatch(/undone, then overtaken/);
  });

  test('shows of one act each clip before and after, and what follows from it', async () => {
    show();
    const list = await screen.findByRole('list', { name: 'acts' });
    await userEvent.click(within(list).getAllByRole('button')[1]!);
    const region = await screen.findByRole('region', { name: 'changes' });
    await waitFor(() => expect(region.textContent).toContain('4 changes'));
    const told = within(region)
      .getAllByRole('listitem')
      .map((i) => i.textContent);
    expect(told).toEqual([
      'bowlfileno link → KILN_B/day2/bowl.mov',
      'bowlofflineoffline on purpose → where the edit says',
      'KILN_Bknown asnot known by a name → E:',
      'twinfollowsdark → KILN_B/day2/twin.mov',
    ]);
  });

  test('undoes, does again, and returns to a checkpoint; each is asked of the server once', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: 'Undo the last' }));
    await userEvent.click(screen.getByRole('button', { name: 'Do again' }));
    await userEvent.click(
      within(screen.getByRole('list', { name: 'checkpoints' })).getAllByRole('button', { name: 'Return to it' })[0]!,
    );
    await waitFor(() => expect(posts()).toHaveLength(3));
    expect(posts().map(([path]) => path)).toEqual(['undo', 'redo', 'checkpoints/7/return']);
    expect((await screen.findByText(/Everything is as it was then already/)).getAttribute('role')).toBe('status');
  });

  test('names a checkpoint; an empty name is no name, one too long says so', async () => {
    show();
    const field = await screen.findByLabelText('name of the checkpoint');
    const button = screen.getByRole('button', { name: 'Set a checkpoint' }) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    // A click would be taken for one on the line between list and panel: nothing has a size here.
    field.focus();
    await userEvent.keyboard('  before sound  {Enter}');
    await waitFor(() => expect(posts()).toEqual([['checkpoints', JSON.stringify({ name: 'before sound' })]]));
    await waitFor(() => expect((field as HTMLInputElement).value).toBe(''));
    field.focus();
    await userEvent.paste('x'.repeat(121));
    await userEvent.keyboard('{Enter}');
    expect(await screen.findByRole('alert')).toBeTruthy();
    expect(posts()).toHaveLength(1);
  });

  test('checkpoints that were named stand there; those kept by themselves on demand', async () => {
    show();
    const list = within(await screen.findByRole('list', { name: 'checkpoints' }));
    const names = () => list.getAllByRole('listitem').map((li) => li.querySelector('span')!.textContent);
    expect(names()).toEqual(['before colour', 'as it came']);
    await userEvent.click(screen.getByRole('button', { name: '1 state kept before large acts' }));
    expect(names()).toEqual(['before “Mended a cause: linked 60 clips”', 'before colour', 'as it came']);
    await userEvent.click(screen.getByRole('button', { name: 'Only those that were named' }));
    expect(names()).toHaveLength(2);
  });

  test('a checkpoint is held against now, or against another; an act that is looked at takes its place', async () => {
    show();
    const list = within(await screen.findByRole('list', { name: 'checkpoints' }));
    await userEvent.click(list.getAllByRole('button', { name: 'Compare' })[0]!);
    const panel = within(await screen.findByRole('region', { name: 'compared states' }));
    expect((await panel.findByRole('status')).textContent).toBe(
      '3 changes from the one to the other; shown: the first 1.',
    );
    expect(panel.getByRole('heading').textContent).toBe('before colour');
    await userEvent.selectOptions(panel.getByLabelText('state to compare with'), '5');
    expect(await panel.findByText('Nothing is decided otherwise.')).toBeTruthy();
    expect(posts()).toEqual([]);
    await userEvent.click(within(screen.getByRole('list', { name: 'acts' })).getAllByRole('button')[1]!);
    expect(await screen.findByRole('region', { name: 'changes' })).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'compared states' })).toBeNull();
  });

  test('with nothing done there is nothing to undo, and it says what will come', async () => {
    shown = { entries: [], checkpoints: [] };
    show();
    expect(((await screen.findByRole('button', { name: 'Undo the last' })) as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByText(/Nothing was changed yet/)).toBeTruthy();
  });
});
