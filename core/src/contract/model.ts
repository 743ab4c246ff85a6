import { z } from 'zod';
import type { ClipId, DocumentId, HandoffId, JobId, MediaFileId, PlaceId, ProjectId } from '../model/ids.ts';
import { doubts, type SequenceFrames, type Unreadable } from '../model/media.ts';
import { forms } from '../match/forms.ts';
import type { Decision } from '../match/decide.ts';
import type { Evidence, Finding } from '../match/evidence/evidence.ts';
import type { Why } from '../match/explain.ts';
import type { Status } from '../state/status.ts';
import { grounds } from '../match/grounds.ts';
import { attributes } from '../match/rules.ts';
import { formatIds, groupings } from '../formats/format.ts';
import { columnRoles, type RateProposal, type ReadFault, type Remark } from '../remarks/remark.ts';

/** Ids, ranges and facts as they travel and as JSON columns hold them. */
const id = <T extends string>() => z.uuid() as unknown as z.ZodType<T, T>;
export const projectIdSchema = id<ProjectId>();
export const documentIdSchema = id<DocumentId>();
export const clipIdSchema = id<ClipId>();
export const placeIdSchema = id<PlaceId>();
export const mediaFileIdSchema = id<MediaFileId>();
export const handoffIdSchema = id<HandoffId>();
export const jobIdSchema = id<JobId>();

/** A closed union of core that carries a `code` or another tag: made by core, so only its being one is checked. */
export const union = <T>(tag: string) =>
  z.custom<T>(
    (value) =>
      typeof value === 'object' && value !== null && typeof (value as Record<string, unknown>)[tag] === 'string',
    {
      error: `expected an object with a text "${tag}"`,
    },
  );

export const attributeSchema = z.enum(attributes);
export const verdictSchema = z.enum(['agrees', 'nearly', 'differs', 'unknown']);
export const remarkSchema = union<Remark>('code');
export const readFaultSchema = union<ReadFault>('code');
export const findingSchema = union<Finding>('code');
export const decisionSchema = union<Decision>('kind');
export const whySchema = union<Why>('code');
export const statusSchema = union<Status>('status');
export const unreadableSchema = union<Unreadable>('code');

export const evidenceSchema: z.ZodType<Evidence, Evidence> = z.object({
  attribute: attributeSchema,
  verdict: verdictSchema,
  finding: findingSchema,
});

const frames = z.int();
export const rateSchema = z.object({ num: z.int().positive(), den: z.int().positive() });
export const rangeSchema = z.object({ start: frames, end: frames });
export const rasterSchema = z.object({ width: z.int().positive(), height: z.int().positive() });
export const countingSchema = z.enum(['drop', 'non-drop']);
export const kindSchema = z.enum(['picture', 'sound', 'still', 'sequence']);

export const clipSchema = z.object({
  key: z.string(),
  name: z.string(),
  reel: z.string().nullable(),
  remembered: z.string().nullable(),
  kind: kindSchema.nullable(),
  rate: rateSchema,
  counting: countingSchema,
  available: rangeSchema.nullable(),
  raster: rasterSchema.nullable(),
  used: z.array(rangeSchema),
  binKey: z.string().nullable(),
  addresses: z.array(z.string()),
  metadata: z.record(z.string(), z.string()),
});

const ratioSchema = z.object({ num: z.int(), den: z.int().positive() });

export const eventSchema = z.object({
  number: z.int(),
  name: z.string(),
  track: z.string(),
  trackKind: z.enum(['picture', 'sound']),
  clipKey: z.string().nullable(),
  nestedKey: z.string().nullable(),
  source: rangeSchema.nullable(),
  record: rangeSchema,
  head: frames,
  tail: frames,
  speed: ratioSchema,
  transition: z
    .object({
      kind: z.enum(['dissolve', 'wipe', 'key', 'key-background', 'key-out', 'custom']),
      wipe: z.int().nullable(),
      length: frames,
    })
    .nullable(),
  rounded: z.boolean(),
  address: z.string(),
});

export const timelineSchema = z.object({
  key: z.string(),
  name: z.string(),
  rate: rateSchema,
  counting: countingSchema,
  start: frames,
  length: frames,
  top: z.boolean(),
  events: z.array(eventSchema),
});

export const formatSchema = z.enum(formatIds);
export const columnRoleSchema = z.enum(columnRoles);

/** How a document is read, as a person decided it. */
export const readingSchema = z.object({
  rate: rateSchema.optional(),
  clipsBy: z.enum(groupings).optional(),
  referenceKey: z.string().max(200).optional(),
  columns: z.array(columnRoleSchema).max(1000).optional(),
  outIsLastFrame: z.boolean().optional(),
});

const logColumnsSchema = z.object({
  headers: z.array(z.string()),
  roles: z.array(columnRoleSchema),
  samples: z.array(z.array(z.string())),
  rows: z.int(),
});
export const choicesSchema = z.object({
  rates: z.array(z.object({ rate: rateSchema, reason: union<RateProposal['reason']>('code') })),
  clipsBy: z.array(z.object({ grouping: z.enum(groupings), clips: z.int() })),
  referenceKeys: z.array(z.object({ key: z.string(), clips: z.int() })),
  columns: logColumnsSchema.nullable(),
  outPoints: z.array(z.object({ isLastFrame: z.boolean(), agree: z.int(), of: z.int() })),
});

export const binSchema = z.object({ key: z.string(), name: z.string(), parentKey: z.string().nullable() });

export const factsSchema = z.object({
  kind: kindSchema,
  container: z.string(),
  codec: z.string(),
  rate: rateSchema.nullable(),
  counting: countingSchema,
  timecodeSource: z.enum(['timecode', 'time-reference', 'none']),
  start: frames,
  length: frames.nullable(),
  sampleRate: z.int().positive().nullable(),
  channels: z.int().nonnegative().nullable(),
  raster: rasterSchema.nullable(),
  bitDepth: z.int().nullable(),
  chroma: z.string().nullable(),
  reel: z.string().nullable(),
  readBy: z.enum(['header', 'decoder']),
  doubts: z.array(z.enum(doubts)).readonly(),
});

export const acceptanceSchema = z.object({
  containers: z.array(z.string().max(40)).max(40),
  codecs: z.array(z.string().max(40)).max(100),
  rates: z.array(rateSchema).max(40),
  largestBitDepth: z.int().positive().max(64).nullable(),
  chroma: z.array(z.string().max(20)).max(10),
  largestRaster: rasterSchema.nullable(),
});

export const sequenceSchema: z.ZodType<SequenceFrames, SequenceFrames> = z.object({
  prefix: z.string(),
  suffix: z.string(),
  padding: z.int(),
  first: z.int(),
  last: z.int(),
  missing: z.array(z.int()),
});

const weightSchema = z.enum(['must', 'counts', 'ignored']);
export const weightsSchema = z.object({
  name: weightSchema,
  folder: weightSchema,
  reel: weightSchema,
  timecode: weightSchema,
  length: weightSchema,
  rate: weightSchema,
  raster: weightSchema,
  content: weightSchema,
  kind: weightSchema,
  codec: weightSchema,
  sound: weightSchema,
  size: weightSchema,
  date: weightSchema,
});
export const rulesSchema = z.object({
  weights: weightsSchema,
  ignoreCase: z.boolean(),
  ignoreExtension: z.boolean(),
  acrossRates: z.boolean(),
  within: z
    .array(z.object({ placeId: placeIdSchema, folder: z.string().max(4096) }))
    .max(200)
    .readonly()
    .nullable(),
  kinds: z.array(kindSchema).max(4).readonly().nullable(),
});
export const ruleSetSchema = z.object({ name: z.string().trim().min(1).max(60), rules: rulesSchema });

export const interpretationSchema = z.object({ countedAt: rateSchema.nullable(), shiftInFrames: frames });

/** A candidate in short: its evidence as marks (see `match/marks.ts`), and how many folder levels agree. */
export const candidateSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  marks: z.int(),
  levels: z.int(),
  /** Where its recording is here in several forms, which of them it is. */
  form: z.enum(forms).nullable(),
});
export type CandidateRecord = z.infer<typeof candidateSchema>;

/** How often a clip's name stands in the whole index, and what of that was not weighed; see `match/prepare.ts`. */
export const standingSchema = z.object({ namesakes: z.int(), outOfTime: z.int(), leftOut: z.int() });

/** What a link rested on when it was made: it stays to be read, whatever is learned later. */
export const becauseSchema = z.object({
  grounds: z.enum(grounds).nullable(),
  /** Verdicts as they stood, in the order of `attributes`. */
  verdicts: z.array(verdictSchema),
  /** Independent recordings that bore it out, where a cause made it. */
  witnesses: z.int().nullable(),
  /** The next best file then, and in what it was behind. */
  second: z.object({ mediaFileId: mediaFileIdSchema, behindIn: z.array(attributeSchema).readonly() }).nullable(),
});
export type Because = z.infer<typeof becauseSchema>;
