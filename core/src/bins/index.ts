/** What others use of `bins`. */
export {
  checkBin,
  checkReels,
  onReel,
  type BinFinding,
  type ClipOnReel,
  type OnReel,
  type ReelRow,
  type RowToCheck,
} from './checks.ts';
export { gatherClips, recordingOf } from './gather.ts';
export { binBy, fileRules, type FileRule } from './fileBy.ts';
export {
  circledValue,
  labelColours,
  labelMarks,
  notedColumns,
  notedValue,
  nothingNoted,
  orNothing,
  withValues,
  type BinPath,
  type Label,
  type Noted,
} from './noted.ts';
export { readPasted, spreadPasted, writePasted } from './pasted.ts';
export {
  binKey,
  binTree,
  faultOf,
  binsAfter,
  emptyBins,
  faultOfMove,
  isSameBin,
  isWithin,
  movedPath,
  pathsOfBins,
  uniteBins,
  type BinFault,
  type BinNode,
} from './tree.ts';
