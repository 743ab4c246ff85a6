import type { BinNode, BinPath } from '@legame/core/bins';
import { group } from '@legame/words/numbers';
import { NamedTree, type Branch } from '../../parts/NamedTree.tsx';

const branchOf = ({ path, name, bins, within }: BinNode): Branch => ({
  ...{ path, name, branches: bins.map(branchOf) },
  note: group(within),
});
const words = {
  ...{ top: 'All of the project', one: 'bin' },
  takenAway: (name: string) => `Take ${name} away; its clips go up`,
};

/** The bins of a project as a tree, each with how many clips lie in it. */
export const BinTree = ({
  root,
  ...rest
}: {
  root: BinNode;
  open: BinPath;
  onOpen: (bin: BinPath) => void;
  onMake: (within: BinPath) => void;
  onRename: (bin: BinPath, name: string) => void;
  onRemove: (bin: BinPath) => void;
}) => <NamedTree name="bins" root={branchOf(root)} words={words} {...rest} />;
