import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { act, cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { standardPreferences, type Preferences, type Settings } from '@legame/core/contract';
import { speakAs, timecode, when } from '@legame/words/numbers';
import { goAs, openPreferences } from '../session/preferences.ts';
import { showPage } from '../testing/page.tsx';
import { refused, standInServer } from '../testing/server.ts';
import { Preferences as Box } from './onDemand.tsx';
import { makeStore } from './store.ts';
import { prefer, usePreferences } from './usePreferences.ts';

let kept: Record<string, Preferences>;
let settings: Settings;
let isDown: boolean;
/** How long the next answers to what is kept take, in milliseconds. */
let slow: number[];
let server: ReturnType<typeof standInServer>;
beforeEach(() => {
  localStorage.clear();
  kept = { Ada: { ...standardPreferences, theme: 'lamp', handlesInFrames: 12 } };
  settings = { headroomPercent: 20, cacheLimitInMB: null };
  [isDown, slow] = [false, []];
  server = standInServer(async ({ method, url, body }) => {
    const ms = method === 'PUT' ? slow.shift() : undefined;
    if (ms !== undefined) await new Promise((resolve) => setTimeout(resolve, ms));
    if (isDown && method === 'PUT') return refused(500, 'internal', 'The database does not answer.');
    const person = /people\/([^/]+)\/preferences$/.exec(url.pathname)?.[1];
    if (person) {
      if (method === 'PUT') kept[decodeURIComponent(person)] = JSON.parse(body) as Preferences;
      return kept[decodeURIComponent(person)] ?? standardPreferences;
    }
    if (url.pathname.endsWith('/people')) return Object.keys(kept);
    if (method === 'PUT') settings = JSON.parse(body) as Settings;
    return settings;
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
  speakAs(standardPreferences);
});

function Shown() {
  const mine = usePreferences();
  return (
    <>
      <p>theme {mine.theme}</p>
      <Box />
    </>
  );
}
async function show() {
  const { store } = showPage('/', <Shown />);
  act(() => void store.dispatch(openPreferences(true)));
  await screen.findByRole('dialog', { hidden: true });
  return store;
}
const box = () => within(screen.getByRole('dialog', { hidden: true }));
const choose = (label: string, text: string) =>
  userEvent.selectOptions(box().getByLabelText(label), box().getByRole('option', { name: text, hidden: true }));

test('what is chosen is so at once, is kept under the name, and is found again in another browser', async () => {
  await show();
  await userEvent.type(await box().findByLabelText('name of somebody else'), 'Eve{Enter}');
  await choose('theme', 'lamp, by night');
  await waitFor(() => expect(screen.getByText('theme lamp')).toBeTruthy());
  await waitFor(() => expect(kept.Eve?.theme).toBe('lamp'));
  expect(kept.Ada).toMatchObject({ handlesInFrames: 12 });
  cleanup();
  localStorage.clear();
  localStorage.setItem('legame.person', 'Eve');
  await show();
  await waitFor(() => expect(screen.getByText('theme lamp')).toBeTruthy());
});

test('another person has their own, and nothing of the one before is written to them', async () => {
  const store = await show();
  await screen.findByRole('option', { name: 'Ada', hidden: true });
  await userEvent.selectOptions(box().getByLabelText('whose preferences'), 'Ada');
  await waitFor(() => expect(store.getState().preferences.mine).toMatchObject({ theme: 'lamp', handlesInFrames: 12 }));
  expect(server.asked.filter((a) => a.method === 'PUT')).toEqual([]);
});

test('what is changed before it is known what somebody likes leaves the rest of theirs as it is', async () => {
  const store = await show();
  act(() => void store.dispatch(goAs('Ada')));
  await act(async () => void (await store.dispatch(prefer({ density: 'close' }))));
  expect(kept.Ada).toEqual({ ...standardPreferences, theme: 'lamp', handlesInFrames: 12, density: 'close' });
});

test('what is changed quickly is kept as it was chosen last, however long each answer takes', async () => {
  const store = await show();
  await waitFor(() => expect(store.getState().preferences.of).toBe('anybody'));
  slow = [60, 30, 0];
  await act(async () => {
    await Promise.all([12, 3, 36].map((n) => store.dispatch(prefer({ handlesInFrames: n }))));
  });
  expect(kept.anybody?.handlesInFrames).toBe(36);
  expect(store.getState().preferences.mine.handlesInFrames).toBe(36);
});

test('what cannot be kept is said', async () => {
  await show();
  isDown = true;
  await choose('rows', 'close');
  expect((await box().findByRole('alert', { hidden: true })).textContent).toContain('The database does not answer.');
});

test('what is so for everybody is changed only when that is said', async () => {
  await show();
  const all = within(await screen.findByRole('region', { name: 'for everybody', hidden: true }));
  const percent = all.getByLabelText('percent of every drive are kept free');
  await userEvent.clear(percent);
  await userEvent.type(percent, '35');
  expect(settings.headroomPercent).toBe(20);
  await userEvent.click(all.getByRole('button', { name: 'Leave it as it was', hidden: true }));
  expect((percent as HTMLInputElement).value).toBe('20');
  await userEvent.click(all.getByLabelText('Its own limit'));
  await userEvent.click(all.getByRole('button', { name: 'Say so for everybody', hidden: true }));
  await waitFor(() => expect(settings).toEqual({ headroomPercent: 20, cacheLimitInMB: 2000 }));
});

test('dates and timecode are told as whoever works here likes them, and what a browser kept wrongly is forgotten', () => {
  const at = new Date(2026, 10, 7, 9, 5).toISOString();
  const ntsc = { num: 30_000, den: 1001 };
  localStorage.setItem('legame.preferences', JSON.stringify({ dates: 'day-first', dropFrame: 'period' }));
  makeStore();
  expect(when(at)).toBe('07.11.2026 09:05');
  expect(timecode(1800, ntsc, 'drop')).toBe('00:01:00.02');
  localStorage.setItem('legame.preferences', JSON.stringify({ dates: 'year-first' }));
  makeStore();
  expect(when(at)).toBe('2026-11-07 09:05');
  for (const broken of ['{', '[]', '{"dates":"never"}']) {
    localStorage.setItem('legame.preferences', broken);
    makeStore();
    expect(timecode(1800, ntsc, 'drop')).toBe('00:01:00;02');
  }
});
