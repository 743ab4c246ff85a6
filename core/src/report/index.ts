/** What others use of `report`. */
export { darkFrames, darkRanges } from './dark.ts';
export { pullAsEdit, pullHeaders, pullList, pullTable, type PullRow } from './pull.ts';
export { bytesByUse, roomShares } from './room.ts';
export { inOrderOfSuspicion } from './suspicion.ts';
export { usedMediaHeaders, usedMediaTable } from './usedMedia.ts';
