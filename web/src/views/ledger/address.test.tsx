import { afterEach, expect, test } from '@jest/globals';
import { act, cleanup, render, screen } from '@testing-library/react';
import { setTimeout as after } from 'node:timers/promises';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { makeStore } from '../../app/store.ts';
import { pick } from '../../session/selection.ts';
import { useAddress } from './useAddress.ts';

const clip = '00000000-0000-4000-8000-000000000001';
const longerThanItSettles = 400;

function Here() {
  useAddress();
  return <p>the ledger</p>;
}

/** A screen with an address, and another that takes its time to come. */
function open() {
  let arrive = () => {};
  const arrives = new Promise<void>((resolve) => (arrive = resolve));
  const there = {
    path: '/bins',
    lazy: async () => {
      await arrives;
      return { Component: () => <p>the bins</p> };
    },
  };
  const router = createMemoryRouter([{ path: '/ledger', element: <Here /> }, there], { initialEntries: ['/ledger'] });
  const store = makeStore();
  render(
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>,
  );
  return { router, store, arrive };
}
afterEach(cleanup);

test('what is chosen comes to stand in the address', async () => {
  const { router, store } = open();
  act(() => void store.dispatch(pick(clip)));
  await act(() => after(longerThanItSettles));
  expect(router.state.location.search).toContain(clip);
});

test('whoever leaves right after a choice is not called back while the other screen is fetched', async () => {
  const { router, store, arrive } = open();
  act(() => void store.dispatch(pick(clip)));
  // All in one: nothing is drawn anew before the choice has settled.
  await act(async () => {
    void router.navigate('/bins');
    await after(longerThanItSettles);
  });
  await act(async () => {
    arrive();
    await after(10);
  });
  expect(router.state.location.pathname).toBe('/bins');
  expect(screen.getByText('the bins')).toBeTruthy();
});
