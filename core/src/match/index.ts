/** What others use of `match`. */
export { carry, carryPattern, filesByPath, isKnownElsewhere, type Carried, type CarryPattern } from './carry.ts';
export { isQuestion, type Cause, type CauseKind, type DarkClip, type TimecodeCause } from './cause.ts';
export { findCauses, findingCauses } from './causes.ts';
export { sameRecording, type Claim } from './claims.ts';
export { decide, groundsOf, refusedFor } from './decide.ts';
export { offeredBy, type ClipInHand, type Decided, type Decision } from './decision.ts';
export { excusedBy, interpretationOf, timecodeDisplacement, type TimecodeDisplacement } from './displacement.ts';
export { fitsOf, sameAmong, type DroppedFile } from './dropped.ts';
export { enrichFromLogs, isPoor } from './enrich.ts';
export type { Evidence, Finding, SoundForm, Verdict } from './evidence/evidence.ts';
export type { Why } from './explain.ts';
export { defaultForm, forms, type Form } from './forms.ts';
export { FoundBefore } from './hypotheses.ts';
export { verdictIn, verdictsIn, type Marks } from './marks.ts';
export { match, Matching, prepareFiles, type ClipToMatch, type MatchInput, type MatchResult } from './match.ts';
export {
  alignedRange,
  FilePreparer,
  prepareClip,
  prepareFile,
  wantedOf,
  withStanding,
  type MatchClip,
  type PreparedClip,
  type PreparedFile,
  type Standing,
} from './prepare.ts';
export { findRenditions } from './renditions.ts';
export {
  attributes,
  attributesInShort,
  defaultRules,
  shippedRuleSets,
  type Attribute,
  type MatchRules,
  type RuleSet,
  type RuleWeight,
} from './rules.ts';
export type { Steps } from './steps.ts';
export { evidenceOf, weigh, type Candidate, type FileInHand } from './weigh.ts';
