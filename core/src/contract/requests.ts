import { z } from 'zod';
import { handoffLayoutSchema } from './answers.ts';
import {
  clipIdSchema,
  documentIdSchema,
  formatSchema,
  interpretationSchema,
  mediaFileIdSchema,
  placeIdSchema,
  readingSchema,
  rulesSchema,
  ruleSetSchema,
} from './model.ts';

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
  /** Patterns of what is left out of the index, as `*.tmp` or `proxies/**`. */
  excluded: z.array(z.string().trim().min(1).max(400)).max(100).optional(),
  /** The folder under which this place lies now, said by a person. */
  path: z.string().min(1).max(4096).optional(),
  /** The drive that lies at its path is this place all the same. */
  isSame: z.literal(true).optional(),
});
export type PlaceChange = z.infer<typeof placeChangeSchema>;
/** A JSON value in a query parameter: what has parts is said as one. */
const json = <S extends z.ZodType>(schema: S) =>
  z
    .string()
    .max(20_000)
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue({ code: 'custom', message: 'expected JSON' });
        return z.NEVER;
      }
    })
    .pipe(schema);

export const bringInQuerySchema = z.object({
  name: z.string().min(1).max(500),
  /** Decisions about the reading: rate, grouping, reference key, columns. */
  reading: json(readingSchema).optional(),
  /** The document that this is a newer version of. */
  replaces: documentIdSchema.optional(),
  /** Bring it in beside one of the same name. */
  beside: z.enum(['true', 'false']).optional(),
  /** Media of the bundle that this document was taken out of. */
  mediaInside: json(
    z.array(z.object({ path: z.string().max(4096), sizeInBytes: z.number().nonnegative() })).max(200_000),
  ).optional(),
});
export const bringInFromPlaceSchema = z.object({
  placeId: placeIdSchema,
  /** A file, or a bundle folder, inside the place. */
  path: z.string().min(1).max(4096),
  reading: readingSchema.optional(),
  replaces: documentIdSchema.optional(),
  beside: z.boolean().default(false),
});
export const unpackRequestSchema = z.object({
  placeId: placeIdSchema,
  /** A zipped bundle inside the place. */
  path: z.string().min(1).max(4096),
  /** An existing folder inside the allowed roots; the bundle becomes a new folder in it. */
  targetFolder: z.string().min(1).max(4096),
});
export const readAgainSchema = readingSchema;

/** How references of an export state where files lie. */
export const exportQuerySchema = z.object({
  paths: z.enum(['absolute', 'relative', 'place-roots']).default('absolute'),
  /** For relative paths: the folder in which the document will lie. */
  folder: z.string().max(4096).optional(),
  /** For paths by place: where each place lies on the receiving machine, by place id. */
  roots: json(z.record(z.string(), z.string().max(1000))).optional(),
  /** Write reels of linked files as well, where the format has a field for them. */
  reels: z.enum(['true', 'false']).optional(),
  /** Another format than the document's own; then one timeline and one track of it may be chosen. */
  format: formatSchema.optional(),
  timeline: z.string().max(200).optional(),
  track: z.string().max(20).optional(),
});
export type ExportQuery = z.infer<typeof exportQuerySchema>;
/** Headers of a log, as a JSON list. */
export const logMappingQuerySchema = z.object({ headers: json(z.array(z.string().max(1000)).max(10_000)) });
export const pullQuerySchema = z.object({
  handles: z.coerce.number().int().min(0).max(100_000).default(0),
  /** Only what is dark, or everything that is used. */
  of: z.enum(['dark', 'used']).default('dark'),
});

/** Whose candidates a preview is about; `onlyCertain` leaves out what a rule would not link. */
export const linkPreviewRequestSchema = z.object({
  clipIds: z.array(clipIdSchema).min(1).max(100_000),
  onlyCertain: z.boolean(),
});
export const linkRequestSchema = z.object({
  by: z.enum(['rule', 'hand', 'carry', 'swap']),
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
export const ruleSetsRequestSchema = z.array(ruleSetSchema).max(50);
/** Only these clips; all when absent. */
export const certainRequestSchema = z.object({ clipIds: z.array(clipIdSchema).max(100_000).optional() });
export const newHandoffSchema = z.object({
  /** An existing folder inside the allowed roots; the handoff makes a new folder in it. */
  targetFolder: z.string().min(1).max(4096),
  name: z.string().trim().min(1).max(120),
  layout: handoffLayoutSchema.default('folder'),
  /** Keys of timelines, "documentId/key"; all when absent. */
  timelines: z.array(z.string()).max(1000).optional(),
});
