import type { Decided } from './decision.ts';
import type { Why } from './explain.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import type { Attribute } from './rules.ts';
import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import type { Interpretation } from '../model/interpretation.ts';
import type { Renaming } from '../paths/renaming.ts';
import type { Rate } from '../time/rate.ts';

/** Why the cut shows nothing of a clip that nobody set aside. */
export type DarkStatus = 'missing' | 'changed' | 'unreadable' | 'short';

/** A dark clip with what matching found out about it. `tiedTo` is the file it is tied to now, wrong or unusable. */
export type DarkClip = {
  readonly decided: Decided<PreparedClip, PreparedFile>;
  readonly why: Why;
  readonly status: DarkStatus;
  readonly tiedTo: MediaFileId | null;
  /** Dark screen time of all its uses, for showing. */
  readonly screenSeconds: number;
};

/** How the timecode of a whole group stands apart. Each member keeps its own shift where they differ. */
export type TimecodeCause =
  | { readonly kind: 'from-zero' }
  | { readonly kind: 'shifted'; readonly byFrames: number; readonly rate: Rate; readonly inHours: number | null }
  | {
      readonly kind: 'shifted-per-reel';
      readonly reels: readonly { readonly reel: string; readonly byFrames: number; readonly rate: Rate }[];
    }
  | { readonly kind: 'other-rate'; readonly from: Rate; readonly to: Rate };

/** One explanation. `displaced` may have several parts at once: a folder that moved and whose files were renamed. */
export type CauseKind =
  | {
      readonly code: 'displaced';
      /** Null where the folder stayed. */
      readonly folder: DisplacedFolder | null;
      /** `afresh`: no pattern leads from the old names to the new ones. */
      readonly name: Renaming | 'afresh' | null;
      readonly timecode: TimecodeCause | null;
      /** A rate that is the same in count only. */
      readonly rate: { readonly edit: Rate; readonly file: Rate } | null;
      /** Files of another raster: small copies, or their originals. */
      readonly isOtherRaster: boolean;
    }
  | { readonly code: 'place-away'; readonly placeId: PlaceId; readonly placeName: string }
  | { readonly code: 'volume-unknown'; readonly volume: string }
  | { readonly code: 'choice'; readonly alternatives: readonly string[] }
  /** Clips that each have a file that may be it, and no company that would bear it out. */
  | { readonly code: 'alone' }
  | { readonly code: 'replaced' }
  /** Untied on purpose. */
  | { readonly code: 'taken-offline' }
  | { readonly code: 'unreadable' }
  | { readonly code: 'short' }
  | { readonly code: 'being-read' }
  | { readonly code: 'gone' };

export type CauseLink = {
  readonly clipId: ClipId;
  readonly mediaFileId: MediaFileId;
  /** How the clip must be read from now on, for its timecode to be the file's; null where it agrees. */
  readonly interpretation: Interpretation | null;
  readonly certain: boolean;
  /** Independent recordings that bear out the same explanation, this one included. */
  readonly witnesses: number;
};

export type Cause = {
  /** The same for the same explanation, as long as it lasts. */
  readonly key: string;
  readonly kind: CauseKind;
  /** `certain`: every link it would make is. `likely`: its members bear each other out. `open`: a person has to say. */
  readonly certainty: 'certain' | 'likely' | 'open';
  /** All clips it accounts for. */
  readonly clipIds: readonly ClipId[];
  readonly screenSeconds: number;
  /** What accepting it links. */
  readonly links: readonly CauseLink[];
  /** What neither edit nor files say of any link that is only likely, and would prove it. */
  readonly wanting: readonly Attribute[];
  /** What it accounts for and does not link: the file that comes near, and what keeps it from fitting. */
  readonly apart: readonly {
    readonly clipId: ClipId;
    readonly mediaFileId: MediaFileId;
    readonly differs: readonly Attribute[];
  }[];
};

/** A question about one clip explains nothing beyond itself: it is asked, and is no cause. */
export const isQuestion = ({ kind, clipIds }: { kind: CauseKind; clipIds: readonly unknown[] }): boolean =>
  kind.code === 'choice' && clipIds.length === 1;

/** Where a tree lay and lies, from volume or place down to where the paths part. */
export type DisplacedFolder = {
  readonly from: string;
  readonly to: string;
  /** `drive`: its name is all that changed. `gathered`: what lay in several folders below `from` lies together in `to`. */
  readonly how: 'drive' | 'tree' | 'gathered';
};
