import { z } from 'zod';
import {
  list,
  bytes,
  countingSchema,
  mediaFileIdSchema,
  placeIdSchema,
  rangeSchema,
  rateSchema,
  time,
} from './basics.ts';

export const folderListingSchema = z.object({
  path: z.string(),
  parent: z.string().nullable(),
  folders: list(z.object({ name: z.string(), path: z.string() })),
});

export type FolderListing = z.infer<typeof folderListingSchema>;

/** Place names stand in front of folders in paths, so they hold no separator. */
const placeNameSchema = z
  .string()
  .trim()
  .min(1)
  .max(200)
  .regex(/^[^/\\]+$/, 'a name without slashes');

export const newPlaceSchema = z.object({
  path: z.string().min(1).max(4096),
  name: placeNameSchema.optional(),
  knownAs: z.array(z.string().trim().min(1).max(1000)).max(50).readonly().default([]),
});

export const placeChangeSchema = z.object({
  name: placeNameSchema.optional(),
  knownAs: z.array(z.string().trim().min(1).max(1000)).max(50).readonly().optional(),
  /** Patterns of what is left out of the index, as `*.tmp` or `proxies/**`. */
  excluded: z.array(z.string().trim().min(1).max(400)).max(100).readonly().optional(),
  /** The folder under which this place lies now, said by a person. */
  path: z.string().min(1).max(4096).optional(),
  /** The drive that lies at its path is this place all the same. */
  isSame: z.literal(true).optional(),
});

export type PlaceChange = z.infer<typeof placeChangeSchema>;

/** Why a place is not there: nothing at its path, no answer from it, or another drive where it was. */
export const awayReasons = ['not-plugged-in', 'no-answer', 'another-drive'] as const;

export type AwayReason = (typeof awayReasons)[number];

export const skippedSchema = z.object({
  hidden: z.int(),
  links: z.int(),
  excluded: z.int(),
  special: z.int(),
  unlisted: list(z.string()),
  unnameable: list(z.string()),
});

export const placeSchema = z.object({
  id: placeIdSchema,
  name: z.string(),
  path: z.string(),
  knownAs: list(z.string()),
  /** Those of the names that were learned from links. */
  learnedNames: list(z.string()),
  there: z.boolean(),
  awayBecause: z.enum(awayReasons).nullable(),
  readOnly: z.boolean(),
  slow: z.boolean(),
  /** It was asked and has not answered yet; until more is known it counts as it did. */
  silent: z.boolean(),
  /** Where it lay before it was recognised under its present path. */
  movedFrom: z.string().nullable(),
  excluded: list(z.string()),
  skipped: skippedSchema.nullable(),
  indexedAt: time.nullable(),
  files: z.int(),
  unread: z.int(),
  unreadable: z.int(),
  sizeInBytes: bytes,
  room: z.object({ freeInBytes: bytes, totalInBytes: bytes }).nullable(),
});

export type PlaceView = z.infer<typeof placeSchema>;

/** One recording that a camera split into several files. */
export const recordingSchema = z.object({
  folder: z.string(),
  name: z.string(),
  parts: list(z.object({ mediaFileId: mediaFileIdSchema, name: z.string(), lengthInFrames: z.int() })),
  rate: rateSchema,
  counting: countingSchema,
  range: rangeSchema,
});

export type RecordingView = z.infer<typeof recordingSchema>;
