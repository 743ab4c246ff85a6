import { z } from 'zod';
import { actSchema, foundSchema, memberSchema, renditionSchema } from './acts.ts';
import type { TimecodeDisplacement } from '../match/displacement.ts';
import type { Renaming } from '../paths/renaming.ts';
import {
  attributeSchema,
  becauseSchema,
  clipIdSchema,
  choicesSchema,
  columnRoleSchema,
  countingSchema,
  decisionSchema,
  documentIdSchema,
  evidenceSchema,
  eventSchema,
  factsSchema,
  formatSchema,
  handoffIdSchema,
  interpretationSchema,
  jobIdSchema,
  kindSchema,
  mediaFileIdSchema,
  placeIdSchema,
  projectIdSchema,
  rangeSchema,
  rasterSchema,
  rateSchema,
  readingSchema,
  remarkSchema,
  rulesSchema,
  sequenceSchema,
  statusSchema,
  union,
  unreadableSchema,
  verdictSchema,
  whySchema,
} from './model.ts';

const time = z.iso.datetime();
const bytes = z.number().nonnegative();

export const statusCountsSchema = z.record(
  z.enum(['linked', 'missing', 'changed', 'unreadable', 'short', 'parked', 'waived']),
  z.int(),
);

export const projectSchema = z.object({ id: projectIdSchema, name: z.string(), createdAt: time });
export const projectSummarySchema = projectSchema.extend({
  rules: rulesSchema,
  clips: z.int(),
  toDo: z.int(),
  certain: z.int(),
  statuses: statusCountsSchema,
  /** Screen time of the top timelines that is dark, and their length in all, in seconds rounded for display. */
  darkSeconds: z.number(),
  cutSeconds: z.number(),
  lastAct: actSchema.omit({ skipped: true }).nullable(),
  /** The act that redo would do again. */
  redoable: actSchema.omit({ skipped: true }).nullable(),
});
export type ProjectSummary = z.infer<typeof projectSummarySchema>;
export type Project = z.infer<typeof projectSchema>;

export const documentSchema = z.object({
  id: documentIdSchema,
  name: z.string(),
  format: formatSchema,
  title: z.string(),
  reading: readingSchema,
  choices: choicesSchema,
  sizeInBytes: bytes,
  broughtInAt: time,
  /** When it took the place of a former version, if it did. */
  replacedAt: time.nullable(),
  /** The folder it was brought in from, where that is known. */
  folder: z.string().nullable(),
  mediaInside: z.object({ files: z.int(), sizeInBytes: bytes }).nullable(),
  clips: z.int(),
  bins: z.int(),
  timelines: z.array(
    z.object({
      key: z.string(),
      name: z.string(),
      rate: rateSchema,
      counting: countingSchema,
      lengthInFrames: z.int(),
      events: z.int(),
      top: z.boolean(),
      tracks: z.array(z.string()),
    }),
  ),
  remarks: z.array(remarkSchema),
});
export type DocumentView = z.infer<typeof documentSchema>;

const comparedEventSchema = z.object({
  number: z.int(),
  name: z.string(),
  track: z.string(),
  record: rangeSchema,
});
export const comparisonSchema = z.object({
  former: z.object({ name: z.string(), broughtInAt: time, replacedAt: time }),
  timelines: z.array(
    z.object({
      name: z.string(),
      rate: rateSchema,
      counting: countingSchema,
      only: z.enum(['newer', 'older']).nullable(),
      unchanged: z.int(),
      changes: z.array(
        z.object({
          kind: z.enum(['added', 'removed', 'trimmed', 'moved', 're-sourced']),
          event: comparedEventSchema.nullable(),
          before: comparedEventSchema.nullable(),
          byFrames: z.int().nullable(),
          headFrames: z.int().nullable(),
          tailFrames: z.int().nullable(),
          /** The clip that the event uses now, and whether it is dark. */
          clipId: clipIdSchema.nullable(),
          isDark: z.boolean(),
        }),
      ),
    }),
  ),
});
export type Comparison = z.infer<typeof comparisonSchema>;

export const pullRowSchema = z.object({
  reel: z.string().nullable(),
  file: z.string(),
  names: z.array(z.string()),
  range: rangeSchema,
  rate: rateSchema,
  counting: countingSchema,
});
export type PullRowView = z.infer<typeof pullRowSchema>;

export const mediaFileSchema = z.object({
  id: mediaFileIdSchema,
  placeId: placeIdSchema,
  placeName: z.string(),
  placeThere: z.boolean(),
  folder: z.string(),
  name: z.string(),
  sizeInBytes: bytes,
  facts: factsSchema.nullable(),
  unreadable: unreadableSchema.nullable(),
  sequence: sequenceSchema.nullable(),
  gone: z.boolean(),
  /** Part of the address of its pictures: changes when it is read anew. */
  version: z.string(),
  quarantined: z.boolean(),
  fingerprint: z.string().nullable(),
  fullHash: z.string().nullable(),
  trial: z.object({ state: z.enum(['whole', 'fails']), at: time }).nullable(),
});
export type MediaFileView = z.infer<typeof mediaFileSchema>;

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
  /** The bin it lies in; null for what only timelines hold. */
  bin: z.string().nullable(),
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
  verdicts: z.array(verdictSchema).nullable(),
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
  steps: z.array(z.object({ timeline: z.string(), event: eventSchema })),
});

/** Every showing of every clip of a project, with its coverage: what an assistant checks against the cut. */
export const usesSchema = z.array(
  z.object({
    clipId: clipIdSchema,
    uses: z.array(clipUseSchema.omit({ steps: true }).extend({ events: z.array(z.int()) })),
  }),
);
export type Uses = z.infer<typeof usesSchema>;

export const weighedFileSchema = z.object({
  file: mediaFileSchema,
  evidence: z.array(evidenceSchema),
  refusedFor: z.array(attributeSchema),
  /** What the file holds, in frames at the clip's rate, as the edit would count on it. */
  holds: rangeSchema.nullable(),
  uncoveredInFrames: z.int(),
});
export type WeighedFile = z.infer<typeof weighedFileSchema>;

export const clipDetailSchema = clipRowSchema.extend({
  rate: rateSchema,
  counting: countingSchema,
  available: rangeSchema.nullable(),
  raster: rasterSchema.nullable(),
  used: z.array(rangeSchema),
  metadata: z.record(z.string(), z.string()),
  usesInFull: z.array(clipUseSchema),
  interpretation: interpretationSchema.nullable(),
  fullDecision: decisionSchema.nullable(),
  /** The forms in which the recording of the tied file lies on the storage. */
  renditions: z.array(renditionSchema),
  tiedFile: weighedFileSchema.nullable(),
  /** What its link rested on when it was made; null where it has none. */
  linkedBecause: becauseSchema.nullable(),
  candidatesInFull: z.array(weighedFileSchema),
});
export type ClipDetail = z.infer<typeof clipDetailSchema>;

/** Whether two files show the same at the same source timecode; null where they share no frame that could be decoded. */
export const comparedPicturesSchema = z.object({
  together: z.enum(['same', 'regraded', 'other']).nullable(),
  frames: z.array(z.object({ frame: z.int(), likeness: z.enum(['same', 'regraded', 'other']) })),
  rate: rateSchema.nullable(),
});
export type ComparedPictures = z.infer<typeof comparedPicturesSchema>;

export const cutSchema = z.array(
  z.object({
    key: z.string(),
    documentId: documentIdSchema,
    name: z.string(),
    rate: rateSchema,
    counting: countingSchema,
    start: z.int(),
    length: z.int(),
    top: z.boolean(),
    darkInFrames: z.int(),
    events: z.array(
      z.object({
        number: z.int(),
        name: z.string(),
        track: z.string(),
        trackKind: z.enum(['picture', 'sound']),
        clipId: clipIdSchema.nullable(),
        nestedKey: z.string().nullable(),
        /** A nested timeline that shows something dark. */
        isDarkInside: z.boolean(),
        record: rangeSchema,
      }),
    ),
  }),
);
export type Cut = z.infer<typeof cutSchema>;

export const progressSchema = z.object({
  done: z.number(),
  of: z.number().nullable(),
  unit: z.enum(['files', 'bytes', 'clips']),
  doing: z.string(),
  /** Since the job began, for its speed and what is left. */
  elapsedSeconds: z.number().nonnegative(),
});
export const jobKinds = [
  'index-place',
  'match-project',
  'run-handoff',
  'unpack-bundle',
  'trial-read',
  'accepted-copy',
  'fetch-shelved',
  'hash-files',
  'put-back',
] as const;
export const jobSchema = z.object({
  id: jobIdSchema,
  kind: z.enum(jobKinds),
  subject: z.string(),
  label: z.string(),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  progress: progressSchema.nullable(),
  problem: z.string().nullable(),
  createdAt: time,
  startedAt: time.nullable(),
  finishedAt: time.nullable(),
});
export type Job = z.infer<typeof jobSchema>;
export type Progress = z.infer<typeof progressSchema>;

export const folderListingSchema = z.object({
  path: z.string(),
  parent: z.string().nullable(),
  folders: z.array(z.object({ name: z.string(), path: z.string() })),
});
export type FolderListing = z.infer<typeof folderListingSchema>;

/** Documents in one folder of a place: lists, timelines, logs, zipped bundles; and bundle folders. */
export const placeDocumentsSchema = z.object({
  folder: z.string(),
  folders: z.array(z.string()),
  documents: z.array(z.object({ name: z.string(), sizeInBytes: bytes, isBundleFolder: z.boolean() })),
});
export type PlaceDocuments = z.infer<typeof placeDocumentsSchema>;

/** What the columns of a log with these headers last meant; null when no such log was mapped. */
export const logMappingSchema = z.object({ roles: z.array(columnRoleSchema).nullable() });

export const carryPreviewSchema = z.object({
  /** Null when this decision reveals nothing that could be carried. */
  pattern: z
    .object({
      from: z.string(),
      to: z.string(),
      renaming: z.custom<Renaming>((v) => typeof v === 'object' && v !== null && 'stem' in v),
      timecode: union<TimecodeDisplacement>('kind').nullable(),
    })
    .nullable(),
  /** How many other dark clips lie where the pattern could reach. */
  members: z.array(memberSchema),
});
export type CarryPreview = z.infer<typeof carryPreviewSchema>;

export const plannedFileSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  placeName: z.string(),
  source: z.string(),
  target: z.string(),
  sizeInBytes: bytes,
  files: z.int(),
  clips: z.int(),
  usedBy: z.array(z.string()),
  renamed: z.boolean(),
});
export const handoffPlanSchema = z.object({
  folder: z.string(),
  files: z.array(plannedFileSchema),
  leftOut: z.array(
    z.object({
      clipId: clipIdSchema,
      clipName: z.string(),
      reason: z.enum(['missing', 'place-away', 'unreadable', 'waived', 'parked']),
    }),
  ),
  timelines: z.array(z.string()),
  sizeInBytes: bytes,
  room: z.object({
    freeInBytes: bytes,
    totalInBytes: bytes,
    headroomShare: z.number(),
    usableInBytes: bytes,
    fits: z.boolean(),
  }),
});
export type HandoffPlan = z.infer<typeof handoffPlanSchema>;

/** A plain folder; or a bundle of OpenTimelineIO, as a folder (.otiod) or as one zip (.otioz). */
export const handoffLayoutSchema = z.enum(['folder', 'otiod', 'otioz']);
export type HandoffLayout = z.infer<typeof handoffLayoutSchema>;

export const handoffSchema = z.object({
  id: handoffIdSchema,
  folder: z.string(),
  layout: handoffLayoutSchema,
  state: z.enum(['planned', 'running', 'done', 'failed', 'cancelled']),
  createdAt: time,
  finishedAt: time.nullable(),
  problem: z.string().nullable(),
  jobId: jobIdSchema.nullable(),
  plan: handoffPlanSchema,
  copied: z.array(
    z.object({
      target: z.string(),
      sizeInBytes: bytes,
      state: z.enum(['waiting', 'verified', 'failed']),
      xxh64: z.string().nullable(),
      problem: z.string().nullable(),
    }),
  ),
});
export type Handoff = z.infer<typeof handoffSchema>;

/** RFC 9457. `code` is stable; the rest is for people. */
export const problemSchema = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  code: z.string(),
  detail: z.string(),
});
export type Problem = z.infer<typeof problemSchema>;

/** What the event stream tells: something of this kind changed, ask again. */
export const changeSchema = z.object({ topic: z.enum(['project', 'places', 'jobs']), id: z.string().nullable() });
export type Change = z.infer<typeof changeSchema>;
