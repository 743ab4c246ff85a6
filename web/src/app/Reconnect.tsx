import { lazy, Suspense, useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { useCommand } from '../commands/useCommand.ts';
import { Modal } from '../parts/Modal.tsx';
import { Waiting } from '../parts/ProblemNote.tsx';
import type { InHand } from '../workers/droppedMedia.ts';

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
  const zone = useDropzone({
    noClick: true,
    noKeyboard: true,
    disabled: !takesFiles,
    onDrop: (files, _refused, event) => {
      const target = event && 'target' in event && event.target instanceof Element ? event.target : null;
      const clipId = target?.closest<HTMLElement>('[data-takes-files]')?.dataset.takesFiles ?? null;
      if (files.length > 0) setDropped({ files: files.map((file) => ({ file, path: pathOf(file) })), clipId });
    },
  });
  useCommand('reconnect', zone.open, takesFiles ? null : 'This is done at Causes, Ledger, Cut or Bins.');
  return (
    <div {...zone.getRootProps({ className: 'relative h-full', role: undefined, tabIndex: undefined })}>
      <input {...zone.getInputProps({ 'aria-label': 'files to find clips for' })} />
      {children}
      {zone.isDragActive && (
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

/** The path that a browser, or what reads a dropped folder for it, tells of a file. */
const pathOf = (file: File & { readonly path?: string }): string => file.webkitRelativePath || file.path || file.name;
