import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { makeRouter } from './app/router.tsx';
import { makeStore } from './app/store.ts';
import './app/theme.css';

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={makeStore()}>
      <RouterProvider router={makeRouter()} />
    </Provider>
  </StrictMode>,
);
