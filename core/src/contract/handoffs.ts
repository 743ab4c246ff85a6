import { z } from 'zod';
import {
  alsoHashedKnown,
  codings,
  divisions,
  folderings,
  leftOutReasons,
  nameTokensKnown,
  strangeTokens,
  treatmentsOf,
  waveCodecs,
  wholeReasons,
  type CodedFilm,
  type CodedSound,
} from '../consolidate/index.ts';
import type { FrameRange } from '../time/range.ts';
import { acceptanceSchema } from './acceptance.ts';
import { binPathSchema } from './bins.ts';
import { problemSchema } from './problems.ts';

import {
  list,
  bytes,
  of,
  clipIdSchema,
  handoffIdSchema,
  jobIdSchema,
  mediaFileIdSchema,
  rasterSchema,
  time,
} from './basics.ts';

/** Units of a file from its first: frames of picture, samples of sound. Half-open. */
export const unitsSchema = of<FrameRange>()(z.object({ start: z.int(), end: z.int() }));

export const handoffChoicesSchema = z.object({
  picture: z.enum(treatmentsOf.picture),
  sound: z.enum(treatmentsOf.sound),
  still: z.enum(treatmentsOf.still),
  /** What films become that are transcoded, their sound PCM; recordings of sound become WAVE. */
  coding: z.enum(codings),
  /** What whoever receives it can use; null for what the project itself accepts. */
  receiver: acceptanceSchema.nullable(),
  /** Films that the receiver cannot use are transcoded, whatever becomes of the others. */
  transcodesRefused: z.boolean(),
  /** Recordings with which something else is done than with their kind. */
  exceptions: z
    .array(z.object({ mediaFileId: mediaFileIdSchema, treatment: z.enum(treatmentsOf.picture) }))
    .max(100_000)
    .readonly(),
  /** In frames of the timelines' rate. */
  handlesInFrames: z.int().min(0).max(100_000),
  division: z.enum(divisions),
  gapInFrames: z.int().min(0).max(1_000_000),
  foldering: z.enum(folderings),
  levels: z.int().min(0).max(50).nullable(),
  /** Tokens in braces: name, reel, scene, take, timeline, start, n. */
  pattern: z
    .string()
    .trim()
    .min(1)
    .max(200)

    .refine((pattern) => strangeTokens(pattern).length === 0, {
      error: `a name can be made of ${nameTokensKnown.map((t) => `{${t}}`).join(' ')}`,
    }),
  /** Files that are no media and lie beside a recording under its name go with it. */
  sidecars: z.boolean(),
  /** The project's shot logs go along as they came in, whatever timelines are chosen. */
  logs: z.boolean(),
  /** The whole project goes along as one file, its links leading into the set. */
  archive: z.boolean(),
  /** What the hash list states beside xxh64. */
  alsoHashed: z.array(z.enum(alsoHashedKnown)).max(alsoHashedKnown.length).readonly(),
});
export type HandoffChoices = z.infer<typeof handoffChoicesSchema>;

const mediaKindSchema = z.enum(['picture', 'sound', 'still', 'sequence']);

const codedFilmSchema = of<CodedFilm>()(
  z.object({
    coding: z.enum(codings),
    container: z.enum(['mov', 'matroska']),
    extension: z.enum(['mov', 'mkv']),
    bitDepth: z.int(),
    chroma: z.string().nullable(),
    raster: rasterSchema.nullable(),
    isExact: z.boolean(),
  }),
);
const codedSoundSchema = of<CodedSound>()(
  z.object({
    coding: z.literal('wave'),
    codec: z.enum(waveCodecs),
    container: z.literal('wav'),
    extension: z.literal('wav'),
    bitDepth: z.int(),
    isExact: z.boolean(),
  }),
);
export const codedSchema = z.union([codedFilmSchema, codedSoundSchema]);

export const plannedOutSchema = z.object({
  target: z.string(),
  /** Null where all of the recording goes. */
  range: unitsSchema.nullable(),
  sizeInBytes: bytes,
  /** One, or the frames of a sequence. */
  files: z.int(),
  renamed: z.boolean(),
  handlesCut: z.object({ head: z.int(), tail: z.int() }),
});

export const plannedRecordingSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  placeName: z.string(),
  source: z.string(),
  kind: mediaKindSchema.nullable(),
  /** In its own units; null where that is not known, and for stills. */
  length: z.int().nullable(),
  used: list(unitsSchema),
  treatment: z.enum(treatmentsOf.picture),
  /** How it is transcoded; null where it stays as it is. */
  coded: codedSchema.nullable(),
  /** Why it goes whole though it was to be trimmed or transcoded. */
  wholeBecause: z.enum(wholeReasons).nullable(),
  outs: list(plannedOutSchema),
  /** What lies beside it under its name and goes with it. */
  sidecars: list(
    z.object({ mediaFileId: mediaFileIdSchema, source: z.string(), target: z.string(), sizeInBytes: bytes }),
  ),
  /** Tracks that its parts are without: all but picture, sound and timecode. */
  tracksLeft: z.int(),
  wholeInBytes: bytes,
  sizeInBytes: bytes,
  clips: z.int(),
  usedBy: list(z.string()),
});
export type PlannedRecording = z.infer<typeof plannedRecordingSchema>;

/** A stretch of a timeline, in record frames at its rate; half-open. */
export const timelineRangeSchema = z
  .object({ timeline: z.string().max(200), start: z.int(), end: z.int() })
  .refine(({ start, end }) => start < end, { error: 'a range ends after it starts' });

/** What of a project is handed over. Timelines are said by their keys, "documentId/key". */
export const handoffScopeSchema = z.object({
  /** Null for all. */
  timelines: list(z.string()).nullable(),
  /** Of these timelines only a stretch. */
  ranges: list(timelineRangeSchema),
  /** Only these clips; null for all that the timelines show. */
  clips: list(clipIdSchema).nullable(),
  /** What lies in these bins, and in bins in them, comes as well, whole where no timeline shows it. */
  bins: list(binPathSchema),
});
export type HandoffScope = z.infer<typeof handoffScopeSchema>;

export const plannedContentSchema = z.object({
  choices: handoffChoicesSchema,
  /** How many clips were chosen; null where all are taken that the timelines show. */
  clipsChosen: z.int().nullable(),
  /** Bins of which all comes. */
  bins: list(binPathSchema),
  /** Stretches that were chosen, by the names of their timelines. */
  ranges: list(z.object({ timeline: z.string(), from: z.string(), to: z.string() })),
  recordings: list(plannedRecordingSchema),
  leftOut: list(
    z.object({
      clipId: clipIdSchema,
      clipName: z.string(),
      /** The file that could come along otherwise; null where there is none. */
      mediaFileId: mediaFileIdSchema.nullable(),
      kind: mediaKindSchema.nullable(),
      reason: z.enum(leftOutReasons),
    }),
  ),
  /** Names of the documents that lie beside the media. */
  timelines: list(z.string()),
  sizeInBytes: bytes,
  /** What it would be if nothing were trimmed. */
  wholeInBytes: bytes,
});
export type PlannedContent = z.infer<typeof plannedContentSchema>;

const roomSchema = z.object({
  freeInBytes: bytes,
  totalInBytes: bytes,
  headroomShare: z.number(),
  usableInBytes: bytes,
  fits: z.boolean(),
});
/** A folder that the set is written into, with its room and how long that takes as runs went there; null for not known. */
const targetSchema = z.object({ folder: z.string(), room: roomSchema, seconds: z.number().nullable() });
/** All targets are written alike. */
export const handoffPlanSchema = plannedContentSchema.extend({ targets: list(targetSchema) });

export type HandoffPlan = z.infer<typeof handoffPlanSchema>;

/** What would go, worked out and not kept; with the room of the targets that are chosen already. */
export const handoffPreviewSchema = plannedContentSchema.extend({ targets: list(targetSchema) });
export type HandoffPreview = z.infer<typeof handoffPreviewSchema>;

/** A plain folder; or a bundle of OpenTimelineIO, as a folder (.otiod) or as one zip (.otioz). */
export const handoffLayoutSchema = z.enum(['folder', 'otiod', 'otioz']);

export type HandoffLayout = z.infer<typeof handoffLayoutSchema>;

/** What a film states beside its frames, and a part of it may be without. */
export const lostTraits = ['reel', 'colour', 'aspect', 'fields', 'channels', 'track-names', 'languages'] as const;
export type LostTrait = (typeof lostTraits)[number];

export const handoffSchema = z.object({
  id: handoffIdSchema,
  /** The first of its targets; `plan.targets` has them all. */
  folder: z.string(),
  layout: handoffLayoutSchema,
  state: z.enum(['planned', 'running', 'done', 'failed', 'cancelled']),
  createdAt: time,
  finishedAt: time.nullable(),
  problem: problemSchema.nullable(),
  jobId: jobIdSchema.nullable(),
  scope: handoffScopeSchema,
  plan: handoffPlanSchema,
  copied: list(
    z.object({
      target: z.string(),
      sizeInBytes: bytes,
      state: z.enum(['waiting', 'verified', 'failed']),
      xxh64: z.string().nullable(),
      problem: problemSchema.nullable(),
      /** What its source states and it could not keep. */
      lost: list(z.enum(lostTraits)),
    }),
  ),
});

export type Handoff = z.infer<typeof handoffSchema>;

export const newHandoffSchema = z.object({
  /** An existing folder inside the allowed roots; the handoff makes a new folder in it. */
  targetFolder: z.string().min(1).max(4096),
  /** Another, on another drive at best: the same is written there at the same time. */
  secondFolder: z.string().min(1).max(4096).optional(),
  name: z.string().trim().min(1).max(120),
  layout: handoffLayoutSchema.default('folder'),
  /** All when absent. */
  timelines: z.array(z.string()).max(1000).readonly().optional(),
  ranges: z.array(timelineRangeSchema).max(1000).readonly().optional(),
  clips: z.array(clipIdSchema).min(1).max(100_000).readonly().optional(),
  bins: z.array(binPathSchema).max(1000).readonly().optional(),
  /** What is not said is as `standardChoices` has it. */
  choices: handoffChoicesSchema.partial().optional(),
});

/** What a preview is asked for: the same, without a place to go to as yet. */
export const handoffDraftSchema = newHandoffSchema
  .pick({ timelines: true, ranges: true, clips: true, bins: true, choices: true })
  .extend({
    targetFolder: newHandoffSchema.shape.targetFolder.optional(),
    secondFolder: newHandoffSchema.shape.secondFolder,
  });
