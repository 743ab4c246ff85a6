import { z } from 'zod';
import { memberSchema } from './links.ts';
import { list, attributeSchema, clipIdSchema, union } from './basics.ts';
import type { CauseKind } from '../match/cause.ts';

export const causeKindSchema = union<CauseKind>()('code', [
  'place-away',
  'unreadable',
  'volume-unknown',
  'taken-offline',
  'gone',
  'short',
  'displaced',
  'choice',
  'alone',
  'replaced',
  'being-read',
]);

export const causeSchema = z.object({
  key: z.string(),
  kind: causeKindSchema,
  certainty: z.enum(['certain', 'likely', 'open']),
  clipIds: list(clipIdSchema),
  screenSeconds: z.number(),
  /** How many its remedy links, and how many it accounts for and leaves. */
  links: z.int(),
  apart: z.int(),
  /** A few of its clips by name. */
  samples: list(z.string()),
  /** Attributes that agree, or nearly do, for all that would be linked. */
  agreeing: list(attributeSchema),
  /** Of what is only likely: what nobody says, and would prove it; and the least independent recordings behind a link. */
  wanting: list(attributeSchema),
  witnesses: z.int(),
});

export type CauseView = z.infer<typeof causeSchema>;

export const causesSchema = z.object({ causes: list(causeSchema), dark: z.int(), parked: z.int(), files: z.int() });

export type Causes = z.infer<typeof causesSchema>;

/**
 * `backSeconds`: the screen time of the cut that comes back, each frame counted once. `alternatives`: the folders that a
 * person may say hold the right files, where nothing says it for them.
 */
export const causePreviewSchema = z.object({
  cause: causeSchema,
  members: list(memberSchema),
  backSeconds: z.number(),
  alternatives: list(z.string()),
});

export type CausePreview = z.infer<typeof causePreviewSchema>;

export const mendRequestSchema = z.object({
  /** Where a person has to say: the folder in which the right files lie. */
  alternative: z.string().max(4096).optional(),
  /** Clips of the cause that are left as they are. */
  except: z.array(clipIdSchema).max(100_000).readonly().optional(),
});
