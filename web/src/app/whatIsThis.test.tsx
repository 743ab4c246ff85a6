import { afterEach, expect, jest, test } from '@jest/globals';
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { askWhatThisIs } from '../session/look.ts';
import { showPage } from '../testing/page.tsx';
import { Asking } from './onDemand.tsx';

afterEach(cleanup);
const pressed = jest.fn();
async function show() {
  pressed.mockReset();
  const { store } = showPage(
    '/',
    <>
      <button type="button" title="Leaves them for later" onClick={pressed}>
        Park these
      </button>
      <table>
        <tbody>
          <tr>
            <td>Short</td>
            <td>a short story</td>
          </tr>
        </tbody>
      </table>
      <Asking />
    </>,
  );
  act(() => void store.dispatch(askWhatThisIs(true)));
  await screen.findByRole('region', { name: 'what this is' });
  return store;
}
const told = () => screen.getByRole('region', { name: 'what this is' }).textContent;

test('a word that is pointed at is told, with what its button does; and nothing is pressed', async () => {
  const store = await show();
  const park = screen.getByRole('button', { name: 'Park these' });
  fireEvent.pointerMove(park);
  expect(told()).toMatch(/park: leave a clip for later.*Leaves them for later/);
  await userEvent.click(park);
  expect(pressed).not.toHaveBeenCalled();
  // It went to the help of that word.
  expect(store.getState().look).toMatchObject({ isAsking: false, help: 'park' });
  await userEvent.click(park);
  expect(pressed).toHaveBeenCalledTimes(1);
});

test('a status is told where it is one, and words around it are not', async () => {
  await show();
  fireEvent.pointerMove(screen.getByText('Short'));
  expect(told()).toMatch(/Short: status: the right file/);
  cleanup();
  await show();
  fireEvent.pointerMove(screen.getByText('a short story'));
  // The row it stands in speaks of the status; it itself does not.
  expect(told()).not.toMatch(/^short/);
});

test('by the keys alone: Tab goes on and tells, other keys do nothing, Escape ends it', async () => {
  const store = await show();
  await userEvent.tab();
  await waitFor(() => expect(told()).toMatch(/^park: /));
  await userEvent.keyboard('{Enter}');
  expect(pressed).not.toHaveBeenCalled();
  // To load the page anew is the browser's own.
  expect(fireEvent.keyDown(document.body, { key: 'F5' })).toBe(true);
  expect(fireEvent.keyDown(document.body, { key: 'r', ctrlKey: true })).toBe(true);
  expect(fireEvent.keyDown(document.body, { key: 'k' })).toBe(false);
  await userEvent.keyboard('{Escape}');
  expect(store.getState().look.isAsking).toBe(false);
  expect(screen.queryByRole('region', { name: 'what this is' })).toBeNull();
});

test('its own button ends it, by the pointer and by Enter', async () => {
  const store = await show();
  await userEvent.click(screen.getByRole('button', { name: /^Done/ }));
  expect(store.getState().look.isAsking).toBe(false);
  act(() => void store.dispatch(askWhatThisIs(true)));
  screen.getByRole('button', { name: /^Done/ }).focus();
  await userEvent.keyboard('{Enter}');
  expect(store.getState().look.isAsking).toBe(false);
});
