import { z } from 'zod';
import {
  list,
  bytes,
  clipIdSchema,
  countingSchema,
  jobIdSchema,
  mediaFileIdSchema,
  placeIdSchema,
  rangeSchema,
  rateSchema,
  time,
} from './basics.ts';
import { detailSchema, unreadableSchema } from './media.ts';

/** Places, drives, reading and room: what is asked and answered about storage. */
const pathInPlace = z.string().max(4096);

export const archiveSchema = z.object({
  id: z.uuid(),
  placeId: placeIdSchema,
  files: z.int(),
  setAsideAt: time,
  /** How many places were set aside with it in one act. */
  places: z.int(),
});

export type IndexArchive = z.infer<typeof archiveSchema>;

/** A file that cannot be used, with the reason and, where a project uses it, by how many clips. */
export const troubleSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  folder: z.string(),
  name: z.string(),
  sizeInBytes: bytes,
  reason: unreadableSchema,
  quarantined: z.boolean(),
});

export type Trouble = z.infer<typeof troubleSchema>;

export const openingSchema = z.object({
  id: z.int(),
  worker: z.string(),
  what: z.enum(['list', 'facts', 'decoder', 'picture', 'preview', 'trial', 'hash', 'copy']),
  placeId: placeIdSchema.nullable(),
  mediaFileId: mediaFileIdSchema.nullable(),
  path: z.string(),
  files: z.int(),
  begunAt: time,
  endedAt: time.nullable(),
  outcome: z.enum(['ok', 'unreadable', 'no-answer', 'too-slow', 'stopped', 'failed', 'lost']).nullable(),
  detail: detailSchema.nullable(),
  /** Why it cannot be read, where the file is to blame. */
  reason: unreadableSchema.nullable(),
});

export type OpeningView = z.infer<typeof openingSchema>;

export const readLogQuerySchema = z.object({
  text: z.string().max(400).optional(),
  only: z.enum(['open', 'trouble']).optional(),
  limit: z.coerce.number().int().min(1).max(20_000).default(500),
});

/** One way by which the edit reaches a file: from a top timeline through its nests to the event. */
export const reachSchema = z.object({
  clipId: clipIdSchema,
  clipName: z.string(),
  steps: list(z.object({ timeline: z.string(), track: z.string(), event: z.int() })),
  record: rangeSchema,
  rate: rateSchema,
  counting: countingSchema,
});

export type Reach = z.infer<typeof reachSchema>;

export const suspicions = ['unreadable-before', 'changed-lately', 'large', 'used', 'chosen'] as const;

export const trialFileSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  name: z.string(),
  where: z.string(),
  suspicion: z.enum(suspicions),
  reachedBy: list(reachSchema),
  state: z.enum(['waiting', 'whole', 'fails', 'skipped']),
  frames: z.int().nullable(),
  reason: unreadableSchema.nullable(),
});

export const trialScopes = ['chosen', 'used', 'culprit'] as const;

export const trialSchema = z.object({
  id: z.uuid(),
  scope: z.enum(trialScopes),
  createdAt: time,
  jobId: jobIdSchema.nullable(),
  files: list(trialFileSchema),
});

export type TrialView = z.infer<typeof trialSchema>;

export const newTrialSchema = z.object({
  scope: z.enum(trialScopes),
  /** For "chosen": the clips whose files are tried. */
  clipIds: z.array(clipIdSchema).max(100_000).readonly().default([]),
});

/** What is to be read anew: files of clips, single files, or a place from a folder down. */
export const rereadSchema = z.union([
  z.object({ clipIds: z.array(clipIdSchema).min(1).max(100_000).readonly() }),
  z.object({ mediaFileIds: z.array(mediaFileIdSchema).min(1).max(100_000).readonly() }),
  z.object({ placeId: placeIdSchema, folder: pathInPlace.default('') }),
]);
