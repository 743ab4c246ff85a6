import { z } from 'zod';
import type { Choices } from '../formats/format.ts';
import type { Reading } from '../formats/format.ts';
import type { Bin } from '../model/edit.ts';
import type { Timeline } from '../model/edit.ts';
import type { EditEvent, Marker } from '../model/edit.ts';
import type { Clip } from '../model/edit.ts';
import {
  of,
  list,
  columnRoleSchema,
  countingSchema,
  frames,
  kindSchema,
  rangeSchema,
  rasterSchema,
  rateSchema,
  askedRateSchema,
  union,
} from './basics.ts';
import { groupings } from '../formats/format.ts';
import type { RateProposal, ReadFault, Remark } from '../remarks/remark.ts';

export const remarkSchema = union<Remark>()('code', [
  'line-not-understood',
  'timecode-impossible',
  'lengths-differ',
  'speed-disagrees',
  'record-overlap',
  'record-gap',
  'name-far-apart',
  'speed-without-event',
  'drop-frame-impossible',
  'transition-unknown',
  'schema-unknown',
  'schema-version-unknown',
  'number-not-finite',
  'time-not-understood',
  'rate-unknown',
  'fraction-rounded-outward',
  'clip-without-range',
  'reference-missing',
  'child-not-understood',
  'row-skipped',
  'media-in-bundle',
  'more-of-these',
]);

export const readFaultSchema = union<ReadFault>()('code', [
  'document-empty',
  'document-not-text',
  'document-too-large',
  'counts-too-far',
  'format-unknown',
  'json-broken',
  'nested-too-deep',
  'no-edit-inside',
  'bundle-broken',
  'rate-needed',
  'columns-needed',
]);

export const clipSchema = of<Clip>()(
  z.object({
    key: z.string(),
    name: z.string(),
    reel: z.string().nullable(),
    remembered: z.string().nullable(),
    kind: kindSchema.nullable(),
    rate: rateSchema,
    counting: countingSchema,
    available: rangeSchema.nullable(),
    raster: rasterSchema.nullable(),
    used: list(rangeSchema),
    isTrimmedAway: z.boolean().optional(),
    binKey: z.string().nullable(),
    addresses: list(z.string()),
    metadata: z.record(z.string(), z.string()),
  }),
);

export const ratioSchema = z.object({ num: z.int(), den: z.int().positive() });

export const eventSchema = of<EditEvent>()(
  z.object({
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
  }),
);

export const markerSchema = of<Marker>()(
  z.object({
    name: z.string(),
    comment: z.string(),
    color: z.string(),
    record: rangeSchema,
    track: z.string().nullable(),
    address: z.string(),
  }),
);

export const timelineSchema = of<Timeline>()(
  z.object({
    key: z.string(),
    name: z.string(),
    rate: rateSchema,
    counting: countingSchema,
    start: frames,
    length: frames,
    top: z.boolean(),
    events: list(eventSchema),
    trackNames: z.record(z.string(), z.string()).optional(),
    markers: list(markerSchema).optional(),
  }),
);

/** How a document is read, as a person decided it. */
export const readingSchema = of<Reading>()(
  z.object({
    rate: askedRateSchema.optional(),
    clipsBy: z.enum(groupings).optional(),
    referenceKey: z.string().max(200).optional(),
    columns: z.array(columnRoleSchema).max(1000).readonly().optional(),
    outIsLastFrame: z.boolean().optional(),
  }),
);

const logColumnsSchema = z.object({
  headers: list(z.string()),
  roles: list(columnRoleSchema),
  samples: list(list(z.string())),
  rows: z.int(),
});

export const choicesSchema = of<Choices>()(
  z.object({
    rates: list(
      z.object({
        rate: rateSchema,
        reason: union<RateProposal['reason']>()('code', [
          'drop-frame-stated',
          'lengths-agree',
          'stated',
          'other-timelines',
          'largest-frame',
          'common',
        ]),
      }),
    ),
    clipsBy: list(z.object({ grouping: z.enum(groupings), clips: z.int() })),
    referenceKeys: list(z.object({ key: z.string(), clips: z.int() })),
    columns: logColumnsSchema.nullable(),
    outPoints: list(z.object({ isLastFrame: z.boolean(), agree: z.int(), of: z.int() })),
  }),
);

export const binSchema = of<Bin>()(z.object({ key: z.string(), name: z.string(), parentKey: z.string().nullable() }));
