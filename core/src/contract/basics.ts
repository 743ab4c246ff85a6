import { z } from 'zod';
import type { Verdict } from '../match/evidence/evidence.ts';
import type { Interpretation } from '../model/interpretation.ts';
import type { MediaKind } from '../model/edit.ts';
import type { Counting } from '../time/timecode.ts';
import type { Raster } from '../model/edit.ts';
import type { FrameRange } from '../time/range.ts';
import type { Rate } from '../time/rate.ts';

import { formatIds } from '../formats/format.ts';
import { forms } from '../match/forms.ts';
import { attributes } from '../match/rules.ts';
import type { ClipId, DocumentId, HandoffId, JobId, MediaFileId, PlaceId, ProjectId } from '../model/ids.ts';
import { columnRoles } from '../remarks/remark.ts';
import type { Status } from '../state/status.ts';

/** Ids, ranges and facts as they travel and as JSON columns hold them. */
const id = <T extends string>() => z.uuid() as unknown as z.ZodType<T, T>;

export const projectIdSchema = id<ProjectId>();

export const documentIdSchema = id<DocumentId>();

export const clipIdSchema = id<ClipId>();

export const placeIdSchema = id<PlaceId>();

export const mediaFileIdSchema = id<MediaFileId>();

export const handoffIdSchema = id<HandoffId>();

export const jobIdSchema = id<JobId>();

/**
 * A closed union of core, told apart by a tag; every tag is listed, and the compiler asks for each. What else a member
 * carries is made by core itself and not checked again.
 */
export const union =
  <T>() =>
  <K extends keyof T & string, const Tags extends readonly T[K][]>(
    tag: K,
    tags: Tags & ([T[K]] extends [Tags[number]] ? unknown : never),
  ) => {
    const known: ReadonlySet<unknown> = new Set(tags);
    return z.custom<T>(
      (value) => typeof value === 'object' && value !== null && known.has((value as Record<string, unknown>)[tag]),
      { error: `expected an object with a known "${tag}"` },
    );
  };

/** A schema of exactly this type of the model: the compiler refuses one that says more, less or otherwise. */
export const of =
  <T>() =>
  <S extends z.ZodType>(
    schema: S & ([z.output<S>] extends [T] ? ([T] extends [z.output<S>] ? unknown : never) : never),
  ): S =>
    schema;

/** A list that nobody changes. */
export const list = <S extends z.ZodType>(schema: S) => z.array(schema).readonly();

export const attributeSchema = z.enum(attributes);

export const verdictSchema = of<Verdict>()(z.enum(['agrees', 'nearly', 'differs', 'unknown']));

export const statusSchema = union<Status>()('status', [
  'unreadable',
  'linked',
  'missing',
  'changed',
  'short',
  'parked',
  'waived',
  'unshown',
]);

/** A folder inside its place, however it is written: without a slash in front or behind, and never out of it. */
const folderInside = z
  .string()
  .max(4096)
  .transform((text) =>
    text
      .split('/')
      .map((part) => part.trim())
      .filter((part) => part !== '' && part !== '.')
      .join('/'),
  )
  .refine((folder) => !folder.split('/').includes('..'), { message: 'a folder inside the place' });
export const folderOfPlaceSchema = z.object({ placeId: placeIdSchema, folder: folderInside });

export const time = z.iso.datetime();

export const bytes = z.number().nonnegative();

export const frames = z.int();

export const rateSchema = of<Rate>()(z.object({ num: z.int().positive(), den: z.int().positive() }));

export const rangeSchema = of<FrameRange>()(z.object({ start: frames, end: frames }));

export const rasterSchema = of<Raster>()(z.object({ width: z.int().positive(), height: z.int().positive() }));

export const countingSchema = of<Counting>()(z.enum(['drop', 'non-drop']));

export const kindSchema = of<MediaKind>()(z.enum(['picture', 'sound', 'still', 'sequence']));

export const formatSchema = z.enum(formatIds);

export const columnRoleSchema = z.enum(columnRoles);

/** A rate that a person says: one at which anything is counted. */
export const askedRateSchema = rateSchema.refine(({ num, den }) => num / den >= 1 && num / den <= 1000, {
  error: 'expected a rate of 1 to 1000 frames a second',
});
/** A year of frames and more. */
const furthestShift = 1_000_000_000;

export const interpretationSchema = of<Interpretation>()(
  z.object({ countedAt: askedRateSchema.nullable(), shiftInFrames: z.int().min(-furthestShift).max(furthestShift) }),
);

/** What is changed about links, and what leads to it: causes, carry, rules, timecode, folders, forms, history. */
export const clipIds = z.array(clipIdSchema).min(1).max(100_000).readonly();

export const formSchema = z.enum(forms);

/** A JSON value in a query parameter: what has parts is said as one. */
export const json = <S extends z.ZodType>(schema: S) =>
  z
    .string()
    .max(20_000)
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue({ code: 'custom', message: 'expected JSON' });
        return z.NEVER;
      }
    })
    .pipe(schema);

/** Up to where somebody knows what is told of all clips; below zero where nothing is known. */
export const knownQuerySchema = z.object({
  epoch: z.coerce.number().int().default(-1),
  version: z.coerce.number().int().default(-1),
  turned: z.coerce.number().int().default(-1),
});
export type KnownUpTo = z.infer<typeof knownQuerySchema>;
/** What is told of all clips, or of those that are others than somebody knows of the same epoch. */
export const toldOf = <S extends z.ZodType>(clip: S) =>
  z.object({ epoch: z.int(), version: z.int(), turned: z.int(), clips: list(clip) });
