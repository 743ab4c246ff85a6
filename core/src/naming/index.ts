/** What others use of `naming`. */
export { fillPattern, hasToken, strangeTokens } from './pattern.ts';
export {
  namesBy,
  namingTokens,
  proposeNames,
  renameFaults,
  versionIn,
  type NamingParts,
  type NamingToken,
  type Proposed,
  type RenameFault,
  type ToName,
} from './rename.ts';
