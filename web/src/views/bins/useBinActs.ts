import {
  isSameBin,
  isWithin,
  movedPath,
  type BinNode,
  type BinPath,
  type FileRule,
  type Label,
} from '@legame/core/bins';
import { bins } from '../../api/bins.ts';

/** What is done to bins and to what lies in them; each is one act, and one undo. Gives what went wrong with the last. */
export function useBinActs(projectId: string, root: BinNode, onOpen: (bin: BinPath) => void) {
  const [make, made] = bins.useMakeBinMutation();
  const [move, moved] = bins.useMoveBinMutation();
  const [remove, removed] = bins.useRemoveBinMutation();
  const [file, filed] = bins.useFileClipsMutation();
  const [fileBy, filedBy] = bins.useFileClipsByMutation();
  const [label, labelled] = bins.useLabelClipsMutation();
  const [setLabels, set] = bins.useSetLabelsMutation();
  const failed = [made, moved, removed, filed, filedBy, labelled, set].find((one) => one.error);
  const moveTo = (bin: BinPath, to: BinPath) => {
    if (isSameBin(bin, to)) return;
    void move({ projectId, bin, to })
      .unwrap()
      .then(() => onOpen(movedPath(bin, bin, to)))
      // What went wrong is shown over the table.
      .catch(() => undefined);
  };
  return {
    /** Makes one under a name that nothing has there yet; it is open then, to be called something else. */
    make: (within: BinPath) => {
      const bin = [...within, freeName(binAt(root, within))];
      void make({ projectId, bin })
        .unwrap()
        .then(() => onOpen(bin))
        .catch(() => undefined);
    },
    rename: (bin: BinPath, name: string) => moveTo(bin, [...bin.slice(0, -1), name]),
    move: (bin: BinPath, to: BinPath) => {
      // Dropped onto itself or onto what it stands in, nothing was meant.
      if (!isWithin(to, bin)) moveTo(bin, to);
    },
    remove: (bin: BinPath) => {
      void remove({ projectId, bin })
        .unwrap()
        .then(() => onOpen(bin.slice(0, -1)))
        .catch(() => undefined);
    },
    file: (clipIds: readonly string[], bin: BinPath) => void (clipIds.length && file({ projectId, clipIds, bin })),
    fileBy: (clipIds: readonly string[], rule: FileRule, under: BinPath) =>
      void (clipIds.length && fileBy({ projectId, clipIds, rule, under })),
    label: (clipIds: readonly string[], to: string | null) =>
      void (clipIds.length && label({ projectId, clipIds, label: to })),
    setLabels: (labels: readonly Label[]) => void setLabels({ projectId, labels }),
    error: failed?.error,
    onClose: () => failed?.reset(),
  };
}

const binAt = (root: BinNode, path: BinPath): BinNode | undefined =>
  path.reduce<BinNode | undefined>((node, name) => node?.bins.find((bin) => bin.name === name), root);

function freeName(within: BinNode | undefined): string {
  const taken = new Set(within?.bins.map((bin) => bin.name));
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? 'New bin' : `New bin ${n}`;
    if (!taken.has(name)) return name;
  }
}
