import type { ComponentType } from 'react';
import { createBrowserRouter, Navigate } from 'react-router';
import { LedgerView } from '../views/ledger/LedgerView.tsx';
import { Frame } from './Frame.tsx';
import { Shell } from './Shell.tsx';

/** A screen that is fetched when somebody goes there, so that the first comes quickly. */
const later = (load: () => Promise<ComponentType>) => ({ lazy: async () => ({ Component: await load() }) });

export const makeRouter = () =>
  createBrowserRouter([
    {
      element: <Shell />,
      HydrateFallback: () => null,
      children: [
        { path: '/', ...later(async () => (await import('../views/projects/ProjectsView.tsx')).ProjectsView) },
        {
          path: '/projects/:projectId',
          element: <Frame />,
          children: [
            { index: true, element: <Navigate to="ledger" replace /> },
            { path: 'causes', ...later(async () => (await import('../views/causes/CausesView.tsx')).CausesView) },
            { path: 'ledger', element: <LedgerView /> },
            { path: 'intake', ...later(async () => (await import('../views/intake/IntakeView.tsx')).IntakeView) },
            { path: 'places', ...later(async () => (await import('../views/places/PlacesView.tsx')).PlacesView) },
            {
              path: 'places/:placeId/room',
              ...later(async () => (await import('../views/room/RoomView.tsx')).RoomView),
            },
            { path: 'read-log', ...later(async () => (await import('../views/readLog/ReadLogView.tsx')).ReadLogView) },
            {
              path: 'timecode',
              ...later(async () => (await import('../views/timecode/TimecodeView.tsx')).TimecodeView),
            },
            { path: 'history', ...later(async () => (await import('../views/history/HistoryView.tsx')).HistoryView) },
            { path: 'health', ...later(async () => (await import('../views/health/HealthView.tsx')).HealthView) },
            { path: 'naming', ...later(async () => (await import('../views/naming/NamingView.tsx')).NamingView) },
            { path: 'pulls', ...later(async () => (await import('../views/pulls/PullsView.tsx')).PullsView) },
            { path: 'bins', ...later(async () => (await import('../views/bins/BinsView.tsx')).BinsView) },
            { path: 'cut', ...later(async () => (await import('../views/cut/CutView.tsx')).CutView) },
            { path: 'handoff', ...later(async () => (await import('../views/handoff/HandoffView.tsx')).HandoffView) },
          ],
        },
        {
          path: '/projects/:projectId/report',
          ...later(async () => (await import('../views/report/StatusReport.tsx')).StatusReport),
        },
        {
          path: '/projects/:projectId/health-report',
          ...later(async () => (await import('../views/health/HealthReport.tsx')).HealthReport),
        },
        {
          path: '/projects/:projectId/pull-list',
          ...later(async () => (await import('../views/pulls/PullList.tsx')).PullList),
        },
        ...['/received', '/received/:checkId'].map((path) => ({
          path,
          ...later(async () => (await import('../views/received/ReceivedView.tsx')).ReceivedView),
        })),
        { path: '*', element: <Navigate to="/" replace /> },
      ],
    },
  ]);
