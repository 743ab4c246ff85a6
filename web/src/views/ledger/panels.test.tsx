import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import type { CarryPreview, ClipDetail, Member } from '@legame/core/contract';
import { showPage, uuid } from '../../testing/page.tsx';
import { clipRow, memberOf } from '../../testing/rows.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { CarryPanel } from './CarryPanel.tsx';
import { commonFolder, FolderPanel } from './FolderPanel.tsx';
import { FormsPanel } from './FormsPanel.tsx';
import { LinkManyPanel } from './LinkManyPanel.tsx';

/** Panels of an act: what stands in them is what would be done, at every moment, and nothing is done by looking. */
const act = { id: 1, verb: 'link', count: 1, madeAt: '2026-11-20T10:00:00.000Z', skipped: [] };
const differing = memberOf(9, 'gone.mov', { fits: false, certain: false, differs: ['timecode'], after: null });

let server: ReturnType<typeof standInServer>;
let answer: (asked: Asked) => unknown;
let isClosed: boolean;
const close = () => {
  isClosed = true;
};
beforeEach(() => {
  isClosed = false;
  server = standInServer((asked) => answer(asked));
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = (panel: ReactNode) => showPage('/projects/:projectId/ledger', panel);
const sent = (path: string) =>
  server.asked
    .filter((a) => a.method === 'POST' && a.url.pathname.endsWith(path))
    .map((a) => JSON.parse(a.body) as unknown);
const isDisabled = (name: RegExp | string) => (screen.getByRole('button', { name }) as HTMLButtonElement).disabled;
/** An answer that comes when it is let come. */
function held<T>() {
  let give!: (value: T) => void;
  const later = new Promise<T>((resolve) => (give = resolve));
  return { later, give };
}

describe('a folder changed for another', () => {
  const rows = [clipRow(1, 'bowl.mov', 'missing'), clipRow(2, 'door.mov', 'missing')];
  const members = [memberOf(1, 'bowl.mov'), memberOf(2, 'door.mov'), differing];
  const panel = <FolderPanel projectId={uuid(1)} rows={rows} onClose={close} />;

  test('begins with the folder all remember, counts what it would link, and sends what was counted', async () => {
    answer = ({ url }) => (url.pathname.endsWith('/preview') ? { reached: 3, members } : act);
    show(panel);
    expect((screen.getByLabelText('The edit says') as HTMLInputElement).value).toBe('KILN_A/day1');
    expect(screen.getByRole('status').textContent).toBe('Say where it lies now: a place, and a folder in it.');
    expect(isDisabled('Link 0')).toBe(true);
    await userEvent.type(screen.getByLabelText('It lies in'), 'KILN_B/rushes');
    expect(await screen.findByRole('button', { name: 'Link 2' })).toBeTruthy();
    expect(screen.getByRole('status').textContent).toBe(
      '3 clips remember this folder; 2 would be linked, 1 lead to a file that does not fit.',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Link 2' }));
    await waitFor(() =>
      expect(sent('/folders')).toEqual([{ from: 'KILN_A/day1', to: 'KILN_B/rushes', clipIds: [uuid(1), uuid(2)] }]),
    );
    await waitFor(() => expect(isClosed).toBe(true));
  });

  test('typed on, it does nothing until the new folder is counted', async () => {
    const slow = held<unknown>();
    answer = ({ url, body }) =>
      !url.pathname.endsWith('/preview') ? act : body.includes('KILN_BB') ? slow.later : { reached: 2, members };
    show(panel);
    const to = screen.getByLabelText('It lies in');
    await userEvent.type(to, 'KILN_B');
    await screen.findByRole('button', { name: 'Link 2' });
    await userEvent.type(to, 'B');
    // What was counted before is of the folder before: it can neither be seen nor done.
    expect(isDisabled('Link 0')).toBe(true);
    expect(screen.getByRole('status').textContent).toBe('Counting…');
    await waitFor(() => expect(sent('/preview')).toHaveLength(2));
    expect(isDisabled('Link 0')).toBe(true);
    slow.give({ reached: 1, members: [memberOf(2, 'door.mov')] });
    expect(await screen.findByRole('button', { name: 'Link 1' })).toBeTruthy();
    expect(sent('/folders')).toEqual([]);
  });

  test('proposes the place of the first candidate; for no selection it speaks of all dark clips', () => {
    answer = () => ({ reached: 0, members: [] });
    const candidate = memberOf(3, 'x.mov').file!;
    show(<FolderPanel projectId={uuid(1)} rows={[clipRow(3, 'x.mov', 'missing', { candidate })]} onClose={close} />);
    expect((screen.getByLabelText('It lies in') as HTMLInputElement).value).toBe('KILN_B/rushes');
    cleanup();
    show(<FolderPanel projectId={uuid(1)} rows={[]} onClose={close} />);
    expect(screen.getByRole('heading').textContent).toBe('Change a folder for all dark clips');
  });

  test('what folders have in common', () => {
    expect(commonFolder([])).toBe('');
    expect(commonFolder(['', 'A/b/c'])).toBe('A/b/c');
    expect(commonFolder(['A/b/c', 'A/b/d', 'A/b'])).toBe('A/b');
    expect(commonFolder(['A/b', 'B/b'])).toBe('');
    // Equal names at one depth are no folder in common where what stands before differs.
    expect(commonFolder(['A/x/c', 'A/y/c'])).toBe('A');
  });
});

describe('forms of recordings', () => {
  const forms = { preferred: 'original', available: [{ form: 'original', clips: 2 }, { form: 'small', clips: 1 }] }; // prettier-ignore

  test('switches those that are shown, to the form that is chosen', async () => {
    const slow = held<Member[]>();
    answer = ({ url, body }) => {
      if (url.pathname.endsWith('/forms/preview'))
        return body.includes('small') ? slow.later : [memberOf(1, 'bowl.mov'), memberOf(2, 'door.mov')];
      return url.pathname.endsWith('/forms') && body !== '' ? act : forms;
    };
    show(<FormsPanel projectId={uuid(1)} rows={[clipRow(1, 'bowl.mov', 'linked')]} onClose={close} />);
    expect(await screen.findByRole('button', { name: 'Switch 2' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'small copy 1' }));
    // The clips of the other form are not those that would be switched now.
    expect(isDisabled('Switch 0')).toBe(true);
    expect(screen.getByRole('status').textContent).toBe('Looking…');
    slow.give([memberOf(2, 'door.mov')]);
    await userEvent.click(await screen.findByRole('button', { name: 'Switch 1' }));
    await waitFor(() => expect(sent('/forms')).toEqual([{ form: 'small' }]));
  });

  test('a selection of several is what it is about, unless the tick is taken out', async () => {
    answer = ({ url }) => (url.pathname.endsWith('/preview') ? [] : forms);
    const rows = [clipRow(1, 'bowl.mov', 'linked'), clipRow(2, 'door.mov', 'linked')];
    show(<FormsPanel projectId={uuid(1)} rows={rows} onClose={close} />);
    await waitFor(() => expect(sent('/preview')).toEqual([{ form: 'original', clipIds: [uuid(1), uuid(2)] }]));
    await userEvent.click(screen.getByRole('checkbox', { name: 'only the selection (2)' }));
    await waitFor(() => expect(sent('/preview').at(-1)).toEqual({ form: 'original' }));
  });

  test('where no recording is here twice, there is nothing to switch', async () => {
    answer = () => ({ preferred: null, available: [] });
    show(<FormsPanel projectId={uuid(1)} rows={[]} onClose={close} />);
    expect(await screen.findByText(/No linked clip has its recording here in another form/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Switch/ })).toBeNull();
  });
});

describe('carrying one decision', () => {
  const clip = {
    ...clipRow(1, 'bowl.mov', 'missing'),
    rate: { num: 25, den: 1 },
    counting: 'non-drop',
  } as unknown as ClipDetail;
  const pattern: CarryPreview['pattern'] = {
    from: 'KILN_A/day1',
    to: 'KILN_B/rushes',
    renaming: { stem: { kind: 'added', before: 'SG_', after: '' }, extension: null },
    timecode: { kind: 'shifted', byFrames: 25 } as never,
  };
  const shift = { countedAt: null, shiftInFrames: 25 };
  const members = [memberOf(2, 'door.mov', { interpretation: shift }), memberOf(3, 'ember.mov'), differing];
  const panel = (of: ClipDetail) => <CarryPanel projectId={uuid(1)} clip={of} mediaFileId={uuid(50)} onClose={close} />;

  test('says what it reveals, leaves out what is ticked off, and keeps how each is read', async () => {
    answer = ({ url }) => (url.pathname.endsWith('/links') ? act : { pattern, members });
    show(panel(clip));
    const region = await screen.findByRole('region', { name: 'carry' });
    expect(region.textContent).toContain('names have “SG_” in front');
    expect(region.textContent).toContain('timecode: +00:00:01:00');
    expect(region.textContent).toContain('2 other dark clips lead to a file the same way');
    expect(region.textContent).toContain('1 nearly fit, listed last.');
    expect(within(region).getByRole('button', { name: 'Link 3' })).toBeTruthy();
    await userEvent.click(within(region).getByRole('checkbox', { name: 'link ember.mov' }));
    expect(within(region).queryByRole('checkbox', { name: 'link gone.mov' })).toBeNull();
    await userEvent.click(within(region).getByRole('button', { name: 'Link 2' }));
    await waitFor(() =>
      expect(sent('/links')).toEqual([
        {
          by: 'carry',
          from: uuid(1),
          links: [
            { clipId: uuid(1), mediaFileId: uuid(50) },
            { clipId: uuid(2), mediaFileId: uuid(102), interpretation: shift },
          ],
        },
      ]),
    );
  });

  test('the clip it comes from is not linked again', async () => {
    answer = ({ url }) =>
      url.pathname.endsWith('/links') ? act : { pattern: { ...pattern, timecode: null }, members };
    const file = { ...memberOf(1, 'bowl.mov').file!, mediaFileId: uuid(50), by: 'hand' };
    show(panel({ ...clip, tied: file as never }));
    await userEvent.click(await screen.findByRole('button', { name: 'Link 2' }));
    await waitFor(() =>
      expect((sent('/links')[0] as { links: { clipId: string }[] }).links.map((l) => l.clipId)).toEqual([
        uuid(2),
        uuid(3),
      ]),
    );
  });

  test('what reveals nothing carries nothing', async () => {
    answer = () => ({ pattern: null, members: [] });
    show(panel(clip));
    expect(await screen.findByText(/This link reveals nothing that other clips could share/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Link/ })).toBeNull();
  });
});

describe('linking many', () => {
  const rows = [clipRow(1, 'bowl.mov', 'missing'), clipRow(2, 'door.mov', 'missing')];

  test('says what comes back and what stays dark, and links those that fit alone', async () => {
    const short = memberOf(2, 'door.mov', { after: { status: 'short', uncoveredInFrames: 4 }, certain: false });
    answer = ({ url }) =>
      url.pathname.endsWith('/preview')
        ? { members: [memberOf(1, 'bowl.mov'), short, differing], backSeconds: 61 }
        : act;
    show(<LinkManyPanel projectId={uuid(1)} kind="first-candidates" rows={rows} onClose={close} />);
    const region = await screen.findByRole('region', { name: 'preview of linking' });
    expect(region.textContent).toContain('by your decision: not all of these are certain');
    expect(region.textContent).toContain('1:01 of screen time comes back, in 1 clip.');
    expect(region.textContent).toContain('1 clip would be linked and stay dark.');
    expect(region.textContent).toContain('Left out: 1 clip, listed last.');
    await userEvent.click(within(region).getByRole('button', { name: 'Link 2' }));
    await waitFor(() =>
      expect(sent('/links')).toEqual([
        {
          by: 'hand',
          links: [
            { clipId: uuid(1), mediaFileId: uuid(101) },
            { clipId: uuid(2), mediaFileId: uuid(102) },
          ],
        },
      ]),
    );
  });

  test('what was left alone is said, and the panel stays to say it', async () => {
    answer = ({ url }) =>
      url.pathname.endsWith('/preview')
        ? { members: [memberOf(1, 'bowl.mov'), memberOf(2, 'door.mov')], backSeconds: 3 }
        : { ...act, count: 1, skipped: [{ clipId: uuid(2), why: 'pinned' }] };
    show(<LinkManyPanel projectId={uuid(1)} kind="certain" rows={rows} onClose={close} />);
    await userEvent.click(await screen.findByRole('button', { name: 'Link 2' }));
    expect((await screen.findByRole('status')).textContent).toMatch(/Linked 1 clip; 1 clip left alone: /);
    expect(isClosed).toBe(false);
  });

  test('nothing selected asks nothing and can do nothing', () => {
    answer = () => ({ members: [], backSeconds: 0 });
    show(<LinkManyPanel projectId={uuid(1)} kind="certain" rows={[]} onClose={close} />);
    expect(isDisabled('Link 0')).toBe(true);
    expect(server.asked).toEqual([]);
  });
});
