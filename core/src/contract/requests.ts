import { z } from 'zod';
import { clipIdSchema, mediaFileIdSchema, rulesSchema } from './model.ts';

export const newProjectSchema = z.object({ name: z.string().trim().min(1).max(200) });
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
  knownAs: z.array(z.string().trim().min(1).max(1000)).max(50).default([]),
});
export const placeChangeSchema = z.object({
  name: placeNameSchema.optional(),
  knownAs: z.array(z.string().trim().min(1).max(1000)).max(50).optional(),
});
export const bringInQuerySchema = z.object({
  name: z.string().min(1).max(500),
  /** "25" or "30000/1001"; needed by formats that state no rate. */
  rate: z.string().max(40).optional(),
});
export const linkRequestSchema = z.object({
  by: z.enum(['rule', 'hand', 'carry']),
  /** A null file takes the link away. */
  links: z
    .array(z.object({ clipId: clipIdSchema, mediaFileId: mediaFileIdSchema.nullable() }))
    .min(1)
    .max(100_000),
});
export const declineRequestSchema = z.object({ mediaFileId: mediaFileIdSchema });
export const setAsideRequestSchema = z.object({
  clipIds: z.array(clipIdSchema).min(1).max(100_000),
  as: z.enum(['parked', 'waived']).nullable(),
  reason: z.string().trim().max(500).default(''),
});
export const carryRequestSchema = z.object({ clipId: clipIdSchema, mediaFileId: mediaFileIdSchema });
export const rulesRequestSchema = rulesSchema;
export const newHandoffSchema = z.object({
  /** An existing folder inside the allowed roots; the handoff makes a new folder in it. */
  targetFolder: z.string().min(1).max(4096),
  name: z.string().trim().min(1).max(120),
  /** Keys of timelines, "documentId/key"; all when absent. */
  timelines: z.array(z.string()).max(1000).optional(),
});
