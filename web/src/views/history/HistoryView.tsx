import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { useState } from 'react';
import { useParams } from 'react-router';
import { newCheckpointSchema, type HistoryEntry } from '@legame/core/contract';
import { NameForm } from '../../parts/NameForm.tsx';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { aboutWords } from '@legame/words/causes';
import { count, when } from '@legame/words/numbers';
import { actSentence } from '@legame/words/statuses';
import { ChangeList } from './ChangeList.tsx';
import { ComparedPanel, Checkpoints, type Compared } from './Checkpoints.tsx';

/** Everything that was changed, by which rule or by hand, clip by clip before and after, and the way back. */
export function HistoryView() {
  const { projectId = '' } = useParams();
  const history = acts.useHistoryQuery(projectId);
  const [undo, undone] = api.useUndoMutation();
  const [redo, redone] = acts.useRedoMutation();
  const [setCheckpoint, set] = acts.useSetCheckpointMutation();
  const [returnTo, returned] = acts.useReturnToMutation();
  const [shown, setShown] = useState<number | null>(null);
  const [compared, setCompared] = useState<Compared | null>(null);
  if (!history.data) return <Waiting what="what was done" error={history.error} />;
  const { entries, checkpoints } = history.data;
  const entry = entries.find((e) => e.id === shown) ?? entries[0];
  const canUndo = entries.some((e) => e.state === 'done');
  const canRedo = entries.some((e) => e.state === 'undone');
  const isBusy = undone.isLoading || redone.isLoading || returned.isLoading;
  return (
    <ListAndPanel
      name="history"
      listClass="flex min-w-0 flex-col"
      panelSize="460px"
      panelAtMost="70%"
      panel={
        compared ? (
          <ComparedPanel projectId={projectId} checkpoints={checkpoints} compared={compared} onCompare={setCompared} />
        ) : (
          <>{entry && <Changes projectId={projectId} entry={entry} />}</>
        )
      }
    >
      <div className="line-b flex flex-wrap items-center gap-1.5 bg-base-200 px-3 py-2">
        <button
          type="button"
          className="btn btn-plain btn-sm"
          title="u"
          disabled={!canUndo || isBusy}
          onClick={() => void undo({ projectId, act: entries.find((e) => e.state === 'done')?.id })}
        >
          Undo the last
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          title="Shift+u"
          disabled={!canRedo || isBusy}
          onClick={() => void redo({ projectId, act: entries.findLast((e) => e.state === 'undone')?.id })}
        >
          Do again
        </button>
        <NameForm
          className="ml-auto"
          inputClass="w-52"
          schema={newCheckpointSchema.shape.name}
          label="name of the checkpoint"
          hint="name this state, as “before colour”"
          verb="Set a checkpoint"
          busy={set.isLoading}
          onName={(name) => setCheckpoint({ projectId, name }).unwrap()}
        />
      </div>
      <ProblemNote
        error={undone.error ?? redone.error ?? set.error ?? returned.error}
        onClose={() => {
          undone.reset();
          redone.reset();
          set.reset();
          returned.reset();
        }}
      />
      <Checkpoints
        checkpoints={checkpoints}
        compared={compared}
        isBusy={isBusy}
        onCompare={setCompared}
        onReturn={(id) => void returnTo({ projectId, id })}
      />
      {returned.data?.count === 0 && (
        <p role="status" className="px-3 py-1.5">
          Everything is as it was then already.
        </p>
      )}
      {entries.length === 0 ? (
        <p className="p-4 text-quiet">
          Nothing was changed yet. Every link, by rule or by hand, comes to stand here with what was before and after.
        </p>
      ) : (
        <ActList
          entries={entries}
          shown={compared ? undefined : entry}
          onShow={(id) => {
            setCompared(null);
            setShown(id);
          }}
        />
      )}
    </ListAndPanel>
  );
}

/** The acts, newest first. */
function ActList({
  entries,
  shown,
  onShow,
}: {
  entries: readonly HistoryEntry[];
  shown: HistoryEntry | undefined;
  onShow: (id: number) => void;
}) {
  return (
    <ol className="min-h-0 flex-1 overflow-auto bg-base-100" aria-label="acts">
      {entries.map((e) => (
        <li key={e.id}>
          <button
            type="button"
            aria-current={e === shown}
            className={`line-b grid w-full grid-cols-[176px_minmax(0,1fr)_auto] items-baseline gap-3 px-3 py-1.5 text-left ${e === shown ? 'bg-[var(--bond-wash)]' : 'hover:bg-base-200'} ${e.state === 'done' ? '' : 'text-quiet'}`}
            onClick={() => onShow(e.id)}
          >
            <span className="font-mono text-[12px]! text-quiet">{when(e.madeAt)}</span>
            <span className="min-w-0">
              <span className={e.state === 'done' ? '' : 'line-through'}>{actSentence(e.verb, e.count)}</span>
              {e.about && (
                <span className="block truncate text-[12px] text-quiet" title={aboutWords(e.about)}>
                  {aboutWords(e.about)}
                </span>
              )}
            </span>
            <span className="text-[12px] text-quiet">{stateWords[e.state]}</span>
          </button>
        </li>
      ))}
    </ol>
  );
}

const stateWords: Readonly<Record<HistoryEntry['state'], string>> = {
  done: '',
  undone: 'undone',
  overtaken: 'undone, then overtaken',
};

function Changes({ projectId, entry }: { projectId: string; entry: HistoryEntry }) {
  const changes = acts.useHistoryChangesQuery({ projectId, id: entry.id });
  if (!changes.currentData) return <Waiting what="its changes" error={changes.error} />;
  return (
    <section className="flex h-full flex-col p-3.5" aria-label="changes">
      <h2 className="text-[15px] font-semibold">{actSentence(entry.verb, entry.count)}</h2>
      <p className="mt-1 mb-2 text-quiet">{count(changes.currentData.length, 'change')}, before and after.</p>
      <ChangeList changes={changes.currentData} />
    </section>
  );
}
