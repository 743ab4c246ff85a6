import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ClipDetail } from '@legame/core/contract';
import { clipDetail as clip, weighedFile as weighed } from '../../testing/detail.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer } from '../../testing/server.ts';
import { ClipPanel } from './ClipPanel.tsx';

const at = '2026-11-20T10:00:00.000Z';
let server: ReturnType<typeof standInServer>;
let shown: ClipDetail;
beforeEach(() => {
  shown = clip();
  server = standInServer(({ method, url }) => {
    if (method === 'POST') return { id: 1, verb: 'link', count: 1, madeAt: at, skipped: [] };
    if (url.pathname === `/api/clips/${uuid(2)}`) return shown;
    return [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = () =>
  showPage('/projects/:projectId/ledger', <ClipPanel projectId={uuid(1)} clipId={uuid(2)} chosen={1} />);
const posts = () => server.asked.filter((a) => a.method === 'POST').map((a) => JSON.parse(a.body) as unknown);

describe('the file that Enter links', () => {
  test('is the one that is looked at, and no other', async () => {
    show();
    const candidates = await screen.findByRole('group', { name: 'candidates' });
    await userEvent.click(within(candidates).getByRole('button', { name: 'day12/bowl.mov' }));
    (document.activeElement as HTMLElement).blur();
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(posts()).toEqual([{ by: 'hand', links: [{ clipId: uuid(2), mediaFileId: uuid(12) }] }]));
  });

  test('is never one that differs in what must agree: that is said first', async () => {
    shown = clip({ candidatesInFull: [weighed(11, { refusedFor: ['timecode'], uncoveredInFrames: 40 })] });
    show();
    expect(await screen.findByRole('button', { name: 'Swap to this…' })).toBeTruthy();
    await userEvent.keyboard('{Enter}');
    const swap = await screen.findByRole('region', { name: 'swap' });
    expect(swap.textContent).toContain('This is not what the edit remembers');
    expect(swap.textContent).toContain('40 used frames would lie outside it');
    expect(posts()).toEqual([]);
    await userEvent.click(within(swap).getByRole('button', { name: 'Swap it' }));
    await waitFor(() => expect(posts()).toEqual([{ by: 'swap', links: [{ clipId: uuid(2), mediaFileId: uuid(11) }] }]));
  });

  test('is none where there is none, and nothing happens but a word', async () => {
    shown = clip({
      candidatesInFull: [],
      fullDecision: { kind: 'nothing' },
      decision: 'nothing',
      why: { code: 'gone' },
    });
    show();
    await screen.findByRole('region', { name: 'clip' });
    await userEvent.keyboard('{Enter}');
    expect(await screen.findByText('There is no candidate to link.')).toBeTruthy();
    expect(posts()).toEqual([]);
  });

  test('is not linked again when it is linked already', async () => {
    shown = clip({
      status: { status: 'linked' },
      tied: {
        mediaFileId: uuid(11) as never,
        version: '1',
        name: 'bowl.mov',
        placeName: 'KILN_B',
        folder: 'day11',
        by: 'hand',
      },
      tiedFile: weighed(11),
    });
    show();
    expect(await screen.findByRole('button', { name: 'Unlink' })).toBeTruthy();
    await userEvent.keyboard('{Enter}');
    expect(await screen.findByText('The clip is linked to this file already.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Pin' }));
    await waitFor(() => expect(posts()).toEqual([{ clipIds: [uuid(2)], pinned: true }]));
  });
});

describe('what is being decided', () => {
  test('stands in place of the comparison, and Escape leaves it', async () => {
    shown = clip({ fullDecision: { kind: 'nothing' }, decision: 'nothing', candidatesInFull: [] });
    show();
    await screen.findByRole('region', { name: 'clip' });
    await userEvent.click(screen.getByRole('button', { name: 'Waive…' }));
    expect(await screen.findByRole('region', { name: 'waive' })).toBeTruthy();
    (document.activeElement as HTMLElement).blur();
    await userEvent.keyboard('{Escape}');
    expect(await screen.findByRole('region', { name: 'clip' })).toBeTruthy();
    expect(posts()).toEqual([]);
  });
});
