/** What others use of `formats`. */
export { kindOfName } from './clips.ts';
export {
  formatOf,
  largestDocumentInBytes,
  readDocument,
  readerVersion,
  relinkDocument,
  type Relinked,
} from './documents.ts';
export { noChoices, type Choices, type FormatId, type Grouping, type NewReference, type Reading } from './format.ts';
export { writeCsv } from './log/write.ts';
export { tracksOfTimeline } from './spans.ts';
export { decodeText, encodeText } from './text.ts';
