import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import type { Refusal } from '../model/media.ts';
import type { Rate } from '../time/rate.ts';

/** All that is checked, in the order in which it is told: where media lie, how they are called, what they are, what was left. */
export const healthChecks = [
  'outside-home',
  'in-passing',
  'on-card',
  'only-copy',
  'headroom',
  'same-name',
  'unsafe-name',
  'case-twins',
  'reel-missing',
  'reel-overlaps',
  'other-rate',
  'not-accepted',
  'never-tried',
  'unused',
  'left-aside',
] as const;
export type HealthCheck = (typeof healthChecks)[number];

/** Why a name is not taken by every file system. */
export const nameFaults = ['characters', 'ending', 'device', 'length', 'form'] as const;
export type NameFault = (typeof nameFaults)[number];

/** What a finding is about, for words. Paths begin with the name of their place. */
export type HealthSubject =
  | { readonly what: 'file'; readonly path: string }
  | { readonly what: 'files'; readonly name: string; readonly paths: readonly string[] }
  | {
      readonly what: 'name';
      readonly path: string;
      readonly part: string;
      readonly fault: NameFault;
      readonly safe: string;
    }
  | { readonly what: 'clip'; readonly name: string }
  | { readonly what: 'reel'; readonly reel: string; readonly names: readonly string[] }
  | { readonly what: 'rate'; readonly path: string; readonly rate: Rate; readonly usual: Rate }
  | { readonly what: 'refused'; readonly path: string; readonly refusal: Refusal }
  | { readonly what: 'place'; readonly name: string; readonly freeInBytes: number; readonly wantedInBytes: number }
  | { readonly what: 'folder'; readonly path: string; readonly files: number }
  | {
      readonly what: 'left';
      readonly name: string;
      readonly as: 'parked' | 'waived';
      readonly reason: string;
      readonly days: number;
    };

/** One thing that a check found. */
export type HealthFinding = {
  readonly check: HealthCheck;
  /** The same for the same thing whenever it is checked: by this it is accepted, and known from the last time. */
  readonly key: string;
  readonly subject: HealthSubject;
  readonly clipIds: readonly ClipId[];
  readonly mediaFileIds: readonly MediaFileId[];
  /** Where it is to be seen, if that is one place. */
  readonly placeId: PlaceId | null;
  /** Of the files it is about, in sum. */
  readonly sizeInBytes: number;
};
