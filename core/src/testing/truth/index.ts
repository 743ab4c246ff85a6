export { documentWorld, faultInDocuments, type DocumentWorld } from './documentWorld.ts';
export { fates, type Expected, type Fate } from './fates.ts';
export { manners, produce, type Batch, type Manner, type ProductionSize, type Truth } from './production.ts';
export { chanceOf, devices, type Chance, type ShootSize } from './shoot.ts';
export { allDark, outcomeOf, type Outcome, type Tally } from './outcome.ts';
export { faultOf, smallWorld, type SmallWorld } from './smallWorld.ts';
export { untimedWorld, type UntimedWorld } from './untimedWorld.ts';
