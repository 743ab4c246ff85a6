import { lists } from '../api/clipList.ts';
import { api } from '../api/legame.ts';
import { CommandButton } from '../commands/CommandButton.tsx';
import { clock, count, group } from '@legame/words/numbers';
import { actSentence } from '@legame/words/statuses';
import { useAppSelector } from './store.ts';

/** What was done last, with the way back and forth, and how much is selected. */
export function LastAct({ projectId, isBusy }: { projectId: string; isBusy: boolean }) {
  const { data: project } = api.useProjectQuery(projectId);
  return (
    <footer className="line-t col-span-2 flex items-center justify-between gap-4 bg-base-100 px-3 text-[12px] text-quiet">
      <span>
        {project?.lastAct ? (
          <>
            {actSentence(project.lastAct.verb, project.lastAct.count)} ·{' '}
            <CommandButton id="undo" className="text-base-content underline underline-offset-2" busy={isBusy}>
              Undo
            </CommandButton>{' '}
            <kbd className="kbd-mark">u</kbd>
          </>
        ) : (
          'No link has been changed yet'
        )}
        {project?.redoable && (
          <>
            {' · '}
            <CommandButton id="redo" className="text-base-content underline underline-offset-2" busy={isBusy}>
              Do again
            </CommandButton>
          </>
        )}
      </span>
      <SelectionTotals projectId={projectId} />
    </footer>
  );
}

function SelectionTotals({ projectId }: { projectId: string }) {
  const { data } = lists.useClipsQuery(projectId);
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
