import { lazy, Suspense, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { useCommand } from '../commands/useCommand.ts';
import { Modal } from '../parts/Modal.tsx';
import { Waiting } from '../parts/ProblemNote.tsx';
import type { InHand } from '../workers/droppedMedia.ts';
import { filesOf } from './droppedFiles.ts';

/** What is asked for seldom is fetched when it is asked for. */
const ReconnectPanel = lazy(async () => ({
  default: (await import('../views/ledger/ReconnectPanel.tsx')).ReconnectPanel,
}));

type Dropped = { readonly files: readonly InHand[]; readonly clipId: string | null };

/** Takes media files that are dropped onto a screen of clips, or chosen, and shows which of these they are for. */
export function Reconnect({
  projectId,
  takesFiles,
  children,
}: {
  projectId: string;
  /** Whether the screen is one of clips: others take files for themselves, or none. */
  takesFiles: boolean;
  children: ReactNode;
}) {
  const [dropped, setDropped] = useState<Dropped | null>(null);
  const [isOver, setIsOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const take = (files: readonly InHand[], clipId: string | null) => {
    if (files.length > 0) setDropped({ files, clipId });
  };
  const holdsFiles = (event: DragEvent) => takesFiles && event.dataTransfer.types.includes('Files');
  const onDrop = (event: DragEvent) => {
    if (!holdsFiles(event)) return;
    setIsOver(false);
    const { target } = event;
    const over = target instanceof Element ? target.closest<HTMLElement>('[data-takes-files]') : null;
    void filesOf(event.nativeEvent).then((files) => take(files, over?.dataset.takesFiles ?? null));
  };
  useCommand(
    'reconnect',
    () => input.current?.click(),
    takesFiles ? null : 'This is done at Causes, Ledger, Cut or Bins.',
  );
  return (
    <div
      className="relative h-full"
      onDragEnter={(event) => holdsFiles(event) && setIsOver(true)}
      // Into a child it is left for that child, and is over the screen all the same.
      onDragLeave={(event) => !event.currentTarget.contains(event.relatedTarget as Node | null) && setIsOver(false)}
      onDrop={onDrop}
    >
      <input
        ref={input}
        type="file"
        multiple
        className="hidden"
        aria-label="files to find clips for"
        onChange={(event) => {
          take(
            [...(event.target.files ?? [])].map((file) => ({ file, path: file.webkitRelativePath || file.name })),
            null,
          );
          // The same files can be chosen again.
          event.target.value = '';
        }}
      />
      {children}
      {isOver && (
        <p className="pointer-events-none absolute inset-2 z-40 grid place-items-center rounded border-2 border-dashed border-primary bg-[var(--bond-wash)] text-[17px] font-semibold">
          Drop media here to find the clips they are for
        </p>
      )}
      {dropped && (
        <Modal label="files in hand" boxClass="max-h-[80vh] max-w-[620px] p-0" onClose={() => setDropped(null)}>
          <Suspense fallback={<Waiting what="it" />}>
            <ReconnectPanel projectId={projectId} {...dropped} onClose={() => setDropped(null)} />
          </Suspense>
        </Modal>
      )}
    </div>
  );
}
