import type { Grounds } from './grounds.ts';
import type { Enriched } from './prepare.ts';
import type { Attribute } from './rules.ts';
import type { Candidate, FileInHand } from './weigh.ts';
import type { ClipId, MediaFileId } from '../model/ids.ts';

/** How far the next best stands behind: the attributes in which it is worse. */
export type Margin = { readonly mediaFileId: MediaFileId; readonly behindIn: readonly Attribute[] };

export type Decision =
  | {
      readonly kind: 'certain';
      readonly mediaFileId: MediaFileId;
      readonly grounds: Grounds;
      /** Null when nothing else came near. */
      readonly second: Margin | null;
      /** Files of the same bytes elsewhere; the one whose folders agree most is taken. */
      readonly copies: readonly MediaFileId[];
    }
  | {
      readonly kind: 'ask';
      /** `likely`: one file alone fits, and nothing that counts speaks against it. `possible`: anything less. */
      readonly certainty: 'likely' | 'possible';
      readonly reason: AskReason;
      readonly mediaFileIds: readonly MediaFileId[];
      readonly second: Margin | null;
    }
  /** The file that lies where the edit's folders say bears its name and cannot be read. */
  | { readonly kind: 'unusable'; readonly mediaFileId: MediaFileId }
  /** The file that lies where the edit's folders say bears its name and is another recording: what it differs in. */
  | { readonly kind: 'refused'; readonly mediaFileId: MediaFileId; readonly differs: readonly Attribute[] }
  | { readonly kind: 'nothing' };

/** The files that a decision offers to be linked: the certain one, or those among which is asked. */
export function offeredBy(decision: Decision | null | undefined): readonly MediaFileId[] {
  if (decision?.kind === 'certain') return [decision.mediaFileId];
  return decision?.kind === 'ask' ? decision.mediaFileIds : [];
}

export type AskReason =
  /** Several candidates are equally good. */
  | 'several'
  /** One recording, in several pictures or sounds that nothing tells apart: grades, versions, exports. */
  | 'versions'
  /** The best candidate fits, but not enough is known to be certain. */
  | 'not-enough-known'
  /** Another clip, of another recording, has as good a claim to the same file. */
  | 'contested'
  /** A file of the same name has not been read yet. */
  | 'still-reading'
  /** What fits best lies in a place that is not there now. */
  | 'place-away'
  /** There are more files of this name than could be held against one another. */
  | 'too-many';

/** What deciding needs of a clip. */
export type ClipInHand = {
  readonly id: ClipId;
  readonly reelKey: string;
  readonly parentKey: string | null;
  readonly stemKey: string;
  /** The first frame that the edit says its media has, at its rate; null where it says none, or one that all begin with. */
  readonly start: number | null;
  /** What gathers it with its neighbours. */
  readonly origin: string | null;
  /** What another clip says of its media, which may be another recording of that reel; null where that is nothing. */
  readonly enriched: Enriched | null;
  /** Very many files bear its name; and its start is one that many takes of that name may have. */
  readonly nameIsCommon: boolean;
  readonly startIsCommon: boolean;
  /** Files of its name that nobody weighed, since their timecode is elsewhere; and those that could be as good. */
  readonly outOfTime: number;
  readonly leftOut: number;
};

export type Weighed<C extends ClipInHand = ClipInHand, F extends FileInHand = FileInHand> = {
  readonly clip: C;
  readonly candidates: readonly Candidate<F>[];
};

export type Decided<C extends ClipInHand = ClipInHand, F extends FileInHand = FileInHand> = Weighed<C, F> & {
  readonly decision: Decision;
};
