import { useState } from 'react';
import { useNavigate } from 'react-router';
import { acts } from '../api/acts.ts';
import { api } from '../api/legame.ts';
import { records, steps, type Screen } from '../commands/definitions.ts';
import { useCommand } from '../commands/useCommand.ts';
import { tour } from '@legame/words/tour';
import { askHelp, askWhatThisIs, goOnTour } from '../session/look.ts';
import { turns } from '../session/turns.ts';
import { openPreferences } from '../session/preferences.ts';
import { prefer } from './usePreferences.ts';
import { useAppDispatch, useAppSelector, type AppDispatch, type RootState } from './store.ts';

/**
 * The act that came last, when all that the page asked for is answered: what the page still shows may be the one before,
 * and to take that back is refused.
 */
const lastActOf = (projectId: string) => async (dispatch: AppDispatch, getState: () => RootState) => {
  const asked = dispatch(api.util.getRunningMutationsThunk());
  const isAllAnswered = asked.length === 0 && dispatch(api.util.getRunningQueriesThunk()).length === 0;
  if (isAllAnswered) return api.endpoints.project.select(projectId)(getState()).data?.lastAct?.id;
  await Promise.all(asked);
  // One that was under way before knows nothing of them.
  await dispatch(api.util.getRunningQueryThunk('project', projectId));
  const known = await dispatch(api.endpoints.project.initiate(projectId, { forceRefetch: true, subscribe: false }));
  return known.data?.lastAct?.id;
};

/** What can be done on every screen of a project. Gives what went wrong with the last of it. */
export function useGlobalCommands(projectId: string, onKeys: () => void) {
  const project = api.useProjectQuery(projectId);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const theme = useAppSelector((state) => state.preferences.mine.theme);
  const [undo, undone] = api.useUndoMutation();
  const [redo, redone] = acts.useRedoMutation();
  const open = (path: string) => void navigate(`/projects/${projectId}/${path}`);
  const [intake, places, causes, ledger, cut, handoff] = steps;
  const [bins, timecode, pulls, health, history, readLog] = records;
  const useGo = ({ path }: { readonly path: Screen }) => useCommand(`go-${path}`, () => open(path));
  useGo(intake);
  useGo(places);
  useGo(causes);
  useGo(ledger);
  useGo(cut);
  useGo(handoff);
  useGo(bins);
  useGo(timecode);
  useGo(pulls);
  useGo(health);
  useGo(history);
  useGo(readLog);
  useCommand('report', () => open('report'));
  useCommand('health-report', () => open('health-report'));
  useCommand('pull-list', () => open('pull-list'));
  useCommand('keys', onKeys);
  useCommand('help', () => dispatch(askHelp('')));
  useCommand('what-is-this', () => dispatch(askWhatThisIs(true)));
  useCommand('tour', () => {
    dispatch(goOnTour(0));
    open(tour[0]!.screen);
  });
  useCommand('theme', () => void dispatch(prefer({ theme: theme === 'paper' ? 'lamp' : 'paper' })));
  useCommand('preferences', () => dispatch(openPreferences(true)));
  /** Pressed again, the one before is meant, and not the same once more. */
  const [inTurn] = useState(turns);
  const undoLast = async () => {
    const last = await dispatch(lastActOf(projectId));
    if (last !== undefined) await undo({ projectId, act: last });
  };
  useCommand('undo', () => void inTurn(undoLast), project.data?.lastAct ? null : 'There is nothing to undo.');
  useCommand(
    'redo',
    () => void inTurn(() => redo({ projectId })),
    project.data?.redoable ? null : 'There is nothing to do again: the last thing done was not an undo.',
  );
  const failed = undone.error ? undone : redone;
  return { error: failed.error, onClose: failed.reset, isBusy: undone.isLoading || redone.isLoading };
}
