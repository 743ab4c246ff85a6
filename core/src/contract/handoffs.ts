import { z } from 'zod';
import { problemSchema } from './problems.ts';

import { list, bytes, clipIdSchema, handoffIdSchema, jobIdSchema, mediaFileIdSchema, time } from './basics.ts';

export const plannedFileSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  placeName: z.string(),
  source: z.string(),
  target: z.string(),
  sizeInBytes: bytes,
  files: z.int(),
  clips: z.int(),
  usedBy: list(z.string()),
  renamed: z.boolean(),
});

export const handoffPlanSchema = z.object({
  folder: z.string(),
  files: list(plannedFileSchema),
  leftOut: list(
    z.object({
      clipId: clipIdSchema,
      clipName: z.string(),
      reason: z.enum(['missing', 'place-away', 'unreadable', 'waived', 'parked']),
    }),
  ),
  timelines: list(z.string()),
  sizeInBytes: bytes,
  room: z.object({
    freeInBytes: bytes,
    totalInBytes: bytes,
    headroomShare: z.number(),
    usableInBytes: bytes,
    fits: z.boolean(),
  }),
});

export type HandoffPlan = z.infer<typeof handoffPlanSchema>;

/** A plain folder; or a bundle of OpenTimelineIO, as a folder (.otiod) or as one zip (.otioz). */
export const handoffLayoutSchema = z.enum(['folder', 'otiod', 'otioz']);

export type HandoffLayout = z.infer<typeof handoffLayoutSchema>;

export const handoffSchema = z.object({
  id: handoffIdSchema,
  folder: z.string(),
  layout: handoffLayoutSchema,
  state: z.enum(['planned', 'running', 'done', 'failed', 'cancelled']),
  createdAt: time,
  finishedAt: time.nullable(),
  problem: problemSchema.nullable(),
  jobId: jobIdSchema.nullable(),
  plan: handoffPlanSchema,
  copied: list(
    z.object({
      target: z.string(),
      sizeInBytes: bytes,
      state: z.enum(['waiting', 'verified', 'failed']),
      xxh64: z.string().nullable(),
      problem: problemSchema.nullable(),
    }),
  ),
});

export type Handoff = z.infer<typeof handoffSchema>;

export const newHandoffSchema = z.object({
  /** An existing folder inside the allowed roots; the handoff makes a new folder in it. */
  targetFolder: z.string().min(1).max(4096),
  name: z.string().trim().min(1).max(120),
  layout: handoffLayoutSchema.default('folder'),
  /** Keys of timelines, "documentId/key"; all when absent. */
  timelines: z.array(z.string()).max(1000).readonly().optional(),
});
