import type { FrameRange } from '../time/range.ts';
import type { Rate } from '../time/rate.ts';
import type { Ratio } from '../time/seconds.ts';
import type { Counting } from '../time/timecode.ts';

export type MediaKind = 'picture' | 'sound' | 'still' | 'sequence';
export type Raster = { readonly width: number; readonly height: number };

/** What one document says, extracted: the document itself is kept beside it, byte for byte. Keys are unique in it. */
export type Edit = {
  readonly title: string;
  readonly bins: readonly Bin[];
  readonly clips: readonly Clip[];
  readonly timelines: readonly Timeline[];
};

export type Bin = { readonly key: string; readonly name: string; readonly parentKey: string | null };

/**
 * One source reference of the edit, gathered from every place in the document that refers to the same media.
 * All ranges are in frames at `rate` (for sound counted in samples, the rate is the sample rate).
 */
export type Clip = {
  readonly key: string;
  readonly name: string;
  readonly reel: string | null;
  /** The path or URL as it stands in the document; null when the edit knows only a reel or a name. */
  readonly remembered: string | null;
  readonly kind: MediaKind | null;
  readonly rate: Rate;
  readonly counting: Counting;
  /** What the edit says the media holds, when it says so. */
  readonly available: FrameRange | null;
  readonly raster: Raster | null;
  /** The union of all ranges that events use, transitions and speed included. */
  readonly used: readonly FrameRange[];
  /** Events read it, all of them in nests and outside of what is shown of these: it needs no media. */
  readonly isTrimmedAway?: boolean | undefined;
  readonly binKey: string | null;
  /** Where the references stand: JSON pointers (OTIO) or line numbers (EDL, shot log), for the export. */
  readonly addresses: readonly string[];
  /** What else the document says of it in words: scene, take, notes, any column of a log. */
  readonly metadata: Readonly<Record<string, string>>;
};

export type Timeline = {
  readonly key: string;
  readonly name: string;
  readonly rate: Rate;
  readonly counting: Counting;
  /** First record frame; usually one hour. */
  readonly start: number;
  readonly length: number;
  /** False for a timeline that stands only inside another. */
  readonly top: boolean;
  readonly events: readonly EditEvent[];
  /** What the document calls tracks, by the names that events have for them; those without one, or of that very name, are left out. */
  readonly trackNames?: Readonly<Record<string, string>> | undefined;
  /** What somebody noted on it, in the document. */
  readonly markers?: readonly Marker[] | undefined;
};

/** A mark or comment that stands in the document. */
export type Marker = {
  readonly name: string;
  readonly comment: string;
  /** As the document names it; empty where it names none. */
  readonly color: string;
  /** In frames at the timeline's rate; at least one. */
  readonly record: FrameRange;
  /** The track it stands on; null where it is the timeline's own. */
  readonly track: string | null;
  /** Where it stands in the document: a JSON pointer or a line number. */
  readonly address: string;
};

/** How an event comes in over the one before it. `length` is in record frames; a wipe has its SMPTE number. */
export type TransitionIn = {
  readonly kind: 'dissolve' | 'wipe' | 'key' | 'key-background' | 'key-out' | 'custom';
  readonly wipe: number | null;
  readonly length: number;
};

/** One use of a clip, or of a nested timeline, on a track. */
export type EditEvent = {
  readonly number: number;
  readonly name: string;
  readonly track: string;
  readonly trackKind: 'picture' | 'sound';
  readonly clipKey: string | null;
  readonly nestedKey: string | null;
  /**
   * All frames read of the source, transitions and speed included: at the clip's rate, or from zero at the nested
   * timeline's. Edges between two frames are rounded outward.
   */
  readonly source: FrameRange | null;
  /** Where they stand, in frames at the timeline's rate, from cut to cut. */
  readonly record: FrameRange;
  /** Record frames for which the source is also read before and after its cuts, under a transition. */
  readonly head: number;
  readonly tail: number;
  /** Source time for record time. */
  readonly speed: Ratio;
  readonly transition: TransitionIn | null;
  /** True where source or record was rounded to whole frames; a part of it is then widened by a frame. */
  readonly rounded: boolean;
  /** Where it stands in the document: a JSON pointer or a line number. */
  readonly address: string;
};

export const normalSpeed: Ratio = { num: 1, den: 1 };
