import { z } from 'zod';
import { traitsSchema } from './traits.ts';
import { codedSchema, factsSchema, rateSchema, unitsSchema } from '@legame/core/contract';

/** How a file's streams are counted. */
export const streamsSchema = z.object({
  /** Units are frames from its first, at `rate`; `start` is the time of the first in the stream's time base. */
  picture: z.object({ rate: rateSchema, timeBase: rateSchema, start: z.number() }),
  sound: z.array(z.object({ codec: z.string(), sampleRate: z.number() })),
  /** Tracks that a part is without: all but the first of picture, sound and timecode. */
  others: z.number(),
  /** Null where they were not looked at, which is so of what was found by an older Legame. */
  traits: traitsSchema.nullish(),
});
export type Streams = z.infer<typeof streamsSchema>;
export type PictureStream = Streams['picture'];

/** The part of a file that is kept, as it is or coded anew, and what it has to be afterwards. */
export const trimSchema = z.object({
  /** In the file's units from its first: frames of picture, samples of sound. */
  range: unitsSchema,
  /** The address of the part's first unit; null where the file has none and the part gets none. */
  startsAt: z.int().nullable(),
  /** What was measured of the source. */
  facts: factsSchema,
  /** How it is coded anew; null where nothing is. */
  coded: codedSchema.nullish(),
  /** Null where they were not looked at before; then they are now. */
  streams: streamsSchema.nullish(),
});
export type Trim = z.infer<typeof trimSchema>;
