import { z } from 'zod';
import { deskStates, pullMarks, type PullRequest } from '../report/index.ts';
import { clipIdSchema, countingSchema, list, of, rangeSchema, rateSchema, time } from './basics.ts';
import { foundSchema } from './media.ts';

/** A file of a reel by one count of timecode, and the clip names under which it is used. */
const source = {
  reel: z.string().nullable(),
  folder: z.string().optional(),
  file: z.string(),
  names: list(z.string()),
  rate: rateSchema,
  counting: countingSchema,
};
export const pullRowSchema = z.object({ ...source, range: rangeSchema });

export type PullRowView = z.infer<typeof pullRowSchema>;

/** So many frames, counted as the project’s first timeline counts. */
const handles = z.coerce.number().int().min(0).max(100_000);

/** Of what one stretch of a top timeline shows, in its record frames, and of nothing else; the timeline is "documentId/key". */
const stretch = {
  timeline: z.string().max(200).optional(),
  start: z.coerce.number().int().optional(),
  end: z.coerce.number().int().optional(),
};
type Stretch = { readonly timeline: string; readonly start: number; readonly end: number };
const isWholeOrNone = ({ timeline, start, end }: Partial<Stretch>) =>
  timeline === undefined
    ? start === undefined && end === undefined
    : start !== undefined && end !== undefined && start < end;
const stretchFault = { error: 'a stretch says its timeline, its first frame and the frame after its last' };

/** The stretch that is asked for; null for all of the project. */
export const stretchAsked = ({ timeline, start, end }: Partial<Stretch>): Stretch | null =>
  timeline === undefined || start === undefined || end === undefined ? null : { timeline, start, end };

export const pullQuerySchema = z
  .object({
    handles: handles.default(0),
    /** Only what is dark, or everything that is used. */
    of: z.enum(['dark', 'used']).default('dark'),
    /** Only what was asked of this holder and is still to come, as it was asked for. */
    holder: z.string().min(1).max(200).optional(),
    ...stretch,
  })
  .refine(isWholeOrNone, stretchFault);
export type PullQuery = z.infer<typeof pullQuerySchema>;

export const pullRequestSchema = of<PullRequest>()(
  z
    .object({
      ...source,
      ranges: list(rangeSchema),
      mark: z.enum(pullMarks),
      holder: z.string(),
      note: z.string(),
      isUnknownToVault: z.boolean(),
      at: time,
    })
    .readonly(),
);

/** The stand-in that answers by itself: a holder of this name is asked at once, by file name. */
export const vaultHolder = 'Tape vault';

export const deskRowSchema = z.object({
  key: z.string(),
  state: z.enum(deskStates),
  ...source,
  ranges: list(rangeSchema),
  beyond: list(rangeSchema),
  request: pullRequestSchema.nullable(),
  clipIds: list(clipIdSchema),
  /** Files its clips are tied to, and those that wait for a decision about them. */
  here: list(foundSchema.extend({ isTied: z.boolean() })),
});
export type DeskRowView = z.infer<typeof deskRowSchema>;

export const pullDeskSchema = z.object({
  rows: list(deskRowSchema),
  /** Whoever was asked for something in this project, the vault as well where there is one. */
  holders: list(z.string()),
});
export type PullDesk = z.infer<typeof pullDeskSchema>;
export const pullDeskQuerySchema = z
  .object({ handles: handles.default(12), ...stretch })
  .refine(isWholeOrNone, stretchFault);
export type PullDeskQuery = z.infer<typeof pullDeskQuerySchema>;

export const markPullsSchema = z
  .object({
    keys: z.array(z.string().max(10_000)).min(1).max(100_000).readonly(),
    /** Null takes back what was said. */
    mark: z.enum(pullMarks).nullable(),
    holder: z.string().trim().max(200).default(''),
    note: z.string().trim().max(500).default(''),
    handles: handles.default(12),
    ...stretch,
  })
  .refine(isWholeOrNone, stretchFault);
export type MarkPulls = z.infer<typeof markPullsSchema>;
