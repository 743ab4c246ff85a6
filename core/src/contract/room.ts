import { z } from 'zod';
import type { Problem } from './problems.ts';
import { union, list, bytes, mediaFileIdSchema, placeIdSchema, time } from './basics.ts';

export const mediaUses = [
  'this-project',
  'other-projects',
  /** No clip is tied to it, but a dark one may need it. */
  'wanted',
  'duplicate',
  'unused',
  'holding',
  /** Pictures and previews that Legame made, where its cache lies in the place. */
  'cache',
  'other',
] as const;

export type MediaUse = (typeof mediaUses)[number];

const byUseSchema = z.record(z.enum(mediaUses), bytes);

const roomShareSchema = z.object({
  name: z.string(),
  /** The folder it stands for, or the file. */
  folder: z.string().nullable(),
  mediaFileId: mediaFileIdSchema.nullable(),
  files: z.int(),
  sizeInBytes: bytes,
  byUse: byUseSchema,
});

/** A folder or file of the level shown, with what lies right inside it. */
export const roomEntrySchema = roomShareSchema.extend({ inside: list(roomShareSchema) });

export type RoomShareView = z.infer<typeof roomShareSchema>;

export type RoomEntry = z.infer<typeof roomEntrySchema>;

export const roomFileSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  folder: z.string(),
  name: z.string(),
  sizeInBytes: bytes,
  use: z.enum(mediaUses),
  usedBy: list(z.string()),
  /** Dark clips, or projects that have such, of which it is a candidate. */
  wantedBy: list(z.string()),
});

export const roomMapSchema = z.object({
  placeId: placeIdSchema,
  placeName: z.string(),
  /** The folder shown: where there is but one folder, the first below that parts. */
  folder: z.string(),
  entries: list(roomEntrySchema),
  byUse: byUseSchema,
  /** Of the file system that holds the place; null when it is away. */
  room: z.object({ freeInBytes: bytes, totalInBytes: bytes }).nullable(),
  headroomShare: z.number(),
  largest: list(roomFileSchema),
  unused: list(roomFileSchema),
});

export type RoomMap = z.infer<typeof roomMapSchema>;

/** What takes up each place, by use: for one project's eyes. */
export const roomByPlaceSchema = list(z.object({ placeId: placeIdSchema, placeName: z.string(), byUse: byUseSchema }));
export type RoomByPlace = z.infer<typeof roomByPlaceSchema>;

export const clearRequestSchema = z.object({ mediaFileIds: z.array(mediaFileIdSchema).min(1).max(10_000).readonly() });

export const clearedSchema = z.object({
  id: z.uuid(),
  original: z.string(),
  holding: z.string(),
  sizeInBytes: bytes,
  clearedAt: time,
  restoredAt: time.nullable(),
});

export type Cleared = z.infer<typeof clearedSchema>;

/** Why a file is left where it is. */
export type NotCleared =
  | { readonly code: 'not-there' }
  | { readonly code: 'used'; readonly by: readonly string[] }
  | { readonly code: 'wanted'; readonly by: readonly string[] }
  | { readonly code: 'sequence' }
  | { readonly code: 'problem'; readonly problem: Problem };

export const clearAnswerSchema = z.object({
  cleared: list(clearedSchema),
  skipped: list(
    z.object({
      name: z.string(),
      why: union<NotCleared>()('code', ['not-there', 'used', 'wanted', 'sequence', 'problem']),
    }),
  ),
});
