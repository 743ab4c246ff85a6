import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { NewerDocument, Watched, WouldChange } from '@legame/core/contract';
import type { DocumentId, PlaceId } from '@legame/core/model';
import { documentOf } from '../../testing/document.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { placeOf } from '../../testing/place.ts';
import { standInServer } from '../../testing/server.ts';
import { WatchedFolder } from './WatchedFolder.tsx';

const placeId = uuid(20) as PlaceId;
const newer: NewerDocument = {
  path: 'from the editor/cut 8.edl',
  name: 'cut 8.edl',
  sizeInBytes: 1000,
  modifiedAt: '2026-11-27T08:00:00.000Z',
  replaces: { id: uuid(5) as DocumentId, name: 'cut 7.edl' },
};
const would: WouldChange = {
  timelines: [{ name: 'cut', only: null, unchanged: 40, added: 2, removed: 1, moved: 0, trimmed: 3, reSourced: 0 }],
  kept: 38,
  fresh: 2,
  gone: 1,
};

let watched: Watched;
let server: ReturnType<typeof standInServer>;
let shown: string[];
const sent = (path: string) =>
  server.asked
    .filter((one) => one.method !== 'GET' && one.url.pathname.endsWith(path))
    .map((one) => JSON.parse(one.body) as object);
const region = () => screen.findByRole('region', { name: 'watched folder' });

beforeEach(() => {
  watched = {
    folder: { placeId, placeName: 'BAY', folder: 'from the editor' },
    isThere: true,
    documents: 3,
    newer: [newer],
  };
  shown = [];
  server = standInServer(({ method, url }) => {
    if (url.pathname.endsWith('/places')) return [placeOf(20, 'BAY')];
    if (url.pathname.endsWith('/changes')) return would;
    if (url.pathname.endsWith('/from-place')) return documentOf(5, 'cut 8.edl');
    if (method === 'PUT') watched = { ...watched, folder: null, newer: [] };
    return watched;
  });
  showPage('/projects/:projectId/intake', <WatchedFolder projectId={uuid(1)} onBroughtIn={(id) => shown.push(id)} />);
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

test('a newer version says what it would change, and comes in by one click', async () => {
  const card = await screen.findByRole('article', { name: 'newer: cut 8.edl' });
  expect(card.textContent).toMatch(/newer than cut 7\.edl/);
  await within(card).findByText(
    '2 events added, 1 removed, 3 trimmed. 38 clips keep their links and decisions, 2 are new, 1 is used no more.',
  );
  await userEvent.click(within(card).getByRole('button', { name: 'Bring it in' }));
  await waitFor(() => expect(shown).toEqual([uuid(5)]));
  expect(sent('/from-place')).toEqual([{ placeId, path: newer.path, reading: {}, replaces: uuid(5) }]);
});

test('what is not wanted is passed over', async () => {
  await userEvent.click(await screen.findByRole('button', { name: 'Not this one' }));
  await waitFor(() => expect(sent('/pass-over')).toEqual([{ path: newer.path }]));
});

test('a folder is chosen by place and name, and let go again', async () => {
  const at = await region();
  expect(at.textContent).toMatch(/BAY\/from the editor is watched for newer versions: 3 documents there, 1 newer/);
  await userEvent.click(within(at).getByRole('button', { name: 'Watch no more' }));
  await waitFor(() => expect(at.textContent).toMatch(/No folder is watched/));
  await userEvent.click(within(at).getByRole('button', { name: 'Watch a folder…' }));
  await within(at).findByLabelText('place of the watched folder');
  within(at).getByLabelText('folder in it').focus();
  await userEvent.keyboard('cuts');
  await userEvent.click(within(at).getByRole('button', { name: 'Watch it' }));
  await waitFor(() => expect(sent('/watched')).toEqual([{ folder: null }, { folder: { placeId, folder: 'cuts' } }]));
});
