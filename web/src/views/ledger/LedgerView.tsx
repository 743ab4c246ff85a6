import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useParams } from 'react-router';
import { lists } from '../../api/clipList.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { clear } from '../../session/selection.ts';
import { ClipPanel } from './ClipPanel.tsx';
import { LedgerTable, useLedgerRows } from './LedgerTable.tsx';
import { LedgerTools } from './LedgerTools.tsx';
import type { Preview } from './preview.ts';
import { prepareRows, shownRows } from './rows.ts';
import { SelectionActs } from './SelectionActs.tsx';
import { useLedgerCommands } from './useLedgerCommands.ts';
import { useAddress } from './useAddress.ts';

/** What is asked for seldom is fetched when it is asked for. */
const PreviewPanel = lazy(async () => ({ default: (await import('./PreviewPanel.tsx')).PreviewPanel }));

/** Clip by clip: what the edit remembers on the left, what lies on the storage on the right, the evidence between. */
export function LedgerView() {
  const { projectId = '' } = useParams();
  const clips = lists.useClipsQuery(projectId);
  const selection = useAppSelector((state) => state.selection);
  const dispatch = useAppDispatch();
  useAddress();
  const [preview, setPreview] = useState<Preview>(null);

  useEffect(() => prepareRows(clips.data ?? []), [clips.data]);
  const { status, text } = selection;
  const among = useMemo(() => shownRows(clips.data ?? [], { status, text }), [clips.data, status, text]);
  const arranged = useLedgerRows(among);
  const { rows } = arranged;
  const order = useMemo(() => rows.map((row) => row.id as string), [rows]);
  const chosen = useMemo(() => {
    const ids = new Set(selection.ids);
    return rows.filter((row) => ids.has(row.id));
  }, [rows, selection.ids]);
  const chosenIds = useMemo(() => chosen.map((row) => row.id), [chosen]);
  const hidden = selection.ids.length - chosen.length;
  const failed = useLedgerCommands(projectId, rows, chosen, setPreview);
  useHotkeys('esc', () => (preview ? setPreview(null) : dispatch(clear())));

  if (!clips.data) return <Waiting what="clips" error={clips.error} />;
  if (clips.data.length === 0)
    return (
      <p className="p-6 text-quiet">
        No clips yet. Bring in an edit at Intake (g i); its clips appear here with their status.
      </p>
    );

  const focused = clips.data.find((row) => row.id === selection.focus);
  const linkable =
    preview?.kind === 'certain'
      ? clips.data.filter((row) => row.certainNow)
      : chosen.filter((row) => row.candidate !== null && row.decision !== 'refused');
  return (
    <ListAndPanel
      name="ledger"
      listClass="flex min-w-0 flex-col"
      panelSize="372px"
      panelAtMost="60%"
      panel={
        <>
          {preview ? (
            <Suspense fallback={<Waiting what="it" />}>
              <PreviewPanel
                projectId={projectId}
                preview={preview}
                chosen={chosen}
                chosenIds={chosenIds}
                linkable={linkable}
                onClose={() => setPreview(null)}
              />
            </Suspense>
          ) : focused ? (
            <ClipPanel key={focused.id} projectId={projectId} clipId={focused.id} chosen={chosen.length} />
          ) : (
            <p className="p-4 text-quiet">
              Choose a clip to see what the edit remembers of it beside what was found.{' '}
              <kbd className="kbd-mark">n</kbd> goes to the next that needs a hand.
            </p>
          )}
        </>
      }
    >
      <LedgerTools rows={clips.data} onPreview={setPreview} />
      {chosen.length > 1 && <SelectionActs chosen={chosen} hidden={hidden} />}
      <ProblemNote error={failed.error} onClose={failed.onClose} />
      <LedgerTable projectId={projectId} arranged={arranged} order={order} />
    </ListAndPanel>
  );
}
