import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { makeStore } from '../app/store.ts';

export const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** Shows a screen as it stands in a project, with everything around it that it needs. Other addresses are told, not drawn. */
export function showPage(
  path: string,
  element: ReactNode,
  at = path.replace(':projectId', uuid(1)),
  state: object | null = null,
) {
  const store = makeStore();
  const router = createMemoryRouter(
    [
      { path, element },
      { path: '*', element: <p>somewhere else</p> },
    ],
    {
      initialEntries: [{ pathname: at.split('?')[0]!, search: at.includes('?') ? `?${at.split('?')[1]}` : '', state }],
    },
  );
  render(
    <Provider store={store}>
      <RouterProvider router={router} />
      <Toaster />
    </Provider>,
  );
  return { store, router };
}
