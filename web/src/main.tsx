import './app/schemas.ts';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { hearChanges } from './app/changes.ts';
import { makeRouter } from './app/router.tsx';
import { makeStore } from './app/store.ts';
import './app/theme.css';

const store = makeStore();
// Before anything is drawn, and so before anything is asked.
hearChanges(store);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={makeRouter()} />
    </Provider>
  </StrictMode>,
);
