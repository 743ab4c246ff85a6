import { z } from 'zod';
import {
  acceptanceSchema,
  clipIdSchema,
  countingSchema,
  jobIdSchema,
  mediaFileIdSchema,
  placeIdSchema,
  rangeSchema,
  rateSchema,
  unreadableSchema,
} from './model.ts';

/** Places, drives, reading and room: what is asked and answered about storage. */
const time = z.iso.datetime();
const bytes = z.number().nonnegative();
const pathInPlace = z.string().max(4096);

/** Why a place is not there: nothing at its path, no answer from it, or another drive where it was. */
export const awayReasons = ['not-plugged-in', 'no-answer', 'another-drive'] as const;
export type AwayReason = (typeof awayReasons)[number];

export const skippedSchema = z.object({
  hidden: z.int(),
  links: z.int(),
  excluded: z.int(),
  special: z.int(),
  unlisted: z.array(z.string()),
  unnameable: z.array(z.string()),
});
export const placeSchema = z.object({
  id: placeIdSchema,
  name: z.string(),
  path: z.string(),
  knownAs: z.array(z.string()),
  /** Those of the names that were learned from links. */
  learnedNames: z.array(z.string()),
  there: z.boolean(),
  awayBecause: z.enum(awayReasons).nullable(),
  readOnly: z.boolean(),
  slow: z.boolean(),
  /** Where it lay before it was recognised under its present path. */
  movedFrom: z.string().nullable(),
  excluded: z.array(z.string()),
  skipped: skippedSchema.nullable(),
  indexedAt: time.nullable(),
  files: z.int(),
  unread: z.int(),
  unreadable: z.int(),
  sizeInBytes: bytes,
  room: z.object({ freeInBytes: bytes, totalInBytes: bytes }).nullable(),
});
export type PlaceView = z.infer<typeof placeSchema>;

export const archiveSchema = z.object({
  id: z.uuid(),
  placeId: placeIdSchema,
  files: z.int(),
  setAsideAt: time,
  /** How many places were set aside with it in one act. */
  places: z.int(),
});
export type IndexArchive = z.infer<typeof archiveSchema>;

/** A file that cannot be used, with the reason and, where a project uses it, by how many clips. */
export const troubleSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  folder: z.string(),
  name: z.string(),
  sizeInBytes: bytes,
  reason: unreadableSchema,
  quarantined: z.boolean(),
});
export type Trouble = z.infer<typeof troubleSchema>;

/** One recording that a camera split into several files. */
export const recordingSchema = z.object({
  folder: z.string(),
  name: z.string(),
  parts: z.array(z.object({ mediaFileId: mediaFileIdSchema, name: z.string(), lengthInFrames: z.int() })),
  rate: rateSchema,
  counting: countingSchema,
  range: rangeSchema,
});
export type RecordingView = z.infer<typeof recordingSchema>;

export const driveSchema = z.object({
  name: z.string(),
  plugged: z.boolean(),
  readOnly: z.boolean(),
  slow: z.boolean(),
  stalling: z.boolean(),
  full: z.boolean(),
});
export const shelfNames = ['recycle', 'vault'] as const;
export const shelfFileSchema = z.object({
  shelf: z.enum(shelfNames),
  /** Drive, folders, name: where it comes back to. */
  path: z.string(),
  sizeInBytes: bytes,
  coming: z.boolean(),
});
export const driveBaySchema = z.object({ drives: z.array(driveSchema), shelved: z.array(shelfFileSchema) });
export type DriveBay = z.infer<typeof driveBaySchema>;
export const driveChangeSchema = driveSchema.partial().extend({
  name: z
    .string()
    .regex(/^[A-Za-z0-9][A-Za-z0-9 _-]{0,39}$/, 'letters, digits, space, - and _')
    .optional(),
});
export const shelfRequestSchema = shelfFileSchema.pick({ shelf: true, path: true });

export const openingSchema = z.object({
  id: z.int(),
  worker: z.string(),
  what: z.enum(['list', 'facts', 'decoder', 'picture', 'preview', 'trial', 'hash', 'copy']),
  placeId: placeIdSchema.nullable(),
  mediaFileId: mediaFileIdSchema.nullable(),
  path: z.string(),
  files: z.int(),
  begunAt: time,
  endedAt: time.nullable(),
  outcome: z.enum(['ok', 'unreadable', 'no-answer', 'too-slow', 'stopped', 'failed', 'lost']).nullable(),
  detail: z.string().nullable(),
  /** Why it cannot be read, where the file is to blame. */
  reason: unreadableSchema.nullable(),
});
export type OpeningView = z.infer<typeof openingSchema>;
export const readLogQuerySchema = z.object({
  text: z.string().max(400).optional(),
  only: z.enum(['open', 'trouble']).optional(),
  limit: z.coerce.number().int().min(1).max(20_000).default(500),
});

/** One way by which the edit reaches a file: from a top timeline through its nests to the event. */
export const reachSchema = z.object({
  clipId: clipIdSchema,
  clipName: z.string(),
  steps: z.array(z.object({ timeline: z.string(), track: z.string(), event: z.int() })),
  record: rangeSchema,
  rate: rateSchema,
  counting: countingSchema,
});
export type Reach = z.infer<typeof reachSchema>;
export const suspicions = ['unreadable-before', 'changed-lately', 'large', 'used', 'chosen'] as const;
export const trialFileSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  name: z.string(),
  where: z.string(),
  suspicion: z.enum(suspicions),
  reachedBy: z.array(reachSchema),
  state: z.enum(['waiting', 'whole', 'fails', 'skipped']),
  frames: z.int().nullable(),
  reason: unreadableSchema.nullable(),
});
export const trialScopes = ['chosen', 'used', 'culprit'] as const;
export const trialSchema = z.object({
  id: z.uuid(),
  scope: z.enum(trialScopes),
  createdAt: time,
  jobId: jobIdSchema.nullable(),
  files: z.array(trialFileSchema),
});
export type TrialView = z.infer<typeof trialSchema>;
export const newTrialSchema = z.object({
  scope: z.enum(trialScopes),
  /** For "chosen": the clips whose files are tried. */
  clipIds: z.array(clipIdSchema).max(100_000).default([]),
});

/** What is to be read anew: files of clips, single files, or a place from a folder down. */
export const rereadSchema = z.union([
  z.object({ clipIds: z.array(clipIdSchema).min(1).max(100_000) }),
  z.object({ mediaFileIds: z.array(mediaFileIdSchema).min(1).max(100_000) }),
  z.object({ placeId: placeIdSchema, folder: pathInPlace.default('') }),
]);

export const mediaUses = [
  'this-project',
  'other-projects',
  /** No clip is tied to it, but a dark one may need it. */
  'wanted',
  'duplicate',
  'unused',
  'holding',
  /** Pictures and previews that Legame made, where its cache lies in the place. */
  'cache',
  'other',
] as const;
export type MediaUse = (typeof mediaUses)[number];
const byUseSchema = z.record(z.enum(mediaUses), bytes);
const roomShareSchema = z.object({
  name: z.string(),
  /** The folder it stands for, or the file. */
  folder: z.string().nullable(),
  mediaFileId: mediaFileIdSchema.nullable(),
  files: z.int(),
  sizeInBytes: bytes,
  byUse: byUseSchema,
});
/** A folder or file of the level shown, with what lies right inside it. */
export const roomEntrySchema = roomShareSchema.extend({ inside: z.array(roomShareSchema) });
export type RoomShareView = z.infer<typeof roomShareSchema>;
export type RoomEntry = z.infer<typeof roomEntrySchema>;
export const roomFileSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  folder: z.string(),
  name: z.string(),
  sizeInBytes: bytes,
  use: z.enum(mediaUses),
  usedBy: z.array(z.string()),
  /** Dark clips, or projects that have such, of which it is a candidate. */
  wantedBy: z.array(z.string()),
});
export const roomMapSchema = z.object({
  placeId: placeIdSchema,
  placeName: z.string(),
  /** The folder shown: where there is but one folder, the first below that parts. */
  folder: z.string(),
  entries: z.array(roomEntrySchema),
  byUse: byUseSchema,
  /** Of the file system that holds the place; null when it is away. */
  room: z.object({ freeInBytes: bytes, totalInBytes: bytes }).nullable(),
  headroomShare: z.number(),
  largest: z.array(roomFileSchema),
  unused: z.array(roomFileSchema),
});
export type RoomMap = z.infer<typeof roomMapSchema>;
export const clearRequestSchema = z.object({ mediaFileIds: z.array(mediaFileIdSchema).min(1).max(10_000) });
export const clearedSchema = z.object({
  id: z.uuid(),
  original: z.string(),
  holding: z.string(),
  sizeInBytes: bytes,
  clearedAt: time,
  restoredAt: time.nullable(),
});
export type Cleared = z.infer<typeof clearedSchema>;
export const clearAnswerSchema = z.object({
  cleared: z.array(clearedSchema),
  skipped: z.array(z.object({ name: z.string(), why: z.string() })),
});

export const projectAcceptanceSchema = z.object({
  profile: acceptanceSchema,
  /** What the project's media are, to choose from. */
  found: z.object({
    containers: z.array(z.string()),
    codecs: z.array(z.string()),
    chroma: z.array(z.string()),
    bitDepths: z.array(z.int()),
    rates: z.array(rateSchema),
  }),
  refused: z.int(),
});
export type ProjectAcceptance = z.infer<typeof projectAcceptanceSchema>;
export const copyCodecs = ['ffv1', 'dnxhd', 'h264', 'mjpeg'] as const;
export const acceptedCopySchema = z.object({
  mediaFileId: mediaFileIdSchema,
  targetFolder: z.string().min(1).max(4096),
  codec: z.enum(copyCodecs),
});
