/** What others use of `compare`. */
export { sameClips } from './clips.ts';
export { compareEdits, type EventChange } from './edits.ts';
export { framesToCompare, likenessOf, togetherAlike } from './pictures.ts';
export { findNewer, versionOf, type KnownDocument, type Newer, type WatchedFile } from './newer.ts';
