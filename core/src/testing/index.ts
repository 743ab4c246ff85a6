export { buildClip, buildFacts, buildFile, buildPlace, clipId, fileId, placeId } from './build.ts';
export { generateProduction, seeded } from './generate.ts';
