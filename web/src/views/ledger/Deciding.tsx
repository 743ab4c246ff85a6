import type { ClipDetail } from '@legame/core/contract';
import { AcceptedCopy } from './AcceptedCopy.tsx';
import { CarryPanel } from './CarryPanel.tsx';
import type { Mode } from './mode.ts';
import { PointByHand } from './PointByHand.tsx';
import { SwapPanel } from './SwapPanel.tsx';
import type { ShownFile } from './useShownFile.ts';
import { WaivePanel } from './WaivePanel.tsx';

/** What is being decided, in place of the comparison. */
export function Deciding({
  projectId,
  clip,
  mode,
  file,
  onClose,
}: {
  projectId: string;
  clip: ClipDetail;
  mode: Exclude<Mode, { kind: 'compare' }>;
  file: ShownFile;
  onClose: () => void;
}) {
  switch (mode.kind) {
    case 'point':
      return (
        <PointByHand
          clipName={clip.fileName}
          startAt={file.shown ? { placeId: file.shown.file.placeId, folder: file.shown.file.folder } : null}
          onClose={onClose}
          onChoose={(mediaFileId) => {
            file.setPointed(mediaFileId);
            onClose();
          }}
        />
      );
    case 'carry':
      return <CarryPanel projectId={projectId} clip={clip} mediaFileId={mode.mediaFileId} onClose={onClose} />;
    case 'swap':
      return <SwapPanel projectId={projectId} clip={clip} weighed={mode.weighed} onClose={onClose} />;
    case 'waive':
      return <WaivePanel projectId={projectId} rows={[clip]} onClose={onClose} />;
    case 'copy':
      return <AcceptedCopy projectId={projectId} weighed={mode.weighed} onClose={onClose} />;
  }
}
