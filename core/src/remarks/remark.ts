import type { TimecodeFault } from '../time/timecode.ts';

/** Where in a document something stands: a line of text (from 1) or a JSON path. */
export type Whereabouts = { readonly line: number } | { readonly path: string };

/** What a reader noticed and kept as it is. Codes and fields only: sentences are made at the edge. */
export type Remark = { readonly at: Whereabouts } & (
  | { readonly code: 'line-not-understood'; readonly text: string }
  | { readonly code: 'timecode-impossible'; readonly fault: TimecodeFault }
  | { readonly code: 'lengths-differ'; readonly sourceInFrames: number; readonly recordInFrames: number }
  | { readonly code: 'record-overlap'; readonly overlapInFrames: number; readonly withLine: number }
  | { readonly code: 'speed-without-event'; readonly text: string }
  | { readonly code: 'event-kind-unknown'; readonly text: string }
  | { readonly code: 'text-replaced'; readonly encoding: string }
  | { readonly code: 'schema-unknown'; readonly schema: string }
  | { readonly code: 'rate-unknown'; readonly value: string }
  | { readonly code: 'fraction-rounded-outward'; readonly value: number }
  | { readonly code: 'clip-without-range'; readonly name: string }
  | { readonly code: 'reference-missing'; readonly name: string }
  | { readonly code: 'child-not-understood'; readonly what: string }
);

/** Why a document could not be read at all. Nothing of it is kept, and nothing is guessed. */
export type ReadFault =
  | { readonly code: 'document-empty' }
  | { readonly code: 'document-not-text' }
  | { readonly code: 'format-unknown'; readonly known: readonly string[] }
  | { readonly code: 'json-broken'; readonly line: number; readonly column: number; readonly detail: string }
  | { readonly code: 'nested-too-deep'; readonly limit: number }
  | { readonly code: 'no-edit-inside'; readonly found: string }
  | { readonly code: 'rate-needed'; readonly proposals: readonly RateProposal[] };

/** A rate that an EDL without one may be counting at, with the reason, likeliest first. */
export type RateProposal = {
  readonly rate: { readonly num: number; readonly den: number };
  readonly reason:
    | { readonly code: 'drop-frame-stated' }
    | { readonly code: 'largest-frame'; readonly frame: number; readonly line: number }
    | { readonly code: 'common' };
};
