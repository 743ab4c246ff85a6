// The public face of core, by concept. Bytes → formats → model → match / consolidate → report.

// Time: exact rates, timecode, half-open ranges.
export {
  formatRate,
  hasDropFrame,
  nominalRate,
  parseRate,
  rate,
  rateFromDecimal,
  sameRate,
  snapToStandard,
  standardRates,
  type Rate,
} from './time/rate.ts';
export {
  formatPosition,
  formatTimecode,
  framesPerDay,
  parseTimecode,
  type Counting,
  type ParsedTimecode,
  type TimecodeFault,
} from './time/timecode.ts';
export {
  convertFrames,
  convertRangeOutward,
  intersectRanges,
  rangeContains,
  rangeLength,
  scaleFrames,
  shiftRange,
  uncoveredFrames,
  uniteRanges,
  type FrameRange,
} from './time/range.ts';

// Model: what an edit says, what storage holds.
export type { Bin, Clip, Edit, EditEvent, MediaKind, Raster, Timeline, TransitionIn } from './model/edit.ts';
export { acceptsAll, refusalOf, type AcceptanceProfile } from './model/acceptance.ts';
export { knownFromMetadata, nothingKnown, type Known } from './model/known.ts';
export {
  addressAt,
  rangeReadAs,
  readAs,
  thenReadAs,
  type Counted,
  type Interpretation,
} from './model/interpretation.ts';
export { splitRecordings, type Recording } from './model/recordings.ts';
export { byTrack, tracksOf } from './model/tracks.ts';
export { usesOf, withUsedRanges, type ClipUse, type UseStep } from './model/uses.ts';
export {
  countingRate,
  doubts,
  quarantining,
  sourceRange,
  type Doubt,
  type Refusal,
  type Facts,
  type MediaFile,
  type SequenceFrames,
  type TimecodeSource,
  type Unreadable,
} from './model/media.ts';
export type { Place } from './model/place.ts';
export {
  foldersInPlace,
  pathKeys,
  PlaceDirectory,
  placeNames,
  wayInto,
  type PathKeys,
  type PlaceNames,
} from './paths/places.ts';
export type { ClipId, DocumentId, HandoffId, JobId, MediaFileId, PlaceId, ProjectId } from './model/ids.ts';
export {
  columnRoles,
  type ColumnRole,
  type LogColumns,
  type RateProposal,
  type ReadFault,
  type Remark,
  type RowFault,
  type Whereabouts,
} from './remarks/remark.ts';

// Formats: bytes of a document to an edit, and back: with its references changed, or written anew.
export {
  formatOf,
  formats,
  largestDocumentInBytes,
  readDocument,
  readerVersion,
  relinkDocument,
  type DocumentRead,
  type Relinked,
} from './formats/index.ts';
export { kindOfName } from './formats/clips.ts';
export {
  formatIds,
  groupings,
  noChoices,
  type Choices,
  type OutPoints,
  type Format,
  type FormatId,
  type Grouping,
  type NewReference,
  type Reading,
  type ReadOptions,
  type ReadResult,
  type WriteScope,
} from './formats/format.ts';
export { tracksOfTimeline } from './formats/spans.ts';
export { decodeText, encodeText, textEncodings, type TextEncoding } from './formats/text.ts';
export { writeCsv } from './formats/log/write.ts';

// Compare: two versions of a document.
export { framesToCompare, likenessOf, togetherAlike, type Likeness } from './compare/pictures.ts';
export { sameClips } from './compare/clips.ts';
export { compareEdits, type ComparedEvent, type EventChange, type TimelineChanges } from './compare/edits.ts';

// Project: a whole project as one document, and back.
export {
  collectTimelines,
  packProject,
  unpackProject,
  type DocumentToPack,
  type UnpackedProject,
} from './project/package.ts';
export type { PackedClip, PackedDocument, PackedFile, ProjectPackage } from './project/schema.ts';

// Paths: remembered paths of any system, displacements, names.
export { decodePercent, folderOf, parseRememberedPath, type RememberedPath } from './paths/remembered.ts';
export { learnedName } from './paths/learned.ts';
export { commonTail, displace, displacementOf, type Displacement } from './paths/displacement.ts';
export { compareReels, nameKey, nameTokens, reelForms, reelKey, safeName, splitExtension } from './paths/names.ts';
export { isRenamed, rename, renamingKey, renamingOf, type Renaming, type StemChange } from './paths/renaming.ts';
export { findSequences, frameName, leastSequenceLength, sequenceName } from './paths/sequence.ts';

// Match: retrieve → weigh → decide → explain, and what follows from one decision.
export { match, Matching, prepareFiles, type ClipToMatch, type MatchInput, type MatchResult } from './match/match.ts';
export {
  attributes,
  attributesInShort,
  defaultRules,
  shippedRuleSets,
  type Attribute,
  type MatchRules,
  type RuleSet,
  type RuleWeight,
  type SearchedFolder,
} from './match/rules.ts';
export type { Evidence, Finding, SoundForm, Verdict } from './match/evidence/evidence.ts';
export {
  alignedRange,
  prepareClip,
  prepareFile,
  withStanding,
  type MatchClip,
  type PreparedClip,
  type PreparedFile,
  type Standing,
} from './match/prepare.ts';
export { enrichFromLogs } from './match/enrich.ts';
export { verdictIn, verdictsIn, verdictUnder, type Marks } from './match/marks.ts';
export { closeness, evidenceOf, weigh, type Candidate, type FileInHand } from './match/weigh.ts';
export { decide, groundsOf, inOrderOfCloseness, isSearched, refusedFor } from './match/decide.ts';
export {
  type AskReason,
  type ClipInHand,
  type Decided,
  type Decision,
  type Margin,
  type Weighed,
} from './match/decision.ts';
export { sameRecording, type Claim, type Claimant } from './match/claims.ts';
export type { Grounds } from './match/grounds.ts';
export { contradicts, explain, type Why } from './match/explain.ts';
export { excusedBy, interpretationOf, timecodeDisplacement, type TimecodeDisplacement } from './match/displacement.ts';
export { findCauses } from './match/causes.ts';
export {
  isQuestion,
  type Cause,
  type CauseKind,
  type CauseLink,
  type DarkClip,
  type TimecodeCause,
} from './match/cause.ts';
export { defaultForm, forms, type Form } from './match/forms.ts';
export { findRenditions, type Rendition } from './match/renditions.ts';
export { carry, carryPattern, filesByPath, type Carried, type CarryPattern } from './match/carry.ts';

// State: what ties a clip, when a link is certain, what status follows, what a scope reaches.
export { judge, judgeOnceLinked, seenOf, tiedTo, type Judged, type Seen, type Ties } from './state/tie.ts';
export { certainLink } from './state/certain.ts';
export { comesBack, deriveStatus, isDark, type Status, type StatusName } from './state/status.ts';
export { firstFrameInFile, uncoveredOf, uncoveredUse } from './state/coverage.ts';
export { clipsInScope } from './state/scope.ts';

// Consolidate: a plan, no I/O.
export {
  filesToCopy,
  planWholeFiles,
  type ConsolidatePlan,
  type LeftOutReason,
  type PlanFile,
  type PlanInput,
  type PlannedFile,
} from './consolidate/plan.ts';
export { defaultHeadroomShare, roomAfter, type Room } from './consolidate/room.ts';

// Report: what a person takes away.
export { darkFrames, darkRanges } from './report/dark.ts';
export { pullAsEdit, pullHeaders, pullList, pullTable, type PullRow } from './report/pull.ts';
export { bytesByUse, roomShares, type RoomFile, type RoomShare } from './report/room.ts';
export { inOrderOfSuspicion, type Suspect, type Suspicion } from './report/suspicion.ts';
export { usedMediaHeaders, usedMediaTable, type UsedClip } from './report/usedMedia.ts';
