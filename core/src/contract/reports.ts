import { z } from 'zod';
import { list, countingSchema, rangeSchema, rateSchema } from './basics.ts';

export const pullRowSchema = z.object({
  reel: z.string().nullable(),
  file: z.string(),
  names: list(z.string()),
  range: rangeSchema,
  rate: rateSchema,
  counting: countingSchema,
});

export type PullRowView = z.infer<typeof pullRowSchema>;

export const pullQuerySchema = z.object({
  handles: z.coerce.number().int().min(0).max(100_000).default(0),
  /** Only what is dark, or everything that is used. */
  of: z.enum(['dark', 'used']).default('dark'),
});
