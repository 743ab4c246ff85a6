import { z } from 'zod';
import type { DroppedFile } from '../match/dropped.ts';
import { bytes, clipIdSchema, list, of } from './basics.ts';
import { memberSchema } from './links.ts';
import { factsSchema } from './media.ts';

/** As many as are looked at in one go. */
export const mostDropped = 10_000;

/** One step of a path: it leads neither up nor anywhere else. */
const stepSchema = z
  .string()
  .max(255)
  .regex(/^(?!\.{1,2}$)[^/\0]+$/);

export const droppedFileSchema = of<DroppedFile>()(
  z.object({
    name: stepSchema,
    folders: z.array(stepSchema).max(64).readonly(),
    sizeInBytes: z.number().nonnegative(),
    modifiedMs: z.number(),
    facts: factsSchema.nullable(),
  }),
);

export const droppedRequestSchema = z.object({
  files: z.array(droppedFileSchema).min(1).max(mostDropped).readonly(),
  /** Only this clip; all dark ones when absent. */
  clipId: clipIdSchema.optional(),
});

export const droppedAnswerSchema = z.object({
  /** Dark clips that matching would link to one of the files, where these lie in a place. */
  members: list(memberSchema),
  backSeconds: z.number(),
  /** Dropped files that lie in a place. */
  here: z.int(),
  /** Those that lie in none, by the folder that was dropped, and how many dark clips they would fit. */
  elsewhere: list(
    z.object({
      /** Null for files that were dropped by themselves. */
      folder: z.string().nullable(),
      files: z.int(),
      sizeInBytes: bytes,
      clips: z.int(),
      names: list(z.string()),
      /** Folders of this machine in which they lie, as they could be added as places. */
      lies: list(z.string()),
      /** The place in which they lie and that does not know of them: it was not read since, or leaves them out. */
      inPlace: z.string().nullable(),
    }),
  ),
});
export type DroppedAnswer = z.infer<typeof droppedAnswerSchema>;
