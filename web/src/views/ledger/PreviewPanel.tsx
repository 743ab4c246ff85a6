import type { ClipRow } from '@legame/core/contract';
import { AcceptancePanel } from './AcceptancePanel.tsx';
import { FolderPanel } from './FolderPanel.tsx';
import { FormsPanel } from './FormsPanel.tsx';
import { LinkManyPanel } from './LinkManyPanel.tsx';
import type { Preview } from './preview.ts';
import { RulesPanel } from './RulesPanel.tsx';
import { WaivePanel } from './WaivePanel.tsx';

/** What is about to be done to many clips, in place of the one clip. */
export function PreviewPanel({
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
