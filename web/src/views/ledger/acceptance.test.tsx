import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { acceptsAll } from '@legame/core/model';
import type { Job, ProjectAcceptance } from '@legame/core/contract';
import { weighedFile } from '../../testing/detail.ts';
import { jobOf } from '../../testing/job.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { refused, standInServer } from '../../testing/server.ts';
import { AcceptancePanel } from './AcceptancePanel.tsx';
import { AcceptedCopy } from './AcceptedCopy.tsx';

type Profile = ProjectAcceptance['profile'];
let server: ReturnType<typeof standInServer>;
let profile: Profile;
let jobs: object[];
let isRefusing: boolean;
beforeEach(() => {
  [profile, jobs, isRefusing] = [acceptsAll as Profile, [], false];
  server = standInServer(({ method, url, body }) => {
    const { pathname } = url;
    if (pathname.endsWith('/acceptance')) {
      if (isRefusing) return refused(409, 'project-gone', 'The project is put away.');
      if (method === 'PUT') profile = JSON.parse(body) as Profile;
      return {
        profile,
        found: {
          containers: ['mov', 'mxf'],
          codecs: ['prores', 'h264'],
          chroma: ['4:2:0', '4:2:2'],
          bitDepths: [8, 10],
          rates: [
            { num: 25, den: 1 },
            { num: 50, den: 1 },
          ],
        },
        refused: profile.codecs.length === 0 ? 0 : 3,
      } satisfies ProjectAcceptance;
    }
    if (pathname === '/api/folders') return { path: '/bay', parent: null, folders: [] };
    if (pathname.endsWith('/accepted-copies'))
      return isRefusing ? refused(422, 'no-room', 'There is no room.') : jobs[0];
    return pathname === '/api/jobs' ? jobs : [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const sent = (method: string) =>
  server.asked.filter((a) => a.method === method).map((a) => JSON.parse(a.body) as unknown);

describe('what a project accepts', () => {
  const show = () =>
    showPage('/projects/:projectId/ledger', <AcceptancePanel projectId={uuid(1)} onClose={() => undefined} />);
  const only = () => screen.getByRole('button', { name: 'Accept only this' }) as HTMLButtonElement;

  test('is chosen from what its media are, is in force when that is said, and tells how many it refuses', async () => {
    show();
    expect(await screen.findByText('No clip is refused by this.')).toBeTruthy();
    expect(only().disabled).toBe(true);
    await userEvent.click(screen.getByRole('checkbox', { name: 'prores' }));
    await userEvent.click(screen.getByRole('checkbox', { name: '25' }));
    await userEvent.selectOptions(screen.getByLabelText('largest depth'), '10');
    await userEvent.selectOptions(screen.getByLabelText('largest raster'), '1920x1080');
    expect(sent('PUT')).toEqual([]);
    await userEvent.click(only());
    await waitFor(() =>
      expect(sent('PUT')).toEqual([
        {
          ...acceptsAll,
          codecs: ['prores'],
          rates: [{ num: 25, den: 1 }],
          largestBitDepth: 10,
          largestRaster: { width: 1920, height: 1080 },
        },
      ]),
    );
    expect(await screen.findByText('3 clips are refused by what is set now.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Accept everything' }));
    await waitFor(() => expect(sent('PUT').at(-1)).toEqual(acceptsAll));
    expect((screen.getByRole('checkbox', { name: 'prores' }) as HTMLInputElement).checked).toBe(false);
  });

  test('a kind that is accepted and is not here stays to be chosen', async () => {
    profile = { ...(acceptsAll as Profile), codecs: ['dnxhd'] };
    show();
    const box = (await screen.findByRole('checkbox', { name: 'dnxhd' })) as HTMLInputElement;
    expect(box.checked).toBe(true);
    await userEvent.click(box);
    await userEvent.click(only());
    await waitFor(() => expect(sent('PUT')).toEqual([acceptsAll]));
  });

  test('what cannot be read or kept says why', async () => {
    isRefusing = true;
    show();
    expect((await screen.findByRole('alert')).textContent).toContain('The project is put away.');
  });
});

describe('an accepted copy', () => {
  const copying = (more: Partial<Job>) => ({ ...jobOf('accepted-copy'), payload: { copyId: uuid(3) }, ...more });
  const show = () =>
    showPage(
      '/projects/:projectId/ledger',
      <AcceptedCopy projectId={uuid(1)} weighed={weighedFile(11)} onClose={() => undefined} />,
    );
  const make = async () => {
    await userEvent.click(await screen.findByRole('radio', { name: /FFV1/ }));
    const button = screen.getByRole('button', { name: 'Make it here' }) as HTMLButtonElement;
    await waitFor(() => expect(button.disabled).toBe(false));
    await userEvent.click(button);
  };

  test('is made in a chosen folder and form, and says when it is proven', async () => {
    jobs = [copying({ state: 'done' })];
    show();
    await make();
    await waitFor(() => expect(sent('POST')).toEqual([{ mediaFileId: uuid(11), targetFolder: '/bay', codec: 'ffv1' }]));
    expect((await screen.findByText('Made, proven, and linked.')).getAttribute('role')).toBe('status');
  });

  test('that failed says why; one that could not begin, too', async () => {
    jobs = [
      copying({ state: 'failed', problem: { code: 'place-away', place: 'KILN_B', path: null, for: 'use' } as never }),
    ];
    show();
    await make();
    expect((await screen.findByRole('alert')).textContent).toContain('KILN_B');
    cleanup();
    isRefusing = true;
    show();
    await make();
    expect((await screen.findByRole('alert')).textContent).toContain('There is no room.');
  });
});
