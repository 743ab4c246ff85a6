import { z } from 'zod';
import {
  list,
  attributeSchema,
  clipIds,
  clipIdSchema,
  interpretationSchema,
  mediaFileIdSchema,
  statusSchema,
  union,
  verdictSchema,
} from './basics.ts';
import { foundSchema } from './media.ts';
import type { TimecodeDisplacement } from '../match/displacement.ts';
import { forms } from '../match/forms.ts';
import { grounds } from '../match/grounds.ts';
import type { Renaming } from '../paths/renaming.ts';

/** A candidate in short: its evidence as marks (see `match/marks.ts`), and how many folder levels agree. */
export const candidateSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  marks: z.int(),
  levels: z.int(),
  /** Where its recording is here in several forms, which of them it is. */
  form: z.enum(forms).nullable(),
});

export type CandidateRecord = z.infer<typeof candidateSchema>;

/** How often a clip's name stands in the whole index, and what of that was not weighed; see `match/prepare.ts`. */
export const standingSchema = z.object({ namesakes: z.int(), outOfTime: z.int(), leftOut: z.int() });

/** What a link rested on when it was made: it stays to be read, whatever is learned later. */
export const becauseSchema = z.object({
  grounds: z.enum(grounds).nullable(),
  /** Verdicts as they stood, in the order of `attributes`. */
  verdicts: list(verdictSchema),
  /** Independent recordings that bore it out, where a cause made it. */
  witnesses: z.int().nullable(),
  /** The next best file then, and in what it was behind. */
  second: z.object({ mediaFileId: mediaFileIdSchema, behindIn: list(attributeSchema) }).nullable(),
});

export type Because = z.infer<typeof becauseSchema>;

/** One clip in a preview: the file it would get, and what keeps it from getting it. */
export const memberSchema = z.object({
  clipId: clipIdSchema,
  clipName: z.string(),
  screenSeconds: z.number(),
  file: foundSchema.nullable(),
  verdicts: list(verdictSchema).nullable(),
  /** Whether it would be linked. */
  fits: z.boolean(),
  certain: z.boolean(),
  differs: list(attributeSchema),
  interpretation: interpretationSchema.nullable(),
  /** Its status once it is linked so, by the same function that tells it afterwards; null where it would not be. */
  after: statusSchema.nullable(),
  /** Why it is left out where the act leaves it out by itself. */
  leftOut: z.enum(['choice', 'contested', 'nothing-found', 'other-file', 'pinned', 'taken-offline']).nullable(),
  /** A constant that would make the file cover what is used, where as it stands it does not. */
  offset: interpretationSchema.nullable(),
});

export type Member = z.infer<typeof memberSchema>;

export const linkPreviewSchema = z.object({ members: list(memberSchema), backSeconds: z.number() });

export type LinkPreview = z.infer<typeof linkPreviewSchema>;

export const pinRequestSchema = z.object({ clipIds, pinned: z.boolean() });

export const interpretRequestSchema = z.object({
  clips: z
    .array(z.object({ clipId: clipIdSchema, interpretation: interpretationSchema.nullable() }))
    .min(1)
    .max(100_000)
    .readonly(),
});

export const folderRequestSchema = z.object({
  from: z.string().trim().max(4096),
  to: z.string().trim().max(4096),
  /** Only these clips; all dark ones when absent. */
  clipIds: clipIds.optional(),
});

export const folderPreviewSchema = z.object({ reached: z.int(), members: list(memberSchema) });

export type FolderPreview = z.infer<typeof folderPreviewSchema>;

export const carryPreviewSchema = z.object({
  /** Null when this decision reveals nothing that could be carried. */
  pattern: z
    .object({
      from: z.string(),
      to: z.string(),
      renaming: z.custom<Renaming>((v) => typeof v === 'object' && v !== null && 'stem' in v),
      timecode: union<TimecodeDisplacement>()('kind', ['from-zero', 'shifted', 'other-rate']).nullable(),
    })
    .nullable(),
  /** How many other dark clips lie where the pattern could reach. */
  members: list(memberSchema),
});

export type CarryPreview = z.infer<typeof carryPreviewSchema>;

/** Whose candidates a preview is about; `onlyCertain` leaves out what a rule would not link. */
export const linkPreviewRequestSchema = z.object({
  clipIds: z.array(clipIdSchema).min(1).max(100_000).readonly(),
  onlyCertain: z.boolean(),
});

export const linkRequestSchema = z.object({
  by: z.enum(['rule', 'hand', 'carry', 'swap']),
  /** The clip whose link is carried: the others are linked only while they are dark. */
  from: clipIdSchema.optional(),
  /** A null file takes the link away. */
  links: z
    .array(
      z.object({
        clipId: clipIdSchema,
        mediaFileId: mediaFileIdSchema.nullable(),
        /** How the clip is read from then on, for its timecode to be the file's. */
        interpretation: interpretationSchema.optional(),
      }),
    )
    .min(1)
    .max(100_000)
    .readonly(),
});

export const declineRequestSchema = z.object({ mediaFileId: mediaFileIdSchema });

export const setAsideRequestSchema = z.object({
  clipIds: z.array(clipIdSchema).min(1).max(100_000).readonly(),
  as: z.enum(['parked', 'waived']).nullable(),
  reason: z.string().trim().max(500).default(''),
});

export const carryRequestSchema = z.object({ clipId: clipIdSchema, mediaFileId: mediaFileIdSchema });

/** Only these clips; all when absent. */
export const certainRequestSchema = z.object({ clipIds: z.array(clipIdSchema).max(100_000).readonly().optional() });
