/** What others use of `paths`. */
export { learnedName } from './learned.ts';
export { nameKey, safeName, splitExtension } from './names.ts';
export { foldersInPlace, pathKeys, placeNames, wayInto } from './places.ts';
export { foldersFromVolume, parseRememberedPath, type RememberedPath } from './remembered.ts';
export { isRenamed, type Renaming } from './renaming.ts';
export { findSequences, frameName, sequenceName } from './sequence.ts';
