/** What others use of `consolidate`. */
export {
  filesToCopy,
  keptUnits,
  leftOutReasons,
  partOfSequence,
  planHandoff,
  standardChoices,
  treatments,
  type Choices,
  type ConsolidatePlan,
  type LeftOutReason,
  type PlanFile,
  type PlanInput,
  type PlannedOut,
  type PlannedRecording,
} from './plan.ts';
export { folderings, nameTokensKnown, strangeTokens } from './names.ts';
export { defaultHeadroomShare, roomAfter } from './room.ts';
export { divisions, noCutReasons, spansOf, type Cutting, type NoCutReason } from './spans.ts';
