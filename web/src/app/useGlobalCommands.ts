import { useRef } from 'react';
import { useNavigate } from 'react-router';
import { acts } from '../api/acts.ts';
import { api } from '../api/legame.ts';
import { records, steps, type Screen } from '../commands/definitions.ts';
import { useCommand } from '../commands/useCommand.ts';
import { tour } from '@legame/words/help';
import { askHelp, goOnTour, setTheme } from '../session/look.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

/** What can be done on every screen of a project. Gives what went wrong with the last of it. */
export function useGlobalCommands(projectId: string, onKeys: () => void) {
  const project = api.useProjectQuery(projectId);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const theme = useAppSelector((state) => state.look.theme);
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
  useCommand('tour', () => {
    dispatch(goOnTour(0));
    open(tour[0]!.screen);
  });
  useCommand('theme', () => dispatch(setTheme(theme === 'paper' ? 'lamp' : 'paper')));
  const meant = useRef<number | null>(null);
  /** Pressed again before the page knows what came before, the one before is meant, and not the same once more. */
  const undoLast = async () => {
    let last = project.data?.lastAct?.id;
    if (last === meant.current) last = (await project.refetch()).data?.lastAct?.id;
    if (last === undefined) return;
    meant.current = last;
    const done = await undo({ projectId, act: last });
    if (done.error) meant.current = null;
  };
  useCommand('undo', () => void undoLast(), project.data?.lastAct ? null : 'There is nothing to undo.');
  useCommand(
    'redo',
    () => void redo({ projectId }),
    project.data?.redoable ? null : 'There is nothing to do again: the last thing done was not an undo.',
  );
  const failed = undone.error ? undone : redone;
  return { error: failed.error, onClose: failed.reset, isBusy: undone.isLoading || redone.isLoading };
}
