import type { BinPath } from '../bins/noted.ts';
import type { HashName } from '../mhl/hashNames.ts';
import { acceptsAll, refusalOf, type AcceptanceProfile } from '../model/acceptance.ts';
import type { ClipId, MediaFileId } from '../model/ids.ts';
import type { Facts, SequenceFrames } from '../model/media.ts';
import type { FrameRange } from '../time/range.ts';
import type { Rate } from '../time/rate.ts';
import type { Counting } from '../time/timecode.ts';
import type { Coding } from './coding.ts';
import { defaultPattern, type Foldering } from './names.ts';
import type { Sidecar } from './sidecars.ts';
import type { Cutting, Division } from './spans.ts';

/**
 * What becomes of a recording: copied whole; the used spans of it, without re-encoding; the used spans of it, coded anew;
 * or it stays where it is.
 */
export const treatments = ['whole', 'trim', 'transcode', 'leave'] as const;
export type Treatment = (typeof treatments)[number];

/** What can be done with media of a kind. Sequences are picture, and coded they are already; stills have nothing to trim. */
export const treatmentsOf = {
  picture: treatments,
  sound: treatments,
  still: ['whole', 'leave'],
} as const satisfies Record<string, readonly Treatment[]>;

/** What a person chooses of a handoff. */
export type Choices = {
  readonly picture: (typeof treatmentsOf.picture)[number];
  readonly sound: (typeof treatmentsOf.sound)[number];
  readonly still: (typeof treatmentsOf.still)[number];
  /** What films become that are coded anew; sound becomes WAVE. */
  readonly coding: Coding;
  /** What whoever receives it can use; null for what the project itself accepts. */
  readonly receiver: AcceptanceProfile | null;
  /** Films that the receiver cannot use are coded anew, whatever becomes of the others. */
  readonly transcodesRefused: boolean;
  /** Recordings with which something else is done than with their kind. */
  readonly exceptions: readonly { readonly mediaFileId: MediaFileId; readonly treatment: Treatment }[];
  /** In frames of the timelines' rate. */
  readonly handlesInFrames: number;
  readonly division: Division;
  readonly gapInFrames: number;
  readonly foldering: Foldering;
  /** Of `as-source`: how many of the folders on the place are kept, counted from the file; null for all. */
  readonly levels: number | null;
  readonly pattern: string;
  /** Files that are no media and lie beside a recording under its name go with it. */
  readonly sidecars: boolean;
  /** The project's shot logs go along as they came in, whatever timelines are chosen. */
  readonly logs: boolean;
  /** The whole project goes along as one file, its links leading into the set. */
  readonly archive: boolean;
  /** What the hash list states beside xxh64, which it always does. */
  readonly alsoHashed: readonly AlsoHashed[];
};

/** Hashes that receivers ask for beside xxh64. */
export const alsoHashedKnown = ['md5', 'sha1', 'c4'] as const satisfies readonly HashName[];
export type AlsoHashed = (typeof alsoHashedKnown)[number];

/** What is done where nothing else is asked for: everything that is used, whole. */
export const standardChoices: Choices = {
  picture: 'whole',
  sound: 'whole',
  still: 'whole',
  coding: 'ffv1',
  receiver: null,
  transcodesRefused: false,
  exceptions: [],
  handlesInFrames: 24,
  division: 'span',
  gapInFrames: 0,
  foldering: 'flat',
  levels: null,
  pattern: defaultPattern,
  sidecars: false,
  logs: false,
  archive: false,
  alsoHashed: [],
};

/** A clip in scope, with the file it is tied to, or the reason why it cannot come along. */
export type PlanInput = {
  readonly clipId: ClipId;
  readonly clipName: string;
  /** Names of the timelines that use it, and the bin it lies in; empty for none. */
  readonly usedBy: readonly string[];
  readonly bin: BinPath;
  readonly scene: string | null;
  readonly take: string | null;
  /** The rate that the edit counts it at, for handles and for timecode of sound. */
  readonly rate: Rate;
  readonly counting: Counting;
  /** Where the edit says that its media starts, in frames at `rate`; it numbers files that have no timecode. */
  readonly statedStart: number | null;
  readonly file: PlanFile | null;
  readonly reason: LeftOutReason | null;
  /** What each of its uses reads of the file, in the file's units from its first; null where that is not known. */
  readonly uses: readonly (FrameRange | null)[];
};

export type PlanFile = {
  readonly id: MediaFileId;
  readonly placeName: string;
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly sequence: SequenceFrames | null;
  readonly facts: Facts | null;
  readonly cutting: Cutting;
  /** Tracks that a part of it would be without: all but picture, sound and timecode. */
  readonly otherTracks: number;
  /** What lies beside it under its name. */
  readonly sidecars: readonly Sidecar[];
};

export const leftOutReasons = [
  'missing',
  'place-away',
  'unreadable',
  'not-accepted',
  'waived',
  'parked',
  'left-by-choice',
] as const;
export type LeftOutReason = (typeof leftOutReasons)[number];

/** What counts as picture, as sound, as a still: sequences are picture whatever their frames are. */
export const kindOf = ({ facts, sequence }: Pick<PlanFile, 'facts' | 'sequence'>): keyof typeof treatmentsOf =>
  sequence ? 'picture' : facts?.kind === 'still' || facts?.kind === 'sound' ? facts.kind : 'picture';

type Judged = Pick<PlanFile, 'id' | 'facts' | 'sequence'>;

/** What the receiver of a handoff can use, where what the project accepts is `accepts`. */
export const takenBy = (
  { receiver }: Pick<Choices, 'receiver'>,
  accepts: AcceptanceProfile | null,
): AcceptanceProfile => receiver ?? accepts ?? acceptsAll;

/** Whether a receiver cannot use it as it is; what nobody has read is no matter of that. */
export const isRefusedBy = (takes: AcceptanceProfile, { facts }: Pick<Judged, 'facts'>): boolean =>
  facts !== null && refusalOf(facts, takes) !== null;

/**
 * Says what is to be done with a recording: what was said of it, else of films that the receiver cannot use, else of its
 * kind.
 */
export function treatmentsBy(choices: Choices, takes: AcceptanceProfile): (file: Judged) => Treatment {
  const said = new Map(choices.exceptions.map((e) => [e.mediaFileId, e.treatment]));
  return (file) => {
    const kind = kindOf(file);
    const own = said.get(file.id);
    if (own && (treatmentsOf[kind] as readonly Treatment[]).includes(own)) return own;
    const isAsked = choices.transcodesRefused && kind === 'picture' && choices.picture !== 'leave' && !file.sequence;
    return isAsked && isRefusedBy(takes, file) ? 'transcode' : choices[kind];
  };
}
