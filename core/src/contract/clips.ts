import { z } from 'zod';
import { statusNames } from '../state/index.ts';
import {
  list,
  clipIdSchema,
  countingSchema,
  documentIdSchema,
  interpretationSchema,
  kindSchema,
  mediaFileIdSchema,
  rangeSchema,
  rasterSchema,
  rateSchema,
  time,
  statusSchema,
  toldOf,
  union,
  verdictSchema,
} from './basics.ts';
import { binPathSchema } from './bins.ts';
import { eventSchema, markerSchema, ratioSchema } from './edits.ts';
import { renditionSchema } from './forms.ts';
import { becauseSchema } from './links.ts';
import { factsSchema, foundSchema, keptPictureSchema, weighedFileSchema } from './media.ts';
import type { Decision } from '../match/decision.ts';
import type { TimecodeDisplacement } from '../match/displacement.ts';
import type { Why } from '../match/explain.ts';

export const decisionSchema = union<Decision>()('kind', ['certain', 'ask', 'unusable', 'refused', 'nothing']);

export const whySchema = union<Why>()('code', [
  'place-away',
  'moved',
  'renamed',
  'moved-and-renamed',
  'found',
  'several',
  'contested',
  'versions',
  'too-many',
  'unreadable',
  'still-reading',
  'other-content',
  'volume-unknown',
  'taken-offline',
  'gone',
]);

/** A clip on the timecode bench: how the edit counts, how it is read now, and what its file carries. */
export const benchRowSchema = z.object({
  clipId: clipIdSchema,
  clipName: z.string(),
  reel: z.string().nullable(),
  status: statusSchema,
  stated: z.object({
    rate: rateSchema,
    counting: countingSchema,
    available: rangeSchema.nullable(),
    used: list(rangeSchema),
  }),
  interpretation: interpretationSchema.nullable(),
  /** The file it is tied to, else its closest candidate. */
  file: foundSchema
    .extend({
      facts: factsSchema.nullable(),
      isTied: z.boolean(),
    })
    .nullable(),
  /** How the edit, as it is read now, stands apart from the file; null where it does not. */
  apart: union<TimecodeDisplacement>()('kind', ['from-zero', 'shifted', 'other-rate']).nullable(),
  uncoveredInFrames: z.int().nullable(),
});

export type BenchRow = z.infer<typeof benchRowSchema>;
export const benchSchema = toldOf(benchRowSchema);
export type Bench = z.infer<typeof benchSchema>;

export const statusCountsSchema = z.record(z.enum(statusNames), z.int());

export const linkMakerSchema = z.enum(['remembered', 'rule', 'hand', 'carry', 'cause', 'follow']);

export const clipRowSchema = z.object({
  id: clipIdSchema,
  documentId: documentIdSchema,
  /** The clip's name in the edit, and the name of the file it remembers. */
  name: z.string(),
  fileName: z.string(),
  folder: z.string(),
  remembered: z.string().nullable(),
  reel: z.string().nullable(),
  /** The bin it lies in, where somebody put it or its document has it; empty for the project itself. */
  bin: binPathSchema,
  label: z.string().nullable(),
  kind: kindSchema.nullable(),
  status: statusSchema,
  why: whySchema.nullable(),
  decision: z.enum(['certain', 'ask', 'unusable', 'refused', 'nothing', 'not-matched-yet']),
  /** How sure the candidate is; null where there is none, or only a refused one. */
  certainty: z.enum(['certain', 'likely', 'possible']).nullable(),
  /** A rule would link it now, were it asked to. */
  certainNow: z.boolean(),
  tied: foundSchema.extend({ by: linkMakerSchema }).nullable(),
  candidate: foundSchema.nullable(),
  candidates: z.int(),
  pinned: z.boolean(),
  /** Its addresses are read otherwise than the edit states them. */
  interpreted: z.boolean(),
  /** Of the tied file, else of the closest candidate; in the order of `attributes`. */
  verdicts: list(verdictSchema).nullable(),
  uses: z.int(),
  usedSeconds: z.number(),
});

export type ClipRow = z.infer<typeof clipRowSchema>;

/** One showing of a clip: where in the top timeline, and by which events of which nests, outermost first. */
export const clipUseSchema = z.object({
  timeline: z.string(),
  rate: rateSchema,
  counting: countingSchema,
  record: rangeSchema,
  /** Frames read, at the clip's rate. */
  source: rangeSchema,
  /** Frames of it that the tied file does not hold; null where the clip is tied to none. */
  uncoveredInFrames: z.int().nullable(),
  /** The first of them, counted from the first frame of the file. */
  firstFrameInFile: z.int().nullable(),
  steps: list(z.object({ timeline: z.string(), event: eventSchema })),
});

/** Every showing of every clip of a project, with its coverage: what an assistant checks against the cut. */
export const usesSchema = list(
  z.object({
    clipId: clipIdSchema,
    uses: list(clipUseSchema.omit({ steps: true }).extend({ events: list(z.int()) })),
  }),
);

export type Uses = z.infer<typeof usesSchema>;

export const clipDetailSchema = clipRowSchema.extend({
  rate: rateSchema,
  counting: countingSchema,
  available: rangeSchema.nullable(),
  raster: rasterSchema.nullable(),
  used: list(rangeSchema),
  metadata: z.record(z.string(), z.string()),
  usesInFull: list(clipUseSchema),
  interpretation: interpretationSchema.nullable(),
  fullDecision: decisionSchema.nullable(),
  /** The forms in which the recording of the tied file lies on the storage. */
  renditions: list(renditionSchema),
  /** Its file can be copied to where the edit expects it: it does not lie there, and it is known where that is. */
  canPutBack: z.boolean(),
  tiedFile: weighedFileSchema.nullable(),
  /** What its link rested on when it was made; null where it has none. */
  linkedBecause: becauseSchema.nullable(),
  candidatesInFull: list(weighedFileSchema),
  /** How it looked while it was linked; null where no picture is kept. */
  kept: keptPictureSchema.nullable(),
});

export type ClipDetail = z.infer<typeof clipDetailSchema>;

/** The timelines with every event. It changes with the documents alone; what is dark in it is told by `Darkness`. */
export const cutSchema = list(
  z.object({
    key: z.string(),
    documentId: documentIdSchema,
    name: z.string(),
    rate: rateSchema,
    counting: countingSchema,
    start: z.int(),
    length: z.int(),
    top: z.boolean(),
    events: list(
      z.object({
        number: z.int(),
        name: z.string(),
        track: z.string(),
        trackKind: z.enum(['picture', 'sound']),
        clipId: clipIdSchema.nullable(),
        nestedKey: z.string().nullable(),
        record: rangeSchema,
        /** Null where it runs as it was recorded; negative backwards, zero stands still. */
        speed: ratioSchema.nullable(),
        /** Into it, with its length in frames; null for a plain cut. */
        transition: z.object({ kind: z.string(), length: z.int() }).nullable(),
      }),
    ),
    /** What the document calls tracks, by the names that events have for them, where it calls them otherwise. */
    trackNames: z.record(z.string(), z.string()),
    /** Marks and comments that stand in the document. */
    markers: list(markerSchema.omit({ address: true })),
  }),
);
export type Cut = z.infer<typeof cutSchema>;

/** Which recordings are asked for: those of what is in sight, or selected. */
export const recordingsAskedSchema = z.object({ clips: z.array(clipIdSchema).max(200).readonly() });

/** What lies beneath events of the cut: a clip's recording, in its own frames, and which stretch of it each showing reads. */
export const cutRecordingSchema = z.object({
  clipId: clipIdSchema,
  name: z.string(),
  fileName: z.string(),
  /** Its place and folder; null where nothing is linked. */
  where: z.string().nullable(),
  status: statusSchema,
  kind: kindSchema.nullable(),
  rate: rateSchema,
  counting: countingSchema,
  /** Frames at the clip's rate that the linked file holds; null where none is linked, and for stills, which hold any. */
  holds: rangeSchema.nullable(),
  /** Frames that the edit says its media hold. */
  expected: rangeSchema.nullable(),
  /** The linked file; the version changes when it is read anew, and its pictures with it. */
  media: z
    .object({
      id: mediaFileIdSchema,
      version: z.string(),
      /** What it counts its frames or samples at; null where that is not known. */
      rate: rateSchema.nullable(),
    })
    .nullable(),
  /** Frames of the file in its own count; null where that is not known. */
  lengthInFile: z.int().nullable(),
  /** When the picture was taken that is kept of the clip; null where none is. */
  keptAt: time.nullable(),
  uses: list(
    z.object({
      /** "documentId/key" of the timeline that shows it, through nests or itself; and where in it. */
      timeline: z.string(),
      /** A nested timeline is told of as well, for whoever opens it. */
      isTop: z.boolean(),
      record: rangeSchema,
      /** Frames read, at the clip's rate, as it is read now. */
      source: rangeSchema,
      uncoveredInFrames: z.int().nullable(),
      /** The first of them, counted from the first frame of the file, at the clip's rate. */
      firstFrameInFile: z.int().nullable(),
      speed: ratioSchema.nullable(),
    }),
  ),
});
export type CutRecording = z.infer<typeof cutRecordingSchema>;

/** How much of each timeline is dark, and which of its nests show something dark. */
export const darknessSchema = list(
  z.object({
    key: z.string(),
    documentId: documentIdSchema,
    darkInFrames: z.int(),
    /** Places of these events in their timeline, from 0. */
    darkNests: list(z.int()),
  }),
);
export type Darkness = z.infer<typeof darknessSchema>;

/**
 * A block of the list of clips. `total` and `epoch` say whether rows that are held still make up the list: another
 * epoch, and clips came, went or changed their order. `version` and `turned` are what to ask by for what changed since.
 */
export const clipBlockSchema = z.object({
  epoch: z.int(),
  version: z.int(),
  turned: z.int(),
  total: z.int(),
  rows: list(clipRowSchema),
});
export type ClipBlock = z.infer<typeof clipBlockSchema>;
/** From which position on, and how many. */
export const clipBlockQuerySchema = z.object({
  from: z.coerce.number().int().min(0).max(10_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(20_000).default(2000),
});
export const clipsSinceQuerySchema = z.object({
  version: z.coerce.number().int().min(0),
  turned: z.coerce.number().int().min(0),
});
