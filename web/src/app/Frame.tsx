import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { isQuestion } from '@legame/core/match';
import { acts } from '../api/acts.ts';
import { api } from '../api/legame.ts';
import { storage } from '../api/storage.ts';
import { ProblemNote } from '../parts/ProblemNote.tsx';
import { leaveProject } from '../session/selection.ts';
import { clock, count, group } from '@legame/words/numbers';
import { actSentence } from '@legame/words/statuses';
import { CutStrip } from './CutStrip.tsx';
import { KeysOverview } from './KeysOverview.tsx';
import { records, steps } from './steps.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { TopBar } from './TopBar.tsx';

/** Screens that begin with a heading of their own. */
const hasHeading: readonly string[] = ['causes', 'handoff'];

/** The frame of every project screen: top bar, rail in the order of work, cut strip, the screen, the last act. */
export function Frame() {
  const { projectId = '' } = useParams();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const location = useLocation();
  const project = api.useProjectQuery(projectId);
  const [undo, undone] = api.useUndoMutation();
  const [redo, redone] = acts.useRedoMutation();
  const [showKeys, setShowKeys] = useState(false);
  useEffect(() => () => void dispatch(leaveProject()), [dispatch, projectId]);

  const doUndo = () => {
    if (project.data?.lastAct) void undo(projectId);
  };
  const doRedo = () => {
    if (project.data?.redoable) void redo(projectId);
  };
  useHotkeys('u, mod+z', doUndo, { preventDefault: true });
  useHotkeys('shift+u, mod+shift+z', doRedo, { preventDefault: true });
  useHotkeys('shift+slash, ?', () => setShowKeys((shown) => !shown), { useKey: false });
  useHotkeys('esc', () => setShowKeys(false));
  useHotkeys(
    [...steps, ...records].map((step) => `g>${step.key}`),
    (_, handler) => {
      const pressed = handler.keys?.at(-1);
      const step = [...steps, ...records].find((s) => s.key === pressed);
      if (step) void navigate(`/projects/${projectId}/${step.path}`);
    },
  );

  if (project.error && !project.data) {
    return (
      <div className="flex h-full flex-col">
        <TopBar projectId={projectId} projectName="" onKeys={() => setShowKeys(true)} onUndo={doUndo} />
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
        <TopBar
          projectId={projectId}
          projectName={project.data?.name ?? ''}
          onKeys={() => setShowKeys(true)}
          onUndo={doUndo}
        />
      </header>
      <Rail projectId={projectId} />
      <div className="flex min-h-0 min-w-0 flex-col">
        <CutStrip projectId={projectId} />
        {undone.error || redone.error ? (
          <div className="p-2">
            <ProblemNote error={undone.error ?? redone.error} onClose={undone.error ? undone.reset : redone.reset} />
          </div>
        ) : null}
        <main id="screen" tabIndex={-1} className="min-h-0 flex-1" key={location.pathname}>
          {here && !hasHeading.includes(here.path) && <h1 className="sr-only">{here.title}</h1>}
          <Outlet />
        </main>
      </div>
      <footer className="line-t col-span-2 flex items-center justify-between gap-4 bg-base-100 px-3 text-[12px] text-quiet">
        <span>
          {project.data?.lastAct ? (
            <>
              {actSentence(project.data.lastAct.verb, project.data.lastAct.count)} ·{' '}
              <button
                type="button"
                className="text-base-content underline underline-offset-2"
                disabled={undone.isLoading}
                onClick={doUndo}
              >
                Undo
              </button>{' '}
              <kbd className="kbd-mark">u</kbd>
            </>
          ) : (
            'No link has been changed yet'
          )}
          {project.data?.redoable && (
            <>
              {' · '}
              <button
                type="button"
                className="text-base-content underline underline-offset-2"
                disabled={redone.isLoading}
                title={`Shift+u: ${actSentence(project.data.redoable.verb, project.data.redoable.count)}`}
                onClick={doRedo}
              >
                Do again
              </button>
            </>
          )}
        </span>
        <SelectionTotals projectId={projectId} />
      </footer>
      {showKeys && <KeysOverview onClose={() => setShowKeys(false)} />}
    </div>
  );
}

function Rail({ projectId }: { projectId: string }) {
  const project = api.useProjectQuery(projectId);
  const places = storage.usePlacesQuery();
  const documents = api.useDocumentsQuery(projectId);
  const causes = acts.useCausesQuery(projectId);
  const away = places.data?.filter((p) => !p.there).length ?? 0;
  const left: Record<string, string> = {
    intake: documents.data?.length === 0 ? 'empty' : '',
    places: places.data?.length === 0 ? 'none' : away ? `${away} away` : '',
    causes: causes.data?.causes.length ? String(causes.data.causes.filter((c) => !isQuestion(c)).length) : '',
    ledger: project.data?.toDo ? String(project.data.toDo) : '',
    handoff: '',
  };
  return (
    <nav className="line-r min-h-0 overflow-auto bg-base-100 py-2" aria-label="steps">
      {[...steps, ...records].map((step, i) => (
        <NavLink
          key={step.path}
          to={`/projects/${projectId}/${step.path}`}
          title={`g ${step.key}`}
          className={({ isActive }) =>
            `flex items-baseline gap-2.5 border-l-[3px] px-3 py-1.5 text-[14px] max-[900px]:gap-1 max-[900px]:px-1.5 max-[900px]:text-[13px] ${i === steps.length ? 'mt-4' : ''} ${isActive ? 'border-primary bg-base-200 font-semibold' : 'border-transparent hover:bg-base-200'}`
          }
        >
          {i < steps.length && <span className="w-3 font-mono text-quiet">{i + 1}</span>}
          <span className="flex-1">{step.title}</span>
          <span className="text-[12px] text-quiet max-[900px]:sr-only">{left[step.path]}</span>
        </NavLink>
      ))}
    </nav>
  );
}

function SelectionTotals({ projectId }: { projectId: string }) {
  const { data } = api.useClipsQuery(projectId);
  const ids = useAppSelector((state) => state.selection.ids);
  if (!data || ids.length === 0) return <span>{data ? count(data.length, 'clip') : ''}</span>;
  const chosen = new Set(ids);
  const rows = data.filter((row) => chosen.has(row.id));
  const uses = rows.reduce((sum, row) => sum + row.uses, 0);
  const seconds = rows.reduce((sum, row) => sum + row.usedSeconds, 0);
  return (
    <span>
      {group(rows.length)} selected · {count(uses, 'use')} · {clock(seconds)} of screen time
    </span>
  );
}
