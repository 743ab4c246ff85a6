import { convertFrames, type FrameRange } from '../time/range.ts';
import { sameNumbering, type Rate } from '../time/rate.ts';
import type { Counting } from '../time/timecode.ts';
import type { Detail } from '../remarks/detail.ts';
import type { MediaFileId, PlaceId } from './ids.ts';
import type { MediaKind, Raster } from './edit.ts';

/** Where a file's start address comes from. `none`: the file carries no timecode, so it counts from zero. */
export type TimecodeSource = 'timecode' | 'time-reference' | 'none';

/** What is not sure about a fact: a rate or length that was worked out, a start that nobody stated, an ending that lies. */
export const doubts = ['rate-guessed', 'rate-varies', 'timecode-missing', 'length-estimated', 'name-misleads'] as const;
export type Doubt = (typeof doubts)[number];

/** What was measured in a media file. Picture counts in frames at `rate`, sound in samples at `sampleRate`. */
export type Facts = {
  readonly kind: MediaKind;
  readonly container: string;
  readonly codec: string;
  readonly rate: Rate | null;
  readonly counting: Counting;
  readonly timecodeSource: TimecodeSource;
  readonly start: number;
  readonly length: number | null;
  readonly sampleRate: number | null;
  readonly channels: number | null;
  readonly raster: Raster | null;
  readonly bitDepth: number | null;
  /** Chroma sampling of picture, as 4:2:0 or RGB, where it is known. */
  readonly chroma: string | null;
  readonly reel: string | null;
  /** Whether the header told, read here, or a decoder was asked. */
  readonly readBy: 'header' | 'decoder';
  readonly doubts: readonly Doubt[];
};

/** The one thing for which a file is not accepted, with what it has and what the project takes. */
export type Refusal = {
  readonly what: 'container' | 'codec' | 'bit-depth' | 'chroma' | 'raster' | 'rate';
  readonly found: string;
  readonly accepted: string;
};

/** Why a file that is there cannot be used. */
export type Unreadable =
  | { readonly code: 'file-empty' }
  /** It ends before what its header promises. Counts are null where only the bytes tell. */
  | {
      readonly code: 'truncated';
      readonly presentInFrames: number | null;
      readonly expectedInFrames: number | null;
      readonly unit: 'frames' | 'samples';
    }
  /** It opens, but a decoder stops or stumbles at this frame, counted from its first. */
  | {
      readonly code: 'damaged';
      readonly atFrame: number | null;
      readonly ofFrames: number | null;
      readonly detail: Detail;
    }
  | { readonly code: 'header-broken'; readonly detail: Detail }
  | { readonly code: 'not-media'; readonly detail: Detail }
  /** The ending of its name says one kind of media, its content is another. */
  | { readonly code: 'name-misleads'; readonly named: string; readonly content: string }
  | { readonly code: 'refers-elsewhere' }
  | { readonly code: 'growing' }
  | { readonly code: 'decoder-gave-up'; readonly detail: Detail }
  | { readonly code: 'decoder-too-slow'; readonly seconds: number }
  | { readonly code: 'too-large-to-decode'; readonly detail: Detail }
  | { readonly code: 'no-answer'; readonly seconds: number }
  | { readonly code: 'no-permission' }
  | { readonly code: 'outside-place' }
  /** It reads well, but the project does not accept its kind; see `acceptance.ts`. */
  | { readonly code: 'not-accepted'; readonly refusal: Refusal };

/** Reasons after which a file is not opened again until somebody asks for it to be read anew. */
export const quarantining: readonly Unreadable['code'][] = [
  'decoder-gave-up',
  'decoder-too-slow',
  'too-large-to-decode',
  'no-answer',
];

/** The frames of a numbered image sequence: every number from `first` to `last` except `missing`. */
export type SequenceFrames = {
  readonly prefix: string;
  readonly suffix: string;
  readonly padding: number;
  readonly first: number;
  readonly last: number;
  readonly missing: readonly number[];
};

/** One file, or one numbered image sequence, found in a place. `folder` uses "/" and has no leading slash. */
export type MediaFile = {
  readonly id: MediaFileId;
  readonly placeId: PlaceId;
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  /** When its content was last written, in milliseconds since 1970, as the directory tells. */
  readonly modifiedMs: number;
  /** Content identity from sampled blocks, and the xxh64 of all of it; null until worked out. */
  readonly fingerprint: string | null;
  readonly fullHash: string | null;
  /** Null until the file has been read. */
  readonly facts: Facts | null;
  readonly unreadable: Unreadable | null;
  readonly sequence: SequenceFrames | null;
};

/** The rate a file counts its own source range at: frames of picture, samples of sound. */
export function countingRate(facts: Facts): Rate | null {
  if (facts.kind === 'sound') return facts.sampleRate ? { num: facts.sampleRate, den: 1 } : null;
  return facts.rate;
}

/**
 * The source range a file holds, in frames at `rate` (the clip's). Null when length or rate is unknown, and for a
 * still, which holds any range. Timecode numbers frames, so rates of one nominal value (24 and 23.976) share their
 * counts; other rates, and samples, are converted by time of day to the nearest frame, because recorders round
 * their start address to a sample and not to a frame of this rate.
 */
export function sourceRange(facts: Facts, rate: Rate): FrameRange | null {
  const own = countingRate(facts);
  if (facts.kind === 'still' || facts.length === null) return null;
  if (facts.kind === 'sequence' && !own) return { start: facts.start, end: facts.start + facts.length };
  if (!own) return null;
  if (sameNumbering(own, rate)) {
    return { start: facts.start, end: facts.start + facts.length };
  }
  const start = convertFrames(facts.start, own, rate, 'nearest');
  return { start, end: start + convertFrames(facts.length, own, rate, 'nearest') };
}
