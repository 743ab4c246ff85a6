/** What others use of `compare`. */
export { sameClips } from './clips.ts';
export { compareEdits, type EventChange } from './edits.ts';
export { framesToCompare, likenessOf, togetherAlike } from './pictures.ts';
export { lookOf, lookVerdict, sharedOfLooks, type Look, type LookVerdict } from './look.ts';
export { findNewer, versionOf, type KnownDocument, type Newer, type WatchedFile } from './newer.ts';
