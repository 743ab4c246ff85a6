import type { BinNode, BinPath, Label } from '@legame/core/bins';
import { FileInBin } from './FileInBin.tsx';
import { LabelsEditor } from './LabelsEditor.tsx';

export type Asked = 'file' | 'labels' | null;

/** What is asked before something is done in the bins. */
export function BinDialogs({
  asked,
  root,
  bin,
  clips,
  labels,
  onFile,
  onLabels,
  onClose,
}: {
  asked: Asked;
  root: BinNode;
  bin: BinPath;
  clips: number;
  labels: readonly Label[];
  onFile: (bin: BinPath) => void;
  onLabels: (labels: readonly Label[]) => void;
  onClose: () => void;
}) {
  const done =
    <T,>(act: (value: T) => void) =>
    (value: T) => {
      onClose();
      act(value);
    };
  if (asked === 'file')
    return <FileInBin root={root} within={bin} clips={clips} onFile={done(onFile)} onClose={onClose} />;
  if (asked === 'labels') return <LabelsEditor labels={labels} onKeep={done(onLabels)} onClose={onClose} />;
  return null;
}
