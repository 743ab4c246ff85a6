export { buildClip, buildEvent, buildFacts, buildFile, buildPlace, clipId, fileId, placeId } from './build.ts';
export { generateProduction, seeded } from './generate.ts';
export { fates, generateTruth, usualShares, type Fate, type Truth } from './truth.ts';
