import type { MediaFile, Refusal, Unreadable } from '../model/media.ts';
import { contradicts } from '../match/explain.ts';
import type { Marks } from '../match/marks.ts';
import type { Attribute } from '../match/rules.ts';
import { uncoveredUse, type ClipUsed } from './coverage.ts';

/** A status is derived from link + facts + use, never stored as a fact of its own. */
export type Status =
  | { readonly status: 'linked' }
  | { readonly status: 'missing'; readonly because: MissingBecause }
  | { readonly status: 'changed'; readonly differs: readonly Attribute[] }
  | { readonly status: 'unreadable'; readonly reason: Unreadable }
  | { readonly status: 'short'; readonly uncoveredInFrames: number }
  | { readonly status: 'parked' }
  | { readonly status: 'waived'; readonly reason: string }
  /** Nests trim away all that would be read of it, so that nobody misses its media. */
  | { readonly status: 'unshown' };

/** `taken-offline`: a person untied it on purpose. */
export type MissingBecause = 'nothing-there' | 'place-away' | 'file-gone' | 'not-read-yet' | 'taken-offline';
export const statusNames = [
  'linked',
  'missing',
  'changed',
  'unreadable',
  'short',
  'parked',
  'waived',
  'unshown',
] as const satisfies readonly Status['status'][];
export type StatusName = Status['status'];

export type StatusInput = {
  readonly clip: ClipUsed;
  /** The file the clip is tied to: by a link, else the one that lies where the edit says. */
  readonly tied: {
    readonly file: MediaFile;
    readonly placeThere: boolean;
    /** The file was not found when its place was last walked. */
    readonly gone: boolean;
    readonly marks: Marks;
    /** A person chose this file knowing what differs, so differing from the edit's memory is not a change. */
    readonly chosen: boolean;
    /** Why the project does not accept media of this kind, if it does not. */
    readonly refusal: Refusal | null;
    /** Size or content facts differ from those the link was made with. */
    readonly replaced: boolean;
  } | null;
  /** A person untied it on purpose: nothing that merely lies where the edit says ties it again. */
  readonly takenOffline?: boolean | undefined;
  /** Why the file that was found by its name and all its folders cannot be used, where that is all there is. */
  readonly unusable?: Unreadable | null | undefined;
  readonly setAside: { readonly as: 'parked' | 'waived'; readonly reason: string } | null;
};

/** The one function that says what a clip's status is. */
export function deriveStatus({ clip, tied, takenOffline, unusable, setAside }: StatusInput): Status {
  if (takenOffline && !tied) return orExcused({ status: 'missing', because: 'taken-offline' }, clip, setAside);
  if (!tied && unusable) return orExcused({ status: 'unreadable', reason: unusable }, clip, setAside);
  return orExcused(statusOfTie(clip, tied), clip, setAside);
}

/** The same of a clip that is tied to a file in a place that is away, whatever the file is like. */
export const statusWhileAway = ({ clip, setAside }: Pick<StatusInput, 'clip' | 'setAside'>): Status =>
  orExcused({ status: 'missing', because: 'place-away' }, clip, setAside);

function orExcused(found: Status, clip: ClipUsed, setAside: StatusInput['setAside']): Status {
  if (setAside?.as === 'waived') return { status: 'waived', reason: setAside.reason };
  if (clip.isTrimmedAway && isDark(found.status)) return { status: 'unshown' };
  return setAside?.as === 'parked' && found.status !== 'linked' ? { status: 'parked' } : found;
}

function statusOfTie(clip: ClipUsed, tied: StatusInput['tied']): Status {
  if (!tied) return { status: 'missing', because: 'nothing-there' };
  if (!tied.placeThere) return { status: 'missing', because: 'place-away' };
  if (tied.gone) return { status: 'missing', because: 'file-gone' };
  if (tied.file.unreadable) return { status: 'unreadable', reason: tied.file.unreadable };
  if (tied.refusal) return { status: 'unreadable', reason: { code: 'not-accepted', refusal: tied.refusal } };
  if (!tied.file.facts) return { status: 'missing', because: 'not-read-yet' };
  const differs = contradicts(tied.marks);
  if (tied.replaced || (differs.length > 0 && !tied.chosen)) return { status: 'changed', differs };
  const uncoveredInFrames = uncoveredUse(clip, tied.file);
  return uncoveredInFrames > 0 ? { status: 'short', uncoveredInFrames } : { status: 'linked' };
}

/** Dark: the cut shows or plays nothing there. */
export const isDark = (status: StatusName): boolean => !lit.has(status);
const lit: ReadonlySet<StatusName> = new Set(['linked', 'waived', 'unshown']);

/** Whether a clip of a preview is dark no more once it is linked so: the same judgement as afterwards. */
export const comesBack = ({ fits, after }: { fits: boolean; after: { status: StatusName } | null }): boolean =>
  fits && (after === null || !isDark(after.status));
