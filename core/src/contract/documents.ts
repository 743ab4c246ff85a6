import { z } from 'zod';
import {
  list,
  bytes,
  clipIdSchema,
  columnRoleSchema,
  countingSchema,
  documentIdSchema,
  folderOfPlaceSchema,
  formatSchema,
  json,
  placeIdSchema,
  rangeSchema,
  rateSchema,
  time,
} from './basics.ts';
import { choicesSchema, readingSchema, remarkSchema } from './edits.ts';

export const documentSchema = z.object({
  id: documentIdSchema,
  name: z.string(),
  format: formatSchema,
  title: z.string(),
  reading: readingSchema,
  choices: choicesSchema,
  sizeInBytes: bytes,
  broughtInAt: time,
  /** When it took the place of a former version, if it did. */
  replacedAt: time.nullable(),
  /** The folder it was brought in from, where that is known. */
  folder: z.string().nullable(),
  mediaInside: z.object({ files: z.int(), sizeInBytes: bytes }).nullable(),
  clips: z.int(),
  bins: z.int(),
  timelines: list(
    z.object({
      key: z.string(),
      name: z.string(),
      rate: rateSchema,
      counting: countingSchema,
      lengthInFrames: z.int(),
      events: z.int(),
      top: z.boolean(),
      tracks: list(z.string()),
    }),
  ),
  remarks: list(remarkSchema),
});

export type DocumentView = z.infer<typeof documentSchema>;

const comparedEventSchema = z.object({
  number: z.int(),
  name: z.string(),
  track: z.string(),
  trackKind: z.enum(['picture', 'sound']),
  record: rangeSchema,
});

export const comparisonSchema = z.object({
  former: z.object({ name: z.string(), broughtInAt: time, replacedAt: time }),
  timelines: list(
    z.object({
      /** Of the newer version; null where that has no such timeline. */
      key: z.string().nullable(),
      name: z.string(),
      rate: rateSchema,
      counting: countingSchema,
      only: z.enum(['newer', 'older']).nullable(),
      /** Events that both have, in the same place and reading the same source. */
      kept: list(comparedEventSchema.extend({ clipId: clipIdSchema.nullable(), isDark: z.boolean() })),
      changes: list(
        z.object({
          kind: z.enum(['added', 'removed', 'trimmed', 'moved', 're-sourced']),
          event: comparedEventSchema.nullable(),
          before: comparedEventSchema.nullable(),
          byFrames: z.int().nullable(),
          headFrames: z.int().nullable(),
          tailFrames: z.int().nullable(),
          /** The clip that the event uses now, and whether it is dark. */
          clipId: clipIdSchema.nullable(),
          isDark: z.boolean(),
        }),
      ),
    }),
  ),
});

export type Comparison = z.infer<typeof comparisonSchema>;

/** Documents in one folder of a place: lists, timelines, logs, zipped bundles; and bundle folders. */
export const placeDocumentsSchema = z.object({
  folder: z.string(),
  folders: list(z.string()),
  documents: list(z.object({ name: z.string(), sizeInBytes: bytes, isBundleFolder: z.boolean() })),
});

export type PlaceDocuments = z.infer<typeof placeDocumentsSchema>;

/** What the columns of a log with these headers last meant; null when no such log was mapped. */
export const logMappingSchema = z.object({ roles: list(columnRoleSchema).nullable() });

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
    z
      .array(z.object({ path: z.string().max(4096), sizeInBytes: z.number().nonnegative() }))
      .max(200_000)
      .readonly(),
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
export const logMappingQuerySchema = z.object({ headers: json(z.array(z.string().max(1000)).max(10_000).readonly()) });

/** The folder whose documents are held against those that were brought in, and what of it is newer. */
export const watchedSchema = z.object({
  folder: z.object({ placeId: placeIdSchema, placeName: z.string(), folder: z.string() }).nullable(),
  /** Its place is there, and the folder in it. */
  isThere: z.boolean(),
  /** How many documents lie in it. */
  documents: z.int(),
  newer: list(
    z.object({
      /** Inside the place. */
      path: z.string(),
      name: z.string(),
      sizeInBytes: bytes,
      modifiedAt: time,
      replaces: z.object({ id: documentIdSchema, name: z.string() }),
    }),
  ),
});
export type Watched = z.infer<typeof watchedSchema>;
export type NewerDocument = Watched['newer'][number];
export const watchRequestSchema = z.object({ folder: folderOfPlaceSchema.nullable() });
const watchedPath = z.string().min(1).max(4096);
/** That it is no newer version, or not one that is wanted: these bytes are not told of again. */
export const passOverSchema = z.object({ path: watchedPath });

export const wouldChangeQuerySchema = z.object({ path: watchedPath, replaces: documentIdSchema });
/** What bringing it in would change, before anything is. */
export const wouldChangeSchema = z.object({
  timelines: list(
    z.object({
      name: z.string(),
      only: z.enum(['newer', 'older']).nullable(),
      unchanged: z.int(),
      added: z.int(),
      removed: z.int(),
      moved: z.int(),
      trimmed: z.int(),
      reSourced: z.int(),
    }),
  ),
  /** Clips that stay with their links and decisions, come new, and are in it no more. */
  kept: z.int(),
  fresh: z.int(),
  gone: z.int(),
});
export type WouldChange = z.infer<typeof wouldChangeSchema>;
