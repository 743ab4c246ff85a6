import { z } from 'zod';
import type { Detail } from '../remarks/detail.ts';
import type { LookVerdict } from '../compare/look.ts';
import type { Facts } from '../model/media.ts';
import {
  of,
  list,
  attributeSchema,
  bytes,
  countingSchema,
  frames,
  kindSchema,
  mediaFileIdSchema,
  placeIdSchema,
  rangeSchema,
  rasterSchema,
  rateSchema,
  time,
  union,
  verdictSchema,
} from './basics.ts';
import type { Evidence, Finding } from '../match/evidence/evidence.ts';
import { doubts, type SequenceFrames, type Unreadable } from '../model/media.ts';

export const findingSchema = union<Finding>()('code', [
  'name-equal',
  'name-case',
  'name-unicode',
  'name-extension',
  'name-differs',
  'name-added',
  'name-sequence',
  'name-version',
  'name-in-other-folder',
  'name-version-untold',
  'name-number',
  'name-copy',
  'name-inside',
  'name-similar',
  'folder-levels',
  'folder-beside',
  'reel-equal',
  'reel-case',
  'reel-spelling',
  'reel-truncated',
  'reel-differs',
  'reel-in-path',
  'reel-in-name',
  'start-equal',
  'start-within-a-frame',
  'start-differs',
  'both-count-from-zero',
  'used-inside',
  'used-partly',
  'used-outside',
  'length-equal',
  'length-within-a-frame',
  'length-differs',
  'length-differs-covers',
  'rate-equal',
  'rate-nominal',
  'rate-varies',
  'rate-differs',
  'raster-equal',
  'raster-scaled',
  'raster-differs',
  'content-equal',
  'content-differs',
  'kind-equal',
  'kind-sequence',
  'kind-differs',
  'codec-equal',
  'codec-differs',
  'sound-equal',
  'sound-partly',
  'sound-differs',
  'size-equal',
  'size-differs',
  'date-equal',
  'date-within-two-seconds',
  'date-differs',
  'edit-says-nothing',
  'file-says-nothing',
  'not-read-yet',
  'does-not-apply',
]);

/** Words of another program, or a code with its fields. */
export const detailSchema = z.custom<Detail>(
  (value) => typeof value === 'string' || (typeof value === 'object' && value !== null && 'code' in value),
  { error: 'expected a detail' },
);

export const unreadableSchema = union<Unreadable>()('code', [
  'file-empty',
  'truncated',
  'damaged',
  'header-broken',
  'not-media',
  'name-misleads',
  'refers-elsewhere',
  'growing',
  'decoder-gave-up',
  'decoder-too-slow',
  'too-large-to-decode',
  'no-answer',
  'no-permission',
  'outside-place',
  'not-accepted',
]);

export const evidenceSchema = of<Evidence>()(
  z.object({
    attribute: attributeSchema,
    verdict: verdictSchema,
    finding: findingSchema,
  }),
);

export const factsSchema = of<Facts>()(
  z.object({
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
    doubts: list(z.enum(doubts)),
  }),
);

export const sequenceSchema = of<SequenceFrames>()(
  z.object({
    prefix: z.string(),
    suffix: z.string(),
    padding: z.int(),
    first: z.int(),
    last: z.int(),
    missing: list(z.int()),
  }),
);

export const foundSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  /** Part of the address of its pictures. */
  version: z.string(),
  name: z.string(),
  placeName: z.string(),
  folder: z.string(),
});

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

export const weighedFileSchema = z.object({
  file: mediaFileSchema,
  evidence: list(evidenceSchema),
  refusedFor: list(attributeSchema),
  /** What the file holds, in frames at the clip's rate, as the edit would count on it. */
  holds: rangeSchema.nullable(),
  uncoveredInFrames: z.int(),
});

export type WeighedFile = z.infer<typeof weighedFileSchema>;

/** Whether two files show the same at the same source timecode; null where they share no frame that could be decoded. */
export const comparedPicturesSchema = z.object({
  together: z.enum(['same', 'regraded', 'other']).nullable(),
  frames: list(z.object({ frame: z.int(), likeness: z.enum(['same', 'regraded', 'other']) })),
  rate: rateSchema.nullable(),
});

export type ComparedPictures = z.infer<typeof comparedPicturesSchema>;

/** The picture that is kept of a clip from the time when it was linked. */
export const keptPictureSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  fileName: z.string(),
  /** The frame that it shows, as the clip counts. */
  address: z.int(),
  takenAt: time,
  /** Of the file as it is now: it was taken of this very file, and nothing of it changed since. */
  isOfTied: z.boolean(),
});

export type KeptPicture = z.infer<typeof keptPictureSchema>;

/**
 * How a file looks beside the picture that is kept of a clip. `shared`: the share of blocks in which light and dark agree,
 * 0 to 1, about a half where pictures have nothing in common; null where one of the two is of one colour.
 */
export const lookSchema = z.object({
  /** Which frame of the file was looked at, counted from its first. */
  frame: z.int(),
  shared: z.number().nullable(),
  verdict: of<LookVerdict | null>()(z.enum(['same', 'alike', 'other']).nullable()),
});

export type ComparedLook = z.infer<typeof lookSchema>;
