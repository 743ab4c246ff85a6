import { z } from 'zod';
import { factsSchema, unitsSchema } from '@legame/core/contract';

/** The part of a file that is kept, and what it has to be afterwards. */
export const trimSchema = z.object({
  /** In the file's units from its first: frames of picture, samples of sound. */
  range: unitsSchema,
  /** The address of the part's first unit; null where the file has none and the part gets none. */
  startsAt: z.int().nullable(),
  /** What was measured of the source. */
  facts: factsSchema,
});
export type Trim = z.infer<typeof trimSchema>;
