import type { Raster } from '../../model/edit.ts';
import type { Rate } from '../../time/rate.ts';
import type { FrameRange } from '../../time/range.ts';
import type { Attribute } from '../rules.ts';
import type { PreparedClip, PreparedFile } from '../prepare.ts';

export type Verdict = 'agrees' | 'nearly' | 'differs' | 'unknown';

/** What was compared and what came out, as fields; sentences are made of these at the edge. */
export type Finding =
  | {
      readonly code: 'name-equal' | 'name-case' | 'name-unicode' | 'name-extension' | 'name-differs';
      readonly edit: string;
      readonly file: string;
    }
  | {
      readonly code: 'name-added';
      readonly edit: string;
      readonly file: string;
      readonly before: string;
      readonly after: string;
    }
  | {
      readonly code: 'folder-levels';
      readonly edit: string;
      readonly file: string;
      readonly levels: number;
      readonly of: number;
    }
  | {
      readonly code: 'reel-equal' | 'reel-spelling' | 'reel-truncated' | 'reel-differs';
      readonly edit: string;
      readonly file: string;
    }
  | { readonly code: 'reel-in-path'; readonly edit: string; readonly file: string }
  | {
      readonly code: 'start-equal' | 'start-within-a-frame' | 'both-count-from-zero';
      readonly edit: FrameRange;
      readonly file: FrameRange;
    }
  | { readonly code: 'used-inside' | 'used-outside'; readonly edit: FrameRange; readonly file: FrameRange }
  | {
      readonly code: 'used-partly';
      readonly edit: FrameRange;
      readonly file: FrameRange;
      readonly uncoveredInFrames: number;
    }
  | { readonly code: 'length-equal' | 'length-within-a-frame'; readonly inFrames: number }
  | { readonly code: 'length-differs'; readonly edit: number; readonly file: number }
  | { readonly code: 'rate-equal' | 'rate-nominal' | 'rate-differs'; readonly edit: Rate; readonly file: Rate }
  | { readonly code: 'raster-equal' | 'raster-scaled' | 'raster-differs'; readonly edit: Raster; readonly file: Raster }
  | { readonly code: 'edit-says-nothing' | 'file-says-nothing' | 'not-read-yet' | 'does-not-apply' };

export type Evidence = { readonly attribute: Attribute; readonly verdict: Verdict; readonly finding: Finding };

/** One attribute, one file, one signature. */
export type AttributeCheck = {
  readonly attribute: Attribute;
  readonly weigh: (clip: PreparedClip, file: PreparedFile) => { readonly verdict: Verdict; readonly finding: Finding };
};

const unknown = (code: 'edit-says-nothing' | 'file-says-nothing' | 'not-read-yet' | 'does-not-apply') =>
  ({ verdict: 'unknown', finding: { code } }) as const;
export const editSaysNothing = unknown('edit-says-nothing');
export const fileSaysNothing = unknown('file-says-nothing');
export const notReadYet = unknown('not-read-yet');
export const doesNotApply = unknown('does-not-apply');
