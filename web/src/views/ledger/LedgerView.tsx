import type { ClipRow } from '@legame/core/contract';
import { useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { Link, useParams } from 'react-router';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { clear, extend, pick, pickMany } from '../../session/selection.ts';
import { AcceptancePanel } from './AcceptancePanel.tsx';
import { ClipPanel } from './ClipPanel.tsx';
import { FolderPanel } from './FolderPanel.tsx';
import { FormsPanel } from './FormsPanel.tsx';
import { LedgerTable, rowHeight } from './LedgerTable.tsx';
import { LedgerTools } from './LedgerTools.tsx';
import { LinkManyPanel } from './LinkManyPanel.tsx';
import type { Preview } from './preview.ts';
import { asText, nextNeedingHand, shownRows } from './rows.ts';
import { RulesPanel } from './RulesPanel.tsx';
import { SelectionActs } from './SelectionActs.tsx';
import { useAddress } from './useAddress.ts';
import { WaivePanel } from './WaivePanel.tsx';
import { count } from '@legame/words/numbers';

/** Clip by clip: what the edit remembers on the left, what lies on the storage on the right, the evidence between. */
export function LedgerView() {
  const { projectId = '' } = useParams();
  const clips = api.useClipsQuery(projectId);
  const selection = useAppSelector((state) => state.selection);
  const dispatch = useAppDispatch();
  useAddress();
  const [preview, setPreview] = useState<Preview>(null);
  const [setAside, aside] = api.useSetAsideMutation();
  const [reread, reading] = storage.useRereadMutation();
  const [startTrial, trial] = storage.useStartTrialMutation();
  const layout = useDefaultLayout({ id: 'legame-ledger', storage: localStorage });

  const rows = useMemo(() => shownRows(clips.data ?? [], selection), [clips.data, selection]);
  const order = useMemo(() => rows.map((row) => row.id as string), [rows]);
  const chosen = useMemo(() => {
    const ids = new Set(selection.ids);
    return rows.filter((row) => ids.has(row.id));
  }, [rows, selection.ids]);
  const hidden = selection.ids.length - chosen.length;

  const move = (by: number, extending: boolean) => {
    const at = selection.focus ? order.indexOf(selection.focus) : -1;
    const id = order[Math.max(0, Math.min(order.length - 1, at + by))];
    if (id) dispatch(extending ? extend({ id, order }) : pick(id));
  };
  useHotkeys('down, shift+down', (event) => move(1, event.shiftKey), { preventDefault: true });
  useHotkeys('up, shift+up', (event) => move(-1, event.shiftKey), { preventDefault: true });
  const page = Math.max(1, Math.floor((window.innerHeight - 200) / rowHeight));
  useHotkeys('home, shift+home', (event) => move(-order.length, event.shiftKey), { preventDefault: true });
  useHotkeys('end, shift+end', (event) => move(order.length, event.shiftKey), { preventDefault: true });
  useHotkeys('pageup, shift+pageup', (event) => move(-page, event.shiftKey), { preventDefault: true });
  useHotkeys('pagedown, shift+pagedown', (event) => move(page, event.shiftKey), { preventDefault: true });
  useHotkeys('mod+c', () => {
    // Text that somebody marked is what they want.
    if (window.getSelection()?.toString() || chosen.length === 0) return;
    void navigator.clipboard.writeText(asText(chosen));
  });
  useHotkeys('mod+a', () => dispatch(pickMany(order)), { preventDefault: true });
  useHotkeys('esc', () => (preview ? setPreview(null) : dispatch(clear())));
  useHotkeys('n', () => {
    const next = nextNeedingHand(rows, selection.focus);
    if (next) dispatch(pick(next.id));
  });
  const [pin] = acts.usePinMutation();
  const chosenIds = useMemo(() => chosen.map((row) => row.id), [chosen]);
  const setChosenAside = (as: 'parked' | 'waived') => {
    if (chosen.length === 0) return;
    const all = chosen.every((row) => row.status.status === as);
    void setAside({ projectId, clipIds: chosen.map((row) => row.id), as: all ? null : as });
  };
  const rereadChosen = () => {
    if (chosen.length > 0) void reread({ clipIds: chosen.map((row) => row.id) });
  };
  const tryChosen = () => void startTrial({ projectId, scope: 'chosen', clipIds: chosen.map((row) => row.id) });
  useHotkeys('r', rereadChosen);
  useHotkeys('k', () => setChosenAside('parked'));
  useHotkeys(
    'w',
    () => {
      if (chosen.length === 0) return;
      if (chosen.every((row) => row.status.status === 'waived')) setChosenAside('waived');
      else setPreview({ kind: 'waive' });
    },
    { preventDefault: true },
  );
  useHotkeys('i', () => {
    if (chosenIds.length > 0) void pin({ projectId, clipIds: chosenIds, pinned: !chosen.every((row) => row.pinned) });
  });

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
    <Group
      orientation="horizontal"
      className="h-full"
      defaultLayout={layout.defaultLayout}
      onLayoutChanged={layout.onLayoutChanged}
    >
      <Panel id="rows" minSize="320px" className="flex min-w-0 flex-col">
        <LedgerTools rows={clips.data} onPreview={setPreview} />
        {chosen.length > 1 && (
          <SelectionActs
            projectId={projectId}
            chosen={chosen}
            hidden={hidden}
            onPreview={setPreview}
            onSetAside={setChosenAside}
            onReread={rereadChosen}
            onTry={tryChosen}
          />
        )}
        <ProblemNote
          error={aside.error ?? reading.error ?? trial.error}
          onClose={trial.error ? trial.reset : aside.reset}
        />
        {trial.data && (
          <p role="status" className="line-b bg-base-100 px-3 py-1">
            Decoding {count(trial.data.trial.files.length, 'file')} from end to end.{' '}
            <Link to={`/projects/${projectId}/read-log`} className="underline underline-offset-2">
              See what fails
            </Link>
          </p>
        )}
        <LedgerTable rows={rows} order={order} />
      </Panel>
      <Separator className="w-[5px] border-l border-base-300 bg-base-100 hover:bg-[var(--bond-wash)]" />
      <Panel id="clip" defaultSize="372px" minSize="240px" maxSize="60%" className="bg-base-100">
        {preview ? (
          <PreviewPanel
            projectId={projectId}
            preview={preview}
            chosen={chosen}
            chosenIds={chosenIds}
            linkable={linkable}
            onClose={() => setPreview(null)}
          />
        ) : focused ? (
          <ClipPanel key={focused.id} projectId={projectId} clipId={focused.id} chosen={chosen.length} />
        ) : (
          <p className="p-4 text-quiet">
            Choose a clip to see what the edit remembers of it beside what was found. <kbd className="kbd-mark">n</kbd>{' '}
            goes to the next that needs a hand.
          </p>
        )}
      </Panel>
    </Group>
  );
}

/** What is about to be done to many clips, in place of the one clip. */
function PreviewPanel({
  projectId,
  preview,
  chosen,
  chosenIds,
  linkable,
  onClose,
}: {
  projectId: string;
  preview: NonNullable<Preview>;
  chosen: readonly ClipRow[];
  chosenIds: readonly string[];
  linkable: readonly ClipRow[];
  onClose: () => void;
}) {
  switch (preview.kind) {
    case 'acceptance':
      return <AcceptancePanel projectId={projectId} onClose={onClose} />;
    case 'rules':
      return <RulesPanel projectId={projectId} chosen={chosenIds} onClose={onClose} />;
    case 'folder':
      return <FolderPanel projectId={projectId} rows={chosen} onClose={onClose} />;
    case 'forms':
      return <FormsPanel projectId={projectId} rows={chosen} onClose={onClose} />;
    case 'waive':
      return <WaivePanel projectId={projectId} rows={chosen} onClose={onClose} />;
    case 'certain':
    case 'first-candidates':
      return <LinkManyPanel projectId={projectId} kind={preview.kind} rows={linkable} onClose={onClose} />;
  }
}
