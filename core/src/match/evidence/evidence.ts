import type { MediaKind, Raster } from '../../model/edit.ts';
import type { Rate } from '../../time/rate.ts';
import type { FrameRange } from '../../time/range.ts';
import type { Attribute } from '../rules.ts';
import type { PreparedClip, PreparedFile } from '../prepare.ts';

export type Verdict = 'agrees' | 'nearly' | 'differs' | 'unknown';

type Two<T> = { readonly edit: T; readonly file: T };

/** What was compared and what came out, as fields; sentences are made of these at the edge. */
export type Finding =
  | ({ readonly code: 'name-equal' | 'name-case' | 'name-unicode' | 'name-extension' | 'name-differs' } & Two<string>)
  /** Something in front, behind, or between the words. */
  | ({
      readonly code: 'name-added';
      readonly before: string;
      readonly between: string;
      readonly after: string;
    } & Two<string>)
  /** The name of a numbered sequence, or of a picture of it. */
  | ({ readonly code: 'name-sequence' } & Two<string>)
  /** Alike but for what tells one version from another; alike but for a number; alike in a folder of another number. */
  | ({ readonly code: 'name-version' | 'name-number' | 'name-in-other-folder' } & Two<string>)
  /** The same name, and a version told by the folder of one of the two alone. */
  | ({ readonly code: 'name-version-untold' } & Two<string>)
  /** What cameras and desktops add to a second file of one name. */
  | ({ readonly code: 'name-copy'; readonly mark: string } & Two<string>)
  /** The clip's or the reel's name stands in the file's. */
  | ({ readonly code: 'name-inside'; readonly of: 'clip' | 'reel' } & Two<string>)
  /** Alike but for a few letters; the figure is the share of letters that stay, in hundredths. */
  | ({ readonly code: 'name-similar'; readonly hundredths: number } & Two<string>)
  | ({ readonly code: 'folder-levels'; readonly levels: number; readonly of: number } & Two<string>)
  /** Folders of what stood side by side: two cameras, two eyes, two channels. */
  | ({ readonly code: 'folder-beside' } & Two<string>)
  | ({ readonly code: 'reel-equal' | 'reel-case' | 'reel-spelling' | 'reel-truncated' | 'reel-differs' } & Two<string>)
  | ({ readonly code: 'reel-in-path'; readonly where: 'file' | 'folder' } & Two<string>)
  /** The file's reel stands in the clip's name, which states none beside it. */
  | ({ readonly code: 'reel-in-name' } & Two<string>)
  | ({
      readonly code: 'start-equal' | 'start-within-a-frame' | 'start-differs' | 'both-count-from-zero';
    } & Two<FrameRange>)
  | ({ readonly code: 'used-inside' } & Two<FrameRange>)
  | ({ readonly code: 'used-partly' | 'used-outside'; readonly uncoveredInFrames: number } & Two<FrameRange>)
  | { readonly code: 'length-equal' | 'length-within-a-frame'; readonly inFrames: number }
  /** `length-differs-covers`: of one reel and timecode, longer or cut down; all that is used is in it. */
  | ({ readonly code: 'length-differs' | 'length-differs-covers' } & Two<number>)
  /** `rate-varies`: the file's is a mean, and says nothing. */
  | ({ readonly code: 'rate-equal' | 'rate-nominal' | 'rate-varies' | 'rate-differs' } & Two<Rate>)
  | ({ readonly code: 'raster-equal' | 'raster-scaled' | 'raster-differs' } & Two<Raster>)
  /** By all bytes, or by sampled blocks. */
  | ({ readonly code: 'content-equal' | 'content-differs'; readonly by: 'hash' | 'fingerprint' } & Two<string>)
  | ({ readonly code: 'kind-equal' | 'kind-sequence' | 'kind-differs' } & Two<MediaKind>)
  | ({ readonly code: 'codec-equal' | 'codec-differs' } & Two<string>)
  | ({ readonly code: 'sound-equal' | 'sound-partly' | 'sound-differs' } & Two<SoundForm>)
  | ({ readonly code: 'size-equal' | 'size-differs' } & Two<number>)
  | ({ readonly code: 'date-equal' | 'date-within-two-seconds' | 'date-differs' } & Two<number>)
  | { readonly code: 'edit-says-nothing' | 'file-says-nothing' | 'not-read-yet' | 'does-not-apply' };

export type SoundForm = { readonly channels: number | null; readonly sampleRate: number | null };

export type Evidence = { readonly attribute: Attribute; readonly verdict: Verdict; readonly finding: Finding };
export type Weighing = { readonly verdict: Verdict; readonly finding: Finding };

/** One attribute, one file, one signature. */
export type AttributeCheck = {
  readonly attribute: Attribute;
  readonly weigh: (clip: PreparedClip, file: PreparedFile) => Weighing;
};

const unknown = (code: 'edit-says-nothing' | 'file-says-nothing' | 'not-read-yet' | 'does-not-apply') =>
  ({ verdict: 'unknown', finding: { code } }) as const;
export const editSaysNothing = unknown('edit-says-nothing');
export const fileSaysNothing = unknown('file-says-nothing');
export const notReadYet = unknown('not-read-yet');
export const doesNotApply = unknown('does-not-apply');
