import { z } from 'zod';
import { acceptanceSchema } from '../contract/acceptance.ts';
import { formatIds } from '../formats/format.ts';
import { textEncodings } from '../formats/text.ts';
import { binPathSchema, labelSchema, notedSchema } from '../contract/bins.ts';
import { formSchema, interpretationSchema } from '../contract/basics.ts';
import { folderTemplateSchema } from '../contract/folders.ts';
import { arrangementSchema, tables } from '../contract/layouts.ts';
import { namePatternSchema } from '../contract/naming.ts';
import { readingSchema } from '../contract/edits.ts';
import { pullRequestSchema } from '../contract/pulls.ts';
import { ruleSetSchema, rulesSchema } from '../contract/rules.ts';

/** A media file as another Legame may know it: by its place's names, its path there, and what was measured of it. */
const packedFileSchema = z.object({
  place: z.object({ name: z.string(), knownAs: z.array(z.string()) }),
  folder: z.string(),
  name: z.string(),
  sizeInBytes: z.number(),
  start: z.number().nullable(),
  length: z.number().nullable(),
  fingerprint: z.string().nullable().default(null),
  fullHash: z.string().nullable().default(null),
});
export type PackedFile = z.infer<typeof packedFileSchema>;

/** What was decided about a clip. The key is the reader's; the rest tells whether it is still that clip. */
const packedClipSchema = z.object({
  key: z.string(),
  name: z.string(),
  reel: z.string().nullable(),
  remembered: z.string().nullable(),
  link: packedFileSchema.extend({ by: z.enum(['rule', 'hand', 'carry', 'cause', 'follow']) }).nullable(),
  setAside: z.object({ as: z.enum(['parked', 'waived']), reason: z.string() }).nullable(),
  declined: z.array(packedFileSchema),
  interpretation: interpretationSchema.nullable().default(null),
  pinned: z.boolean().default(false),
  noted: notedSchema.nullable().default(null),
});
export type PackedClip = z.infer<typeof packedClipSchema>;

const packedDocumentSchema = z.object({
  name: z.string(),
  format: z.enum(formatIds),
  encoding: z.enum(textEncodings),
  reading: readingSchema,
  folder: z.string().nullable(),
  /** The text of formats that a collection cannot hold to the letter. */
  text: z.string().optional(),
  clips: z.array(packedClipSchema),
});
export type PackedDocument = z.infer<typeof packedDocumentSchema>;

export const packageSchema = z.object({
  kind: z.literal('project'),
  version: z.literal(1),
  name: z.string(),
  rules: rulesSchema,
  ruleSets: z.array(ruleSetSchema).default([]),
  bins: z.array(binPathSchema).default([]),
  labels: z.array(labelSchema).default([]),
  acceptance: acceptanceSchema.nullable().default(null),
  preferredForm: formSchema.nullable().default(null),
  folders: folderTemplateSchema.nullable().default(null),
  namePattern: namePatternSchema.nullable().default(null),
  /** Arrangements of tables that are kept for this project. */
  layouts: z
    .array(z.object({ table: z.enum(tables), name: z.string().min(1).max(60), arrangement: arrangementSchema }))
    .default([]),
  /** What was asked for of the pull list, by the key of its source. */
  pulls: z.array(z.object({ key: z.string(), request: pullRequestSchema })).default([]),
  documents: z.array(packedDocumentSchema),
});
export type ProjectPackage = z.infer<typeof packageSchema>;
