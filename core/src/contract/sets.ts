import { z } from 'zod';
import type { ListFault } from '../mhl/index.ts';
// Not by its face: that reads lists, which the page does not.
import { hashNames } from '../mhl/hashNames.ts';
import { chainings, checkStates } from '../mhl/judge.ts';
import { bytes, handoffIdSchema, list, projectIdSchema, time } from './basics.ts';
import { jobSchema } from './jobs.ts';

const hashesSchema = z.partialRecord(z.enum(hashNames), z.string());

/** A hash list of a set, as it was found. */
export const setListSchema = z.object({
  /** Inside the set. */
  path: z.string(),
  files: z.int(),
  madeAt: z.string().nullable(),
  tool: z.string().nullable(),
  host: z.string().nullable(),
  chain: z.enum(chainings),
  fault: z.custom<ListFault>((value) => typeof value === 'object' && value !== null && 'code' in value).nullable(),
});
export type SetList = z.infer<typeof setListSchema>;

const amount = z.object({ files: z.int(), bytes });

export const setCheckSchema = z.object({
  id: z.uuid(),
  folder: z.string(),
  createdAt: time,
  /** Whether a generation of what is found is to be added to its lists, and the one that was. */
  addsGeneration: z.boolean(),
  generation: z.string().nullable(),
  job: jobSchema.nullable(),
  /** Null until they were read. */
  lists: list(setListSchema).nullable(),
  /** Lists that the chain names and that are not there. */
  listsGone: list(z.string()),
  /** Folders that could not be looked into. */
  unlisted: list(z.string()),
  counts: z.object(
    Object.fromEntries(checkStates.map((s) => [s, amount])) as Record<(typeof checkStates)[number], typeof amount>,
  ),
  /** The handoff of this Legame that it came from. */
  handoff: z
    .object({
      id: handoffIdSchema,
      projectId: projectIdSchema,
      project: z.string(),
      createdAt: time,
      /** Files of which the lists say now what the handoff did not. */
      listedOtherwise: z.int(),
    })
    .nullable(),
});
export type SetCheck = z.infer<typeof setCheckSchema>;

export const setFileSchema = z.object({
  path: z.string(),
  /** What the lists call it, where it lies elsewhere. */
  listedPath: z.string().nullable(),
  state: z.enum(checkStates),
  listedInBytes: bytes.nullable(),
  foundInBytes: bytes.nullable(),
  listed: hashesSchema.nullable(),
  found: hashesSchema,
  /** Why it could not be read, as the system says it. */
  detail: z.string().nullable(),
});
export type SetFile = z.infer<typeof setFileSchema>;
export const setFilesSchema = z.object({ files: list(setFileSchema), next: z.string().nullable() });

export const newSetCheckSchema = z.object({
  /** A folder inside the allowed roots with an ascmhl folder, or a list of the version before. */
  folder: z.string().min(1).max(4096),
  addGeneration: z.boolean().default(false),
});

export const setFilesQuerySchema = z.object({
  state: z.enum(checkStates).optional(),
  /** Of an answer before, for the next files. */
  after: z.string().max(5000).optional(),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});
