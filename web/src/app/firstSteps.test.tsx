import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PlaceView } from '@legame/core/contract';
import { api } from '../api/legame.ts';
import { documentOf } from '../testing/document.ts';
import { showPage, uuid } from '../testing/page.tsx';
import { placeOf } from '../testing/place.ts';
import { standInServer } from '../testing/server.ts';
import { FirstSteps } from './FirstSteps.tsx';

let documents: unknown[];
let places: PlaceView[];
let server: ReturnType<typeof standInServer>;
beforeEach(() => {
  localStorage.clear();
  [documents, places] = [[], []];
  server = standInServer(({ url }) => (url.pathname.endsWith('/places') ? places : documents));
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = (screenName = 'intake') =>
  showPage(`/projects/:projectId/${screenName}`, <FirstSteps projectId={uuid(1)} />);
const current = () => screen.getAllByRole('listitem').find((li) => li.getAttribute('aria-current'))?.textContent;

test('lead from the project to its timeline, then to a place, and end there', async () => {
  const { store } = show();
  await waitFor(() => expect(current()).toBe('2 Timeline'));
  expect(screen.getByText(/drop the files here/)).toBeTruthy();
  expect(screen.queryByRole('link')).toBeNull();
  documents = [documentOf(5, 'cut 7.edl')];
  act(() => void store.dispatch(api.util.invalidateTags(['Documents', 'Project'])));
  await waitFor(() => expect(current()).toBe('3 Place'));
  expect(screen.getByRole('link').getAttribute('href')).toBe(`/projects/${uuid(1)}/places`);
  places = [placeOf(20, 'BAY')];
  act(() => void store.dispatch(api.util.invalidateTags(['Places'])));
  await waitFor(() => expect(screen.queryByRole('region', { name: 'first steps' })).toBeNull());
});

test('on another screen they lead there; where a place is known already, only the timeline is asked for', async () => {
  places = [placeOf(20, 'BAY')];
  show('ledger');
  await waitFor(() => expect(current()).toBe('2 Timeline'));
  expect(screen.getByRole('link', { name: 'Go there' })).toBeTruthy();
  expect(screen.getAllByLabelText('done')).toHaveLength(2);
});

test('can be left, and stay away for this project', async () => {
  show();
  await userEvent.click(await screen.findByRole('button', { name: 'Leave it' }));
  expect(screen.queryByRole('region', { name: 'first steps' })).toBeNull();
  cleanup();
  show();
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(screen.queryByRole('region', { name: 'first steps' })).toBeNull();
});
