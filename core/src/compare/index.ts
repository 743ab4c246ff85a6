/** What others use of `compare`. */
export { sameClips } from './clips.ts';
export { compareEdits } from './edits.ts';
export { framesToCompare, likenessOf, togetherAlike } from './pictures.ts';
