import { afterEach, describe, expect, test } from '@jest/globals';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Member } from '@legame/core/contract';
import { showPage, uuid } from '../testing/page.tsx';
import { standInServer } from '../testing/server.ts';
import { CoverageRuler } from './CoverageRuler.tsx';
import { FolderChooser } from './FolderChooser.tsx';
import { MemberList } from './MemberList.tsx';

afterEach(cleanup);

describe('what an act would do, clip by clip', () => {
  const found = { mediaFileId: uuid(50), version: '1', name: 'a_v2.mov', placeName: 'KILN', folder: 'day1' };
  const member = (n: number, more: object = {}): Member =>
    ({
      ...{
        clipId: uuid(n),
        clipName: `${n}.mov`,
        screenSeconds: 1,
        file: found,
        verdicts: null,
        fits: true,
        certain: true,
      },
      ...{ differs: [], interpretation: null, after: { status: 'linked' }, leftOut: null, offset: null },
      ...more,
    }) as unknown as Member;
  const line = (name: string) => screen.getByText(name).closest('li')!;

  test('what comes back stands first; what does not fit says why', () => {
    render(
      <MemberList
        label="clips"
        members={[
          member(1, { fits: false, differs: ['rate', 'length'] }),
          member(2, { fits: false, leftOut: 'contested' }),
          member(3, { fits: false, file: null }),
          member(4, {
            after: { status: 'short', uncoveredInFrames: 3 },
            offset: { countedAt: null, shiftInFrames: 5 },
          }),
          member(5),
        ]}
      />,
    );
    const names = screen.getAllByRole('listitem').map((l) => l.querySelector('[title]')!.textContent);
    expect(names).toEqual(['5.mov', '4.mov', '1.mov', '2.mov', '3.mov']);
    expect(line('1.mov').textContent).toMatch(/a_v2\.mov: .*rate.* and .*length.* differ/i);
    expect(line('2.mov').textContent).toMatch(/another recording would get the same file/);
    expect(line('3.mov').textContent).toMatch(/no file/);
    expect(line('4.mov').textContent).toMatch(/it would be short: its timecode stands apart by a constant/i);
    expect(line('5.mov').textContent).toMatch(/→ a_v2\.mov$/);
    expect(screen.queryByRole('checkbox')).toBeNull();
  });

  test('one that fits can be left out, one that does not has no tick', async () => {
    const left: string[] = [];
    render(
      <MemberList
        label="clips"
        members={[member(1), member(2, { fits: false })]}
        left={new Set([uuid(1)])}
        onLeave={(id) => left.push(id)}
      />,
    );
    const tick = screen.getByRole('checkbox', { name: 'link 1.mov' }) as HTMLInputElement;
    expect(tick.checked).toBe(false);
    await userEvent.click(tick);
    expect(left).toEqual([uuid(1)]);
    expect(screen.getAllByRole('checkbox')).toHaveLength(1);
  });
});

describe('coverage', () => {
  const rate = { num: 25, den: 1 };
  const of = (start: number, end: number) => ({ start, end });
  const said = (used: readonly { start: number; end: number }[], holds: { start: number; end: number } | null) => {
    render(<CoverageRuler clip={{ rate, counting: 'non-drop', usesInFull: [], used: [...used] }} holds={holds} />);
    const text = document.body.textContent;
    cleanup();
    return text;
  };
  test.each([
    ['all, with what is to spare', [of(110, 150)], of(100, 200), /covers all; 10 frames to spare/],
    ['part of it', [of(90, 150)], of(100, 200), /10 used frames not covered/],
    ['at both ends', [of(90, 150), of(190, 205)], of(100, 200), /15 used frames not covered/],
    ['nothing at all', [of(300, 350)], of(100, 200), /None of the 50 used frames lies in this file/],
    ['nothing that is used', [], of(100, 200), /not used in a timeline.*|00:00:04:00/],
  ])('%s', (_, used, holds, words) => {
    expect(said(used, holds)).toMatch(words);
  });
  test('of what is not known, nothing is drawn', () => {
    expect(said([of(0, 10)], null)).toBe('');
    expect(said([of(0, 10)], of(5, 5))).toBe('');
  });
});

describe('choosing a folder', () => {
  test('goes down and up, takes a typed path, and chooses what is shown', async () => {
    const tree: Record<string, { path: string; parent: string | null; folders: { name: string; path: string }[] }> = {
      '': { path: '', parent: null, folders: [{ name: 'media', path: '/media' }] },
      '/media': { path: '/media', parent: '', folders: [{ name: 'KILN', path: '/media/KILN' }] },
      '/media/KILN': { path: '/media/KILN', parent: '/media', folders: [] },
    };
    const server = standInServer(({ url }) => tree[url.searchParams.get('path') ?? ''] ?? []);
    const chosen: string[] = [];
    showPage('/', <FolderChooser verb="Put it here" onChoose={(path) => chosen.push(path)} />, '/');
    const choose = screen.getByRole('button', { name: 'Put it here' }) as HTMLButtonElement;
    await userEvent.click(await screen.findByRole('button', { name: 'media' }));
    await userEvent.click(await screen.findByRole('button', { name: 'KILN' }));
    expect(await screen.findByText(/No folders in here\. This one can be chosen\./)).toBeTruthy();
    await userEvent.click(choose);
    await userEvent.click(screen.getByRole('button', { name: 'up one folder' }));
    expect(await screen.findByRole('button', { name: 'KILN' })).toBeTruthy();
    const field = screen.getByLabelText('folder path');
    await userEvent.clear(field);
    await userEvent.type(field, '/media/KILN{Enter}');
    await waitFor(() => expect(server.asked.at(-1)!.url.searchParams.get('path')).toBe('/media/KILN'));
    await userEvent.clear(field);
    await userEvent.type(field, ' /elsewhere ');
    await userEvent.click(choose);
    expect(chosen).toEqual(['/media/KILN', '/elsewhere']);
    server.giveBack();
  });
});
