/** What a file holds that ends up among media and is none. */
export const otherContents = [
  'zip',
  'empty-zip',
  'gzip',
  '7-zip',
  'rar',
  'pdf',
  'program',
  'database',
  'office',
  'zeros',
  'web-page',
  'playlist',
  'xml',
  'text',
] as const;
export type OtherContent = (typeof otherContents)[number];

/** What is wrong with a header. */
export type HeaderFault =
  | { readonly code: 'part-below-head' }
  | { readonly code: 'parts-too-deep' }
  | { readonly code: 'part-above-whole'; readonly part: string }
  | { readonly code: 'ends-in-field'; readonly at: number }
  | { readonly code: 'size-of-no-file' }
  | { readonly code: 'table-short' }
  | { readonly code: 'index-lacks'; readonly part: string }
  | { readonly code: 'ends-in-value' }
  | { readonly code: 'sound-garbled' };

/** What is found when a file is read or decoded. */
export type ReadingDetail =
  | { readonly code: 'header'; readonly container: string | null; readonly fault: HeaderFault }
  | { readonly code: 'index-unwritten' }
  | { readonly code: 'index-missing' }
  | { readonly code: 'ends-in-index' }
  | { readonly code: 'ends-in-header' }
  | { readonly code: 'no-picture-no-sound' }
  | { readonly code: 'no-sound-data' }
  | { readonly code: 'pixels'; readonly width: number; readonly height: number }
  | { readonly code: 'is-other'; readonly what: OtherContent }
  | { readonly code: 'files-listed'; readonly files: number }
  | { readonly code: 'gave-no-reason' }
  | { readonly code: 'header-beyond-files' }
  | { readonly code: 'decodes-beyond-films' }
  | { readonly code: 'frames-decoded'; readonly frames: number; readonly of: number }
  | { readonly code: 'reader-ended' }
  | { readonly code: 'drive-silent' }
  | { readonly code: 'file-gone' }
  | { readonly code: 'decoding-too-long'; readonly seconds: number }
  | { readonly code: 'decoder-stopped' }
  | { readonly code: 'no-picture-given' }
  | { readonly code: 'plays-not' }
  | { readonly code: 'rate-unknown' };

/** What is found of parts that are cut out, of copies, and of what is unpacked. */
export type PartDetail =
  | { readonly code: 'no-wave-to-cut' }
  | { readonly code: 'frames-uncountable' }
  | { readonly code: 'took-too-long'; readonly seconds: number | null }
  | { readonly code: 'not-written' }
  | { readonly code: 'sound-differs' }
  | { readonly code: 'not-in-source' }
  | { readonly code: 'pictures-counted'; readonly found: number; readonly wanted: number }
  | { readonly code: 'pictures-differ'; readonly fromFrame: number }
  | { readonly code: 'not-read-back' }
  | { readonly code: 'part-unreadable' }
  | { readonly code: 'fact-differs'; readonly fact: string; readonly is: string; readonly wanted: string }
  | { readonly code: 'odd-sides' }
  | { readonly code: 'picture-too-small' }
  | { readonly code: 'is-link' }
  | { readonly code: 'zip-without'; readonly part: string }
  | { readonly code: 'zip-locked' }
  | { readonly code: 'zip-unread'; readonly said: string }
  | { readonly code: 'value-beyond-json' };

/**
 * Why something came to nothing, more exactly than its reason says: found by Legame, as a code; or the words of another
 * program or of the system, as they were said.
 */
export type Detail = string | ReadingDetail | PartDetail;
