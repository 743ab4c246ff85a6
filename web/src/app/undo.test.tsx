import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { act, cleanup, render, waitFor } from '@testing-library/react';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { api } from '../api/legame.ts';
import { runCommand, whyNot } from '../commands/useCommand.ts';
import { uuid } from '../testing/page.tsx';
import { projectOf } from '../testing/project.ts';
import { standInServer } from '../testing/server.ts';
import { makeStore, type Store } from './store.ts';
import { useGlobalCommands } from './useGlobalCommands.ts';

/** A server that has a history, and answers when it is let. */
const projectId = uuid(1);
let done: number[];
let undone: number[];
let slow: Promise<unknown>;
let server: ReturnType<typeof standInServer>;
let store: Store;
const actOf = (id: number) => ({ id, verb: 'park', count: 1, madeAt: '2026-11-27T10:00:00.000Z', skipped: [] });

beforeEach(async () => {
  [done, undone, slow] = [[1, 2], [], Promise.resolve()];
  server = standInServer(async ({ method, url, body }) => {
    if (method === 'GET') {
      // What is told is what was so when it was asked.
      const lastAct = done.length === 0 ? null : actOf(done.at(-1)!);
      await slow;
      return { ...projectOf(), lastAct, redoable: undone.length === 0 ? null : actOf(undone.at(-1)!) };
    }
    if (url.pathname.endsWith('/undo')) {
      const meant = (JSON.parse(body) as { act: number }).act;
      undone.push(meant);
      if (meant !== done.at(-1)) return Response.json({ code: 'undo-overtaken', detail: '' }, { status: 409 });
      return actOf(done.pop()!);
    }
    if (url.pathname.endsWith('/redo')) {
      done.push(undone.pop()!);
      return actOf(done.at(-1)!);
    }
    await slow;
    done.push(done.length + 1);
    return actOf(done.at(-1)!);
  });
  store = makeStore();
  const router = createMemoryRouter([{ path: '*', element: <Commands /> }]);
  render(
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>,
  );
  await waitFor(() => expect(whyNot('undo')).toBeNull());
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

function Commands() {
  useGlobalCommands(projectId, () => undefined);
  return null;
}
const park = () =>
  store.dispatch(api.endpoints.setAside.initiate({ projectId, clipIds: [uuid(2)], as: 'parked', reason: '' }));
const press = (id: 'undo' | 'redo') => act(async () => void (await Promise.resolve(runCommand(id))));
const held = () => {
  let letGo: () => void = () => undefined;
  slow = new Promise<void>((resolve) => (letGo = resolve));
  return () => act(async () => void (await Promise.resolve(letGo())));
};

test('pressed while an act is on its way, Undo takes that one back, and not the one before', async () => {
  const letGo = held();
  void park();
  await press('undo');
  expect(undone).toEqual([]);
  await letGo();
  await waitFor(() => expect(undone).toEqual([3]));
});

test('pressed when the act is done, and the page does not know it yet, Undo takes that one back', async () => {
  await act(async () => void (await park()));
  const letGo = held();
  act(() => void store.dispatch(api.util.invalidateTags(['Project'])));
  // Somebody else's act, of which the page hears only now.
  done.push(4);
  await press('undo');
  await letGo();
  await waitFor(() => expect(undone).toEqual([4]));
});

test('pressed three times in a row, three acts are taken back; and each comes again', async () => {
  await act(async () => void (await park()));
  for (let i = 0; i < 3; i += 1) await press('undo');
  await waitFor(() => expect(undone).toEqual([3, 2, 1]));
  await waitFor(() => expect(whyNot('undo')).toBe('There is nothing to undo.'));
  await press('redo');
  await press('redo');
  await waitFor(() => expect(done).toEqual([1, 2]));
});
