import { convertFrames, type FrameRange } from '../time/range.ts';
import { nominalRate, sameRate, type Rate } from '../time/rate.ts';
import type { Counting } from '../time/timecode.ts';
import type { MediaFileId, PlaceId } from './ids.ts';
import type { MediaKind, Raster } from './edit.ts';

/** Where a file's start address comes from. `none`: the file carries no timecode, so it counts from zero. */
export type TimecodeSource = 'timecode' | 'time-reference' | 'none';

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
  readonly reel: string | null;
};

/** Why a file that is there cannot be used. */
export type Unreadable =
  | { readonly code: 'file-empty' }
  | { readonly code: 'not-media'; readonly detail: string }
  | { readonly code: 'decoder-gave-up'; readonly detail: string }
  | { readonly code: 'decoder-too-slow'; readonly seconds: number }
  | { readonly code: 'no-permission' }
  | { readonly code: 'outside-place' }
  | { readonly code: 'shorter-than-header'; readonly detail: string };

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
  if (sameRate(own, rate) || nominalRate(own) === nominalRate(rate)) {
    return { start: facts.start, end: facts.start + facts.length };
  }
  const start = convertFrames(facts.start, own, rate, 'nearest');
  return { start, end: start + convertFrames(facts.length, own, rate, 'nearest') };
}
