import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { defaultTemplate } from '@legame/core/folders';
import type { NamedFile } from '@legame/core/contract';
import { showPage, uuid } from '../../testing/page.tsx';
import { clipRow } from '../../testing/rows.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { NamingView } from './NamingView.tsx';

const file = (n: number, from: string, to: string, more: Partial<NamedFile> = {}): NamedFile => ({
  mediaFileId: uuid(100 + n) as NamedFile['mediaFileId'],
  placeName: 'KILN_A',
  folder: 'day1',
  from,
  to,
  fault: null,
  isSidecar: false,
  clips: [`clip ${n}`],
  elsewhere: [],
  ...more,
});
const tied = {
  mediaFileId: uuid(101) as NamedFile['mediaFileId'],
  version: '1',
  name: 'bowl.mov',
  placeName: 'KILN_A',
  folder: 'day1',
  by: 'hand',
} as const;

let server: ReturnType<typeof standInServer>;
let files: readonly NamedFile[];
let kept: string | null;
beforeEach(() => {
  kept = null;
  files = [
    file(1, 'bowl.mov', 'SG_01.mov'),
    file(2, 'door.mov', 'SG_02.mov', { fault: 'taken' }),
    file(3, 'SG_03.mov', 'SG_03.mov'),
    file(4, 'bowl.xml', 'SG_01.xml', { isSidecar: true, clips: [] }),
  ];
  server = standInServer(({ url, body }: Asked) => {
    const path = url.pathname.replace(/^\/api\//, '');
    if (path.endsWith('/renames/preview')) return { files };
    if (path.endsWith('/renames'))
      return { id: 9, verb: 'rename', count: 0, madeAt: '2026-11-27T10:00:00.000Z', skipped: [] };
    if (path.endsWith('/folder-template')) return { template: defaultTemplate, isOwn: false, namePattern: kept };
    if (path.endsWith('/name-pattern')) {
      kept = (JSON.parse(body) as { pattern: string }).pattern;
      return new Response(null, { status: 204 });
    }
    if (path.endsWith('/clips'))
      return [
        clipRow(1, 'bowl.mov', 'linked', { tied }),
        clipRow(2, 'door.mov', 'linked', { tied }),
        clipRow(3, 'lost.mov', 'missing'),
      ];
    return [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = (state?: object) => showPage('/projects/:projectId/naming', <NamingView />, undefined, state);
const asked = (end: string) =>
  server.asked
    .filter((a) => a.url.pathname.endsWith(end))
    .map((a) => JSON.parse(a.body) as { clips: string[]; pattern: string; first: number; written: object[] });
const rename = () => screen.getByRole('button', { name: /^Rename \d+ file/ }) as HTMLButtonElement;

describe('names of files', () => {
  test('are held against the pattern: what cannot be first, what changes next, and only that is renamed', async () => {
    show();
    const rows = () =>
      within(screen.getByRole('table', { name: 'names' }))
        .getAllByRole('row')
        .slice(1)
        .map((r) => r.textContent);
    await waitFor(() => expect(rows()).toHaveLength(4));
    expect(rows()).toEqual([
      'door.movKILN_A/day1another file is called soclip 2Keep',
      'bowl.movKILN_A/day1clip 1Keep',
      'bowl.xmlKILN_A/day1SG_01.xmlgoes with its recording',
      'SG_03.movKILN_A/day1clip 3',
    ]);
    // Clips without a file have none that could be renamed.
    expect(asked('/preview')[0]!.clips).toEqual([uuid(1), uuid(2)]);
    expect(screen.getByText('1 cannot be', { exact: false })).toBeTruthy();
    await userEvent.click(rename());
    await waitFor(() => expect(asked('/renames')).toHaveLength(1));
    expect(asked('/renames')[0]).toEqual({
      alsoOfOthers: false,
      files: [
        { mediaFileId: uuid(101), from: 'bowl.mov', to: 'SG_01.mov' },
        { mediaFileId: uuid(104), from: 'bowl.xml', to: 'SG_01.xml' },
      ],
    });
  });

  test('follow the pattern and the first number; a pattern of unknown parts is not asked for', async () => {
    show({ clips: [uuid(2)] });
    await userEvent.click(await screen.findByRole('button', { name: 'pattern: {name}' }));
    await userEvent.click(screen.getByRole('button', { name: '{n}' }));
    await waitFor(() => expect(asked('/preview').at(-1)).toMatchObject({ clips: [uuid(2)], pattern: '{name}_{n:2}' }));
    fireEvent.change(screen.getByLabelText('pattern'), { target: { value: '{reel}_{nmae}' } });
    expect(screen.getByText('Nobody knows what {nmae} should be.')).toBeTruthy();
    expect(rename().disabled).toBe(true);
    fireEvent.change(screen.getByLabelText('pattern'), { target: { value: '{reel}_{n:3}' } });
    await userEvent.keyboard('{Escape}');
    await userEvent.click(screen.getByRole('button', { name: 'first number: 1' }));
    fireEvent.change(screen.getByLabelText('is the first number'), { target: { value: '41' } });
    await waitFor(() => expect(asked('/preview').at(-1)).toMatchObject({ pattern: '{reel}_{n:3}', first: 41 }));
    expect(JSON.stringify(asked('/preview'))).not.toContain('nmae');
    await userEvent.keyboard('{Escape}');
    await userEvent.click(screen.getByRole('button', { name: 'clips: 1 chosen clip' }));
    await userEvent.click(screen.getByRole('button', { name: 'All clips with a file, instead' }));
    await waitFor(() => expect(asked('/preview').at(-1)!.clips).toEqual([uuid(1), uuid(2)]));
  });

  test('are not given while others are being worked out', async () => {
    let give = (): void => undefined;
    const worked = new Promise<void>((resolve) => (give = resolve));
    const answer = globalThis.fetch;
    globalThis.fetch = (async (input: Request) => {
      if (input.url.endsWith('/preview') && (await input.clone().text()).includes('{reel}')) await worked;
      return answer(input);
    }) as typeof fetch;
    show();
    await waitFor(() => expect(rename().disabled).toBe(false));
    await userEvent.click(screen.getByRole('button', { name: 'pattern: {name}' }));
    fireEvent.change(screen.getByLabelText('pattern'), { target: { value: '{reel}' } });
    expect(rename().disabled).toBe(true);
    give();
    await waitFor(() => expect(rename().disabled).toBe(false));
    expect(asked('/preview').at(-1)!.pattern).toBe('{reel}');
  });

  test('a person writes a name, or keeps the one that is', async () => {
    show();
    const name = await screen.findByLabelText('name of bowl.mov');
    await userEvent.clear(name);
    await userEvent.type(name, 'gather.mov{Enter}');
    await waitFor(() =>
      expect(asked('/preview').at(-1)!.written).toEqual([{ mediaFileId: uuid(101), name: 'gather.mov' }]),
    );
    await userEvent.click(screen.getByRole('button', { name: 'keep bowl.mov' }));
    await waitFor(() =>
      expect(asked('/preview').at(-1)!.written).toEqual([{ mediaFileId: uuid(101), name: 'bowl.mov' }]),
    );
  });

  test('what another project uses is renamed only when that is said', async () => {
    files = [file(1, 'bowl.mov', 'SG_01.mov', { elsewhere: ['Trailer'] })];
    show();
    const also = await screen.findByRole('checkbox', { name: 'Also those that Trailer uses' });
    expect(rename().disabled).toBe(true);
    await userEvent.click(also);
    await userEvent.click(rename());
    await waitFor(() => expect(asked('/renames')).toMatchObject([{ alsoOfOthers: true }]));
  });
});

test('a pattern is kept with the project, and is what it begins with from then on', async () => {
  show();
  await userEvent.click(await screen.findByRole('button', { name: /^pattern/ }));
  fireEvent.change(screen.getByLabelText('pattern'), { target: { value: 'SG_{n:2}' } });
  await userEvent.click(screen.getByRole('button', { name: 'Keep for this project' }));
  await screen.findByText('So this project names its files.');
  expect(kept).toBe('SG_{n:2}');
  cleanup();
  show();
  expect((await screen.findByRole('button', { name: /^pattern/ })).textContent).toContain('SG_{n:2}');
  await screen.findByText('So this project names its files.');
});
