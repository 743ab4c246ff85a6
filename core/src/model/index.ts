/** What others use of `model`. */
export { acceptsAll, refusalOf, type AcceptanceProfile } from './acceptance.ts';
export type { Detail, HeaderFault, OtherContent, PartDetail } from '../remarks/detail.ts';
export type { Bin, Clip, Edit, EditEvent, MediaKind, Raster, Timeline } from './edit.ts';
export type { ClipId, DocumentId, HandoffId, JobId, MediaFileId, PlaceId, ProjectId } from './ids.ts';
export { rangeReadAs, readAs, thenReadAs, type Counted, type Interpretation } from './interpretation.ts';
export { nothingKnown, type Known } from './known.ts';
export {
  countingRate,
  quarantining,
  sourceRange,
  type Doubt,
  type Refusal,
  type Facts,
  type MediaFile,
  type SequenceFrames,
  type Unreadable,
} from './media.ts';
export { splitRecordings } from './recordings.ts';
export { readByClip, usesOf } from './uses.ts';
