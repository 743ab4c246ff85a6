import { z } from 'zod';
import { healthChecks, nameFaults, type HealthCheck, type HealthSubject, type Home } from '../health/index.ts';
import type { Refusal } from '../model/media.ts';
import { bytes, clipIdSchema, folderOfPlaceSchema, list, of, placeIdSchema, rateSchema, time } from './basics.ts';

export const homeSchema = of<Home>()(z.object({ placeId: placeIdSchema, folder: z.string().max(4096) }));
export const homeRequestSchema = z.object({
  home: folderOfPlaceSchema.nullable(),
});

const refusalSchema = of<Refusal>()(
  z.object({
    what: z.enum(['container', 'codec', 'chroma', 'bit-depth', 'raster', 'rate']),
    found: z.string(),
    accepted: z.string(),
  }),
);
export const healthSubjectSchema = of<HealthSubject>()(
  z.discriminatedUnion('what', [
    z.object({ what: z.literal('file'), path: z.string() }),
    z.object({ what: z.literal('files'), name: z.string(), paths: list(z.string()) }),
    z.object({
      what: z.literal('name'),
      path: z.string(),
      part: z.string(),
      fault: z.enum(nameFaults),
      safe: z.string(),
    }),
    z.object({ what: z.literal('clip'), name: z.string() }),
    z.object({ what: z.literal('reel'), reel: z.string(), names: list(z.string()) }),
    z.object({ what: z.literal('rate'), path: z.string(), rate: rateSchema, usual: rateSchema }),
    z.object({ what: z.literal('refused'), path: z.string(), refusal: refusalSchema }),
    z.object({ what: z.literal('place'), name: z.string(), freeInBytes: bytes, wantedInBytes: bytes }),
    z.object({ what: z.literal('folder'), path: z.string(), files: z.int() }),
    z.object({
      what: z.literal('left'),
      name: z.string(),
      as: z.enum(['parked', 'waived']),
      reason: z.string(),
      days: z.int(),
    }),
  ]),
);

/** That somebody knows of a finding and leaves it so. */
export const acceptedSchema = z.object({ note: z.string(), at: time });
export type Accepted = z.infer<typeof acceptedSchema>;

export const healthFindingSchema = z.object({
  key: z.string(),
  subject: healthSubjectSchema,
  placeId: placeIdSchema.nullable(),
  sizeInBytes: bytes,
  accepted: acceptedSchema.nullable(),
  /** It was not there when health was kept last. */
  isNew: z.boolean(),
});
export type HealthFindingView = z.infer<typeof healthFindingSchema>;

export const checkedSchema = z.object({
  check: z.enum(healthChecks),
  /** Whether something says how it should be: a home, a profile, a timeline. */
  isAsked: z.boolean(),
  /** Not accepted; of these so many were not there when health was kept last, and so many of then are gone. */
  open: z.int(),
  accepted: z.int(),
  added: z.int(),
  gone: z.int(),
  /** Of the open ones, in sum. */
  sizeInBytes: bytes,
  /** How many clips the open ones are about. */
  clips: z.int(),
  /** The first of them: open ones, then accepted ones. */
  findings: list(healthFindingSchema),
});
export type Checked = z.infer<typeof checkedSchema>;

export const healthSchema = z.object({
  home: homeSchema.nullable(),
  /** Where most of what is used lies already; null where nothing is used. */
  proposedHome: homeSchema.nullable(),
  /** Files in use, and the clips of the project. */
  files: z.int(),
  clips: z.int(),
  keptAt: time.nullable(),
  checks: list(checkedSchema),
});
export type Health = z.infer<typeof healthSchema>;

/** The checks whose findings are mended by bringing files home. */
export const homeChecks = ['outside-home', 'in-passing', 'on-card'] as const satisfies readonly HealthCheck[];
export const bringHomeSchema = z.object({ check: z.enum(homeChecks) });

/** Why a file stays where it lies: its drive is away, nothing is known of it, or it is a sequence of many. */
export const whyNotHome = ['place-away', 'not-read', 'sequence'] as const;
export type NotBroughtHome = (typeof whyNotHome)[number];

/** What bringing home would copy, and where to. */
export const bringingHomeSchema = z.object({
  home: z.string(),
  files: list(z.object({ path: z.string(), target: z.string(), sizeInBytes: bytes })),
  left: list(z.object({ path: z.string(), why: z.enum(whyNotHome) })),
  sizeInBytes: bytes,
  /** What may be written there with headroom kept; null where that is not known. */
  usableInBytes: bytes.nullable(),
});
export type BringingHome = z.infer<typeof bringingHomeSchema>;

/** The clips that a check found something of which nobody accepted. */
export const healthClipsQuerySchema = z.object({ check: z.enum(healthChecks) });
export const healthClipsSchema = list(clipIdSchema);

/** Accepts what a check found, or takes that back: these, or all that is open of it. */
export const acceptFindingsSchema = z.object({
  check: z.enum(healthChecks),
  keys: z.array(z.string()).min(1).max(100_000).readonly().nullable(),
  /** Null takes it back. */
  note: z.string().trim().max(500).nullable(),
});
export type AcceptFindings = z.infer<typeof acceptFindingsSchema>;
