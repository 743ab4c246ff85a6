import type { Detail } from './detail.ts';
import type { TimecodeFault } from '../time/timecode.ts';

/** Where in a document something stands: a line of text (from 1) or a JSON pointer. */
export type Whereabouts = { readonly line: number } | { readonly path: string };

/** What a reader noticed and kept as it is. Codes and fields only: sentences are made at the edge. */
export type Remark = { readonly at: Whereabouts } & (
  | { readonly code: 'line-not-understood'; readonly text: string }
  | { readonly code: 'timecode-impossible'; readonly fault: TimecodeFault }
  | { readonly code: 'lengths-differ'; readonly sourceInFrames: number; readonly recordInFrames: number }
  | {
      readonly code: 'speed-disagrees';
      readonly sourceInFrames: number;
      readonly recordInFrames: number;
      readonly framesPerSecond: number;
      readonly expectedInFrames: number;
    }
  | { readonly code: 'record-overlap'; readonly overlapInFrames: number; readonly withLine: number }
  | { readonly code: 'record-gap'; readonly gapInFrames: number; readonly afterLine: number }
  | {
      readonly code: 'name-far-apart';
      readonly name: string;
      readonly apartInSeconds: number;
      readonly afterLine: number;
    }
  | { readonly code: 'speed-without-event'; readonly text: string }
  | { readonly code: 'drop-frame-impossible'; readonly text: string }
  | { readonly code: 'transition-unknown'; readonly text: string }
  | { readonly code: 'schema-unknown'; readonly schema: string }
  | { readonly code: 'schema-version-unknown'; readonly schema: string; readonly known: number }
  | { readonly code: 'number-not-finite'; readonly text: string }
  | { readonly code: 'time-not-understood'; readonly what: string; readonly value: string; readonly rate: string }
  | { readonly code: 'rate-unknown'; readonly value: string }
  | { readonly code: 'fraction-rounded-outward'; readonly value: number }
  | { readonly code: 'clip-without-range'; readonly name: string }
  | { readonly code: 'reference-missing'; readonly name: string }
  | { readonly code: 'child-not-understood'; readonly what: string }
  | { readonly code: 'row-skipped'; readonly reason: RowFault }
  | { readonly code: 'media-in-bundle'; readonly files: number; readonly bytes: number }
  | { readonly code: 'more-of-these'; readonly of: string; readonly count: number }
);

/** Why a row of a log cannot become a clip. */
export type RowFault =
  | { readonly code: 'no-name' }
  | { readonly code: 'timecode-impossible'; readonly column: string; readonly fault: TimecodeFault }
  | { readonly code: 'duration-not-understood'; readonly column: string; readonly text: string }
  | { readonly code: 'rate-not-understood'; readonly column: string; readonly text: string }
  | { readonly code: 'ends-before-start'; readonly start: string; readonly end: string }
  | { readonly code: 'too-many-cells'; readonly cells: number; readonly columns: number }
  | { readonly code: 'quote-not-closed' };

/** Why a document could not be read at all. Nothing of it is kept, and nothing is guessed. */
export type ReadFault =
  | { readonly code: 'document-empty' }
  | { readonly code: 'document-not-text' }
  | { readonly code: 'document-too-large'; readonly limitInBytes: number }
  | { readonly code: 'format-unknown'; readonly known: readonly string[] }
  | { readonly code: 'json-broken'; readonly line: number; readonly column: number; readonly detail: Detail }
  | { readonly code: 'nested-too-deep'; readonly limit: number }
  | { readonly code: 'no-edit-inside'; readonly found: string }
  | { readonly code: 'bundle-broken'; readonly detail: Detail }
  /** A number in it is no frame of anything. */
  | { readonly code: 'counts-too-far'; readonly number: number }
  | { readonly code: 'rate-needed'; readonly proposals: readonly RateProposal[] }
  | { readonly code: 'columns-needed'; readonly columns: LogColumns };

/** A rate that a document without one may be counting at, with the reason, likeliest first. */
export type RateProposal = {
  readonly rate: { readonly num: number; readonly den: number };
  readonly reason:
    | { readonly code: 'drop-frame-stated' }
    | { readonly code: 'lengths-agree'; readonly agree: number; readonly of: number }
    /** It stands in the document itself. */
    | { readonly code: 'stated'; readonly line: number }
    | { readonly code: 'other-timelines' }
    | { readonly code: 'largest-frame'; readonly frame: number; readonly line: number }
    | { readonly code: 'common' };
};

/** What a column of a shot log means. `metadata` keeps it under its header; `ignore` leaves it in the document only. */
export const columnRoles = [
  'name',
  'file',
  'folder',
  'reel',
  'start',
  'end',
  'duration',
  'rate',
  'scene',
  'take',
  'notes',
  'metadata',
  'ignore',
] as const;
export type ColumnRole = (typeof columnRoles)[number];

/** The columns of a log as they were taken, with the first rows to judge them by. */
export type LogColumns = {
  readonly headers: readonly string[];
  readonly roles: readonly ColumnRole[];
  readonly samples: readonly (readonly string[])[];
  readonly rows: number;
};

/** No document floods its reader: what comes more often than this is counted. */
const mostOfOneKind = 400;

/** The remarks with at most 400 of each kind; the rest as one count at the place of the first left out. */
export function bounded(remarks: readonly Remark[]): Remark[] {
  const seen = new Map<string, number>();
  const kept: Remark[] = [];
  const firstLeftOut = new Map<string, Remark['at']>();
  for (const remark of remarks) {
    const count = (seen.get(remark.code) ?? 0) + 1;
    seen.set(remark.code, count);
    if (count <= mostOfOneKind) kept.push(remark);
    else if (count === mostOfOneKind + 1) firstLeftOut.set(remark.code, remark.at);
  }
  for (const [of, at] of firstLeftOut)
    kept.push({ at, code: 'more-of-these', of, count: seen.get(of)! - mostOfOneKind });
  return kept;
}
