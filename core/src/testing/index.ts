export { buildClip, buildEvent, buildFacts, buildFile, buildPlace, clipId, fileId, placeId } from './build.ts';
export { generateProduction, seeded } from './generate.ts';
export {
  allDark,
  chanceOf,
  fates,
  manners,
  outcomeOf,
  produce,
  type Chance,
  type Fate,
  type Manner,
  type Outcome,
  type ProductionSize,
  type Tally,
  type Truth,
} from './truth/index.ts';
