/** What others use of `mhl`. */
export { c4Of } from './c4.ts';
export { directoriesOf, type HashBytes } from './directories.ts';
export { chainName, lengthenChain, readChain, writeChain, type Link } from './chain.ts';
export { chainings, checkStates, harmfulStates, isListDoubted, judge, wantedHash, type CheckState } from './judge.ts';
export { hashNames, type HashName } from './hashNames.ts';
export { ListReader, type HashedFile, type Hashes, type ListAbout, type ListFault, type ListRead } from './read.ts';
export { generationName, ignored, listFolder, writeGeneration, type Generation, type ListedFile } from './write.ts';
