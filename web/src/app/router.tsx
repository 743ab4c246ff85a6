import { createBrowserRouter, Navigate } from 'react-router';
import { CausesView } from '../views/causes/CausesView.tsx';
import { HandoffView } from '../views/handoff/HandoffView.tsx';
import { HistoryView } from '../views/history/HistoryView.tsx';
import { IntakeView } from '../views/intake/IntakeView.tsx';
import { LedgerView } from '../views/ledger/LedgerView.tsx';
import { ReadLogView } from '../views/readLog/ReadLogView.tsx';
import { RoomView } from '../views/room/RoomView.tsx';
import { PlacesView } from '../views/places/PlacesView.tsx';
import { ProjectsView } from '../views/projects/ProjectsView.tsx';
import { TimecodeView } from '../views/timecode/TimecodeView.tsx';
import { PullList } from '../views/report/PullList.tsx';
import { StatusReport } from '../views/report/StatusReport.tsx';
import { Frame } from './Frame.tsx';
import { Shell } from './Shell.tsx';

export const makeRouter = () =>
  createBrowserRouter([
    {
      element: <Shell />,
      children: [
        { path: '/', element: <ProjectsView /> },
        {
          path: '/projects/:projectId',
          element: <Frame />,
          children: [
            { index: true, element: <Navigate to="ledger" replace /> },
            { path: 'intake', element: <IntakeView /> },
            { path: 'places', element: <PlacesView /> },
            { path: 'places/:placeId/room', element: <RoomView /> },
            { path: 'read-log', element: <ReadLogView /> },
            { path: 'causes', element: <CausesView /> },
            { path: 'timecode', element: <TimecodeView /> },
            { path: 'history', element: <HistoryView /> },
            { path: 'ledger', element: <LedgerView /> },
            { path: 'handoff', element: <HandoffView /> },
          ],
        },
        { path: '/projects/:projectId/report', element: <StatusReport /> },
        { path: '/projects/:projectId/pull-list', element: <PullList /> },
        { path: '*', element: <Navigate to="/" replace /> },
      ],
    },
  ]);
