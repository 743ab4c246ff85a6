export { buildClip, buildEvent, buildFacts, buildFile, buildPlace, clipId, fileId, placeId } from './build.ts';
export { generateProduction, seeded } from './generate.ts';
