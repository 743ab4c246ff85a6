import { lazy, Suspense, useEffect, useState } from 'react';
import { Outlet, useLocation, useParams } from 'react-router';
import { api } from '../api/legame.ts';
import { records, steps } from '../commands/definitions.ts';
import { KeysOverview } from '../commands/KeysOverview.tsx';
import { ProblemNote } from '../parts/ProblemNote.tsx';
import { runCommand } from '../commands/useCommand.ts';
import { askHelp } from '../session/look.ts';
import { leaveProject } from '../session/selection.ts';
import { CutStrip } from './CutStrip.tsx';
import { FirstSteps } from './FirstSteps.tsx';
import { LastAct } from './LastAct.tsx';
import { Asking, WayRound } from './onDemand.tsx';
import { Rail } from './Rail.tsx';
import { Reconnect } from './Reconnect.tsx';
import { useAppDispatch, useAppSelector } from './store.ts';
import { TopBar } from './TopBar.tsx';
import { useNotices } from './useNotices.ts';
import { useGlobalCommands } from './useGlobalCommands.ts';

/** What is asked for seldom is fetched when it is asked for. */
const Help = lazy(async () => ({ default: (await import('../commands/Help.tsx')).Help }));

/** Screens that begin with a heading of their own. */
const hasHeading: readonly string[] = ['causes', 'handoff', 'naming'];

/** Screens of clips, onto which media can be dropped. */
const ofClips: readonly string[] = ['causes', 'ledger', 'cut', 'bins'];

/** The frame of every project screen: top bar, rail in the order of work, cut strip, the screen, the last act. */
export function Frame() {
  const { projectId = '' } = useParams();
  const dispatch = useAppDispatch();
  const location = useLocation();
  const project = api.useProjectQuery(projectId);
  const [showKeys, setShowKeys] = useState(false);
  const help = useAppSelector((state) => state.look.help);
  const failed = useGlobalCommands(projectId, () => setShowKeys((shown) => !shown));
  useNotices(projectId);
  useEffect(() => () => void dispatch(leaveProject()), [dispatch, projectId]);

  if (project.error && !project.data) {
    return (
      <div className="flex h-full flex-col">
        <TopBar projectId={projectId} projectName="" />
        <div className="p-6">
          <ProblemNote error={project.error} />
        </div>
      </div>
    );
  }
  const here = [...steps, ...records].find((step) => location.pathname.split('/')[3] === step.path);
  return (
    <div className="grid h-full grid-cols-[148px_minmax(0,1fr)] max-[900px]:grid-cols-[86px_minmax(0,1fr)] grid-rows-[44px_minmax(0,1fr)_28px]">
      <title>{[here?.title, project.data?.name, 'Legame'].filter(Boolean).join(' · ')}</title>
      <a
        href="#screen"
        className="sr-only z-50 bg-base-100 px-3 py-1 focus:not-sr-only focus:absolute focus:top-1 focus:left-1"
      >
        Skip to the screen
      </a>
      <header className="line-b col-span-2 bg-base-100">
        <TopBar projectId={projectId} projectName={project.data?.name ?? ''} />
      </header>
      <Rail projectId={projectId} />
      <div className="flex min-h-0 min-w-0 flex-col">
        <WayRound projectId={projectId} />
        <FirstSteps key={projectId} projectId={projectId} />
        {here?.path !== 'cut' && <CutStrip projectId={projectId} />}
        {failed.error ? (
          <div className="p-2">
            <ProblemNote error={failed.error} onClose={failed.onClose} />
          </div>
        ) : null}
        <main id="screen" tabIndex={-1} className="min-h-0 flex-1" key={location.pathname}>
          {here && !hasHeading.includes(here.path) && <h1 className="sr-only">{here.title}</h1>}
          <Reconnect projectId={projectId} takesFiles={here !== undefined && ofClips.includes(here.path)}>
            <Outlet />
          </Reconnect>
        </main>
      </div>
      <Asking />
      <LastAct projectId={projectId} isBusy={failed.isBusy} />
      {showKeys && <KeysOverview onClose={() => setShowKeys(false)} />}
      {help !== null && (
        <Suspense fallback={null}>
          <Help
            screen={here?.path}
            asked={help}
            onKeys={() => {
              dispatch(askHelp(null));
              setShowKeys(true);
            }}
            onTour={() => runCommand('tour')}
            onAsk={() => runCommand('what-is-this')}
            onClose={() => dispatch(askHelp(null))}
          />
        </Suspense>
      )}
    </div>
  );
}
