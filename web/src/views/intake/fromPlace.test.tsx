import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { DocumentView } from '@legame/core/contract';
import { documentOf } from '../../testing/document.ts';
import { jobOf } from '../../testing/job.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { placeOf } from '../../testing/place.ts';
import { refused, standInServer } from '../../testing/server.ts';
import { FromPlace } from './FromPlace.tsx';

const rates = [
  { rate: { num: 24, den: 1 }, reason: { code: 'common' } },
  { rate: { num: 25, den: 1 }, reason: { code: 'common' } },
];
let server: ReturnType<typeof standInServer>;
let broughtIn: string[];
let needsRate: boolean;
let waits: Promise<void> | null;
beforeEach(() => {
  [broughtIn, needsRate, waits] = [[], false, null];
  server = standInServer(async ({ method, url, body }) => {
    const { pathname, searchParams } = url;
    if (pathname === '/api/places') return [placeOf(90, 'OUT', { there: false }), placeOf(91, 'KILN_B')];
    if (pathname.endsWith('/from-place')) {
      const asked = JSON.parse(body) as { path: string; reading: { rate?: unknown } };
      if (!needsRate || asked.reading.rate) return documentOf(50, asked.path.split('/').at(-1)!);
      return refused(422, 'rate-needed', 'No rate is stated.', { proposals: rates });
    }
    if (pathname === '/api/bundles/unpack') return { ...jobOf('unpack-bundle'), payload: { unpackingId: uuid(5) } };
    if (pathname === '/api/folders')
      return { path: '/bay', parent: null, folders: [{ name: 'KILN_B', path: '/bay/KILN_B' }] };
    if (method === 'GET' && pathname.endsWith('/documents')) {
      const folder = searchParams.get('folder') ?? '';
      await waits;
      return folder === ''
        ? { folder, folders: ['cuts'], documents: [] }
        : {
            folder,
            folders: folder === 'cuts' ? ['cuts'] : [],
            documents: [
              { name: 'cut.edl', sizeInBytes: 1200, isBundleFolder: false },
              { name: 'all.otioz', sizeInBytes: 5_000_000, isBundleFolder: false },
              { name: 'set.otiod', sizeInBytes: 0, isBundleFolder: true },
            ],
          };
    }
    return [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = async (documents: DocumentView[] = []) => {
  showPage(
    '/projects/:projectId/intake',
    <FromPlace
      projectId={uuid(1)}
      documents={documents}
      onBroughtIn={(id) => broughtIn.push(id)}
      onClose={() => undefined}
    />,
  );
  await userEvent.click(await screen.findByRole('button', { name: 'cuts' }));
  return within(await screen.findByRole('list', { name: 'documents in the place' }));
};
const sent = () =>
  server.asked.filter((a) => a.url.pathname.endsWith('/from-place')).map((a) => JSON.parse(a.body) as object);

describe('a document that lies in a place', () => {
  test('is found folder by folder in a place that is there, and comes in where it lies', async () => {
    const list = await show();
    await userEvent.click(await list.findByTitle('Bring in cut.edl'));
    await waitFor(() => expect(broughtIn).toEqual([uuid(50)]));
    expect(sent()).toEqual([{ placeId: uuid(91), path: 'cuts/cut.edl', reading: {} }]);
    expect(screen.queryByRole('option', { name: 'OUT' })).toBeNull();
  });

  test('a double click on a folder does not enter one of its name in it', async () => {
    let give!: () => void;
    showPage(
      '/projects/:projectId/intake',
      <FromPlace projectId={uuid(1)} documents={[]} onBroughtIn={() => undefined} onClose={() => undefined} />,
    );
    const folder = await screen.findByRole('button', { name: 'cuts' });
    waits = new Promise((resolve) => (give = resolve));
    await userEvent.dblClick(folder);
    give();
    expect(await screen.findByTitle('Bring in cut.edl')).toBeTruthy();
    expect(server.asked.map((a) => a.url.searchParams.get('folder'))).not.toContain('cuts/cuts');
  });

  test('without a rate it asks, with what speaks for each; the document is the one that was asked about', async () => {
    needsRate = true;
    const list = await show();
    await userEvent.click(await list.findByTitle('Bring in cut.edl'));
    const rate = (await screen.findByLabelText('frame rate of cuts/cut.edl')) as HTMLSelectElement;
    expect(rate.value).toBe('24/1');
    await userEvent.selectOptions(rate, '25/1');
    await userEvent.click(screen.getByRole('button', { name: 'Bring in at this rate' }));
    await waitFor(() => expect(broughtIn).toEqual([uuid(50)]));
    expect(sent().at(-1)).toEqual({ placeId: uuid(91), path: 'cuts/cut.edl', reading: { rate: { num: 25, den: 1 } } });
  });

  test('a zipped bundle can be unpacked into a folder that is chosen', async () => {
    const list = await show();
    await userEvent.click(await list.findByRole('button', { name: 'Unpack…' }));
    await userEvent.click(await screen.findByRole('button', { name: 'KILN_B' }));
    await userEvent.click(screen.getByRole('button', { name: 'Unpack here' }));
    expect((await screen.findByRole('status')).textContent).toContain('see the jobs above');
    expect(JSON.parse(server.asked.find((a) => a.url.pathname === '/api/bundles/unpack')!.body)).toEqual({
      placeId: uuid(91),
      path: 'cuts/all.otioz',
      targetFolder: '/bay/KILN_B',
    });
  });
});

describe('one of a name that is here already', () => {
  const here = [
    documentOf(7, 'cut.edl', { title: 'Monday' }),
    documentOf(8, 'cut.edl', { title: 'Trailer' }),
    documentOf(9, 'x.edl'),
  ];

  test('takes the place of none until somebody says of which', async () => {
    const list = await show(here);
    await userEvent.click(await list.findByTitle('Bring in cut.edl'));
    const asks = within(await screen.findByRole('group', { name: 'same name' }));
    expect(sent()).toEqual([]);
    expect(asks.getAllByRole('button').map((b) => b.textContent?.replace(/,.*/, ''))).toEqual([
      'Newer version of “Monday”',
      'Newer version of “Trailer”',
      'Another document',
      'Leave it',
    ]);
    await userEvent.click(asks.getByRole('button', { name: /Trailer/ }));
    await waitFor(() =>
      expect(sent()).toEqual([{ placeId: uuid(91), path: 'cuts/cut.edl', reading: {}, replaces: uuid(8) }]),
    );
  });

  test('comes in beside it, or is left', async () => {
    const list = await show(here);
    await userEvent.click(await list.findByTitle('Bring in cut.edl'));
    await userEvent.click(await screen.findByRole('button', { name: 'Leave it' }));
    expect(screen.queryByRole('group', { name: 'same name' })).toBeNull();
    expect(sent()).toEqual([]);
    await userEvent.click(await list.findByTitle('Bring in cut.edl'));
    await userEvent.click(await screen.findByRole('button', { name: 'Another document' }));
    await waitFor(() =>
      expect(sent()).toEqual([{ placeId: uuid(91), path: 'cuts/cut.edl', reading: {}, beside: true }]),
    );
  });

  test('what it is, is remembered over the question of its rate', async () => {
    needsRate = true;
    const list = await show(here);
    await userEvent.click(await list.findByTitle('Bring in cut.edl'));
    await userEvent.click(await screen.findByRole('button', { name: /Monday/ }));
    await userEvent.click(await screen.findByRole('button', { name: 'Bring in at this rate' }));
    await waitFor(() => expect(broughtIn).toEqual([uuid(50)]));
    expect(sent().at(-1)).toMatchObject({ replaces: uuid(7), reading: { rate: { num: 24, den: 1 } } });
  });
});
