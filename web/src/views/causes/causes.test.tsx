import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import type { CauseKind } from '@legame/core/match';
import { rate } from '@legame/core/time';
import type { Act, CausePreview, Causes, CauseView } from '@legame/core/contract';
import { makeStore } from '../../app/store.ts';
import { projectOf } from '../../testing/project.ts';
import { standInServer } from '../../testing/server.ts';
import { CausesView } from './CausesView.tsx';

const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const moved: CauseKind = {
  code: 'displaced',
  folder: { from: 'KILN/day2/cardA', to: 'KILN_B/day2/card_A', how: 'tree' },
  name: null,
  timecode: null,
  rate: null,
  isOtherRaster: false,
};
function cause(n: number, kind: CauseKind, clips: number, links: number, more: Partial<CauseView> = {}): CauseView {
  return {
    key: String(n).padStart(16, '0'),
    kind,
    certainty: links > 0 ? 'certain' : 'open',
    clipIds: Array.from({ length: clips }, (_, i) => uuid(n * 100 + i)) as unknown as CauseView['clipIds'],
    screenSeconds: 60 * n,
    links,
    apart: clips - links,
    samples: [`clip-${n}.mov`],
    agreeing: ['name', 'timecode', 'length'],
    wanting: [],
    witnesses: links,
    ...more,
  };
}
const all = [
  cause(1, moved, 3, 2),
  cause(2, { ...moved, folder: null, timecode: { kind: 'from-zero' } }, 2, 2, { certainty: 'likely' }),
  cause(3, { code: 'place-away', placeId: uuid(9) as never, placeName: 'CARD_07' }, 4, 0),
  cause(4, { code: 'choice', alternatives: ['KILN/one', 'KILN/two'] }, 1, 0),
  cause(5, { code: 'choice', alternatives: ['KILN/one', 'KILN/two'] }, 2, 0),
];
const act: Act = { id: 1, verb: 'mend', count: 2, madeAt: new Date(0).toISOString(), skipped: [] };
const previewOf = (shown: CauseView): CausePreview => ({
  cause: shown,
  backSeconds: 60,
  alternatives: shown.kind.code === 'choice' ? [...shown.kind.alternatives] : [],
  members: shown.clipIds.map((clipId, i) => ({
    clipId,
    clipName: `clip-${i}.mov`,
    screenSeconds: 30,
    file: { mediaFileId: uuid(50 + i) as never, version: '1', name: `file-${i}.mov`, placeName: 'KILN', folder: 'x' },
    verdicts: null,
    fits: i < shown.links,
    certain: true,
    differs: i < shown.links ? [] : ['length'],
    interpretation: null,
    after: i < shown.links ? { status: 'linked' } : null,
    leftOut: null,
    offset: null,
  })),
});

let server: ReturnType<typeof standInServer>;
let list: readonly CauseView[] = all;
beforeEach(() => {
  list = all;
  server = standInServer(({ url, method }) => {
    const path = url.pathname;
    if (method === 'POST') return act;
    if (path.endsWith('/causes'))
      return {
        causes: [...list],
        dark: list.reduce((n, c) => n + c.clipIds.length, 0),
        parked: 1,
        files: 9,
      } satisfies Causes;
    if (/\/projects\/[^/]+$/.test(path)) return projectOf();
    const shown = list.find((c) => path.endsWith(c.key));
    return shown ? previewOf(shown) : [];
  });
  const router = createMemoryRouter([{ path: '/projects/:projectId/causes', element: <CausesView /> }], {
    initialEntries: [`/projects/${uuid(7)}/causes`],
  });
  render(
    <Provider store={makeStore()}>
      <RouterProvider router={router} />
    </Provider>,
  );
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const card = async (text: string) => {
  const found = await screen.findByText(text);
  return within(found.closest('li')!);
};
const posted = () =>
  server.asked.filter((a) => a.method === 'POST').map((a) => [a.url.pathname.split('/').slice(4).join('/'), a.body]);

describe('the causes', () => {
  test('say how much they account for, and leave apart what only a person can say', async () => {
    expect(await screen.findByText('4 causes account for 11 of 12 dark clips.')).toBeTruthy();
    expect(screen.getByText('For 1 clip only you can say.')).toBeTruthy();
    expect(within(screen.getByRole('list', { name: 'only you can say' })).getByText('clip-4.mov')).toBeTruthy();
    const first = await card('A folder lies elsewhere');
    expect(first.getByText('3 clips')).toBeTruthy();
    expect(
      first.getByText(/2 of 3 agree in name, timecode and length · certain\. 1 clip would not fit\./),
    ).toBeTruthy();
  });

  test('a preview says what would stay and why; nothing is sent by looking', async () => {
    await userEvent.click((await card('A folder lies elsewhere')).getByRole('button', { name: 'Preview' }));
    const preview = await screen.findByRole('region', { name: 'preview of mending' });
    expect(within(preview).getByText(/1 clip would stay dark/)).toBeTruthy();
    expect(within(preview).getByText('file-2.mov: length differs')).toBeTruthy();
    expect(posted()).toEqual([]);
  });

  test('mending is one request for the whole cause; a timecode remedy says that it reads anew', async () => {
    const zero = await card('The edit counts each clip from zero, the files carry their own time');
    await userEvent.click(zero.getByRole('button', { name: 'Apply offset, link 2' }));
    await waitFor(() => expect(posted()).toEqual([[`causes/${all[1]!.key}/mend`, '{}']]));
  });

  test('what is away is parked whole; what is a choice is made for all its clips at once', async () => {
    await userEvent.click((await card('CARD_07 is not plugged in')).getByRole('button', { name: 'Park 4' }));
    await waitFor(() => expect(posted()[0]?.[0]).toBe('set-aside'));
    await userEvent.click(await screen.findByText('These may lie in either of several folders'));
    await userEvent.click(await screen.findByRole('button', { name: /Take those in KILN\/two/ }));
    await waitFor(() => expect(posted()[1]).toEqual([`causes/${all[4]!.key}/mend`, '{"alternative":"KILN/two"}']));
  });

  test('a clip of a cause can be left out of what is done to the others', async () => {
    await userEvent.click((await card('A folder lies elsewhere')).getByRole('button', { name: 'Preview' }));
    const preview = await screen.findByRole('region', { name: 'preview of mending' });
    await userEvent.click(within(preview).getByRole('checkbox', { name: 'link clip-0.mov' }));
    await userEvent.click(within(preview).getByRole('button', { name: 'Link 1' }));
    const left = all[0]!.clipIds[0]!;
    await waitFor(() => expect(posted()).toEqual([[`causes/${all[0]!.key}/mend`, `{"except":["${left}"]}`]]));
  });

  test('the keyboard goes from cause to cause', async () => {
    await screen.findByText('A folder lies elsewhere');
    await userEvent.keyboard('{ArrowDown}');
    expect(
      (await card('The edit counts each clip from zero, the files carry their own time'))
        .getByRole('button', { name: /Look/ })
        .closest('li')!
        .getAttribute('aria-current'),
    ).toBe('true');
  });
});

test('shifts are written as signed timecode, one a reel where they differ', async () => {
  const { shiftsOf } = await import('@legame/words/causes');
  expect(shiftsOf({ kind: 'shifted', byFrames: -90_000, rate: rate(25), inHours: -1 })).toEqual([
    { label: '', shift: '−01:00:00:00' },
  ]);
  expect(shiftsOf({ kind: 'shifted-per-reel', reels: [{ reel: 'GB003', byFrames: 26, rate: rate(25) }] })).toEqual([
    { label: 'GB003', shift: '+00:00:01:01' },
  ]);
});
