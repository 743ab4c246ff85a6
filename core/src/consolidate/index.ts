/** What others use of `consolidate`. */
export {
  alsoHashedKnown,
  kindOf,
  leftOutReasons,
  standardChoices,
  takenBy,
  treatmentsBy,
  treatmentsOf,
  type AlsoHashed,
  type Choices,
  type LeftOutReason,
  type PlanFile,
  type PlanInput,
  type Treatment,
} from './choices.ts';
export {
  codedAs,
  codedBytes,
  codedSoundAs,
  codings,
  isCodedFilm,
  noCodingReasons,
  type Coded,
  type CodedFilm,
  type CodedSound,
  type Coding,
  type NoCoding,
} from './coding.ts';
export { comparePlans, type PlanDifference } from './comparePlans.ts';
export { estimateSeconds, type MeasuredRun } from './estimate.ts';
export { partOfSequence } from './layout.ts';
export {
  filesToCopy,
  keptUnits,
  planHandoff,
  type ConsolidatePlan,
  type PlannedOut,
  type PlannedRecording,
} from './plan.ts';
export { folderings, nameTokensKnown, strangeTokens } from './names.ts';
export { defaultHeadroomShare, roomAfter } from './room.ts';
export { sidecarsIn, type Sidecar } from './sidecars.ts';
export { divisions, noCutReasons, spansOf, type Cutting, type NoCutReason } from './spans.ts';
export { wholeReasons } from './treat.ts';
export { waveCodecs, type WaveCodec } from './waveCodec.ts';
