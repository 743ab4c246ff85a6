import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { mediaUses, type Cleared, type RoomMap } from '@legame/core/contract';
import { jobOf } from '../../testing/job.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { refused, standInServer } from '../../testing/server.ts';
import { RoomView } from './RoomView.tsx';

const none = Object.fromEntries(mediaUses.map((use) => [use, 0])) as RoomMap['byUse'];
const fileOf = (
  n: number,
  name: string,
  more: Partial<RoomMap['largest'][number]> = {},
): RoomMap['largest'][number] => ({
  mediaFileId: uuid(n) as never,
  folder: 'day1',
  name,
  sizeInBytes: n * 1_000_000,
  use: 'unused',
  usedBy: [],
  wantedBy: [],
  ...more,
});
const share = (name: string, folder: string | null, n: number) => ({
  name,
  folder,
  mediaFileId: folder === null ? (uuid(n) as never) : null,
  files: 1,
  sizeInBytes: n * 1_000_000,
  byUse: { ...none, unused: n * 1_000_000 },
  inside: [],
});
const mapOf = (folder: string): RoomMap => ({
  placeId: uuid(90) as never,
  placeName: 'KILN_B',
  folder,
  entries: folder === '' ? [share('day1', 'day1', 7), share('slate.mov', null, 3)] : [],
  byUse: { ...none, unused: 7_000_000, 'this-project': 40_000_000 },
  room: { freeInBytes: 1_000_000_000, totalInBytes: 10_000_000_000 },
  headroomShare: 0.1,
  largest: [fileOf(9, 'bowl.mov', { use: 'this-project', usedBy: ['Saltglass'] }), fileOf(8, 'may.mov', { use: 'wanted', wantedBy: ['door'] }), fileOf(7, 'spare.mov')],
  unused: folder === '' ? [fileOf(7, 'spare.mov'), fileOf(3, 'slate.mov')] : [fileOf(7, 'spare.mov')],
}); // prettier-ignore
const held: Cleared = {
  id: uuid(30),
  original: 'day1/old.mov',
  holding: '.held/2026-11-20/day1/old.mov',
  sizeInBytes: 2_000_000,
  clearedAt: '2026-11-20T10:00:00.000Z',
  restoredAt: null,
};

let server: ReturnType<typeof standInServer>;
let inHolding: Cleared[];
let clearing: () => unknown;
beforeEach(() => {
  inHolding = [held];
  clearing = () => ({ cleared: [{ ...held, id: uuid(31) }], skipped: [] });
  server = standInServer(({ method, url }) => {
    const { pathname, searchParams } = url;
    if (pathname.endsWith('/restore')) return { path: 'day1/old (restored 1).mov' };
    if (pathname.endsWith('/cleared')) return method === 'POST' ? clearing() : inHolding;
    if (pathname.endsWith('/clear')) return clearing();
    if (pathname.endsWith('/index')) return jobOf('index-place');
    if (pathname.endsWith('/reread')) return { files: 2 };
    return pathname.includes('/room') ? mapOf(searchParams.get('folder') ?? '') : [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = async (folder = '') => {
  const path = '/projects/:projectId/places/:placeId/room';
  const at = `/projects/${uuid(1)}/places/${uuid(90)}/room${folder ? `?folder=${folder}` : ''}`;
  showPage(path, <RoomView />, at);
  await screen.findByRole('navigation', { name: 'folder shown' });
  return { panel: within(screen.getByRole('region', { name: 'files of the place' })) };
};
const posts = () =>
  server.asked
    .filter((a) => a.method === 'POST')
    .map((a) => [a.url.pathname, a.body && (JSON.parse(a.body) as unknown)]);

describe('what takes up a place', () => {
  test('its map: each folder and file by name and size, by hand and by key', async () => {
    const { panel } = await show();
    expect(screen.getByRole('list', { name: 'uses' }).textContent).toContain('headroom');
    const map = within(screen.getByRole('group', { name: 'room map' }));
    expect(map.getAllByRole('button').map((b) => b.getAttribute('aria-label'))).toEqual([
      'day1/, 7.0 MB',
      'slate.mov, 3.0 MB',
    ]);
    fireEvent.keyDown(map.getByRole('button', { name: /slate\.mov/ }), { key: ' ' });
    expect(panel.getByText(/1 file chosen/)).toBeTruthy();
    fireEvent.keyDown(map.getByRole('button', { name: /day1/ }), { key: 'Enter' });
    expect(await screen.findByText('Nothing lies in this folder.')).toBeTruthy();
    // What was chosen up there is not among what is shown here, and is not cleared from here.
    expect(panel.queryByText(/file chosen/)).toBeNull();
    await userEvent.click(
      within(screen.getByRole('navigation', { name: 'folder shown' })).getByRole('button', { name: 'KILN_B' }),
    );
    expect(await screen.findByRole('button', { name: /slate\.mov/ })).toBeTruthy();
  });

  test('one branch is refreshed, or measured anew', async () => {
    await show('day1');
    await userEvent.click(await screen.findByRole('button', { name: 'Refresh this branch' }));
    await userEvent.click(screen.getByRole('button', { name: 'Read again' }));
    await waitFor(() => expect(posts()).toHaveLength(2));
    expect(posts().map(([, body]) => (body as { folder: string }).folder)).toEqual(['day1', 'day1']);
  });
});

describe('clearing', () => {
  test('moves what nobody uses; what is used, or may be, is named and stays', async () => {
    const { panel } = await show();
    await userEvent.click(panel.getByRole('button', { name: 'Largest' }));
    for (const name of ['bowl.mov', 'may.mov', 'spare.mov'])
      await userEvent.click(panel.getByLabelText(`choose ${name}`));
    expect(panel.getByText(/2 of them are used, or may be, and stay: bowl\.mov, may\.mov\./)).toBeTruthy();
    expect(panel.getByText(/used by Saltglass/)).toBeTruthy();
    expect(panel.getByText(/may be what door needs/)).toBeTruthy();
    await userEvent.click(panel.getByRole('button', { name: 'Clear 1 file, 7.0 MB' }));
    await waitFor(() => expect(posts()).toEqual([[expect.stringContaining(uuid(90)), { mediaFileIds: [uuid(7)] }]]));
    expect((await panel.findByRole('status')).textContent).toContain('Moved 1 file into the holding folder.');
    expect(panel.getByText('Choose files to move them into the holding folder. Nothing is deleted.')).toBeTruthy();
  });

  test('of what is used alone, nothing can be cleared', async () => {
    const { panel } = await show();
    await userEvent.click(panel.getByRole('button', { name: 'Largest' }));
    await userEvent.click(panel.getByLabelText('choose bowl.mov'));
    expect((panel.getByRole('button', { name: 'Clear' }) as HTMLButtonElement).disabled).toBe(true);
  });

  test('what was left where it is says why; what went wrong keeps the choice', async () => {
    clearing = () => ({ cleared: [], skipped: [{ name: 'spare.mov', why: { code: 'used', by: ['Trailer'] } }] });
    const { panel } = await show();
    await userEvent.click(panel.getByLabelText('choose spare.mov'));
    await userEvent.click(panel.getByRole('button', { name: /^Clear/ }));
    expect((await panel.findByRole('status')).textContent).toMatch(/Moved 0 files.*spare\.mov stays: .*Trailer/);
    clearing = () => refused(409, 'place-read-only', 'KILN_B cannot be written to.');
    await userEvent.click(panel.getByLabelText('choose spare.mov'));
    await userEvent.click(panel.getByRole('button', { name: /^Clear/ }));
    expect((await panel.findByRole('alert')).textContent).toContain('KILN_B cannot be written to.');
    expect((panel.getByLabelText('choose spare.mov') as HTMLInputElement).checked).toBe(true);
  });

  test('what was cleared is listed with its way back, and where it came to lie is said', async () => {
    const { panel } = await show();
    await userEvent.click(await panel.findByRole('button', { name: 'Holding folder 1' }));
    expect(await panel.findByText('day1/old.mov')).toBeTruthy();
    await userEvent.click(panel.getByRole('button', { name: 'Put it back' }));
    expect((await panel.findByRole('status')).textContent).toBe('Back at day1/old (restored 1).mov.');
    cleanup();
    inHolding = [];
    const empty = await show();
    await userEvent.click(await empty.panel.findByRole('button', { name: 'Holding folder 0' }));
    expect(await empty.panel.findByText(/Nothing was cleared/)).toBeTruthy();
  });
});
