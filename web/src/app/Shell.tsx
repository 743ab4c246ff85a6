import { useEffect } from 'react';
import { Outlet } from 'react-router';
import { useAppSelector } from './store.ts';
import { useChanges } from './useChanges.ts';

/** What every screen stands in: the theme and the event stream. */
export function Shell() {
  const theme = useAppSelector((state) => state.look.theme);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  useChanges();
  return <Outlet />;
}
