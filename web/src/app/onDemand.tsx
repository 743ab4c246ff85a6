import { lazy, Suspense } from 'react';
import { useAppSelector } from './store.ts';

/** What is asked for seldom is fetched when it is asked for, so that the first screen comes quickly. */
const Box = lazy(async () => ({ default: (await import('./PreferencesBox.tsx')).PreferencesBox }));
const Telling = lazy(async () => ({ default: (await import('./WhatIsThis.tsx')).WhatIsThis }));
const Step = lazy(async () => ({ default: (await import('./Tour.tsx')).Tour }));

export function Preferences() {
  const isOpen = useAppSelector((state) => state.preferences.isOpen);
  return <Suspense fallback={null}>{isOpen && <Box />}</Suspense>;
}

export function Asking() {
  const isAsking = useAppSelector((state) => state.look.isAsking);
  return <Suspense fallback={null}>{isAsking && <Telling />}</Suspense>;
}

export function WayRound({ projectId }: { projectId: string }) {
  const at = useAppSelector((state) => state.look.tour);
  return <Suspense fallback={null}>{at !== null && <Step projectId={projectId} at={at} />}</Suspense>;
}
