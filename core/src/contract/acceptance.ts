import { z } from 'zod';
import { codings } from '../consolidate/index.ts';
import type { AcceptanceProfile } from '../model/acceptance.ts';
import { of, list, mediaFileIdSchema, rasterSchema, rateSchema } from './basics.ts';

export const acceptanceSchema = of<AcceptanceProfile>()(
  z.object({
    containers: z.array(z.string().max(40)).max(40).readonly(),
    codecs: z.array(z.string().max(40)).max(100).readonly(),
    rates: z.array(rateSchema).max(40).readonly(),
    largestBitDepth: z.int().positive().max(64).nullable(),
    chroma: z.array(z.string().max(20)).max(10).readonly(),
    largestRaster: rasterSchema.nullable(),
  }),
);

export const projectAcceptanceSchema = z.object({
  profile: acceptanceSchema,
  /** What the project's media are, to choose from. */
  found: z.object({
    containers: list(z.string()),
    codecs: list(z.string()),
    chroma: list(z.string()),
    bitDepths: list(z.int()),
    rates: list(rateSchema),
  }),
  refused: z.int(),
});

export type ProjectAcceptance = z.infer<typeof projectAcceptanceSchema>;

export const acceptedCopySchema = z.object({
  mediaFileId: mediaFileIdSchema,
  targetFolder: z.string().min(1).max(4096),
  codec: z.enum(codings),
});
