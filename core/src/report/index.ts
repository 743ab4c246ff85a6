/** What others use of `report`. */
export { darkFrames, darkRanges } from './dark.ts';
export {
  deskStates,
  pullDesk,
  pullMarks,
  requestFor,
  rowsAskedOf,
  type DeskRow,
  type DeskState,
  type Stands,
  type PullMark,
  type PullRequest,
} from './desk.ts';
export {
  pullAsEdit,
  pullHeaders,
  pullList,
  pullSources,
  pullTable,
  sourceName,
  type Handles,
  type PullRow,
} from './pull.ts';
export { bytesByUse, roomShares } from './room.ts';
export { inOrderOfSuspicion } from './suspicion.ts';
export { usedMediaHeaders, usedMediaTable } from './usedMedia.ts';
