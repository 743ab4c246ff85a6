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
  checkpoints: [{ id: 7, name: 'before colour', madeAt: at }],
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
    await userEvent.click(within(screen.getByRole('list', { name: 'checkpoints' })).getByRole('button'));
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

  test('with nothing done there is nothing to undo, and it says what will come', async () => {
    shown = { entries: [], checkpoints: [] };
    show();
    expect(((await screen.findByRole('button', { name: 'Undo the last' })) as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByText(/Nothing was changed yet/)).toBeTruthy();
  });
});
