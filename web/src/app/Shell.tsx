import { useEffect, useLayoutEffect } from 'react';
import { Outlet } from 'react-router';
import { Toaster } from 'sonner';
import { Preferences } from './onDemand.tsx';
import { usePreferences } from './usePreferences.ts';

/** What every screen stands in: the theme, and notices. */
export function Shell() {
  const { theme, areKeysShown, dates, dropFrame } = usePreferences();
  // Before anything is drawn: canvases read the colours of the theme.
  useLayoutEffect(() => {
    document.documentElement.dataset.theme = theme;
    document.documentElement.dataset.keys = areKeysShown ? 'on' : 'off';
  }, [theme, areKeysShown]);
  useEffect(() => {
    // A file that is dropped beside what takes files would be opened in place of the page, and all that is in hand lost.
    const stay = (event: DragEvent) => event.preventDefault();
    window.addEventListener('dragover', stay);
    window.addEventListener('drop', stay);
    return () => {
      window.removeEventListener('dragover', stay);
      window.removeEventListener('drop', stay);
    };
  }, []);
  return (
    <>
      {/* Every word that tells time is told anew. */}
      <Outlet key={`${dates} ${dropFrame}`} />
      <Preferences />
      <Toaster theme={theme === 'paper' ? 'light' : 'dark'} position="bottom-center" offset={40} />
    </>
  );
}
