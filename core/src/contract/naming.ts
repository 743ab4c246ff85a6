import { z } from 'zod';
import { namingTokens, renameFaults, strangeTokens } from '../naming/index.ts';
import { clipIdSchema, list, mediaFileIdSchema } from './basics.ts';

/** What new names are made of. */
export const namePatternSchema = z
  .string()
  .trim()
  .min(1)
  .max(200)
  .refine((pattern) => strangeTokens(pattern, namingTokens).length === 0, {
    error: `a name can be made of ${namingTokens.map((t) => `{${t}}`).join(' ')}; {n:3} has three digits`,
  });

/** The files that these clips are tied to, and how they would be called. */
export const namingRequestSchema = z.object({
  clips: z.array(clipIdSchema).min(1).max(5000).readonly(),
  pattern: namePatternSchema,
  /** What {n} begins with. */
  first: z.int().min(0).max(1_000_000).default(1),
  /** Names that a person wrote, over the pattern. */
  written: z
    .array(z.object({ mediaFileId: mediaFileIdSchema, name: z.string().max(255) }))
    .max(5000)
    .readonly()
    .default([]),
});

export const namedFileSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  placeName: z.string(),
  folder: z.string(),
  from: z.string(),
  /** The same where it fits already. */
  to: z.string(),
  fault: z.enum(renameFaults).nullable(),
  /** It goes with the recording whose name it has. */
  isSidecar: z.boolean(),
  /** Names of clips of this project that are tied to it, and of other projects. */
  clips: list(z.string()),
  elsewhere: list(z.string()),
});
export type NamedFile = z.infer<typeof namedFileSchema>;
export const namingPreviewSchema = z.object({ files: list(namedFileSchema) });
export type NamingPreview = z.infer<typeof namingPreviewSchema>;

/** Files by their names, and what they are to be called: all of them, or none. */
export const renameRequestSchema = z.object({
  files: z
    .array(z.object({ mediaFileId: mediaFileIdSchema, from: z.string().max(255), to: z.string().min(1).max(255) }))
    .min(1)
    // Sidecars come on top of the files of clips.
    .max(20_000)
    .readonly(),
  /** Also those that another project uses. */
  alsoOfOthers: z.boolean().default(false),
});
