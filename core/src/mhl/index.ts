/** What others use of `mhl`. */
export { c4Of } from './c4.ts';
export { directoriesOf, type HashBytes } from './directories.ts';
export { hashNames, ListReader, type HashedFile, type HashName, type ListFault, type ListRead } from './read.ts';
export {
  chainName,
  generationName,
  ignored,
  listFolder,
  writeChain,
  writeGeneration,
  type Generation,
  type ListedFile,
} from './write.ts';
