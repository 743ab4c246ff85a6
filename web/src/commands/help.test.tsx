import { afterEach, expect, test } from '@jest/globals';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { WayRound } from '../app/onDemand.tsx';
import { makeStore } from '../app/store.ts';
import { goOnTour } from '../session/look.ts';
import { Help } from './Help.tsx';

afterEach(cleanup);

const open = (of: string | undefined, asked = '') => {
  const done: string[] = [];
  const note = (what: string) => () => void done.push(what);
  render(
    <Help
      screen={of}
      asked={asked}
      onKeys={note('keys')}
      onTour={note('tour')}
      onAsk={note('ask')}
      onClose={note('close')}
    />,
  );
  return done;
};
const said = () => screen.getByRole('region', { name: 'what help says', hidden: true });
const summaries = () => [...said().querySelectorAll('summary')].map((one) => one.querySelector('b')!.textContent);

test('the screen at hand comes first, and is open; the others wait', () => {
  open('cut');
  expect(summaries()[0]).toBe('Cut.');
  expect(summaries()).toHaveLength(13);
  expect([...said().querySelectorAll('details')].map((one) => one.open).filter(Boolean)).toHaveLength(1);
});

test('one field looks through screens and words; what nothing speaks of is said', async () => {
  open('cut');
  const field = screen.getByLabelText('look for help');
  await userEvent.type(field, 'waive');
  expect(summaries()).toEqual(['Ledger.']);
  expect([...said().querySelectorAll('dt')].map((one) => one.textContent)).toEqual(['waive']);
  await userEvent.clear(field);
  await userEvent.type(field, 'zebra crossing');
  expect(said().textContent).toBe('Nothing in the help speaks of “zebra crossing”. Try fewer words, or another one.');
});

test('who comes from elsewhere with a word finds it; keys and the way round are one click away', async () => {
  const done = open(undefined, 'pin');
  expect(said().querySelector('dt')!.textContent).toBe('pin');
  await userEvent.click(screen.getByRole('button', { name: 'Keys', hidden: true }));
  await userEvent.click(screen.getByRole('button', { name: 'Show me around', hidden: true }));
  expect(done).toEqual(['keys', 'tour']);
});

test('the way round goes forth and back over its screens, and is left at any time', async () => {
  const store = makeStore();
  const router = createMemoryRouter([{ path: '*', element: <WayRound projectId="p" /> }], {
    initialEntries: ['/projects/p/causes'],
  });
  render(
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>,
  );
  expect(screen.queryByRole('region', { name: 'the way round' })).toBeNull();
  act(() => void store.dispatch(goOnTour(0)));
  const step = await screen.findByRole('region', { name: 'the way round' });
  const click = (name: string) => userEvent.click(within(step).getByRole('button', { name }));
  const seen: string[] = [];
  for (let i = 0; i < 4; i += 1) {
    await click('Next');
    seen.push(router.state.location.pathname.split('/').at(-1)!);
  }
  expect(seen).toEqual(['ledger', 'cut', 'pulls', 'handoff']);
  await click('Back');
  expect(step.textContent).toMatch(/^4 of 5/);
  await click('Leave it');
  expect(screen.queryByRole('region', { name: 'the way round' })).toBeNull();
});
